import type { JudgeNumbers } from "../programs";
import type { Bar } from "../readiness";
import { randomFrom } from "../random";
import { answersBy, OneSide, type Shares } from "./one-side";
import { trialStep } from "./trial";

/** Sides worked as the judge is used. */
interface Worked {
  sides: number;
  asksASide: number;
  numbers: JudgeNumbers;
  bar: Bar;
  seed: number;
}

/** Sides that are good for a while and then go off, at once or a little with each outing. */
export interface FallPlan extends Worked {
  /** The share they come clean by until then, and for so many outings. */
  good: number;
  goodOutings: number;
  /** So much less with each outing after that, down to so little. */
  fallBy: number;
  fallTo: number;
  /** From the outing on in which the share is under this one it is counted how long the word stays. */
  under: number;
}

/**
 * How long words stay that are no longer true.
 *
 * @returns of each side that had the word going into the outing in which its share first lay under the asked one, after how many
 * outings it was lost: 0 in that one; in rising order. Infinity where it never was
 */
export function outingsUntilLost(plan: FallPlan): number[] {
  const random = randomFrom(plan.seed);
  const step = trialStep();
  const after: number[] = [];
  for (let n = 0; n < plan.sides; n += 1) {
    const side = new OneSide(step, plan.numbers, plan.bar);
    let crossed: number | null = null;
    let share = plan.good;
    for (let outing = 0; outing < plan.goodOutings + MOST_OUTINGS; outing += 1) {
      if (outing >= plan.goodOutings) share = Math.max(plan.fallTo, share - plan.fallBy);
      if (crossed === null && share < plan.under) {
        if (!side.holds) break;
        crossed = outing;
      }
      side.work(answersBy({ warm: share }, plan.asksASide, random));
      if (crossed === null || side.holds) continue;
      after.push(outing - crossed);
      crossed = null;
      break;
    }
    if (crossed !== null) after.push(Infinity);
  }
  return after.toSorted((a, b) => a - b);
}

const MOST_OUTINGS = 120;

/** The part of the outings after the first call in which sides that come clean by the same shares for ever have the word; null without a call. */
export function keptBy(
  { sides, asksASide, numbers, bar, seed }: Worked,
  shares: Shares,
  outings: number,
): number | null {
  const random = randomFrom(seed);
  const step = trialStep();
  let after = 0;
  let kept = 0;
  for (let n = 0; n < sides; n += 1) {
    const side = new OneSide(step, numbers, bar);
    let wasCalled = false;
    for (let outing = 0; outing < outings; outing += 1) {
      side.work(answersBy(shares, asksASide, random));
      if (wasCalled) after += 1;
      if (wasCalled && side.holds) kept += 1;
      wasCalled ||= side.holds;
    }
  }
  return after === 0 ? null : kept / after;
}
