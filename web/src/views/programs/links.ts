import type { HorseId } from "@still-pine/core/record";

/** Where a program is read, and where several stand side by side, perhaps on a horse. */
export const programLink = (id: string): string => `/programs/${encodeURIComponent(id)}`;

export const compareLink = (ids: readonly string[], horse?: HorseId): string =>
  `/programs/compare?with=${ids.map(encodeURIComponent).join(",")}${horse ? `&horse=${encodeURIComponent(horse)}` : ""}`;
