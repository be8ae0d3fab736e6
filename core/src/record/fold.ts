import { resolveCorrections, type Corrections } from "./corrections";
import { dayIn, type Day } from "./day";
import { orderEvents } from "./order";
import { isAsk, isCorrection, type AskEvent, type HorseRecord, type Outing, type RecordEvent } from "./types";

export interface FoldedOuting {
  id: string;
  startedAt: string;
  endedAt: string;
  place?: string;
  handler?: string;
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
  /** Asks that two devices both saw and of which one was left out: `[kept, left out]`. */
  pairs: [string, string][];
}

/**
 * Folds a record into what counts. The result does not depend on the order in which outings or events stand in the
 * record, nor on whether they stand there once or twice.
 */
export function foldRecord(record: HorseRecord): FoldedRecord {
  const outings = mergeOutings(record.outings)
    .map((outing) => ({ outing, start: Date.parse(outing.startedAt) }))
    .toSorted((a, b) => a.start - b.start || (a.outing.id < b.outing.id ? -1 : 1))
    .map(({ outing }) => ({ outing, history: orderEvents(outing.events) }));

  const anyCorrection = outings.some(({ history }) => history.some(isCorrection));
  const corrections = resolveCorrections(anyCorrection ? outings.flatMap(({ history }) => history) : []);
  const pairs: [string, string][] = [];

  return {
    corrections,
    pairs,
    outings: outings.map(({ outing, history }) => ({
      id: outing.id,
      startedAt: outing.startedAt,
      endedAt: outing.endedAt,
      place: outing.place,
      handler: outing.handler,
      day: dayIn(record.yard.timeZone, outing.startedAt),
      events: countPairsOnce(anyCorrection ? standing(history, corrections) : history, pairs),
      history,
    })),
  };
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

/** One ask seen by two devices within three seconds counts once, as the less clean of the two. */
function countPairsOnce(events: readonly RecordEvent[], pairs: [string, string][]): readonly RecordEvent[] {
  const devices = new Set<string>();
  for (const event of events) if (event.device !== undefined) devices.add(event.device);
  if (devices.size < 2) return events;

  const left = new Set<RecordEvent>();
  const paired = new Set<RecordEvent>();
  const asks = events.filter(isAsk).filter((ask) => ask.device !== undefined);
  asks.forEach((first, index) => {
    if (paired.has(first)) return;
    for (const second of asks.slice(index + 1)) {
      if (Date.parse(second.at) - Date.parse(first.at) > PAIR_WINDOW_MS) break;
      const same = second.step === first.step && (second.side ?? "none") === (first.side ?? "none");
      if (!same || second.device === first.device || paired.has(second)) continue;
      const kept = lessClean(first, second);
      const other = kept === first ? second : first;
      paired.add(first).add(second);
      left.add(other);
      pairs.push([kept.id, other.id]);
      break;
    }
  });
  return left.size === 0 ? events : events.filter((event) => !left.has(event));
}
