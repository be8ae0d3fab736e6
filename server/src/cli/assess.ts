import type { StepId } from "@still-pine/core/record";
import { closeSync, fstatSync, openSync, readFileSync, readSync } from "node:fs";
import { parseArgs } from "node:util";
import { startupSnapshot } from "node:v8";
import {
  parseProgram,
  parseRecord,
  problemInWords,
  PROBLEMS_SHOWN,
  RECORD_MOST_BYTES,
  type InputProblem,
  namedIn,
} from "@still-pine/contract/record";
import { findStep, nearestStep, SHIPPED, type Program } from "@still-pine/core/programs";
import { chosenProgram, explainStep, type HorseAbout } from "@still-pine/core/readiness";
import { assessRecord, type Assessed } from "./assess-record";
import { mindClosedPipes } from "../process/safely";
import { explainInWords, tableOf } from "./for-people";
import { warmUp } from "./warm-up";
import { jsonMistake } from "../refusals/json-mistake";

/** `bin/assess FILE|-`: prints the verdicts of a horse record. Exit 2 with clear lines on a bad file. */

const USAGE = `usage: bin/assess [--now ISO] [--program FILE] [--step STEP] [--explain | --table] FILE|-
  FILE is a horse record, - reads it from standard input
  --step STEP      only this step
  --explain        in sentences, for people: why, by which rule, from which asks, and the least that would open it
  --table          a table of the steps, for people
  --program FILE   judge by this program or catalogue instead of the one chosen for the horse`;
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
  step: StepId | null;
  program: string | null;
  form: "json" | "explain" | "table";
}

function readArguments(words: readonly string[]): Arguments {
  const { values, positionals } = parseWords(words);
  if (values.help) throw new BadInput(USAGE.split("\n"));
  const now = values.now ?? new Date().toISOString();
  if (!/^\d{4}-\d\d-\d\dT.*(Z|[+-]\d\d:\d\d)$/.test(now) || Number.isNaN(Date.parse(now)))
    throw new BadInput([`--now: expected an instant such as 2026-05-01T09:30:00Z, found ${now || "nothing"}`]);
  if (values.explain && values.table) throw new BadInput(["--explain, --table: expected one of them, found both"]);
  const [file] = positionals;
  if (file === undefined || positionals.length > 1) throw new BadInput(USAGE.split("\n"));
  return {
    file,
    now: new Date(now).toISOString(),
    step: values.step ?? null,
    program: values.program ?? null,
    form: values.explain ? "explain" : values.table ? "table" : "json",
  };
}

function parseWords(words: readonly string[]) {
  try {
    return parseArgs({
      args: [...words],
      allowPositionals: true,
      options: {
        now: { type: "string" },
        program: { type: "string" },
        step: { type: "string" },
        explain: { type: "boolean" },
        table: { type: "boolean" },
        help: { type: "boolean", short: "h" },
      },
    });
  } catch (cause) {
    const { message } = cause as Error;
    const unknown = /^Unknown option '([^']*)'/.exec(message)?.[1];
    throw new BadInput([
      unknown ? `${unknown}: no such option` : (message.split(". ")[0] ?? message),
      ...USAGE.split("\n"),
    ]);
  }
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
      const about = fstatSync(handle);
      if (about.size > RECORD_MOST_BYTES) throw tooLarge(name, about.size);
      // A device has no size, and no end.
      return about.isFile() || about.isDirectory() ? readFileSync(handle, "utf8") : readBounded(handle, name);
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

function readProgram(file: string): Program {
  const parsed = parseProgram(parseJson(readText(file), file));
  if (!parsed.ok) throw new BadInput(problemLines(file, parsed.problems));
  return parsed.program;
}

function problemLines(name: string, problems: readonly InputProblem[]): string[] {
  const lines = problems.slice(0, PROBLEMS_SHOWN).map((problem) => `${name}: ${problemInWords(problem)}`);
  const more = problems.length - PROBLEMS_SHOWN;
  return more > 0 ? [...lines, `${name}: and ${more} more`] : lines;
}

function assess({ file, now, step, program: programFile, form }: Arguments): Assessed & { name: string } {
  const name = file === "-" ? "standard input" : file;
  const parsed = parseRecord(parseJson(readText(file), name), now);
  if (!parsed.ok) throw new BadInput(problemLines(name, parsed.problems));
  const { record, own, warnings } = parsed;
  const book = SHIPPED.with(own);
  const choose = (about: HorseAbout): Program => {
    const chosen = programFile === null ? chosenProgram(namedIn(record), about, book) : readProgram(programFile);
    if (step === null || findStep(chosen, step)) return chosen;
    const near = nearestStep(chosen, step);
    throw new BadInput([
      `--step: expected a step of ${chosen.name}, found ${step}${near ? `; the nearest is ${near}` : ""}`,
    ]);
  };
  const assessed = assessRecord(record, now, choose, form === "explain" && step ? step : undefined);
  const steps = assessed.assessment.steps.filter((one) => step === null || one.step === step);
  return { ...assessed, name: record.horse.name, assessment: { ...assessed.assessment, steps, warnings } };
}

function printed(assessed: ReturnType<typeof assess>, { form, step }: Arguments): string {
  const { assessment, gathered, folded, name } = assessed;
  if (form === "json") return JSON.stringify(assessment, null, 2);
  if (form === "table") return tableOf(assessment.steps, gathered.program);
  return assessment.steps
    .filter((one) => step !== null || one.status !== "untried")
    .map((one) =>
      explainInWords(one, gathered.program, name, step === null ? [] : explainStep(folded, gathered, one.step)),
    )
    .join("\n\n");
}

/** Reads the words of the command line and prints what they ask for. */
function main(): void {
  mindClosedPipes();
  try {
    const words = readArguments(process.argv.slice(2));
    const assessed = assess(words);
    for (const warning of assessed.assessment.warnings)
      process.stderr.write(`warning: ${warning.event ? `${warning.event}: ` : ""}${warning.text}\n`);
    process.stdout.write(`${printed(assessed, words)}\n`);
  } catch (cause) {
    if (!(cause instanceof BadInput)) throw cause;
    process.stderr.write(`${cause.lines.join("\n")}\n`);
    process.exitCode = 2;
  }
}

// Built as a snapshot of a program that is loaded already, it begins here when it is taken up; otherwise at once.
if (startupSnapshot.isBuildingSnapshot()) {
  const sample = process.env["SAMPLE"];
  if (sample) warmUp(() => void printed(assess(readArguments([sample])), readArguments([sample])));
  startupSnapshot.setDeserializeMainFunction(main);
} else main();
