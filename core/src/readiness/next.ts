import type { Program } from "../programs";
import type { Judgement } from "./types";

/**
 * The steps a horse waits on, the most pressing first: what has slipped, what is rusty, then the edge of the road, steps
 * that are not steady while everything they rest on is.
 */
export function waitingSteps(judgements: readonly Judgement[], program: Program): Judgement[] {
  const status = new Map(judgements.map((judgement) => [judgement.step, judgement.status]));
  const holds = (id: string): boolean => ["steady", "rusty"].includes(status.get(id) ?? "untried");
  const isEdge = (judgement: Judgement): boolean =>
    !holds(judgement.step) &&
    judgement.status !== "slipped" &&
    (program.steps.find((step) => step.id === judgement.step)?.needs ?? []).every((need) => need.anyOf.some(holds));
  const of = (word: string): Judgement[] => judgements.filter((judgement) => judgement.status === word);
  return [...of("slipped"), ...of("rusty"), ...judgements.filter(isEdge)];
}
