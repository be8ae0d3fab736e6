import type { Day, StepId } from "../record";
import type { Program } from "../programs";
import { sideInWords, STATUS_WORDS, stepName } from "./words";
import { STATUSES, type Finding, type Judgement, type SideKey, type Status } from "./types";

/** One verdict that is another than before. */
export interface VerdictChange {
  step: StepId;
  side?: SideKey;
  from: Status;
  to: Status;
  better: boolean;
  text: string;
}

/** The words of a step and its sides, without what they rest on. */
export interface StepWords {
  step: StepId;
  status: Status;
  sides: Partial<Record<SideKey, { status: Status }>>;
}

/**
 * What changed between two sets of verdicts on the same program: a line a side, and one for the step when its own word changed.
 *
 * @param before a step that is not in it was untried
 */
export function describeChanges(
  before: readonly StepWords[],
  after: readonly StepWords[],
  program: Program,
): VerdictChange[] {
  const old = new Map(before.map((judgement) => [judgement.step, judgement]));
  return after.flatMap((now) => {
    const then = old.get(now.step);
    const changes: VerdictChange[] = [];
    for (const [key, side] of Object.entries(now.sides)) {
      const from = then?.sides[key as SideKey]?.status ?? "untried";
      if (key !== "none" && from !== side.status)
        changes.push(change(now.step, from, side.status, program, key as SideKey));
    }
    const before = then?.status ?? "untried";
    if (before !== now.status) changes.push(change(now.step, before, now.status, program));
    return changes;
  });
}

/** A word that another judge finds otherwise in the same record, with the first reason he has against it. */
export interface WordAnew {
  step: StepId;
  from: Status;
  to: Status;
  why: Finding | null;
}

/**
 * Words that the same record gives otherwise since the judge is another one. A word that time alone may have made rusty is none.
 *
 * @param before the words as they were, and of which day; a step that is not in them was untried
 */
export function wordsAnew(
  before: { words: readonly Omit<StepWords, "sides">[]; day: Day },
  after: { judgements: readonly Pick<Judgement, "step" | "status" | "findings">[]; day: Day },
): WordAnew[] {
  const old = new Map(before.words.map(({ step, status }) => [step, status]));
  return after.judgements.flatMap(({ step, status: to, findings }) => {
    const from = old.get(step) ?? "untried";
    if (from === to || (to === "rusty" && before.day !== after.day)) return [];
    const why = STATUSES.indexOf(to) < STATUSES.indexOf(from) ? findings.find(({ met }) => !met) : undefined;
    return [{ step, from, to, why: why ?? null }];
  });
}

function change(step: StepId, from: Status, to: Status, program: Program, side?: SideKey): VerdictChange {
  const where = side ? `, ${sideInWords(side)}` : "";
  return {
    step,
    side,
    from,
    to,
    better: STATUSES.indexOf(to) > STATUSES.indexOf(from),
    text: `${stepName(program, step)}${where}: ${STATUS_WORDS[from].toLowerCase()} → ${STATUS_WORDS[to].toLowerCase()}`,
  };
}
