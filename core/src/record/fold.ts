import { resolveCorrections, type Corrections } from "./corrections";
import { dayIn, type Day } from "./day";
import { effectiveTimes, orderEvents, withMeasuredTimes } from "./order";
import {
  isAsk,
  isCorrection,
  type AskEvent,
  type HorseRecord,
  type Outing,
  type OutingHead,
  type RecordEvent,
} from "./types";

export interface FoldedOuting {
  id: string;
  startedAt: string;
  endedAt: string;
  /** What stands of the whole outing: place, people, gear, weather, how he was caught. */
  head: OutingHead;
  /** The yard's day on which it began; all its asks belong to that day. */
  day: Day;
  /** What counts, corrections applied, in effective order, each once. */
  events: readonly RecordEvent[];
  /** Everything that was ever recorded, corrections included, in effective order. */
  history: readonly RecordEvent[];
}

export interface FoldedRecord {
  outings: FoldedOuting[];
  corrections: Corrections;
  /** What stands of what was said of the horse itself, in effective order. */
  ofHorse: readonly RecordEvent[];
  timeZone: string;
  /** Asks that two devices both saw and of which one was left out: `[kept, left out]`. */
  pairs: [string, string][];
}

/**
 * Folds a record into what counts. The result does not depend on the order in which outings or events stand in the
 * record, nor on whether they stand there once or twice.
 */
export function foldRecord(record: HorseRecord): FoldedRecord {
  // Corrections of one record may stand anywhere in it, also among what is said of the horse.
  let anyCorrection = record.horseEvents.some(isCorrection);
  const ordered = mergeOutings(record.outings).map((outing) => {
    const history = orderEvents(outing.events);
    anyCorrection ||= history.some(isCorrection);
    return { outing, history };
  });
  const corrections = resolveCorrections(
    anyCorrection ? [...ordered.flatMap(({ history }) => history), ...record.horseEvents] : [],
  );
  const pairs: [string, string][] = [];
  const outings = ordered
    .map(({ outing, history }): FoldedOuting => {
      const stood = anyCorrection ? standing(history, corrections) : history;
      const timeOf = effectiveTimes(history);
      const own = pairsOf(stood, timeOf);
      pairs.push(...own.map(({ kept, other }): [string, string] => [kept.id, other.id]));
      const left = new Set<RecordEvent>(own.map(({ other }) => other));
      const counted = left.size === 0 ? stood : stood.filter((event) => !left.has(event));
      const events = withMeasuredTimes(counted, timeOf);
      const head = foldHead(outing, events);
      const { startedAt, endedAt } = head;
      const day = dayIn(record.yard.timeZone, startedAt);
      return { id: outing.id, startedAt, endedAt, head, day, events, history };
    })
    .toSorted(compareOutings);
  return {
    corrections,
    ofHorse: standing(orderEvents(record.horseEvents), corrections),
    timeZone: record.yard.timeZone,
    pairs: pairs.toSorted(([a], [b]) => (a < b ? -1 : 1)),
    outings,
  };
}

/** Order of outings: start, then id. */
export function compareOutings(a: { id: string; startedAt: string }, b: { id: string; startedAt: string }): number {
  return Date.parse(a.startedAt) - Date.parse(b.startedAt) || (a.id === b.id ? 0 : a.id < b.id ? -1 : 1);
}

/** The head as the file has it, then as the outing's start and end say, then as it was said anew, the last word counting. */
function foldHead({ id: _id, events: _events, ...head }: Outing, events: readonly RecordEvent[]): OutingHead {
  let folded: OutingHead = head as OutingHead;
  let again: RecordEvent[] | null = null;
  for (const event of events) {
    if (event.type === "outing-start") folded = { ...folded, ...saidIn(event), startedAt: event.at };
    else if (event.type === "outing-end") folded = { ...folded, endedAt: event.at };
    else if (event.type === "head") (again ??= []).push(event);
  }
  if (again) for (const event of again) folded = { ...folded, ...saidIn(event) };
  return Date.parse(folded.endedAt) < Date.parse(folded.startedAt) ? { ...folded, endedAt: folded.startedAt } : folded;
}

const EVENT_HEAD: readonly string[] = ["id", "at", "type", "v", "by", "device", "seq", "recordedAt"];

