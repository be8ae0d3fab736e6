import type { JudgeNumbers } from "../../programs";
import type { SideEvidence } from "../../evidence";
import type { Bar } from "../bar";
import type { FindingCode, FindingValue } from "../types";

export interface Measure {
  have: FindingValue;
  need: FindingValue;
}

/** A rule about one side, from its evidence alone. The rule, its number and its reason have this one source. */
export interface SideRule {
  code: FindingCode;
  /** Whether it says anything about this step; else it is met. */
  applies?(side: SideEvidence, bar: Bar): boolean;
  /** Whether it lets the side earn the word. */
  isEarned(side: SideEvidence, numbers: JudgeNumbers, bar: Bar): boolean;
  /** Whether it takes the word from a side that has it; where nothing is said, never. */
  isLost?(side: SideEvidence, numbers: JudgeNumbers, bar: Bar): boolean;
  /** @param holds whether the side has the word: then `need` is what keeps it, else what earns it */
  measure(side: SideEvidence, numbers: JudgeNumbers, bar: Bar, holds: boolean): Measure;
  shownBy(side: SideEvidence): string[];
}

/** Output carries six decimals: more is noise, and the same input must print the same bytes. */
export function round(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}
