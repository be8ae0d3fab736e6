import type { JudgeNumbers } from "../../programs";
import type { SideEvidence } from "../../evidence";
import type { Bar } from "../bar";
import type { StepState } from "../states";
import type { Finding, FindingCode, FindingOf } from "../findings";
import { lately, oftenEnough } from "./1-often-enough";
import { coldAsks, differentDays, firstAsks } from "./3-different-days";
import { provenRelaxed, relaxed } from "./4-relaxed";
import { light } from "./5-light";
import { findingBy, type RuleWords, type SideRule } from "./side-rule";

type Judged = Pick<StepState, "bar">;

/** Rules about one side, in their order. */
const SIDE_RULES = [oftenEnough, lately, differentDays, coldAsks, firstAsks, relaxed, provenRelaxed, light] as const;
type AnySideRule = (typeof SIDE_RULES)[number];

/** The same in the order of how cheap they are to answer; the first unmet one decides quickly. */
const CHEAP_FIRST: readonly AnySideRule[] = [
  differentDays,
  coldAsks,
  oftenEnough,
  lately,
  firstAsks,
  provenRelaxed,
  relaxed,
  light,
];

/** Findings of rules 1, 3, 4 and 5 for one side, in the order of the rules. @param holds whether it has the word */
export function sideFindings({ bar }: Judged, side: SideEvidence, numbers: JudgeNumbers, holds: boolean): Finding[] {
  const found: Finding[] = [];
  for (const rule of SIDE_RULES) {
    if (rule.applies?.(side, bar) === false) continue;
    const finding = foundBy(rule, side, numbers, bar, holds);
    // A sign of ease that was seen needs no mention.
    if (rule !== provenRelaxed || !finding.met) found.push(finding);
  }
  return found;
}

const foundBy = <Code extends AnySideRule["code"]>(
  rule: SideRule<Code>,
  ...by: [side: SideEvidence, numbers: JudgeNumbers, bar: Bar, holds: boolean]
): Finding => findingBy(rule, ...by);

/** Codes of the rules 1, 3, 4 and 5 by which a side does not earn the word. */
export function whyNotEarned({ bar }: Judged, side: SideEvidence, numbers: JudgeNumbers): FindingCode[] {
  return SIDE_RULES.filter((rule) => !isEarnedBy(rule, side, numbers, bar)).map((rule) => rule.code);
}

/**
 * Whether a side has the word by its own record after an outing: earned on the long record, it is kept until the last outings speak
 * plainly against it.
 *
 * @param held whether it had it before
 */
export function holdsOnItsOwn({ bar }: Judged, side: SideEvidence, numbers: JudgeNumbers, held: boolean): boolean {
  if (held) {
    for (const rule of CHEAP_FIRST)
      if (rule.isLost && rule.applies?.(side, bar) !== false && rule.isLost(side, numbers, bar)) return false;
    return true;
  }
  for (const rule of CHEAP_FIRST) if (!isEarnedBy(rule, side, numbers, bar)) return false;
  return true;
}

const isEarnedBy = (rule: AnySideRule, side: SideEvidence, numbers: JudgeNumbers, bar: Bar): boolean =>
  rule.applies?.(side, bar) === false || rule.isEarned(side, numbers, bar);

export const wobbleWords: RuleWords = {
  title: "A wobble",
  says: () =>
    "One miss, one missed first ask or one tight outing takes no word that was earned. It asks for a clean, quiet first ask next time.",
};

/** What the last outing has against a side that keeps the word: a miss, a missed cold ask, anything tight. It shuts nothing. */
export function wobbleOf(side: SideEvidence): FindingOf<"wobble"> | null {
  const visit = side.visits.findLast(({ counted }) => counted);
  if (!visit) return null;
  const from = side.entries.findLastIndex(({ outing }) => outing < visit.outing) + 1;
  const missed = side.entries.slice(from).flatMap(({ not, event }) => (not > 0 ? [event.id] : []));
  const cold = visit.cold === false ? 1 : 0;
  const unquiet = [...visit.tight, ...visit.shutDown];
  if (visit.not === 0 && unquiet.length === 0) return null;
  return {
    code: "wobble",
    met: false,
    have: { missed: visit.not, cold, tight: unquiet.length },
    need: 0,
    evidence: [...new Set([...missed, ...unquiet])],
  };
}
