import type { StepId } from "@still-pine/core/record";
import { findStep, sidesOf, type SideKey } from "@still-pine/core/programs";
import type { OutingPlan, OutingState } from "@still-pine/core/outing";

/** Which exercise and side a press on the pad is of: the one taken up, else the first of what was planned. */
export function atHand(state: OutingState, plan: OutingPlan): { step: StepId; side: SideKey } {
  const { step, side } = state;
  const planned = plan.checkUp?.tests[0]?.step ?? plan.exercises[0]?.step;
  const first = step ?? planned ?? plan.program.steps[0]?.id ?? "";
  const found = findStep(plan.program, first);
  const sides = found ? sidesOf(found) : (["none"] as const);
  if (step !== null && sides.includes(side)) return { step: first, side };
  return { step: first, side: sideToBegin(state, plan, first, sides) };
}

/** The side an exercise begins on: the program's, where it names one; else the one he is on. */
export function sideToBegin(
  { side }: OutingState,
  { exercises }: OutingPlan,
  step: StepId,
  sides: readonly SideKey[],
): SideKey {
  const { begin } = exercises.find((one) => one.step === step) ?? {};
  const first = sides.find((one) => begin !== undefined && one.startsWith(begin));
  return first ?? (sides.includes(side) ? side : (sides[0] ?? "none"));
}
