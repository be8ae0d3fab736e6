import type { StepId } from "@still-pine/core/record";
import type { FeelView } from "@still-pine/contract/http";

/** Answers by "phase mood", over some outings in a row. */
export interface FeelSpan {
  from: number;
  to: number;
  cells: Map<string, number>;
}

/**
 * Answers with a phase in the last outings that asked for it, and in as many about `apart` outings before.
 *
 * @param step one step, or null for all
 */
export function gatherFeel(
  feel: FeelView,
  step: StepId | null,
  apart: number,
  together: number,
): { before: FeelSpan; now: FeelSpan } {
  const answers = feel.answers.filter((one) => one.phase !== null && (step === null || one.step === step));
  const worked = [...new Set(answers.map(({ outing }) => outing))].toSorted((a, b) => a - b);
  const span = (last: number): FeelSpan => {
    const outings = worked.slice(Math.max(0, last - together + 1), Math.max(0, last + 1));
    const cells = new Map<string, number>();
    for (const { outing, phase, mood, count } of answers)
      if (outings.includes(outing)) cells.set(`${phase} ${mood}`, (cells.get(`${phase} ${mood}`) ?? 0) + count);
    return { from: outings[0] ?? -1, to: outings.at(-1) ?? -1, cells };
  };
  return { before: span(worked.length - 1 - apart), now: span(worked.length - 1) };
}
