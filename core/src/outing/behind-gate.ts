import type { ShutGate } from "../readiness/types";
import type { EventBody, StepId } from "../record";
import { bodyOfPress, type AskLine, type Press } from "../recording";
import type { OutingState } from "./state-types";
import type { OutingPlan } from "./types";

/** The shut gate that holds a step back on a day, of several the last before it on the road; null where none does. */
export const shutBefore = ({ shut = [] }: Pick<OutingPlan, "shut">, step: StepId): ShutGate | null =>
  shut.findLast(({ steps }) => steps.includes(step)) ?? null;

/**
 * What goes on record before the first ask of a step behind a shut gate: that it is worked against the gate. Null where no gate is shut
 * before it, nothing is asked by the press, or it is on record already. Why is said of that entry, by the hand or in the review.
 */
export function againstGate(press: Press, line: AskLine, plan: OutingPlan, { against }: OutingState): EventBody | null {
  if (press.press !== "ask" && press.press !== "watch") return null;
  const gate = shutBefore(plan, line.step);
  if (!gate || against[line.step] !== undefined) return null;
  return bodyOfPress({ press: "against-gate", gate: gate.gate }, line, 0);
}

/** Whether it was said in this outing why something is worked behind a gate. */
export const isSaidWhy = ({ against }: OutingState, gate: string): boolean =>
  Object.values(against).some((one) => one.gate === gate && one.isSaid);
