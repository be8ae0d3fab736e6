import { daysBetween, type Day } from "../record";
import type { JudgeNumbers } from "../programs";
import { SHOWN_WEIGHT, type Shown, type SideEvidence } from "../evidence";
import type { Bar, StepState } from "./states";
import type { Finding, FindingCode, FindingValue } from "./types";

interface Measure {
  met: boolean;
  have: FindingValue;
  need: FindingValue;
}

/** A rule about one side, from its evidence alone. The rule, its number and its reason have this one source. */
interface SideRule {
  code: FindingCode;
  /** Null where the rule does not apply to this step. */
  measure(side: SideEvidence, numbers: JudgeNumbers, bar: Bar): Measure | null;
  /** A cheap sign that it is surely not met, where measuring costs. */
  isRuledOut?(side: SideEvidence): boolean;
  shownBy(side: SideEvidence): string[];
}

type Judged = Pick<StepState, "bar">;

/** Ids of the asks and series that carry the weight of a side, latest first. */
export function carryingEvents(side: SideEvidence): string[] {
  const ids: string[] = [];
  const kept = new Map<number, number>();
  for (const entry of side.entries.toReversed()) {
    let weight = kept.get(entry.outing);
    if (weight === undefined) kept.set(entry.outing, (weight = side.keptOf(entry.outing)));
    if (weight < SHOWN_WEIGHT) break;
    if (entry.clean + entry.not > 0) ids.push(entry.event.id);
  }
  return ids;
}

/** In the order of how cheap they are to measure; the first unmet one decides quickly. */
const SIDE_RULES: readonly SideRule[] = [
  {
    code: "different-days",
    measure: (side, _numbers, { days }) => ({ met: side.days >= days, have: side.days, need: days }),
    shownBy: (side) => carryingEvents(side),
  },
  {
    code: "cold-asks",
    measure: ({ colds }) => {
      const need = Math.max(1, colds.length);
      const have = colds.filter((cold) => cold.clean).length;
      return { met: have >= need, have, need };
    },
    shownBy: ({ colds }) => colds.map((cold) => cold.id),
  },
  {
    code: "relaxed",
    isRuledOut: (side) => !side.isRelaxed(),
    measure: (side) => {
      const have = side.isRelaxed() ? 0 : side.tight().length + side.shutDown().length;
      return { met: have === 0, have, need: 0 };
    },
    shownBy: (side) => [...side.tight(), ...side.shutDown()],
  },
  {
    // Still is not always quiet: where stillness is the answer, a sign of ease has to be seen.
    code: "not-proven-relaxed",
    measure: (side) => (side.step.still ? { met: side.eased, have: side.eased ? 1 : 0, need: 1 } : null),
    shownBy: () => [],
  },
  {
    code: "light",
    measure: (side) => {
      const need = side.standard.phase;
      if (need === null) return null;
      const have = side.usualPhase();
      return { met: have === null || have <= need, have, need };
    },
    shownBy: (side) => side.recentAnswers(),
  },
  {
    // Moments: five clean asks in a row are just enough for 0.80. Holds and outings: so many days, no miss among the last ones.
    code: "clean-share",
    isRuledOut: (side) => side.step.kind === "moment" && !side.mayBeSure(),
    measure: (side, { holdDays }, { sure }) => {
      if (side.step.kind === "moment") return { met: side.sure() >= sure, have: round(side.sure()), need: sure };
      const missed = side.lastMisses();
      return {
        met: side.cleanDays >= holdDays && missed === 0,
        have: { days: side.cleanDays, missed },
        need: { days: holdDays, missed: 0 },
      };
    },
    shownBy: carryingEvents,
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
    const measure = rule.measure(side, numbers, bar);
    // A sign of ease that was seen needs no mention.
    if (measure && !(rule.code === "not-proven-relaxed" && measure.met))
      found.push({ code: rule.code, ...measure, evidence: rule.shownBy(side) });
  }
  return found.toSorted((a, b) => RULES_IN_ORDER.indexOf(a.code) - RULES_IN_ORDER.indexOf(b.code));
}

/** Codes of the rules 1, 3, 4 and 5 that a side does not meet. */
export function whyNotOnItsOwn({ bar }: Judged, side: SideEvidence, numbers: JudgeNumbers): FindingCode[] {
  return SIDE_RULES.filter((rule) => rule.measure(side, numbers, bar)?.met === false).map((rule) => rule.code);
}

/** Whether `whyNotOnItsOwn` would be empty, without listing it. */
export function standsOnItsOwn({ bar }: Judged, side: SideEvidence, numbers: JudgeNumbers): boolean {
  for (const rule of SIDE_RULES)
    if (rule.isRuledOut?.(side) || rule.measure(side, numbers, bar)?.met === false) return false;
  return true;
}

/** One thing rule 6 asks for, and how much of it there is. */
export interface ElsewhereMeasure extends Measure {
  what: "place" | "person" | "settings";
}

/** Rule 6 for one side: a second place, a second person, standing and moving; what the step asks for of these. */
export function elsewhereOf(state: StepState, shown: Shown, numbers: JudgeNumbers): ElsewhereMeasure[] {
  return state.step.elsewhere.map((what) => {
    const [have, need] =
      what === "place"
        ? [shown.places, numbers.places]
        : what === "person"
          ? [shown.people, numbers.people]
          : [shown.settings, 2];
    return { what, met: have.length >= need, have: { what, shown: [...have] }, need };
  });
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
  const need = side.freshFor(isGateAhead);
  const have = side.freshened === null ? null : daysBetween(side.freshened, today);
  return {
    code: "fresh",
    met: !side.isCheckDue(today, isGateAhead),
    have,
    need,
    evidence: side.lastCleanEvent === null ? [] : [side.lastCleanEvent],
  };
}
