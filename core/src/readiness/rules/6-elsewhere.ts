import type { Elsewhere, JudgeNumbers } from "../../programs";
import type { Shown, SideEvidence } from "../../evidence";
import type { StepState } from "../states";
import type { FindingOf, MeasureOf } from "../findings";
import type { RuleWords } from "./side-rule";

const ELSEWHERE_SAYS: Readonly<Record<Elsewhere, string>> = {
  place: "with a second place",
  person: "with a second person",
  settings: "standing and once moving",
  stretch: "in an outing in which he was seen to stretch forward and down",
};

export const elsewhereWords: RuleWords = {
  title: "Elsewhere",
  says: (_program, { elsewhere }) =>
    `Once clean on each side ${elsewhere.map((what) => ELSEWHERE_SAYS[what]).join(", and ")}.`,
};

/** One thing rule 6 asks for, and how much of it there is. */
export type ElsewhereMeasure = MeasureOf<"elsewhere"> & { what: Elsewhere; met: boolean };

/** Rule 6 for one side: a second place, a second person, standing and moving, a stretch; what the step asks for of these. */
export function elsewhereOf(state: StepState, shown: Shown, numbers: JudgeNumbers): ElsewhereMeasure[] {
  return state.step.elsewhere.map((what) => {
    const [have, need] = haveAndNeed(what, shown, numbers);
    return { what, met: have.length >= need, have: { what, shown: [...have] }, need };
  });
}

function haveAndNeed(what: Elsewhere, shown: Shown, { places, people }: JudgeNumbers): [readonly string[], number] {
  switch (what) {
    case "place":
      return [shown.places, places];
    case "person":
      return [shown.people, people];
    case "settings":
      return [shown.settings, 2];
    case "stretch":
      return [shown.stretched ? ["stretches"] : [], 1];
    default:
      return what satisfies never;
  }
}

/** Whether rule 6 is met; `alone` where only the second person is missing. */
export function meetsElsewhere(state: StepState, side: SideEvidence, numbers: JudgeNumbers): "yes" | "alone" | "no" {
  if (state.step.elsewhere.length === 0) return "yes";
  const missing = elsewhereOf(state, side.shown, numbers).filter(({ met }) => !met);
  if (missing.length === 0) return "yes";
  return missing.every(({ what }) => what === "person") ? "alone" : "no";
}

/** Rule 6 for one side, a finding for each thing it asks for. */
export const elsewhereFindings = (state: StepState, shown: Shown, numbers: JudgeNumbers): FindingOf<"elsewhere">[] =>
  elsewhereOf(state, shown, numbers).map(({ met, have, need }) => ({
    code: "elsewhere",
    met,
    have,
    need,
    evidence: [],
  }));
