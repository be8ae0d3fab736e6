import type { StepId } from "../record";
import type { Program } from "../programs";
import { sideInWords, STATUS_WORDS, stepName } from "./words";
import { STATUSES, type SideKey, type Status } from "./types";

/** One verdict that is another than before. */
export interface VerdictChange {
  step: StepId;
  side?: SideKey;
  from: Status;
  to: Status;
  better: boolean;
  text: string;
}

/** The words of a step and its sides, without what they rest on. */
export interface StepWords {
  step: StepId;
  status: Status;
  sides: Partial<Record<SideKey, { status: Status }>>;
}

/**
 * What changed between two sets of verdicts on the same program: a line a side, and one for the step when its own word changed.
 *
 * @param before a step that is not in it was untried
 */
export function describeChanges(
  before: readonly StepWords[],
  after: readonly StepWords[],
  program: Program,
): VerdictChange[] {
  const old = new Map(before.map((judgement) => [judgement.step, judgement]));
  return after.flatMap((now) => {
    const then = old.get(now.step);
    const changes: VerdictChange[] = [];
    for (const [key, side] of Object.entries(now.sides)) {
      const from = then?.sides[key as SideKey]?.status ?? "untried";
      if (key !== "none" && from !== side.status)
        changes.push(change(now.step, from, side.status, program, key as SideKey));
    }
    const before = then?.status ?? "untried";
    if (before !== now.status) changes.push(change(now.step, before, now.status, program));
    return changes;
  });
}

function change(step: StepId, from: Status, to: Status, program: Program, side?: SideKey): VerdictChange {
  const where = side ? `, ${sideInWords(side)}` : "";
  return {
    step,
    side,
    from,
    to,
    better: STATUSES.indexOf(to) > STATUSES.indexOf(from),
    text: `${stepName(program, step)}${where}: ${STATUS_WORDS[from].toLowerCase()} → ${STATUS_WORDS[to].toLowerCase()}`,
  };
}
