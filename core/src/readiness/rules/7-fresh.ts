import { daysBetween } from "../../record";
import type { SideEvidence } from "../../evidence";
import type { Judging } from "../judging";
import { hasGateAhead, type StepState } from "../states";
import { isGateStep } from "../bar";
import type { Finding } from "../findings";
import type { RuleWords } from "./side-rule";

export const freshWords: RuleWords = {
  title: "Fresh",
  says: (program, step) =>
    `Time changes no weight; it only sets when a cold check is due: ${program.judge.freshPerDay} days for each day it was shown clean, at most ${program.judge.freshAtMost}${isGateStep(program, step) ? `, and ${program.judge.gateFresh} days while a gate that asks for it lies ahead` : ""}. A clean ask of what rests on it freshens it too.`,
};

export const checkSoonWords: RuleWords = {
  title: "Check soon",
  says: ({ judge }) => `A check that falls due within ${judge.soonDays} days is named beforehand.`,
};

/** Rule 7 for one side: whether a cold check is due, and a word beforehand. */
export function freshness(state: StepState, side: SideEvidence, { program, about, today }: Judging): Finding[] {
  const isGateAhead = hasGateAhead(state, about);
  const need = side.fresh.freshFor(isGateAhead);
  const have = side.fresh.freshened === null ? null : daysBetween(side.fresh.freshened, today);
  const evidence = side.lastCleanEvent === null ? [] : [side.lastCleanEvent];
  const met = !side.fresh.isCheckDue(today, isGateAhead);
  const found: Finding = { code: "fresh", met, have, need, evidence };
  const left = have === null ? null : need - have;
  const isSoon = left !== null && left > 0 && left <= program.judge.soonDays;
  return isSoon ? [found, { code: "cold-check-due", met: false, have: left, need: 0, evidence }] : [found];
}
