import { daysBetween, type Day } from "../record";
import type { JudgeNumbers } from "../programs";
import { SHOWN_WEIGHT, type SideEvidence } from "../evidence";
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
  measure(side: SideEvidence, numbers: JudgeNumbers): Measure | null;
  /** A cheap sign that it is surely not met, where measuring costs. */
  isRuledOut?(side: SideEvidence): boolean;
  shownBy(side: SideEvidence): string[];
}

/** Ids of the asks and series that carry the weight of a side, latest first. */
function carryingEvents(side: SideEvidence): string[] {
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
    measure: (side, { days }) => ({ met: side.days >= days, have: side.days, need: days }),
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
    code: "light",
    measure: (side) => {
      const need = side.standard.phase;
      if (need === null) return null;
      const have = side.usualPhase();
      return { met: have === null || have <= need, have, need };
    },
    shownBy: () => [],
  },
  {
    code: "clean-share",
    isRuledOut: (side) => !side.mayBeSure(),
    measure: (side, { sure }) => ({ met: side.sure() >= sure, have: round(side.sure()), need: sure }),
    shownBy: carryingEvents,
  },
];

/** Output carries six decimals: more is noise, and the same input must print the same bytes. */
export function round(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}

/** Findings of rules 1, 3, 4 and 5 for one side, in the order of the rules. */
export function sideFindings(side: SideEvidence, numbers: JudgeNumbers): Finding[] {
  const order: FindingCode[] = ["clean-share", "different-days", "cold-asks", "relaxed", "light"];
  const found: Finding[] = [];
  for (const rule of SIDE_RULES) {
    const measure = rule.measure(side, numbers);
    if (measure) found.push({ code: rule.code, ...measure, evidence: rule.shownBy(side) });
  }
  return found.toSorted((a, b) => order.indexOf(a.code) - order.indexOf(b.code));
}

/** Codes of the rules 1, 3, 4 and 5 that a side does not meet. */
export function whyNotOnItsOwn(side: SideEvidence, numbers: JudgeNumbers): FindingCode[] {
  return SIDE_RULES.filter((rule) => rule.measure(side, numbers)?.met === false).map((rule) => rule.code);
}

/** Whether `whyNotOnItsOwn` would be empty, without listing it. */
export function standsOnItsOwn(side: SideEvidence, numbers: JudgeNumbers): boolean {
  for (const rule of SIDE_RULES)
    if (rule.isRuledOut?.(side) || rule.measure(side, numbers)?.met === false) return false;
  return true;
}

/** Rule 7 for one side. */
export function freshFinding(side: SideEvidence, today: Day): Finding {
  const need = side.freshFor();
  const have = side.freshened === null ? null : daysBetween(side.freshened, today);
  return {
    code: "fresh",
    met: !side.isCheckDue(today),
    have,
    need,
    evidence: side.lastCleanEvent === null ? [] : [side.lastCleanEvent],
  };
}
