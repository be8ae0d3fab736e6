/** Where a program is read, and where several stand side by side, perhaps on a horse. */
export const programLink = (id: string): string => `/programs/${encodeURIComponent(id)}`;

export const compareLink = (ids: readonly string[], horse?: string): string =>
  `/programs/compare?with=${ids.map(encodeURIComponent).join(",")}${horse ? `&horse=${encodeURIComponent(horse)}` : ""}`;
