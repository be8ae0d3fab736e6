import { findStep, sidesOf } from "../programs";
import { isReached, tallyOf } from "./state";
import { type OutingState } from "./state-types";
import type { OutingPlan } from "./types";

const STEPS_MOST = 3;

/** What an outing leaves for the next one to start with: what scared him, then what did not come to its line, weakest first. */
export function proposeNextTime(state: OutingState, plan: OutingPlan): string[] {
  const open = Object.values(state.exercises).flatMap(({ step, scared }) => {
    const found = findStep(plan.program, step);
    const sides = found ? sidesOf(found) : [];
    const tallies = sides.map((side) => tallyOf(state, step, side));
    const asks = tallies.reduce((sum, one) => sum + one.asks, 0);
    if (asks === 0 || (scared.length === 0 && sides.every((side) => isReached(state, step, side)))) return [];
    const good = tallies.reduce((sum, one) => sum + one.good, 0);
    return [{ step, isScared: scared.length > 0, share: good / asks }];
  });
  return open
    .toSorted((a, b) => Number(b.isScared) - Number(a.isScared) || a.share - b.share)
    .slice(0, STEPS_MOST)
    .map(({ step }) => step);
}
