import { daysBetween, type Day } from "../record";
import type { Elsewhere, JudgeNumbers } from "../programs";
import { idsOfGiven, type Shown, type SideEvidence } from "../evidence";
import type { Bar, StepState } from "./states";
import type { Finding, FindingCode, FindingValue } from "./types";

interface Measure {
  have: FindingValue;
  need: FindingValue;
}

/** A rule about one side, from its evidence alone. The rule, its number and its reason have this one source. */
interface SideRule {
  code: FindingCode;
  /** Whether it says anything about this step; else it is met. */
  applies?(side: SideEvidence): boolean;
  isMet(side: SideEvidence, numbers: JudgeNumbers, bar: Bar): boolean;
  measure(side: SideEvidence, numbers: JudgeNumbers, bar: Bar): Measure;
  shownBy(side: SideEvidence): string[];
}

type Judged = Pick<StepState, "bar">;

/** In the order of how cheap they are to answer; the first unmet one decides quickly. */
const SIDE_RULES: readonly SideRule[] = [
  {
    code: "different-days",
    isMet: (side, _numbers, { days }) => side.days >= days,
    measure: (side, _numbers, { days }) => ({ have: side.days, need: days }),
    shownBy: (side) => [...side.carriedBy()],
  },
  {
    code: "cold-asks",
    isMet: ({ colds }) => colds.length > 0 && colds.every((cold) => cold.clean),
    measure: ({ colds }) => ({ have: colds.filter((cold) => cold.clean).length, need: Math.max(1, colds.length) }),
    shownBy: ({ colds }) => colds.map((cold) => cold.id),
  },
  {
    // Moments: five clean asks in a row are just enough for 0.80. Holds and outings: so many days, no miss among the last ones.
    code: "clean-share",
    isMet: (side, { holdDays }, { sure }) =>
      side.step.kind === "moment"
        ? side.isSureEnough(sure)
        : side.fresh.cleanDays >= holdDays && side.lastMisses() === 0,
    measure: (side, { holdDays }, { sure }) =>
      side.step.kind === "moment"
        ? { have: round(side.sure()), need: sure }
        : { have: { days: side.fresh.cleanDays, missed: side.lastMisses() }, need: { days: holdDays, missed: 0 } },
    shownBy: (side) => [...side.carriedBy()],
  },
  {
    // Still is not always quiet: where stillness is the answer, a sign of ease has to be seen.
    code: "not-proven-relaxed",
    applies: (side) => side.step.still,
    isMet: (side) => side.eased,
    measure: (side) => ({ have: side.eased ? 1 : 0, need: 1 }),
    shownBy: () => [],
  },
  {
    code: "relaxed",
    isMet: (side) => side.isRelaxed(),
    measure: (side) => ({ have: side.ofLate("tight").length + side.ofLate("shutDown").length, need: 0 }),
    shownBy: (side) => [...side.ofLate("tight"), ...side.ofLate("shutDown")],
  },
  {
    code: "light",
    applies: (side) => side.standard.phase !== null,
    isMet: (side) => (side.usualPhase() ?? 0) <= (side.standard.phase ?? 0),
    measure: (side) => ({ have: side.usualPhase(), need: side.standard.phase }),
    shownBy: (side) => idsOfGiven(side.lateEntries()),
  },
];

const RULES_IN_ORDER: readonly FindingCode[] = [
  "clean-share",
  "different-days",
  "cold-asks",
  "relaxed",
  "not-proven-relaxed",
  "light",
];

/** Output carries six decimals: more is noise, and the same input must print the same bytes. */
export function round(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}

/** Findings of rules 1, 3, 4 and 5 for one side, in the order of the rules. */
export function sideFindings({ bar }: Judged, side: SideEvidence, numbers: JudgeNumbers): Finding[] {
  const found: Finding[] = [];
  for (const rule of SIDE_RULES) {
    if (rule.applies?.(side) === false) continue;
    const met = rule.isMet(side, numbers, bar);
    // A sign of ease that was seen needs no mention.
    if (rule.code === "not-proven-relaxed" && met) continue;
    found.push({ code: rule.code, met, ...rule.measure(side, numbers, bar), evidence: rule.shownBy(side) });
  }
  return found.toSorted((a, b) => RULES_IN_ORDER.indexOf(a.code) - RULES_IN_ORDER.indexOf(b.code));
}

/** Codes of the rules 1, 3, 4 and 5 that a side does not meet. */
export function whyNotOnItsOwn({ bar }: Judged, side: SideEvidence, numbers: JudgeNumbers): FindingCode[] {
  return SIDE_RULES.filter((rule) => !isMet(rule, side, numbers, bar)).map((rule) => rule.code);
}

/** Whether `whyNotOnItsOwn` would be empty. */
export function standsOnItsOwn({ bar }: Judged, side: SideEvidence, numbers: JudgeNumbers): boolean {
  for (const rule of SIDE_RULES) if (!isMet(rule, side, numbers, bar)) return false;
  return true;
}

function isMet(rule: SideRule, side: SideEvidence, numbers: JudgeNumbers, bar: Bar): boolean {
  return rule.applies?.(side) === false || rule.isMet(side, numbers, bar);
}

/** One thing rule 6 asks for, and how much of it there is. */
export interface ElsewhereMeasure extends Measure {
  what: Elsewhere;
  met: boolean;
}

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

/** Rule 7 for one side. */
export function freshFinding(side: SideEvidence, today: Day, isGateAhead: boolean): Finding {
  const need = side.fresh.freshFor(isGateAhead);
  const have = side.fresh.freshened === null ? null : daysBetween(side.fresh.freshened, today);
  return {
    code: "fresh",
    met: !side.fresh.isCheckDue(today, isGateAhead),
    have,
    need,
    evidence: side.lastCleanEvent === null ? [] : [side.lastCleanEvent],
  };
}
