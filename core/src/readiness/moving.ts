import { alwaysUnder, findStep, formerOf, stepsFor, type Program } from "../programs";
import type { Day, FoldedRecord, StepId } from "../record";
import { aboutOf, adjustedProgram } from "./about";
import { gatherOn } from "./gather";
import { createGathered, type Gathered } from "./states";
import { stepStatus } from "./status";
import type { Status } from "./types";

/** What a horse's record is worth under another program. Steps in the order of that program's road; those it leaves, of the former. */
export interface Move {
  /** Holds there too. */
  counts: string[];
  /** Held before, and there asked for more: what it rests on comes first, or its standard is another one. */
  asksMore: { step: StepId; status: Status }[];
  /** Not there yet, and under what he already does: to be mended in between. */
  gaps: { step: StepId; status: Status }[];
  /** On that road and not on the former one, not even as a part of another step. */
  fresh: string[];
  /** Worked under the former program and not on that road: kept in the record, judged no more. */
  leaves: string[];
}

const holds = (word: Status): boolean => word === "steady" || word === "rusty";

/** Steps that hold, or slipped after they had held: what a horse takes along when he changes programs. */
export const heldBy = ({ steps, program, about }: Gathered, today: Day): string[] =>
  steps.filter((state) => HELD.includes(stepStatus(state, { program, about, today }))).map(({ step }) => step.id);
const HELD: readonly Status[] = ["steady", "rusty", "slipped"];

/** The same record as another program would judge it after a move on a day, with what he holds taken along. */
export function gatherAfterMove(folded: FoldedRecord, from: Gathered, program: Program, today: Day): Gathered {
  const about = { ...aboutOf(folded), carried: heldBy(from, today) };
  return gatherOn(createGathered(adjustedProgram(program, about), about), folded.outings);
}

/** Compares the same record gathered under two programs on a day. Nothing shown is lost by it: it is read anew. */
export function describeMove(from: Gathered, to: Gathered, today: Day): Move {
  const words = ({ steps, program, about }: Gathered): Map<string, Status> =>
    new Map(steps.map((state) => [state.step.id, stepStatus(state, { program, about, today })]));
  const known = words(from);
  const before = { get: (id: StepId) => known.get(id) ?? known.get(formerOf(id) ?? "") };
  const after = words(to);
  const ids = to.program.steps.map(({ id }) => id);
  const held = (id: string): boolean => holds(before.get(id) ?? "untried") || holds(after.get(id) ?? "untried");
  const under = new Set(ids.filter(held).flatMap((id) => [...alwaysUnder(to.program, id)]));
  const named = (list: string[]): { step: StepId; status: Status }[] =>
    list.map((step) => ({ step, status: after.get(step) ?? "untried" }));
  const lacking = ids.filter((id) => !holds(after.get(id) ?? "untried"));
  return {
    counts: ids.filter((id) => holds(after.get(id) ?? "untried")),
    asksMore: named(lacking.filter((id) => holds(before.get(id) ?? "untried"))),
    gaps: named(lacking.filter((id) => under.has(id) && !holds(before.get(id) ?? "untried"))),
    fresh: ids.filter((id) => !findStep(from.program, id) && !findStep(from.program, formerOf(id) ?? "")),
    leaves: from.program.steps
      .map(({ id }) => id)
      .filter((id) => stepsFor(to.program, id).length === 0 && before.get(id) !== "untried"),
  };
}
