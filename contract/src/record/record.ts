import { z } from "zod";
import {
  isCorrection,
  PRECISIONS,
  resolveCorrections,
  SEXES,
  type HorseRecord,
  type Outing,
  type RecordEvent,
} from "@still-pine/core/record";
import {
  findProgram,
  findStep,
  loosePenStart,
  nearestStep,
  PROGRAMS,
  type Program,
  type ProgramFile,
} from "@still-pine/core/programs";
import { canonical } from "./canonical";
import { parseEvent } from "./check-event";
import { HEAD_FIELDS, PROGRAM_FIELDS } from "./event-types";
import {
  anyEventSchema,
  daySchema,
  headShape,
  idSchema,
  instantSchema,
  isKnownType,
  labelSchema,
  timeZoneSchema,
} from "./events";
import {
  isTooDeep,
  LEVELS_MOST,
  pathInWords,
  problemsFrom,
  shown,
  type InputProblem,
  type InputWarning,
} from "./problems";
import { OWN_PROGRAMS_MOST, parseOwnPrograms, programSchema, type OwnProgram } from "./program";

export const RECORD_FORMAT = "still-pine/horse-record";
export const RECORD_VERSION = 1;
/** A record file may be this large; larger ones are refused before they are read. */
export const RECORD_MOST_BYTES = 256 * 1024 * 1024;
/** So many problems of one file are named; more would not be read. */
export const PROBLEMS_SHOWN = 20;
/** An event further ahead of now than this is a wrong clock, not a fast one. */
const AHEAD_AT_MOST_MS = 24 * 3_600_000;

export const horseSchema = z.looseObject({
  id: idSchema,
  name: labelSchema,
  foaled: daySchema.describe("Only as exact as foaledPrecision says."),
  foaledPrecision: z.literal(PRECISIONS),
  sex: z.literal(SEXES),
});

const outingHead = {
  id: idSchema,
  startedAt: instantSchema,
  endedAt: instantSchema,
  ...headShape([...HEAD_FIELDS, ...PROGRAM_FIELDS]),
};

const recordOf = <Event extends z.ZodType, Own extends z.ZodType>(event: Event, own: Own) =>
  z.looseObject({
    format: z.literal(RECORD_FORMAT),
    version: z.literal(RECORD_VERSION),
    yard: z.looseObject({ timeZone: timeZoneSchema }),
    horse: horseSchema,
    program: z.looseObject({ id: idSchema }),
    programs: z
      .array(own)
      .max(OWN_PROGRAMS_MOST)
      .optional()
      .describe("Programs of the yard's own that the record goes by, every version."),
    horseEvents: z.array(event),
    outings: z.array(z.looseObject({ ...outingHead, events: z.array(event) })),
  });

/** Events and programs are read one by one afterwards, so that each problem names its own place. */
const shell = recordOf(z.unknown(), z.unknown());

/** The file as a JSON Schema (draft 2020-12), for other people's programs. */
export function recordJsonSchema(): object {
  return z.toJSONSchema(recordOf(anyEventSchema(), programSchema), {
    io: "input",
    unrepresentable: "any",
    reused: "ref",
  });
}

export type ParsedRecord =
  | { ok: true; record: HorseRecord; own: ProgramFile[]; warnings: InputWarning[] }
  | { ok: false; problems: InputProblem[] };

/**
 * Reads a horse record that has been parsed as JSON. Reports every problem, not the first.
 *
 * @param now ISO 8601; events later than this are kept with a warning, more than a day later refused
 * @returns the record, and apart from it the own programs that came along: whoever takes it in decides whether they are taken too
 */
