import { addDays, type Answer, type AskEvent, type Day, type Mood } from "../record";
import type { JudgeNumbers, Step } from "../programs";
import { inFull, NOTHING_SAID, SideEvidence, watchOf } from "../evidence";
import { holdsOnItsOwn, type Bar } from "../readiness";
import type { Random } from "../random";

/** How often a side comes clean: on a day's later asks, on its first one, and how far the asks of one day hang together. */
export interface Shares {
  warm: number;
  /** As `warm` where nothing is said. */
  cold?: number;
  /** Correlation of the asks of one day and side, from 0 to under 1: they are drawn from a beta-binomial. */
  rho?: number;
}

/** Whether each ask of a day comes clean: an urn that gives back what is drawn, and one more of its kind, is a beta-binomial. */
export function answersBy({ warm, cold = warm, rho = 0 }: Shares, asks: number, random: Random): boolean[] {
  let clean = 0;
  return Array.from({ length: asks }, (_, n) => {
    const share = n === 0 ? cold : warm;
    const isClean = random() < (share * (1 - rho) + clean * rho) / (1 - rho + n * rho);
    if (isClean) clean += 1;
    return isClean;
  });
}

const EASY = { ...NOTHING_SAID, eased: true };
const FIRST_DAY: Day = "2026-01-05";

/** One side of a step by itself, worked every day, quiet and at the standard, and judged by the real rules after each outing. */
export class OneSide {
  readonly evidence: SideEvidence;
  /** Whether it has the word, as far as its own record goes. */
  holds = false;
  private outings = 0;
  private day: Day = FIRST_DAY;
  private readonly gave: AskEvent;
  private readonly missed: AskEvent;

  /** @param miss what a miss looks like: after `none` and `against` a clean answer has to be proven first */
  constructor(
    step: Step,
    private readonly numbers: JudgeNumbers,
    private readonly bar: Bar,
    miss: Answer = "none",
  ) {
    this.evidence = new SideEvidence(step, numbers, watchOf(step, []));
    const { phase, mood } = step.standard;
    const ask = {
      type: "ask",
      v: 2,
      ...inFull(step),
      id: "",
      at: "",
      step: step.id,
      phase: phase ?? undefined,
      mood: Math.min(1, mood) as Mood,
    } as const;
    // Two answers serve them all: nothing here asks which it was.
    this.gave = { ...ask, answer: "gave" };
    this.missed = { ...ask, answer: miss };
  }

  /** One outing on the next day: whether each ask came clean. */
  work(clean: readonly boolean[]): void {
    const { evidence } = this;
    for (const isClean of clean)
      evidence.ask(isClean ? this.gave : this.missed, this.outings, this.day, this.outings > 0);
    evidence.close(EASY, "near");
    this.holds = holdsOnItsOwn({ bar: this.bar }, evidence, this.numbers, this.holds);
    this.outings += 1;
    this.day = addDays(this.day, 1);
  }
}
