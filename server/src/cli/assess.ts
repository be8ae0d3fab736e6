import { closeSync, fstatSync, openSync, readFileSync, readSync } from "node:fs";
import {
  canonical,
  parseRecord,
  problemInWords,
  PROBLEMS_SHOWN,
  RECORD_MOST_BYTES,
  type InputWarning,
} from "@still-pine/contract/record";
import type { Judgement } from "@still-pine/core/readiness";
import { judgeRecord } from "@still-pine/core/readiness";
import { jsonMistake } from "./json-mistake";

/** `bin/assess [--now ISO] FILE|-`: prints the verdicts of a horse record as JSON. Exit 2 with clear lines on a bad file. */

const USAGE = "usage: bin/assess [--now ISO] FILE|-   (FILE is a horse record, - reads it from standard input)";
const MB = 1024 * 1024;

const UNREADABLE: Record<string, string> = {
  ENOENT: "no such file",
  ENOTDIR: "no such file",
  EISDIR: "a folder",
  EACCES: "a file you may not read",
};

/** A mistake of the person who typed the command or of the file; each line says what to change. */
class BadInput extends Error {
  constructor(readonly lines: string[]) {
    super(lines[0]);
  }
}

interface Arguments {
  file: string;
  now: string;
}

function readArguments(words: readonly string[]): Arguments {
  let now = new Date().toISOString();
  const files: string[] = [];
  for (let index = 0; index < words.length; index += 1) {
    const word = words[index] ?? "";
    if (word === "--now" || word.startsWith("--now=")) {
      const text = word === "--now" ? words[(index += 1)] : word.slice(6);
      if (text === undefined || !/^\d{4}-\d\d-\d\dT.*(Z|[+-]\d\d:\d\d)$/.test(text) || Number.isNaN(Date.parse(text)))
        throw new BadInput([`--now: expected an instant such as 2026-05-01T09:30:00Z, found ${text ?? "nothing"}`]);
      now = new Date(text).toISOString();
    } else if (word === "--help" || word === "-h") throw new BadInput([USAGE]);
    else if (word.startsWith("-") && word !== "-") throw new BadInput([`${word}: no such option`, USAGE]);
    else files.push(word);
  }
  const [file] = files;
  if (file === undefined || files.length > 1) throw new BadInput([USAGE]);
  return { file, now };
}

function tooLarge(name: string, bytes: number | null): BadInput {
  const size = bytes === null ? "more" : `${Math.ceil(bytes / MB)} MB`;
  return new BadInput([`${name}: expected a record of at most ${RECORD_MOST_BYTES / MB} MB, found ${size}`]);
}

function readText(file: string): string {
  const name = file === "-" ? "standard input" : file;
  try {
    if (file === "-") return readBounded(0, name);
    const handle = openSync(file, "r");
    try {
      const { size } = fstatSync(handle);
      if (size > RECORD_MOST_BYTES) throw tooLarge(name, size);
      return readFileSync(handle, "utf8");
    } finally {
      closeSync(handle);
    }
  } catch (cause) {
    if (cause instanceof BadInput) throw cause;
    const code = (cause as NodeJS.ErrnoException).code ?? "";
    throw new BadInput([`${name}: expected a horse record, found ${UNREADABLE[code] ?? String(cause)}`]);
  }
}

function readBounded(handle: number, name: string): string {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for (;;) {
    const chunk = Buffer.allocUnsafe(MB);
    let read: number;
    try {
      read = readSync(handle, chunk);
    } catch (cause) {
      if ((cause as NodeJS.ErrnoException).code === "EAGAIN") continue;
      if ((cause as NodeJS.ErrnoException).code === "EOF") break;
      throw cause;
    }
    if (read === 0) break;
    bytes += read;
    if (bytes > RECORD_MOST_BYTES) throw tooLarge(name, null);
    chunks.push(chunk.subarray(0, read));
  }
  return Buffer.concat(chunks).toString("utf8");
}

function parseJson(text: string, name: string): unknown {
  try {
    return JSON.parse(text.startsWith("\ufeff") ? text.slice(1) : text);
  } catch {
    throw new BadInput([`${name}: ${jsonMistake(text)}`]);
  }
}

export interface Assessment {
  now: string;
  horse: unknown;
  program: unknown;
  steps: Judgement[];
  warnings: InputWarning[];
}

function assess({ file, now }: Arguments): Assessment {
  const name = file === "-" ? "standard input" : file;
  const parsed = parseRecord(parseJson(readText(file), name), now);
  if (!parsed.ok) {
    const more = parsed.problems.length - PROBLEMS_SHOWN;
    const lines = parsed.problems.slice(0, PROBLEMS_SHOWN).map((problem) => `${name}: ${problemInWords(problem)}`);
    throw new BadInput(more > 0 ? [...lines, `${name}: and ${more} more`] : lines);
  }
  const { record, program, warnings } = parsed;
  return {
    now,
    horse: JSON.parse(canonical(record.horse)),
    program: { id: program.id, version: program.version },
    steps: judgeRecord(record, program, now),
    warnings,
  };
}

try {
  const result = assess(readArguments(process.argv.slice(2)));
  for (const warning of result.warnings)
    process.stderr.write(`warning: ${warning.event ? `${warning.event}: ` : ""}${warning.text}\n`);
  process.stdout.write(`${JSON.stringify(result, null, 2)}\n`);
} catch (cause) {
  if (!(cause instanceof BadInput)) throw cause;
  process.stderr.write(`${cause.lines.join("\n")}\n`);
  process.exitCode = 2;
}
