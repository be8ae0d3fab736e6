import type { ProgramFile } from "@still-pine/core/programs";

/** Hands a program out as a file; its shape is that of docs/program.schema.json. */
export function saveFile(file: ProgramFile): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([`${JSON.stringify(file, null, 1)}\n`], { type: "application/json" }));
  link.download = `${file.name.replaceAll(/[^\p{L}\p{N}]+/gu, "-").toLowerCase()}.program.json`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}
