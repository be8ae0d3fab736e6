import { z } from "zod";
import {
  isCorrection,
  resolveCorrections,
  type HorseRecord,
  type Outing,
  type RecordEvent,
  type StepId,
} from "@still-pine/core/record";
import {
  stepsFor,
  loosePenStart,
  nearestStep,
  SHIPPED,
  type Program,
  type ProgramBook,
  type ProgramFile,
} from "@still-pine/core/programs";
import { canonical } from "./canonical";
import { parseEvent } from "./check-event";
import { isKnownType } from "./events";
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
import { OWN_PROGRAMS_MOST, parseOwnPrograms, type OwnProgram } from "./program";
import { namedIn, shell, outingShell } from "./record-shape";

/** What is said of a record that is read piece by piece, when all of it was read. */
export type ReadThrough =
  | { ok: true; head: RecordHead; own: ProgramFile[]; warnings: InputWarning[]; aside: SetAside[] }
  | { ok: false; problems: InputProblem[] };

/** All of a record but its entries. */
export type RecordHead = Omit<HorseRecord, "horseEvents" | "outings">;

const tooDeep = (path: string): InputProblem => ({
  path,
  expected: `at most ${LEVELS_MOST} levels of lists and objects`,
  found: "more",
});

/** What of a record's own fields no database can hold; its entries are looked at one by one. */
function unstorableIn(head: object): InputProblem[] {
  return Object.entries(head).flatMap(([path, value]) => {
    const found = unstorable(value);
    return found ? [{ path, expected: STORABLE, found }] : [];
  });
}

const STORABLE = "text a database can hold";

/** How a record is read. */
export interface Reading {
  asideFrom?: string | undefined;
  book?: ProgramBook | undefined;
}

/** How an entry is kept to know it again: as it is, or for a file larger than memory only a print of it. */
export interface Known {
  keep(event: RecordEvent): unknown;
  isSame(kept: unknown, event: RecordEvent): boolean;
}

const asItIs: Known = {
  keep: (event) => event,
  isSame: (kept, event) => canonical(kept) === canonical(event),
};

/** So many problems, and so many entries set aside, are kept; a file of nothing else is no record. */
const PROBLEMS_MOST = 1000;
const ASIDE_MOST = 10_000;
/** So many warnings of one file are told; nobody reads more. */
const WARNINGS_MOST = 50_000;
/** Stands for the horse itself where the place of an outing in its file is kept. */
const NO_OUTING = -1;

/** Reads a horse record piece by piece, in the order of its file: what is said of the horse, then its outings. */
export class RecordReader {
  private readonly problems: InputProblem[] = [];
  private readonly asideList: SetAside[] = [];
  private readonly head: z.infer<typeof shell> | undefined;
  private readonly own: readonly OwnProgram[];
  /** All that the record goes by, the one of its head first. */
  private readonly programs: readonly Program[];
  private readonly book: ProgramBook;
  private readonly now: number;
  private readonly asideFrom: string | undefined;
  private readonly known: Known;
  /** Entries by id; the lists beside it say of each where it stands and how it is known again. */
  private readonly seen = new Map<string, number>();
  private readonly outingOf: number[] = [];
  private readonly placeOf: number[] = [];
  private readonly kept: unknown[] = [];
  private readonly outingIds: string[] = [];
  private readonly heads = new Map<string, { text: string; index: number }>();
  /** By text, so that a thing seen twice is said once. */
  private readonly warnings = new Map<string, InputWarning>();
  /** Whether it is anything like a record; of what is not nothing more is read. */
  readonly isRecord: boolean;

