import type { Answer } from "../record";
import type { JudgeNumbers, Step } from "../programs";
import { barOf, type Bar } from "../readiness";
import { randomFrom } from "../random";
import { answersBy, OneSide } from "./one-side";
import { trialStep } from "./trial";

/** Sides of which every ask comes clean with one and the same chance, for ever; the first one of a day may have another. */
export interface FixedSharePlan {
  sides: number;
  asksAnOuting: number;
  /** After so many outings it is counted how things stand. Rising. */
  countAfter: readonly number[];
  numbers: JudgeNumbers;
  /** How sure the long record has to make us, where that rule is looked at alone; else the whole bar. */
  bar: number | Bar;
  /** How far the asks of one day hang together, and how much less often the first one comes clean. */
  rho?: number;
  coldLess?: number;
  /** What a miss looks like: after `none` and `against` a clean answer has to be proven first. */
  miss: Answer;
  seed: number;
  /** The true share of all of them, instead of one drawn for each. */
  share?: number;
}

/** After so many outings: sides that were ever called often enough clean, sides that are now, and of each how many truly come clean so often. */
export interface FixedShareCount {
  outings: number;
  ever: { called: number; right: number };
  now: { called: number; right: number };
}

/**
 * Works sides whose true share of clean asks is drawn evenly from 0 to 1 and never changes, and looks after every outing whether the
 * judge calls them steady by their own record, or by its first rule alone. A call is right where the share, of first asks where those
 * differ, is at least the asked one.
 */
export function tryFixedShares(plan: FixedSharePlan): FixedShareCount[] {
  const { sides, countAfter, numbers } = plan;
  const random = randomFrom(plan.seed);
  const step = trialStep();
  const counts = countAfter.map((outings): FixedShareCount => ({
    outings,
    ever: { called: 0, right: 0 },
    now: { called: 0, right: 0 },
  }));
  for (let n = 0; n < sides; n += 1) {
    const share = plan.share ?? random();
    const isRight = share - (plan.coldLess ?? 0) >= numbers.share;
    let wasCalled = false;
    let next = 0;
    for (const { outings, isCalled } of looks(plan, step, share, random)) {
      wasCalled ||= isCalled;
      const count = counts[next];
      if (!count || outings < count.outings) continue;
      next += 1;
      if (wasCalled) note(count.ever, isRight);
      if (isCalled) note(count.now, isRight);
    }
  }
  return counts;
}

function note(sum: { called: number; right: number }, isRight: boolean): void {
  sum.called += 1;
  if (isRight) sum.right += 1;
}

/** One side, outing by outing: whether it is called after each. */
function* looks(
  { asksAnOuting, countAfter, numbers, bar, miss, rho = 0, coldLess = 0 }: FixedSharePlan,
  step: Step,
  share: number,
  random: () => number,
): Generator<{ outings: number; isCalled: boolean }> {
  const isAlone = typeof bar === "number";
  const side = new OneSide(step, numbers, isAlone ? barOf([], numbers) : bar, miss);
  const shares = { warm: share, cold: Math.max(0, share - coldLess), rho };
  const most = countAfter.at(-1) ?? 0;
  for (let outings = 1; outings <= most; outings += 1) {
    side.work(answersBy(shares, asksAnOuting, random));
    yield { outings, isCalled: isAlone ? side.evidence.memories.isSureEnough(bar, "long") : side.holds };
  }
}

/** How sure the long record and the last asks make us after each of some outings, given which of their asks came clean. */
export function sureAfter(
  outings: readonly (readonly boolean[])[],
  numbers: JudgeNumbers,
): { long: number; lately: number; holds: boolean }[] {
  const side = new OneSide(trialStep(), numbers, barOf([], numbers), "tried");
  return outings.map((clean) => {
    side.work(clean);
    const { memories } = side.evidence;
    return { long: memories.sure("long"), lately: memories.sure("lately"), holds: side.holds };
  });
}
