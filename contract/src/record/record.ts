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
  type SetAside,
  unstorable,
} from "./problems";
import { OWN_PROGRAMS_MOST, parseOwnPrograms, programSchema, type OwnProgram } from "./program";

export const RECORD_FORMAT = "still-pine/horse-record";
export const RECORD_VERSION = 1;
/** A record file may be this large; larger ones are refused before they are read. */
export const RECORD_MOST_BYTES = 256 * 1024 * 1024;
/** So many problems of one file are named; more would not be read. */
export const PROBLEMS_SHOWN = 20;

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
  | { ok: true; record: HorseRecord; own: ProgramFile[]; warnings: InputWarning[]; aside: SetAside[] }
  | { ok: false; problems: InputProblem[] };

/**
 * Reads a horse record that has been parsed as JSON. Reports every problem, not the first.
 *
 * @param asideFrom the file's name, where what cannot be read of it is set aside and the rest is taken: one odd entry of an
 * archive bars no yard. Without it anything that cannot be read refuses the whole
 * @param now ISO 8601; events later than this are kept with a warning: a clock that was wrong, or a year mistyped
 * @returns the record, and apart from it the own programs that came along: whoever takes it in decides whether they are taken too
 */
export function parseRecord(input: unknown, now: string, asideFrom?: string): ParsedRecord {
  if (isTooDeep(input))
    return {
      ok: false,
      problems: [{ path: "", expected: `at most ${LEVELS_MOST} levels of lists and objects`, found: "more" }],
    };
  const aside: SetAside[] = [];
  const { taken, placeOf } =
    asideFrom === undefined ? { taken: input, placeOf: same } : withSoundOutings(input, asideFrom, aside);
  // One file has one head: to compile its schema first would take longer.
  const head = shell.safeParse(taken, { jitless: true });
  const problems: InputProblem[] = head.success ? [] : problemsFrom(head.error, taken);
  if (head.success) problems.push(...unstorableHead(head.data));
  if (!head.success && (typeof input !== "object" || input === null || problems.some((one) => one.path === "format")))
    return { ok: false, problems };
  const raw = taken as { programs?: unknown; horseEvents?: unknown; outings?: unknown };
  const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
  const { own, problems: notPrograms } = parseOwnPrograms(list(raw.programs).slice(0, OWN_PROGRAMS_MOST), ["programs"]);
  if (asideFrom === undefined) problems.push(...notPrograms);
  else aside.push(...notPrograms.map((problem) => ({ ...problem, file: asideFrom })));
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
  const reader = new Reader(
    goesBy.length > 0 ? [...new Set(goesBy)] : [loosePenStart],
    problems,
    Date.parse(now),
    asideFrom === undefined ? null : { file: asideFrom, list: aside },
  );

  const horseEvents = reader.events(list(raw.horseEvents), ["horseEvents"], null);
  const outings = list(raw.outings).flatMap((outing, index) => reader.outing(outing, placeOf(index)) ?? []);
  const unfit = reader.checkCorrections([...outings.flatMap((outing) => outing.events), ...horseEvents]);
  if (problems.length > 0 || !head.success) return { ok: false, problems };

  const { yard, horse, programs: _own, ...rest } = head.data;
  const fitting = (events: RecordEvent[]): RecordEvent[] =>
    unfit.size === 0 ? events : events.filter(({ id }) => !unfit.has(id));
  const record = {
    ...rest,
    yard,
    horse,
    horseEvents: fitting(horseEvents),
    outings: outings.map((outing) => ({ ...outing, events: fitting(outing.events) })),
  } as HorseRecord;
  return { ok: true, record, own: own.map(({ file }) => file), warnings: reader.warningsFor(), aside };
}

const outingShell = z.looseObject({ ...outingHead, events: z.array(z.unknown()) });

const same = (index: number): number => index;

/** The file without outings whose heads cannot be read, and where in the file each of the others stands. */
function withSoundOutings(
  input: unknown,
  file: string,
  aside: SetAside[],
): { taken: unknown; placeOf: (index: number) => number } {
  const { outings } = (typeof input === "object" && input !== null ? input : {}) as { outings?: unknown };
  if (!Array.isArray(outings)) return { taken: input, placeOf: same };
  const places: number[] = [];
  const sound = outings.filter((outing: unknown, index) => {
    const parsed = outingShell.safeParse(outing, { jitless: true });
    if (!parsed.success)
      aside.push(
        ...problemsFrom(parsed.error, outing, ["outings", index])
          .slice(0, 1)
          .map((problem) => ({ ...problem, file, entry: outing })),
      );
    else places.push(index);
    return parsed.success;
  });
  return { taken: { ...(input as object), outings: sound }, placeOf: (index) => places[index] ?? index };
}

