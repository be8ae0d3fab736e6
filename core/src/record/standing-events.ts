import { resolveCorrections, type Corrections } from "./corrections";
import { compareInstants, effectiveTimes, withMeasuredTimes } from "./order";
import { pairsOf, type Pair } from "./pairs";
import { isCorrection, type OutingHead, type RecordEvent } from "./types";

/** What counts of one outing. */
export interface StandingEvents {
  /** What was not struck out, as it is corrected, in effective order; of an ask that two devices saw, both. */
  stood: readonly RecordEvent[];
  /** Asks that two devices both saw. */
  pairs: readonly Pair[];
  /** What counts: of such a pair the one, and at the time it really was where a device's clock was measured. */
  events: readonly RecordEvent[];
  /** When any event of it was, in milliseconds since 1970. */
  timeOf: (event: RecordEvent) => number;
}

/**
 * What stands of one outing: the one answer to it, for the judge, the live outing, the review and what is read from it.
 *
 * @param history all its events, corrections too, as `orderEvents` gives them
 * @param corrections of the whole record, where some may stand elsewhere; null: there are none anywhere
 */
export function standingEvents(
  history: readonly RecordEvent[],
  corrections: Corrections | null = correctionsAmong(history),
): StandingEvents {
  const stood = standingOf(history, corrections);
  const timeOf = effectiveTimes(history);
  const pairs = pairsOf(stood, timeOf);
  const left = new Set<RecordEvent>(pairs.map(({ other }) => other));
  const counted = left.size === 0 ? stood : stood.filter((event) => !left.has(event));
  return { stood, pairs, timeOf, events: withMeasuredTimes(counted, timeOf) };
}

/** Every entry that is no correction and was not struck out, as it is corrected. @param corrections null: there are none */
export function standingOf(history: readonly RecordEvent[], corrections: Corrections | null): readonly RecordEvent[] {
  if (!corrections) return history;
  return history.flatMap((event) => {
    if (isCorrection(event)) return [];
    const { voided, event: now } = corrections.standingOf(event);
    return voided ? [] : [now];
  });
}

function correctionsAmong(events: readonly RecordEvent[]): Corrections | null {
  return events.some(isCorrection) ? resolveCorrections(events) : null;
}

const EVENT_HEAD: readonly string[] = ["id", "at", "type", "v", "by", "device", "seq", "recordedAt"];

/**
 * The head of an outing: what was known before, then what its start and end say, then what was said anew, the last word counting. An
 * end before the start counts as the start.
 *
 * @param before what a file says in the outing itself, or what is known where its events do not say
 * @param events what counts of it
 */
export function headOf(before: OutingHead, events: readonly RecordEvent[]): OutingHead {
  let head = before;
  let again: RecordEvent[] | null = null;
  for (const event of events) {
    if (event.type === "outing-start") head = { ...head, ...saidIn(event), startedAt: event.at };
    else if (event.type === "outing-end") head = { ...head, endedAt: event.at };
    else if (event.type === "head") (again ??= []).push(event);
  }
  if (again) for (const event of again) head = { ...head, ...saidIn(event) };
  return compareInstants(head.endedAt, head.startedAt) < 0 ? { ...head, endedAt: head.startedAt } : head;
}

function saidIn(event: RecordEvent): Partial<OutingHead> {
  return Object.fromEntries(Object.entries(event).filter(([field]) => !EVENT_HEAD.includes(field)));
}
