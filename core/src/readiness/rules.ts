import { addDays, daysBetween, type Day } from "../record";
import type { JudgeNumbers } from "../programs";
import type { SideEvidence } from "../evidence";
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
  shownBy(side: SideEvidence): string[];
}

/** An ask older than this no longer shows as evidence; it still carries its small weight. */
const SHOWN_WEIGHT = 0.05;

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
    measure: (side) => {
      const have = side.tight().length + side.shutDown().length;
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
  for (const rule of SIDE_RULES) if (rule.measure(side, numbers)?.met === false) return false;
  return true;
}

/** Days a side stays fresh: so many for each different day it was shown clean, up to the most. */
export function freshFor(side: SideEvidence, numbers: JudgeNumbers): number {
  return Math.min(numbers.freshAtMost, numbers.freshPerDay * side.cleanDays.size);
}

/** The day from which a cold check is due, or null where it was never shown clean. */
export function checkDueOn(side: SideEvidence, numbers: JudgeNumbers): Day | null {
  return side.freshened === null ? null : addDays(side.freshened, freshFor(side, numbers));
}

/** Rule 7 for one side. */
export function freshFinding(side: SideEvidence, numbers: JudgeNumbers, today: Day): Finding {
  const need = freshFor(side, numbers);
  const have = side.freshened === null ? null : daysBetween(side.freshened, today);
  const last = side.entries.findLast((entry) => entry.clean > 0);
  return { code: "fresh", met: have !== null && have < need, have, need, evidence: last ? [last.event.id] : [] };
}

/** Whether a cold check of this side is due on `today`. */
export function isCheckDue(side: SideEvidence, numbers: JudgeNumbers, today: Day): boolean {
  const due = checkDueOn(side, numbers);
  return due !== null && today >= due;
}