  /**
   * @param input the record with empty lists of entries
   * @param chosen programs that entries of the horse choose, by id
   * @param now ISO 8601
   */
  constructor(
    input: unknown,
    chosen: readonly string[],
    now: string,
    { asideFrom, known = asItIs, book = SHIPPED }: Reading & { known?: Known } = {},
  ) {
    this.now = Date.parse(now);
    this.asideFrom = asideFrom;
    this.known = known;
    this.book = book;
    const isDeep = isTooDeep(input);
    // One file has one head: to compile its schema first would take longer.
    const head = isDeep ? undefined : shell.safeParse(input, { jitless: true });
    this.head = head?.data;
    if (!head) this.problems.push(tooDeep(""));
    else if (head.success) this.problems.push(...unstorableIn(head.data));
    else this.problems.push(...problemsFrom(head.error, input));
    const isObject = typeof input === "object" && input !== null;
    this.isRecord = isObject && !isDeep && !this.problems.some((one) => one.path === "format");
    const { programs } = (isObject ? input : {}) as { programs?: unknown };
    const along = Array.isArray(programs) && this.isRecord ? programs.slice(0, OWN_PROGRAMS_MOST) : [];
    const { own, problems: notPrograms } = parseOwnPrograms(along, ["programs"]);
    this.own = own;
    if (asideFrom === undefined) this.problems.push(...notPrograms);
    else this.asideList.push(...notPrograms.map((problem) => ({ ...problem, file: asideFrom })));
    const find = (id: string): Program | undefined =>
      (book.has(id) ? book.goneBy(id === said?.id ? said : { id }) : undefined) ??
      own.filter(({ file }) => file.id === id).toSorted((a, b) => b.file.version - a.file.version)[0]?.program;
    const said = this.head && namedIn(this.head);
    if (this.head && this.isRecord && find(this.head.program.id) === undefined)
      this.problems.push({
        path: "program.id",
        expected: `one of ${[...book.all, ...own.map(({ program }) => program)].map(({ id }) => id).join(", ")}`,
        found: shown(this.head.program.id),
      });
    const goesBy = [this.head?.program.id ?? "", ...chosen].flatMap((id) => find(id) ?? []);
    this.programs = goesBy.length > 0 ? [...new Set(goesBy)] : [loosePenStart];
  }

  /** Refuses what cannot be read, or sets it aside. */
  private refuse(problems: readonly InputProblem[], entry: unknown): void {
    const [first] = problems;
    if (this.asideFrom === undefined) {
      if (this.problems.length < PROBLEMS_MOST) this.problems.push(...problems);
    } else if (first && this.asideList.length < ASIDE_MOST)
      this.asideList.push({ ...first, file: this.asideFrom, entry });
  }

  /** An entry of the horse's own; null where it is refused, set aside, or read already. */
  horseEvent(input: unknown, index: number): RecordEvent | null {
    return this.isRecord ? this.event(input, ["horseEvents", index], NO_OUTING) : null;
  }

  /** An outing with what can be read of its entries; null where it is refused or set aside. */
  outing(input: unknown, index: number): Outing | null {
    if (!this.isRecord) return null;
    const path = ["outings", index];
    if (isTooDeep(input, LEVELS_MOST - path.length)) {
      this.refuse([tooDeep(pathInWords(path))], input);
      return null;
    }
    const parsed = outingShell.safeParse(input, { jitless: true });
    if (!parsed.success) {
      this.refuse(problemsFrom(parsed.error, input, path), input);
      // Where nothing is set aside, what else is wrong is said at once too.
      if (this.asideFrom === undefined) this.readEvents((input as { events?: unknown } | null)?.events, index);
      return null;
    }
    const outing = parsed.data as unknown as Outing;
    const refuse = (where: string, expected: string, found: unknown): void =>
      this.refuse([{ path: pathInWords([...path, where]), expected, found: shown(found) }], input);
    const isBackwards = Date.parse(outing.endedAt) < Date.parse(outing.startedAt);
    if (isBackwards) refuse("endedAt", `an end not before the start, ${outing.startedAt}`, outing.endedAt);
    const { events, ...head } = outing;
    const bad = unstorable(head);
    if (bad) this.refuse([{ path: pathInWords(path), expected: STORABLE, found: bad }], input);
    if (this.asideFrom !== undefined && (isBackwards || bad)) return null;
    this.checkClock(outing.startedAt, outing.id);
    this.outingIds[index] = outing.id;
    const text = canonical(head);
    const before = this.heads.get(outing.id);
    if (before && before.text !== text) {
      refuse("id", `the same head as outings[${before.index}], which has the same id`, outing.id);
      if (this.asideFrom !== undefined) return null;
    } else if (!before) this.heads.set(outing.id, { text, index });
    return { ...outing, events: this.readEvents(events, index) };
  }

  private readEvents(inputs: unknown, outing: number): RecordEvent[] {
    if (!Array.isArray(inputs)) return [];
    return inputs.flatMap((input, index) => this.event(input, ["outings", outing, "events", index], outing) ?? []);
  }

  private event(input: unknown, place: PropertyKey[], outing: number): RecordEvent | null {
    const isDeep = isTooDeep(input, LEVELS_MOST - place.length);
    const bad = isDeep ? undefined : unstorable(input);
    const { event, problems } = isDeep
      ? { problems: [tooDeep(pathInWords(place))] }
      : bad
        ? { problems: [{ path: pathInWords(place), expected: STORABLE, found: bad }] }
        : parseEvent(input, place, this.programFor(input));
    if (problems) this.refuse(problems, input);
    else if (this.isNew(event, place, outing)) {
      this.notice(event, place);
      return event;
    }
    return null;
  }