export function parseRecord(input: unknown, now: string): ParsedRecord {
  if (isTooDeep(input))
    return {
      ok: false,
      problems: [{ path: "", expected: `at most ${LEVELS_MOST} levels of lists and objects`, found: "more" }],
    };
  // One file has one head: to compile its schema first would take longer.
  const head = shell.safeParse(input, { jitless: true });
  const problems: InputProblem[] = head.success ? [] : problemsFrom(head.error, input);
  if (!head.success && (typeof input !== "object" || input === null || problems.some((one) => one.path === "format")))
    return { ok: false, problems };
  const raw = input as { programs?: unknown; horseEvents?: unknown; outings?: unknown };
  const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
  const { own, problems: notPrograms } = parseOwnPrograms(list(raw.programs).slice(0, OWN_PROGRAMS_MOST), ["programs"]);
  problems.push(...notPrograms);
  const isThere = (id: string): boolean => find(id, own) !== undefined;
  if (head.success && !isThere(head.data.program.id))
    problems.push({
      path: "program.id",
      expected: `one of ${[...PROGRAMS, ...own.map(({ program }) => program)].map(({ id }) => id).join(", ")}`,
      found: shown(head.data.program.id),
    });
  const chosen = list(raw.horseEvents).map((event) =>
    typeof event === "object" && event !== null ? String((event as { program?: unknown }).program) : "",
  );
  const goesBy = [head.data?.program.id ?? "", ...chosen].flatMap((id) => find(id, own) ?? []);
  const reader = new Reader(goesBy.length > 0 ? [...new Set(goesBy)] : [loosePenStart], problems, Date.parse(now));

  const horseEvents = reader.events(list(raw.horseEvents), ["horseEvents"], null);
  const outings = list(raw.outings).map((outing, index) => reader.outing(outing, index));
  reader.checkCorrections([...outings.flatMap((outing) => outing.events), ...horseEvents]);
  if (problems.length > 0 || !head.success) return { ok: false, problems };

  const { yard, horse, programs: _own, ...rest } = head.data;
  const record = { ...rest, yard, horse, horseEvents, outings } as HorseRecord;
  return { ok: true, record, own: own.map(({ file }) => file), warnings: reader.warningsFor() };
}

/** A program by its id: one that is known here, else one that came along, in its last version. */
const find = (id: string, own: readonly OwnProgram[]): Program | undefined =>
  findProgram(id) ??
  own.filter(({ file }) => file.id === id).toSorted((a, b) => b.file.version - a.file.version)[0]?.program;

class Reader {
  private readonly seen = new Map<string, { event: RecordEvent; path: PropertyKey[]; outing: string | null }>();
  private readonly heads = new Map<string, { text: string; index: number }>();
  /** By text, so that a thing seen twice is said once. */
  private readonly warnings = new Map<string, InputWarning>();

  /** @param programs all that the record goes by, the one of its head first */
  constructor(
    private readonly programs: readonly Program[],
    private readonly problems: InputProblem[],
    private readonly now: number,
  ) {}

  outing(input: unknown, index: number): Outing {
    const path = ["outings", index];
    const outing = (typeof input === "object" && input !== null ? input : {}) as Outing;
    if (Date.parse(outing.endedAt) < Date.parse(outing.startedAt))
      this.problem([...path, "endedAt"], `an end not before the start, ${outing.startedAt}`, outing.endedAt);
    this.checkClock([...path, "startedAt"], outing.startedAt, outing.id);
    const { events, ...head } = outing;
    const text = canonical(head);
    const before = this.heads.get(outing.id);
    if (before && before.text !== text)
      this.problem([...path, "id"], `the same head as outings[${before.index}], which has the same id`, outing.id);
    else this.heads.set(outing.id, { text, index });
    return { ...outing, events: this.events(Array.isArray(events) ? events : [], [...path, "events"], outing.id) };
  }

  events(inputs: unknown[], path: PropertyKey[], outing: string | null): RecordEvent[] {
    const events: RecordEvent[] = [];
    inputs.forEach((input, index) => {
      const place = [...path, index];
      const { event, problems } = parseEvent(input, place, this.programFor(input));
      if (problems) this.problems.push(...problems);
      else if (this.isNew(event, place, outing)) {
        this.notice(event, place);
        events.push(event);
      }
    });
    return events;
  }

  /** The first that has the step of this event. */
  private programFor(event: unknown): Program {
    const [first = loosePenStart] = this.programs;
    if (this.programs.length < 2 || typeof event !== "object" || event === null) return first;
    const { step } = event as { step?: unknown };
    return this.programs.find((program) => findStep(program, String(step))) ?? first;
  }

