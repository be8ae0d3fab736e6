import type { EventOf, RecordEvent, StepId } from "../record";

/** Standing times and doses grow by about a third each, and by one at the least. `aThirdMore(12)` is 16. Still Pine's own judgement. */
export const aThirdMore = (amount: number): number => Math.max(amount + 1, Math.round((amount * 4) / 3));

/** How long he stood, and how it ended. */
export type Stood = Pick<EventOf<"dwell">, "seconds" | "mood" | "endedBy">;

/** Loose or quiet. */
const QUIET = 1;

/** What an entry says of standing with him at an exercise, in seconds; null for anything else. */
export function stoodIn(event: RecordEvent, step: StepId): Stood | null {
  if (event.type === "dwell") return event.step === undefined || event.step === step ? event : null;
  if (event.type !== "ask" || event.watch === undefined || event.step !== step || event.dose === undefined) return null;
  const { mood, endedBy } = event;
  return {
    seconds: event.dose,
    ...(mood === undefined ? {} : { mood }),
    ...(endedBy === undefined ? {} : { endedBy }),
  };
}

/**
 * Seconds for the next time: a third more after two quiet ones in a row that the person ended, else as long again, and after one he
 * ended himself never longer than that. Common practice, no published source.
 *
 * @param last the latest. @param before the one before it, where there was one
 */
export function nextStanding(last: Stood, before: Stood | null): number {
  const isQuiet = ({ mood, endedBy }: Stood): boolean => endedBy !== "horse" && mood !== undefined && mood <= QUIET;
  if (last.endedBy === "horse") return Math.min(last.seconds, before?.seconds ?? last.seconds);
  return isQuiet(last) && before !== null && isQuiet(before) ? aThirdMore(last.seconds) : last.seconds;
}
