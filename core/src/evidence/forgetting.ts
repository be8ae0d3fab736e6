import type { JudgeNumbers } from "../programs";

/** An ask that weighs less no longer shows as evidence; it still carries its small weight. */
const SHOWN_WEIGHT = 0.2;

/** How much an ask still weighs after so many later ones. */
export class Forgetting {
  private showsFor: number | null = null;

  constructor(private readonly numbers: Pick<JudgeNumbers, "forgetBy" | "forgetPer">) {}

  /** The share of its weight that is left. */
  left(later: number): number {
    return later === 0 ? 1 : this.numbers.forgetBy ** (later / this.numbers.forgetPer);
  }

  /** Whether it still shows as evidence. */
  shows(later: number): boolean {
    const { forgetBy, forgetPer } = this.numbers;
    this.showsFor ??= forgetBy < 1 ? (forgetPer * Math.log(SHOWN_WEIGHT)) / Math.log(forgetBy) : Infinity;
    return later <= this.showsFor;
  }
}
