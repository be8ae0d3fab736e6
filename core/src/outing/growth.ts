import type { CoachSettings, Step } from "../programs";
import type { EventOf, RecordEvent } from "../record";
import { timeUnit } from "../recording";

/** Standing times and doses grow by about a third each, and by one at the least. `aThirdMore(12)` is 16. Still Pine's own judgement. */
export const aThirdMore = (amount: number): number => Math.max(amount + 1, Math.round((amount * 4) / 3));

/** How long he stood, and how it ended. */
export type Stood = Pick<EventOf<"dwell">, "seconds" | "mood" | "endedBy">;

/** Loose or quiet. */
const QUIET = 1;

/** What an entry says of standing with him at an exercise, in seconds; null for anything else, and for what is told in minutes. */
export function stoodIn(event: RecordEvent, step: Pick<Step, "id" | "standard">): Stood | null {
  if (event.type === "dwell") return event.step === undefined || event.step === step.id ? event : null;
  if (event.type !== "ask" || event.watch === undefined || event.step !== step.id) return null;
  if (event.dose === undefined || timeUnit(step) !== "seconds") return null;
  const { mood, endedBy } = event;
  return {
    seconds: event.dose,
    ...(mood === undefined ? {} : { mood }),
    ...(endedBy === undefined ? {} : { endedBy }),
  };
}

/**
 * Seconds for the next time today: a third more after two quiet ones in a row that the person ended, where the program lets it grow; else
 * as long again, and after one he ended himself never longer than that. Common practice, no published source.
 *
 * @param last the latest. @param before the one before it, where there was one
 */
export function nextStanding(last: Stood, before: Stood | null, { standing }: Pick<CoachSettings, "standing">): number {
  const isQuiet = ({ mood, endedBy }: Stood): boolean => endedBy !== "horse" && mood !== undefined && mood <= QUIET;
  if (last.endedBy === "horse") return Math.min(last.seconds, before?.seconds ?? last.seconds);
  const mayGrow = standing === "grows" && isQuiet(last) && before !== null && isQuiet(before);
  return mayGrow ? aThirdMore(last.seconds) : last.seconds;
}