  /** The same event twice is one event; the same id with other content, or in another outing, is a mistake. */
  private isNew(event: RecordEvent, path: PropertyKey[], outing: string | null): boolean {
    const before = this.seen.get(event.id);
    if (!before) {
      this.seen.set(event.id, { event, path, outing });
      return true;
    }
    if (before.outing !== outing || canonical(before.event) !== canonical(event))
      this.problem(
        [...path, "id"],
        `an id of its own: ${pathInWords(before.path)} has the same id and other content`,
        event.id,
      );
    return false;
  }

  private notice(event: RecordEvent, path: PropertyKey[]): void {
    this.checkClock([...path, "at"], event.at, event.id);
    if (!isKnownType(event.type)) {
      if (path[0] === "outings")
        this.warn("unknown-type", `the type ${shown(event.type)} is not known; kept and not judged`);
      return;
    }
    if (event.type === "program") {
      const { program: chosen } = event as RecordEvent & { program?: unknown };
      if (!findProgram(String(chosen)) && !this.programs.some(({ id }) => id === chosen))
        this.warn(
          "unknown-program",
          `the program ${shown(chosen)} is not known here; judged by ${this.programFor(null).name} until it is brought in`,
          event.id,
        );
      return;
    }
    if (event.type !== "ask" && event.type !== "series") return;
    const { step: id, side, part } = event as { step: string; side?: string; part?: string };
    const program = this.programFor(event);
    const step = findStep(program, id);
    if (!step) this.warn("unknown-step", unknownStepInWords(id, program));
    else if (step.side === "none" && side !== undefined && side !== "none")
      this.warn("side-ignored", `${id} has no sides; ${side} is ignored`, event.id);
    else if (step.side === "leg" && part !== "fore" && part !== "hind")
      this.warn(
        "part-missing",
        `${id} is asked leg by leg, and this one names no fore or hind; kept and not judged`,
        event.id,
      );
  }

  /** Changed fields must leave an event that is right in itself. */
  checkCorrections(events: readonly RecordEvent[]): void {
    if (!events.some(isCorrection)) return;
    const corrections = resolveCorrections(events);
    for (const event of events) {
      const standing = corrections.standingOf(event);
      const last = standing.by.at(-1);
      if (standing.voided || !last || standing.event === event) continue;
      const path = [...(this.seen.get(last.id)?.path ?? []), "with"];
      const { problems } = parseEvent(standing.event, path, this.programFor(standing.event));
      if (problems) this.problems.push(...problems);
    }
    for (const { id, replaces } of corrections.stray)
      this.warn(
        "stray-correction",
        `the correction changes nothing: ${shown(replaces)} is not in this record, or leads back to it`,
        id,
      );
  }

  private checkClock(path: PropertyKey[], at: string, id: string): void {
    const ahead = Date.parse(at) - this.now;
    if (ahead > AHEAD_AT_MOST_MS) this.problem(path, "a time at most 24 hours ahead of now", at);
    else if (ahead > 0) this.warn("clock-suspect", `${at} is later than now; kept, but that clock may be wrong`, id);
  }

  /** Sorted by what they say, so that the order of the file does not show. */
  warningsFor(): InputWarning[] {
    return [...this.warnings].toSorted(([a], [b]) => (a < b ? -1 : 1)).map(([, warning]) => warning);
  }

  private problem(path: PropertyKey[], expected: string, found: unknown): void {
    this.problems.push({ path: pathInWords(path), expected, found: shown(found) });
  }

  private warn(code: InputWarning["code"], text: string, event?: string): void {
    this.warnings.set(`${text} ${event ?? ""}`, { code, ...(event === undefined ? {} : { event }), text });
  }
}

function unknownStepInWords(id: string, program: Program): string {
  const near = nearestStep(program, id);
  return `the step ${shown(id)} is not known${near ? `; the nearest known one is ${near}` : ""}; kept and not judged`;
}
