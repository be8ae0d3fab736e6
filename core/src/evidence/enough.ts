import { daysBetween, TIGHT, type AskEvent, type Day } from "../record";
import type { JudgeNumbers, Step } from "../programs";
import type { Worth } from "./classify";

/** The asks of one side on the rung that is asked for, in one outing, as far as they say whether it is enough for today. */
export interface Row {
  /** How many were made. */
  made: number;
  /** Clean, quiet and unspoiled ones running, up to the last. A good one right after a miss is none of them. */
  running: number;
  /** The last one was no answer, or against: a good one right after it may be luck. */
  afterMiss: boolean;
}

export const newRow = (): Row => ({ made: 0, running: 0, afterMiss: false });

/**
 * Takes one more ask into a row. What is neither right nor wrong, and what was asked for less, is none of it.
 *
 * @param worth what it is worth by the rung that is asked for, tries at something new not let off
 */
export function takeIntoRow(row: Row, worth: Worth, { answer, mood }: Pick<AskEvent, "answer" | "mood">): void {
  if (worth === "neutral" || worth === "practice") return;
  row.made += 1;
  if (worth !== "clean" || mood === undefined || mood >= TIGHT) row.running = 0;
  else if (!row.afterMiss) row.running += 1;
  row.afterMiss = answer === "none" || answer === "against";
}

/** Takes in what was remembered of several asks: in which order they came nobody knows, so one miss among them ends the row. */
export function takeSeriesIntoRow(row: Row, clean: number, missed: number): void {
  row.made += clean + missed;
  row.running = missed > 0 ? 0 : row.running + clean;
  row.afterMiss = false;
}

/** Ends a row: a mishap, or he has gone inside. */
export function breakRow(row: Row): void {
  row.made = Math.max(1, row.made);
  row.running = 0;
  row.afterMiss = false;
}

/**
 * Whether the last asks of an outing came clean, as many as make it enough for today: three, or four where more than six were made. A
 * hold and an outing step take one. Still Pine's own judgement.
 */
export function isEnough(row: Row, { kind }: Pick<Step, "kind">, numbers: JudgeNumbers): boolean {
  const { enoughAsks, enoughMany, enoughAfterMany } = numbers;
  if (kind !== "moment") return row.running > 0;
  return row.running >= (row.made > enoughMany ? enoughAfterMany : enoughAsks);
}

/** Whether a row is enough where the last outing ended so: its first ask came clean, and none since was missed. */
export const takesUpAgain = ({ made, running }: Row): boolean => running > 0 && running === made;

/** An outing of a side with the row of its asks; one of practice alone has none. */
type Outcome = Row & { day: Day };

const lastMade = (outings: readonly Outcome[], before: number): number => {
  let at = before - 1;
  while (at >= 0 && outings[at]?.made === 0) at -= 1;
  return at;
};

/** What is good for today of a side, by its outings; of those the last two in which it was asked on the rung that counts. */
export class EnoughForToday {
  constructor(
    private readonly outings: readonly Outcome[],
    private readonly step: Pick<Step, "kind">,
    private readonly numbers: JudgeNumbers,
  ) {}

  /** Whether it is enough on a day: its last asks came clean; or its last outing ended so, and today's asks came clean from the first on. */
  isEnough(today: Day): boolean {
    const at = lastMade(this.outings, this.outings.length);
    const last = this.outings[at];
    if (last?.day !== today) return false;
    return isEnough(last, this.step, this.numbers) || (takesUpAgain(last) && this.didEndSo(at, today));
  }

  /** Whether one clean first ask on a day would make it enough: its last outing, a week ago at the most, ended so. */
  waitsForOne(today: Day): boolean {
    const at = lastMade(this.outings, this.outings.length);
    return this.didEndSo(this.outings[at]?.day === today ? at : this.outings.length, today);
  }

  /** Whether the outing before one ended so. */
  private didEndSo(before: number, today: Day): boolean {
    const outing = this.outings[lastMade(this.outings, before)];
    if (!outing || !isEnough(outing, this.step, this.numbers)) return false;
    return daysBetween(outing.day, today) <= this.numbers.enoughDays;
  }
}
