import { daysBetween, type Day } from "../record";
import type { Shown } from "../evidence";
import type { StepWords } from "./changes";
import type { Judging } from "./judging";
import { hasGateAhead, type Gathered, type NeedState, type SideState, type StepState } from "./states";
import { STATUSES, type Status } from "./types";

/** The word of one side on a day. @param alone the word it has for who works alone: the second person is not asked for */
export function sideStatus(state: StepState, side: SideState, judging: Judging, alone = false): Status {
  const { evidence } = side;
  if (evidence.asked === 0) return "untried";
  if ((alone ? side.readySince : side.steadySince) !== null) {
    if (!side.holds) return "slipped";
    return evidence.fresh.isCheckDue(judging.today, hasGateAhead(state, judging.about)) ? "rusty" : "steady";
  }
  const { weightClean, weightNot } = evidence.memories;
  return evidence.count >= 3 && weightClean > weightNot ? "coming" : "begun";
}

/** Whether `stepStatus` would be steady, without working out which other word it is. */
function isStepSteady(state: StepState, judging: Judging, alone: boolean): boolean {
  for (const side of state.sides) if (sideStatus(state, side, judging, alone) !== "steady") return false;
  return true;
}

/** The word of a step: that of its weakest side; begun where one side was never asked and another was. */
export function stepStatus(state: StepState, judging: Judging, alone = false): Status {
  let weakest: Status = "steady";
  let untried = 0;
  for (const side of state.sides) {
    const word = sideStatus(state, side, judging, alone);
    if (word === "untried") untried += 1;
    else if (STATUSES.indexOf(word) < STATUSES.indexOf(weakest)) weakest = word;
  }
  if (untried === 0) return weakest;
  return untried === state.sides.length ? "untried" : "begun";
}

/**
 * What counts as there: for going on, steady or clean in a check-up of late; before what guards a person, steady. Who works alone need not
 * wait for a second person. A gate asks for that too.
 */
export type MetFor = "going-on" | "guarded" | "gate";

/** As what a step asks for all it rests on. */
export const metFor = ({ step }: StepState): MetFor => (step.guarded ? "guarded" : "going-on");

/** Whether any way of a need is there. */
export function isNeedMet(need: readonly (readonly NeedState[])[], judging: Judging, by: MetFor): boolean {
  for (const way of need) if (isWayThere(way, judging, by)) return true;
  return false;
}

/** Whether all of a step's needs are there, each by any of its ways. What was missing last time mostly still is, and is asked first. */
export function areNeedsMet(state: StepState, judging: Judging): boolean {
  const by = metFor(state);
  if (state.missing && !isNeedMet(state.missing, judging, by)) return false;
  state.missing = null;
  for (const need of state.needs)
    if (!isNeedMet(need, judging, by)) {
      state.missing = need;
      return false;
    }
  return true;
}

function isWayThere(way: readonly NeedState[], judging: Judging, by: MetFor): boolean {
  for (const one of way) if (!isRefMet(one, judging, by)) return false;
  return way.length > 0;
}

/** A step, and of one as far as a rung the whole of it too: what is there as a whole is there to any rung. */
export const withWhole = (state: StepState): readonly StepState[] => (state.whole ? [state, state.whole] : [state]);

/** Whether a step is steady, and was shown what is needed of it. A step that is steady as a whole is steady to any rung. */
export function isRefMet({ ref, state }: NeedState, judging: Judging, by: MetFor): boolean {
  const isThere = withWhole(state).some(
    (one) => isStepSteady(one, judging, by !== "gate") || (by === "going-on" && isChecked(one, judging)),
  );
  return isThere && missingOf({ ref, state }).length === 0;
}

/** Whether every side came clean in a check-up of late: enough to go on from (rule 8), never for a gate. */
const isChecked = ({ sides }: StepState, { program: { judge }, today }: Judging): boolean =>
  sides.every(({ checkedOn }) => checkedOn !== null && daysBetween(checkedOn, today) <= judge.freshPerDay);

const namesOf = ({ settings, parts, canter }: Shown): string[] => [
  ...settings,
  ...parts,
  ...(canter ? ["canter"] : []),
];

/** What a need asks of a step besides its word and has not been shown, side by side. */
export function missingOf({ ref, state }: NeedState): { side: SideState; what: string }[] {
  if (!ref.setting && !ref.parts && !ref.gait) return [];
  const wanted = [...(ref.setting ? [ref.setting] : []), ...(ref.parts ?? []), ...(ref.gait ? [ref.gait] : [])];
  return state.sides.flatMap((side, place) => {
    // What was shown of the whole step was shown of every rung of it.
    const ofWhole = state.whole?.sides[place]?.evidence.shown;
    const shown = new Set([side.evidence.shown, ...(ofWhole ? [ofWhole] : [])].flatMap(namesOf));
    return wanted.filter((what) => !shown.has(what)).map((what) => ({ side, what }));
  });
}

/** The words of every step and its sides on a day, without the findings. */
export function wordsOf({ steps, program, about }: Gathered, today: Day): StepWords[] {
  const judging = { program, about, today };
  return steps.map((state) => ({
    step: state.step.id,
    status: stepStatus(state, judging),
    sides: Object.fromEntries(state.sides.map((side) => [side.side, { status: sideStatus(state, side, judging) }])),
  }));
}