/** What of a record's own fields no database can hold; its entries are looked at one by one. */
function unstorableHead({ horseEvents: _events, outings, ...rest }: z.infer<typeof shell>): InputProblem[] {
  const heads = outings.map(({ events: _own, ...head }) => head);
  return Object.entries({ ...rest, outings: heads }).flatMap(([path, value]) => {
    const found = unstorable(value);
    return found ? [{ path, expected: "text a database can hold", found }] : [];
  });
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
    private readonly aside: { file: string; list: SetAside[] } | null,
  ) {}

  /** Refuses what cannot be read, or sets it aside. */
  private refuse(problems: readonly InputProblem[], entry: unknown): void {
    const [first] = problems;
    if (!this.aside) this.problems.push(...problems);
    else if (first) this.aside.list.push({ ...first, file: this.aside.file, entry });
  }

  /** Null where it is set aside. */
  outing(input: unknown, index: number): Outing | null {
    const path = ["outings", index];
    const outing = (typeof input === "object" && input !== null ? input : {}) as Outing;
    const refuse = (where: string, expected: string, found: unknown): void =>
      this.refuse([{ path: pathInWords([...path, where]), expected, found: shown(found) }], input);
    if (Date.parse(outing.endedAt) < Date.parse(outing.startedAt)) {
      refuse("endedAt", `an end not before the start, ${outing.startedAt}`, outing.endedAt);
      if (this.aside) return null;
    }
    this.checkClock(outing.startedAt, outing.id);
    const { events, ...head } = outing;
    const text = canonical(head);
    const before = this.heads.get(outing.id);
    if (before && before.text !== text) {
      refuse("id", `the same head as outings[${before.index}], which has the same id`, outing.id);
      if (this.aside) return null;
    } else this.heads.set(outing.id, { text, index });
    return { ...outing, events: this.events(Array.isArray(events) ? events : [], [...path, "events"], outing.id) };
  }

  events(inputs: unknown[], path: PropertyKey[], outing: string | null): RecordEvent[] {
    const events: RecordEvent[] = [];
    inputs.forEach((input, index) => {
      const place = [...path, index];
      const bad = unstorable(input);
      const { event, problems } = bad
        ? { problems: [{ path: pathInWords(place), expected: "text a database can hold", found: bad }] }
        : parseEvent(input, place, this.programFor(input));
      if (problems) this.refuse(problems, input);
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
      this.refuse(
        [
          {
            path: pathInWords([...path, "id"]),
            expected: `an id of its own: ${pathInWords(before.path)} has the same id and other content`,
            found: shown(event.id),
          },
        ],
        event,
      );
    return false;
  }

  private notice(event: RecordEvent, path: PropertyKey[]): void {
    this.checkClock(event.at, event.id);
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

  /** Changed fields must leave an event that is right in itself. @returns ids of corrections that are set aside because they do not */
  checkCorrections(events: readonly RecordEvent[]): ReadonlySet<string> {
    const unfit = new Set<string>();
    if (!events.some(isCorrection)) return unfit;
    const corrections = resolveCorrections(events);
    for (const event of events) {
      const standing = corrections.standingOf(event);
      const last = standing.by.at(-1);
      if (standing.voided || !last || standing.event === event) continue;
      const path = [...(this.seen.get(last.id)?.path ?? []), "with"];
      const { problems } = parseEvent(standing.event, path, this.programFor(standing.event));
      if (!problems) continue;
      if (!this.aside) this.problems.push(...problems);
      else
        for (const one of standing.by) {
          if (one.with === undefined) continue;
          unfit.add(one.id);
          this.refuse(problems, one);
        }
    }
    for (const { id, replaces } of corrections.stray)
      this.warn(
        "stray-correction",
        `the correction changes nothing: ${shown(replaces)} is not in this record, or leads back to it`,
        id,
      );
    return unfit;
  }

  private checkClock(at: string, id: string): void {
    if (Date.parse(at) > this.now)
      this.warn("clock-suspect", `${at} is later than now; kept, but that clock may be wrong`, id);
  }

  /** Sorted by what they say, so that the order of the file does not show. */
  warningsFor(): InputWarning[] {
    return [...this.warnings].toSorted(([a], [b]) => (a < b ? -1 : 1)).map(([, warning]) => warning);
  }

  private warn(code: InputWarning["code"], text: string, event?: string): void {
    this.warnings.set(`${text} ${event ?? ""}`, { code, ...(event === undefined ? {} : { event }), text });
  }
}

function unknownStepInWords(id: string, program: Program): string {
  const near = nearestStep(program, id);
  return `the step ${shown(id)} is not known${near ? `; the nearest known one is ${near}` : ""}; kept and not judged`;
}
