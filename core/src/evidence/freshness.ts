import { addDays, type Day } from "../record";
import type { JudgeNumbers } from "../programs";

/** Until when a side stays fresh. */
export class Freshness {
  /** Different days on which it was shown clean. */
  cleanDays = 0;
  lastClean: Day | null = null;
  /** Last day this side, or a step above that rests on it, was shown clean. */
  freshened: Day | null = null;
  /** When its check falls due, while a gate lies ahead and while none does; worked out when asked for, far oftener than it changes. */
  private dueAtGate: Day | null = null;
  private dueInTime: Day | null = null;

  constructor(private readonly numbers: JudgeNumbers) {}

  /** @param isRestored whether its date is set anew: what was missed cold and then came is no cold check */
  showClean(day: Day, isRestored: boolean): void {
    if (day !== this.lastClean) this.cleanDays += 1;
    this.dueInTime = null;
    if (this.lastClean === null || day > this.lastClean) this.lastClean = day;
    if (isRestored || this.freshened === null) this.freshen(day);
  }

  /** A clean ask here or above sets the date, and only the date. */
  freshen(day: Day): void {
    if (this.freshened !== null && day <= this.freshened) return;
    this.freshened = day;
    this.dueAtGate = null;
    this.dueInTime = null;
  }

  /** Days it stays fresh: so many for each different day it was shown clean, up to the most; few while a gate of its own lies ahead. */
  freshFor(isGateAhead: boolean): number {
    const { gateFresh, freshAtMost, freshPerDay } = this.numbers;
    return isGateAhead ? gateFresh : Math.min(freshAtMost, freshPerDay * this.cleanDays);
  }

  /** Whether a cold check is due on a day; never where it was not shown clean yet. */
  isCheckDue(today: Day, isGateAhead: boolean): boolean {
    if (this.freshened === null || this.freshened >= today) return false;
    if (isGateAhead) this.dueAtGate ??= addDays(this.freshened, this.freshFor(true));
    else this.dueInTime ??= addDays(this.freshened, this.freshFor(false));
    return today >= ((isGateAhead ? this.dueAtGate : this.dueInTime) ?? today);
  }
}
