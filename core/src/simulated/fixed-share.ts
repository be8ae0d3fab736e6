import { addDays, type Answer } from "../record";
import type { JudgeNumbers, Step } from "../programs";
import { inFull, NOTHING_SAID, SideEvidence, watchOf } from "../evidence";
import { randomFrom } from "../random";
import { trialStep } from "./trial";

/** Sides of which every ask comes clean with one and the same chance, for ever. */
export interface FixedSharePlan {
  sides: number;
  asksAnOuting: number;
  /** After so many outings it is counted how things stand. Rising. */
  countAfter: readonly number[];
  numbers: JudgeNumbers;
  /** The bar: how sure the record has to make us. */
  sure: number;
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
 * Works sides whose true share of clean asks is drawn evenly from 0 to 1 and never changes, and looks after every outing whether
 * rule 1, as the judge has it, calls them often enough clean.
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
    const isRight = share >= numbers.share;
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
  { asksAnOuting, countAfter, numbers, sure, miss }: FixedSharePlan,
  step: Step,
  share: number,
  random: () => number,
): Generator<{ outings: number; isCalled: boolean }> {
  const side = new TrialSide(step, numbers, miss);
  const most = countAfter.at(-1) ?? 0;
  for (let outings = 1; outings <= most; outings += 1) {
    side.work(Array.from({ length: asksAnOuting }, () => random() < share));
    yield { outings, isCalled: side.evidence.isSureEnough(sure) };
  }
}

/** How sure rule 1 is after each of some outings, given which of their asks came clean. */
export function sureAfter(outings: readonly (readonly boolean[])[], numbers: JudgeNumbers): number[] {
  const side = new TrialSide(trialStep(), numbers, "tried");
  return outings.map((clean) => {
    side.work(clean);
    return side.evidence.sure();
  });
}

/** One side of the trial's step, worked every day. */
class TrialSide {
  readonly evidence: SideEvidence;
  private outings = 0;

  constructor(
    private readonly step: Step,
    numbers: JudgeNumbers,
    private readonly miss: Answer,
  ) {
    this.evidence = new SideEvidence(step, numbers, watchOf(step, []));
  }

  work(clean: readonly boolean[]): void {
    const { evidence, outings, step } = this;
    const day = addDays("2026-01-05", outings);
    const phase = step.standard.phase ?? undefined;
    const ask = { type: "ask", v: 2, ...inFull(step), at: "", step: step.id, phase, mood: 1 } as const;
    for (const [n, isClean] of clean.entries()) {
      const answer = isClean ? "gave" : this.miss;
      evidence.ask({ ...ask, id: `${outings}-${n}`, answer }, outings, day, outings > 0);
    }
    evidence.close(NOTHING_SAID, "near");
    this.outings += 1;
  }
}