function saidIn(event: RecordEvent): Partial<OutingHead> {
  return Object.fromEntries(Object.entries(event).filter(([field]) => !EVENT_HEAD.includes(field)));
}

/** Outings with one id are one outing: two phones may each have written a part of it. */
function mergeOutings(outings: readonly Outing[]): Outing[] {
  const byId = new Map<string, Outing>();
  for (const outing of outings) {
    const before = byId.get(outing.id);
    if (!before) byId.set(outing.id, outing);
    else byId.set(outing.id, { ...before, events: [...before.events, ...outing.events] });
  }
  return [...byId.values()];
}

function standing(history: readonly RecordEvent[], corrections: Corrections): RecordEvent[] {
  const events: RecordEvent[] = [];
  for (const event of history) {
    if (isCorrection(event)) continue;
    const now = corrections.standingOf(event);
    if (!now.voided) events.push(now.event);
  }
  return events;
}

const PAIR_WINDOW_MS = 3000;
const rank = { gave: 0, neutral: 1, tried: 2, none: 3, against: 4 } as const;

/** The less clean of two sightings of one ask: the worse answer, then the heavier phase, then the tighter mood, then the id. */
function lessClean(a: AskEvent, b: AskEvent): AskEvent {
  const order =
    rank[a.answer] - rank[b.answer] ||
    (a.phase ?? 0) - (b.phase ?? 0) ||
    (a.mood ?? 0) - (b.mood ?? 0) ||
    (a.id < b.id ? 1 : -1);
  return order > 0 ? a : b;
}

/** Two sightings of one ask: the one that counts and the one left out. */
export interface Pair {
  kept: AskEvent;
  other: AskEvent;
}

/** Whether two asks are sightings of one: by two devices, of the same step and side, within three seconds. */
export const arePair = (a: AskEvent, b: AskEvent, timeOf: (event: RecordEvent) => number): boolean =>
  a.device !== undefined &&
  b.device !== undefined &&
  a.device !== b.device &&
  a.step === b.step &&
  (a.side ?? "none") === (b.side ?? "none") &&
  (a.part ?? null) === (b.part ?? null) &&
  Math.abs(timeOf(b) - timeOf(a)) <= PAIR_WINDOW_MS;

/** Of two sightings of one ask the less clean one counts. */
export function pairUp(a: AskEvent, b: AskEvent): Pair {
  const kept = lessClean(a, b);
  return { kept, other: kept === a ? b : a };
}

/**
 * Asks that two devices both saw. An ask belongs to one pair at most: to the earliest that still waits for its second sighting.
 *
 * @param events what stands of one outing, in effective order
 * @param timeOf of `effectiveTimes`
 */
export function pairsOf(events: readonly RecordEvent[], timeOf: (event: RecordEvent) => number): Pair[] {
  const devices = new Set<string>();
  for (const event of events) if (event.device !== undefined) devices.add(event.device);
  if (devices.size < 2) return [];
  const pairs: Pair[] = [];
  // Within one step and side all that wait are of one device: two of different devices this near would be a pair.
  const waiting = new Map<string, Waiting>();
  for (const ask of inTime(events, timeOf)) {
    const key = `${ask.step}\n${ask.side ?? "none"}\n${ask.part ?? ""}`;
    const own = waiting.get(key) ?? { asks: [], from: 0 };
    waiting.set(key, own);
    let first = own.asks[own.from];
    while (first && timeOf(ask) - timeOf(first) > PAIR_WINDOW_MS) first = own.asks[(own.from += 1)];
    if (first && arePair(first, ask, timeOf)) {
      own.from += 1;
      pairs.push(pairUp(first, ask));
    } else own.asks.push(ask);
  }
  return pairs;
}

/** Asks of one step and side that wait for their second sighting: those from a place on. */
interface Waiting {
  asks: AskEvent[];
  from: number;
}

/** Asks that a device recorded, by the time they count as; a corrected time may stand out of the order of the others. */
function inTime(events: readonly RecordEvent[], timeOf: (event: RecordEvent) => number): AskEvent[] {
  const asks = events.filter(isAsk).filter(({ device }) => device !== undefined);
  const isInTime = asks.every((ask, index) => {
    const before = asks[index - 1];
    return before === undefined || timeOf(before) <= timeOf(ask);
  });
  return isInTime ? asks : asks.toSorted((a, b) => timeOf(a) - timeOf(b));
}
