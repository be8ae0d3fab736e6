import { daysBetween, type Day } from "../record";
import type { JudgeNumbers } from "../programs";
import type { Judging } from "./judging";

/** What an absence leaves to be done before a horse that was ridden is ridden again. */
export interface Away {
  /** Day of the last outing. */
  last: Day | null;
  /** The first day back after the last break; null where there was none. */
  back: Day | null;
  /** How many days that break was long. */
  days: number;
  /** Outings on the ground that are due yet. */
  ground: number;
}

export const neverAway = (): Away => ({ last: null, back: null, days: 0, ground: 0 });

/** Notes that an outing was on a day: after so many days without one it was a break. */
export function noteDay(away: Away, day: Day, numbers: JudgeNumbers): void {
  if (away.last === day) return;
  const days = away.last === null ? 0 : daysBetween(away.last, day);
  away.last = day;
  if (days < numbers.breakDays) return;
  away.back = day;
  away.days = days;
  away.ground = Math.max(away.ground, groundFor(days, numbers));
}

/** One outing on the ground for each so many days away, so many at the most. */
const groundFor = (days: number, { groundPer, groundMost }: JudgeNumbers): number =>
  Math.min(groundMost, Math.floor(days / groundPer));

/** Days without an outing by a day; null while that is no break. */
export function daysAway(
  { last }: Away,
  { program: { judge }, today }: Pick<Judging, "program" | "today">,
): number | null {
  const days = last === null ? 0 : daysBetween(last, today);
  return days >= judge.breakDays ? days : null;
}

/** Outings on the ground that are due on a day, those of an absence that still lasts among them. */
export function groundDue(away: Away, judging: Pick<Judging, "program" | "today">): number {
  const days = daysAway(away, judging);
  return days === null ? away.ground : Math.max(away.ground, groundFor(days, judging.program.judge));
}
