import { daysBetween, TIGHT, type AskEvent, type Day } from "../record";
import type { JudgeNumbers, Step } from "../programs";
import type { Worth } from "./classify";

/** The asks of one side on the rung that is asked for, in one outing, as far as they say whether it is enough for today. */
export interface Row {
  /** How many were made. */
  made: number;
  /** Clean, quiet and unspoiled ones running, up to the last. A good one right after a miss is none of them. */
  clean: number;
  /** The last one was no answer, or against: a good one right after it may be luck. */
  afterMiss: boolean;
}

export const newRow = (): Row => ({ made: 0, clean: 0, afterMiss: false });

/**
 * Takes one more ask into a row. What is neither right nor wrong, and what was asked for less, is none of it.
 *
 * @param worth what it is worth by the rung that is asked for, tries at something new not let off
 */
export function takeIntoRow(row: Row, worth: Worth, { answer, mood }: Pick<AskEvent, "answer" | "mood">): void {
  if (worth === "neutral" || worth === "practice") return;
  row.made += 1;
  if (worth !== "clean" || mood === undefined || mood >= TIGHT) row.clean = 0;
  else if (!row.afterMiss) row.clean += 1;
  row.afterMiss = answer === "none" || answer === "against";
}

/** Takes in what was remembered of several asks: in which order they came nobody knows, so one miss among them ends the row. */
function takeSeriesIntoRow(row: Row, clean: number, missed: number): void {
  row.made += clean + missed;
  row.clean = missed > 0 ? 0 : row.clean + clean;
  row.afterMiss = false;
}

/** Ends a row: a mishap, or he has gone inside. */
export function breakRow(row: Row): void {
  row.made = Math.max(1, row.made);
  row.clean = 0;
  row.afterMiss = false;
}

/**
 * Whether the last asks of an outing came clean, as many as make it enough for today: three, or four where more than six were made. A
 * hold and an outing step take one. Still Pine's own judgement.
 */
export function isEnough(row: Row, { kind }: Pick<Step, "kind">, numbers: JudgeNumbers): boolean {
  const { enoughAsks, enoughMany, enoughAfterMany } = numbers;
  if (kind !== "moment") return row.clean > 0;
  return row.clean >= (row.made > enoughMany ? enoughAfterMany : enoughAsks);
}

/** Whether a row is enough where the last outing ended so: its first ask came clean, and none since was missed. */
export const takesUpAgain = ({ made, clean }: Row): boolean => clean > 0 && clean === made;

/** An outing in which a side was asked on the rung that counts. */
export interface Outcome {
  outing: number;
  day: Day;
  row: Row;
}

/**
 * Whether a side is enough for today: leave to try the first rung of what rests on it, no more. Goes on outing by outing, and keeps the
 * last two.
 */
export class EnoughForToday {
  private last: Outcome | null = null;
  private before: Outcome | null = null;

  constructor(
    private readonly step: Pick<Step, "kind">,
    private readonly numbers: JudgeNumbers,
  ) {}

  /** The row of an outing; one of practice alone has none. */
  private rowOf(outing: number, day: Day): Row {
    if (this.last?.outing !== outing) {
      this.before = this.last;
      this.last = { outing, day, row: newRow() };
    }
    return this.last.row;
  }

  ask(outing: number, day: Day, worth: Worth, ask: Pick<AskEvent, "answer" | "mood">): void {
    if (worth !== "neutral" && worth !== "practice") takeIntoRow(this.rowOf(outing, day), worth, ask);
  }

  series(outing: number, day: Day, clean: number, missed: number): void {
    if (clean + missed > 0) takeSeriesIntoRow(this.rowOf(outing, day), clean, missed);
  }

  /** A mishap with it in hand, or he went inside in an outing in which it was asked. */
  broken(outing: number, day: Day): void {
    breakRow(this.rowOf(outing, day));
  }

  /** Whether it is enough on a day: its last asks came clean; or its last outing ended so, and today's asks came clean from the first on. */
  isEnough(today: Day): boolean {
    const { last, before, step, numbers } = this;
    if (last?.day !== today) return false;
    return isEnough(last.row, step, numbers) || (takesUpAgain(last.row) && this.didEndSo(before, today));
  }

  /** Whether one clean first ask on a day would make it enough: its last outing, a week ago at the most, ended so. */
  waitsForOne(today: Day): boolean {
    return this.didEndSo(this.last?.day === today ? this.before : this.last, today);
  }

  private didEndSo(outcome: Outcome | null, today: Day): boolean {
    if (!outcome || !isEnough(outcome.row, this.step, this.numbers)) return false;
    return daysBetween(outcome.day, today) <= this.numbers.enoughDays;
  }

  /** As plain data, the earlier one first. */
  save(): Outcome[] {
    return [this.before, this.last].flatMap((one) => (one ? [{ ...one, row: { ...one.row } }] : []));
  }

  /** Takes up what was saved; that stays what it was. */
  takeFrom(saved: readonly Outcome[]): void {
    const [last = null, before = null] = saved.map((one) => ({ ...one, row: { ...one.row } })).toReversed();
    this.last = last;
    this.before = before;
  }
}
