import type { AskEvent, StepId } from "@still-pine/core/record";
import { findStep, sidesOf, type SideKey } from "@still-pine/core/programs";
import { sideOfAsk } from "@still-pine/core/evidence";
import { isUnderLine, type AskLine } from "@still-pine/core/recording";
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

/** The side of the exercise at hand that comes after the one it is worked on; none where it has no sides. */
export function sideAfter({ step, side }: AskLine, { program }: Pick<OutingPlan, "program">): SideKey | undefined {
  const found = findStep(program, step);
  const sides = found ? sidesOf(found) : [];
  return sides[(sides.indexOf(side) + 1) % Math.max(1, sides.length)];
}

/** Whether an ask is of the exercise and side of a line, and was made under it. */
export function isOfLine(
  ask: AskEvent,
  { step, side, more = {} }: AskLine,
  { program }: Pick<OutingPlan, "program">,
): boolean {
  const found = findStep(program, ask.step);
  if (ask.step !== step || !found) return ask.step === step;
  return sideOfAsk(ask, found) === side && isUnderLine(ask, found, more);
}
