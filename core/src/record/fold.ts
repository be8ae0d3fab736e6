import type { OutingId } from "./ids";
import { withCarriage } from "./carriage";
import { resolveCorrections, type Corrections } from "./corrections";
import { dayIn, type Day } from "./day";
import { compareInstants, lookThrough, orderEvents, type Overview } from "./order";
import type { Pair } from "./pairs";
import { headOf, standingEvents, standingOf } from "./standing-events";
import { isCorrection, type HorseRecord, type Outing, type OutingHead, type RecordEvent } from "./types";

export interface FoldedOuting {
  id: OutingId;
  startedAt: string;
  endedAt: string;
  /** What stands of the whole outing: place, people, gear, weather, how he was caught. */
  head: OutingHead;
  /** The yard's day on which it began; all its asks belong to that day. */
  day: Day;
  /** What counts, corrections applied, in effective order, each once; on an ask that how he went spoiled that fault. */
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
  const { timeZone } = record.yard;
  // An outing without corrections is folded as it is ordered, while its events are near: to come by all of them once more takes as
  // long as to fold them.
  const folded = mergeOutings(record.outings).map((outing) => {
    const has = lookThrough(outing.events);
    const history = orderEvents(outing.events, has);
    return { outing, history, has, alone: has.corrections ? null : foldOne(outing, history, null, timeZone, has) };
  });
  const anyCorrection = folded.some(({ alone }) => alone === null) || record.horseEvents.some(isCorrection);
  const corrections = anyCorrection
    ? resolveCorrections([...folded.flatMap(({ history }) => history), ...record.horseEvents])
    : null;
  // Corrections may stand anywhere in a record: those of another outing, or among what is said of the horse, reach it too.
  const named = new Set(corrections?.all.map(({ replaces }) => replaces));
  const all = folded.map(({ outing, history, has, alone }) =>
    alone && (named.size === 0 || !history.some(({ id }) => named.has(id)))
      ? alone
      : foldOne(outing, history, corrections, timeZone, has),
  );
  return {
    corrections: corrections ?? resolveCorrections([]),
    ofHorse: standingOf(orderEvents(record.horseEvents), corrections),
    timeZone,
    pairs: all
      .flatMap(({ pairs }) => pairs)
      .map(({ kept, other }): [string, string] => [kept.id, other.id])
      .toSorted(([a], [b]) => (a < b ? -1 : 1)),
    outings: all.map(({ folded: one }) => one).toSorted(compareOutings),
  };
}

function foldOne(
  outing: Outing,
  history: readonly RecordEvent[],
  corrections: Corrections | null,
  timeZone: string,
  has: Overview,
): { folded: FoldedOuting; pairs: readonly Pair[] } {
  // A correction may change of an event what it likes; without one all of an outing on one device stands as it is.
  const isPlain = corrections === null && !has.clocks && !has.devices;
  const { events: counted, pairs } = isPlain ? { events: history, pairs: [] } : standingEvents(history, corrections);
  const events = has.carriage ? withCarriage(counted) : counted;
  const { id, events: _events, ...said } = outing;
  const head = headOf(said, has.head ? events : []);
  const { startedAt, endedAt } = head;
  return { folded: { id, startedAt, endedAt, head, day: dayIn(timeZone, startedAt), events, history }, pairs };
}

/** Order of outings: start, then id. */
export function compareOutings(a: { id: string; startedAt: string }, b: { id: string; startedAt: string }): number {
  return compareInstants(a.startedAt, b.startedAt) || (a.id === b.id ? 0 : a.id < b.id ? -1 : 1);
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
