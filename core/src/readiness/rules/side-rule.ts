import type { JudgeNumbers, Program, Step } from "../../programs";
import type { SideEvidence } from "../../evidence";
import type { Bar } from "../bar";
import type { FindingCode, FindingOf, MeasureOf } from "../findings";

/** A rule in words, for someone who opens it. */
export interface RuleWords {
  title: string;
  /** What the rule asks of a step of this program, with its numbers. */
  says(program: Program, step: Step): string;
}

/** A rule about one side, from its evidence alone. The rule, its number, its words and its reason have this one source. */
export interface SideRule<Code extends FindingCode> extends RuleWords {
  /** Its number in docs/judge.md. */
  number: number;
  code: Code;
  /** Whether it says anything about this step; else it is met. */
  applies?(side: SideEvidence, bar: Bar): boolean;
  /** Whether it lets the side earn the word. */
  isEarned(side: SideEvidence, numbers: JudgeNumbers, bar: Bar): boolean;
  /** Whether it takes the word from a side that has it; where nothing is said, never. */
  isLost?(side: SideEvidence, numbers: JudgeNumbers, bar: Bar): boolean;
  /** @param holds whether the side has the word: then `need` is what keeps it, else what earns it */
  measure(side: SideEvidence, numbers: JudgeNumbers, bar: Bar, holds: boolean): MeasureOf<Code>;
  shownBy(side: SideEvidence): string[];
}

/** What a rule found on a side. @param holds whether the side has the word */
export function findingBy<Code extends FindingCode>(
  rule: SideRule<Code>,
  side: SideEvidence,
  numbers: JudgeNumbers,
  bar: Bar,
  holds: boolean,
): FindingOf<Code> {
  const met = holds ? rule.isLost?.(side, numbers, bar) !== true : rule.isEarned(side, numbers, bar);
  const found = {
    code: rule.code,
    met,
    ...rule.measure(side, numbers, bar, holds),
    ...(holds ? { keeps: true as const } : {}),
    evidence: rule.shownBy(side),
  };
  return found as FindingOf<Code>;
}

/** Output carries six decimals: more is noise, and the same input must print the same bytes. */
export function round(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}
