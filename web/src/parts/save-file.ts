/** A browser may begin to read the file only after the press; by then it has. */
const READ_BY_MS = 60_000;

/** Hands out something as a JSON file. */
export function saveFile(content: unknown, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([`${JSON.stringify(content, null, 1)}\n`], { type: "application/json" }));
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), READ_BY_MS);
}
