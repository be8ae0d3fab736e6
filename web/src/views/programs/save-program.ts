import type { ProgramFile } from "@still-pine/core/programs";
import { saveFile } from "../../parts/save-file";

/** Hands a program out as a file; its shape is that of docs/program.schema.json. */
export const saveProgram = (file: ProgramFile): void =>
  saveFile(file, `${file.name.replaceAll(/[^\p{L}\p{N}]+/gu, "-").toLowerCase()}.program.json`);
