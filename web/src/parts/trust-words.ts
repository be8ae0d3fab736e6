import type { Dialect, Program } from "@still-pine/core/programs";
import type { Base, OnTrust } from "@still-pine/core/readiness";
import { STATUS_WORDS, stepName } from "@still-pine/core/readiness/words";

/** "a, b and c" */
export function listInWords(names: readonly string[]): string {
  return names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
}

/** What a piece waits for: "once Shares the pen is good today". Null where all it rests on stands by itself. */
export function waitsInWords(after: readonly Base[] | undefined, program: Program, words: Dialect): string | null {
  const waiting = (after ?? []).filter(({ stands }) => !stands);
  if (waiting.length === 0) return null;
  const names = [...new Set(waiting.map(({ step }) => stepName(program, step, words)))];
  return `once ${listInWords(names)} ${names.length === 1 ? "is" : "are"} good today`;
}

/** What a step was begun on: "Head rub: good today, not yet steady (coming)". */
export function standsOnInWords({ step, status, good }: OnTrust, program: Program, words: Dialect): string {
  const today = good ? "good today, not yet steady" : "not good today, and not steady";
  return `${stepName(program, step, words)}: ${today} (${STATUS_WORDS[status].toLowerCase()})`;
}
