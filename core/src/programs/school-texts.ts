/** What a person reads of a school, apart from what the application goes by: only those who show it load it. */
import texts from "./catalogue/school-texts.json" with { type: "json" };
import type { SchoolTexts } from "./types";

const TEXTS: Readonly<Record<string, SchoolTexts>> = texts;

/** What there is to read of a program that ships; undefined for another one. */
export function schoolTextsOf(programId: string): SchoolTexts | undefined {
  return Object.hasOwn(TEXTS, programId) ? TEXTS[programId] : undefined;
}