  private isSameOuting(a: number, b: number): boolean {
    return a === b || (this.outingIds[a] !== undefined && this.outingIds[a] === this.outingIds[b]);
  }

  private pathOf(at: number): PropertyKey[] {
    const outing = this.outingOf[at] ?? NO_OUTING;
    const place = this.placeOf[at] ?? 0;
    return outing === NO_OUTING ? ["horseEvents", place] : ["outings", outing, "events", place];
  }

  /** The first that has the step of this event. */
  private programFor(event: unknown): Program {
    const [first = loosePenStart] = this.programs;
    if (this.programs.length < 2 || typeof event !== "object" || event === null) return first;
    const { step } = event as { step?: unknown };
    return this.programs.find((program) => stepsFor(program, String(step)).length > 0) ?? first;
  }

  /** The same event twice is one event; the same id with other content, or in another outing, is a mistake. */
  private isNew(event: RecordEvent, path: PropertyKey[], outing: number): boolean {
    const before = this.seen.get(event.id);
    if (before === undefined) {
      this.seen.set(event.id, this.kept.length);
      this.kept.push(this.known.keep(event));
      this.outingOf.push(outing);
      this.placeOf.push(Number(path.at(-1)));
      return true;
    }
    if (!this.isSameOuting(this.outingOf[before] ?? NO_OUTING, outing) || !this.known.isSame(this.kept[before], event))
      this.refuse(
        [
          {
            path: pathInWords([...path, "id"]),
            expected: `an id of its own: ${pathInWords(this.pathOf(before))} has the same id and other content`,
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
      const { program: chosen } = event;
      if (!this.book.has(chosen) && !this.programs.some(({ id }) => id === chosen))
        this.warn(
          "unknown-program",
          `the program ${shown(chosen)} is not known here; nothing is judged until it is brought in or another is chosen`,
          event.id,
        );
      return;
    }
    if (event.type !== "ask" && event.type !== "series") return;
    const { step: id, side, part } = event as { step: StepId; side?: string; part?: string };
    const program = this.programFor(event);
    const [step] = stepsFor(program, id);
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

  /**
   * Changed fields must leave an event that is right in itself.
   *
   * @param events of what was read at least all corrections and what they name
   * @returns ids of corrections that are set aside because they do not
   */
  checkCorrections(events: readonly RecordEvent[]): ReadonlySet<string> {
    const unfit = new Set<string>();
    if (!events.some(isCorrection)) return unfit;
    const corrections = resolveCorrections(events);
    for (const event of events) {
      const standing = corrections.standingOf(event);
      const last = standing.by.at(-1);
      if (standing.voided || !last || standing.event === event) continue;
      const at = this.seen.get(last.id);
      const path = [...(at === undefined ? [] : this.pathOf(at)), "with"];
      const { problems } = parseEvent(standing.event, path, this.programFor(standing.event));
      if (!problems) continue;
      if (this.asideFrom === undefined) this.refuse(problems, last);
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

  /** What is to be said of the record when all of it was read. */
  end(): ReadThrough {
    if (this.problems.length > 0 || !this.head) return { ok: false, problems: this.problems };
    const { programs: _own, horseEvents: _events, outings: _outings, ...head } = this.head;
    const own = this.own.map(({ file }) => file);
    return {
      ok: true,
      head: head as unknown as RecordHead,
      own,
      warnings: this.warningsInOrder(),
      aside: this.asideList,
    };
  }

  private checkClock(at: string, id: string): void {
    if (Date.parse(at) > this.now)
      this.warn("clock-suspect", `${at} is later than now; kept, but that clock may be wrong`, id);
  }

  /** Sorted by what they say, so that the order of the file does not show. */
  private warningsInOrder(): InputWarning[] {
    return [...this.warnings].toSorted(([a], [b]) => (a < b ? -1 : 1)).map(([, warning]) => warning);
  }

  private warn(code: InputWarning["code"], text: string, event?: string): void {
    const key = `${text} ${event ?? ""}`;
    if (this.warnings.size < WARNINGS_MOST || this.warnings.has(key))
      this.warnings.set(key, { code, ...(event === undefined ? {} : { event }), text });
  }
}

function unknownStepInWords(id: string, program: Program): string {
  const near = nearestStep(program, id);
  return `the step ${shown(id)} is not known${near ? `; the nearest known one is ${near}` : ""}; kept and not judged`;
}
