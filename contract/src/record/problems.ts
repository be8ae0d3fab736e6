import type { z } from "zod";

/** One thing wrong with an input: where, what was expected, what stood there. */
export interface InputProblem {
  /** As a person would write it: `outings[0].events[3].phase`; empty for the whole. */
  path: string;
  expected: string;
  found: string;
}

/** Something that does not stop a record from being read but that its owner should know. */
export interface InputWarning {
  code:
    | "unknown-program"
    | "other-content"
    | "comes-along"
    | "unknown-step"
    | "unknown-type"
    | "stray-correction"
    | "side-ignored"
    | "part-missing"
    | "clock-suspect"
    | "other-time-zone";
  /** Id of the event or outing meant; a place in the file would change with its order. */
  event?: string;
  text: string;
}

/** What of a file could not be read and stays outside, with what was wrong with it. */
export interface SetAside extends InputProblem {
  /** The file it stood in. */
  file: string;
  /** As it stood there; absent where it was no JSON. */
  entry?: unknown;
}

type Path = readonly PropertyKey[];

export function pathInWords(path: Path): string {
  return path
    .map((part, index) => (typeof part === "number" ? `[${part}]` : `${index === 0 ? "" : "."}${String(part)}`))
    .join("");
}

/** A value as it can stand in one line of a message. */
export function shown(value: unknown): string {
  if (value === undefined) return "nothing";
  if (Array.isArray(value)) return "a list";
  if (typeof value === "object" && value !== null) return "an object";
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}

export function problemInWords(problem: InputProblem): string {
  const where = problem.path === "" ? "" : `${problem.path}: `;
  return `${where}expected ${problem.expected}, found ${problem.found}`;
}

function expectedBy(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case "invalid_value":
      return issue.values.length === 1 ? shown(issue.values[0]) : `one of ${issue.values.map(shown).join(", ")}`;
    case "invalid_type":
      return issue.expected === "int"
        ? "a whole number"
        : `${/^[aeiou]/.test(issue.expected) ? "an" : "a"} ${issue.expected}`;
    case "too_small":
      if (issue.origin === "string") return "a text that is not empty";
      return `at least ${issue.minimum}`;
    case "too_big":
      return issue.origin === "string" ? `a text of at most ${issue.maximum} characters` : `at most ${issue.maximum}`;
    case "invalid_format":
      if (issue.format === "datetime") return "an instant such as 2026-05-01T09:30:00Z";
      if (issue.format === "date") return "a day such as 2023-05-01";
      return `a ${issue.format}`;
    default:
      return issue.message.replace(/^expected /, "");
  }
}

/** A Zod error as problems, with what really stood at each place. */
export function problemsFrom(error: z.core.$ZodError, input: unknown, base: Path = []): InputProblem[] {
  return error.issues.map((issue) => ({
    path: pathInWords([...base, ...issue.path]),
    expected: expectedBy(issue),
    found: shown(valueAt(input, issue.path)),
  }));
}

function valueAt(input: unknown, path: Path): unknown {
  let value = input;
  for (const part of path) {
    if (typeof value !== "object" || value === null) return undefined;
    value = (value as Record<PropertyKey, unknown>)[part];
  }
  return value;
}

/** Levels of lists and objects an input may have; deeper ones are nobody's record. */
export const LEVELS_MOST = 64;

/** Whether a value goes deeper than that. Looks no deeper itself. */
export function isTooDeep(value: unknown, left: number = LEVELS_MOST): boolean {
  if (typeof value !== "object" || value === null) return false;
  if (left === 0) return true;
  for (const key in value) if (isTooDeep((value as Record<string, unknown>)[key], left - 1)) return true;
  return false;
}

/** PostgreSQL's JSON holds neither NUL nor half a surrogate pair. Names what cannot be stored, or undefined. Call after `isTooDeep`. */
export function unstorable(value: unknown): string | undefined {
  if (typeof value === "string")
    return value.includes("\0") ? "a NUL character" : /\p{Cs}/u.test(value) ? "half a character" : undefined;
  if (typeof value !== "object" || value === null) return undefined;
  for (const [key, field] of Object.entries(value)) {
    const bad = unstorable(key) ?? unstorable(field);
    if (bad) return bad;
  }
  return undefined;
}
