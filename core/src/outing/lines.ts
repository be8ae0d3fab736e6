import { findStep, type SideKey } from "../programs";
import { sideOfAsk } from "../evidence";
import { beginLine, changeLine, lineOfAsk, lineOnSide, type AskDetails, type LineChange } from "../recording";
import type { OutingPlan } from "./types";
import { isAsk, type RecordEvent, type StepId } from "../record";

/** What was changed of the lines over the pad: by exercise, and there by side. */
export type KeptLines = Readonly<Record<StepId, Partial<Record<SideKey, AskDetails>>>>;

/**
 * The lines over the pad: what every ask of an exercise and side says until it is changed. Each begins as the card has it, and is this
 * device's own: another one at the same outing has another line.
 */
export class Lines {
  private readonly begun = new Map<string, AskDetails>();
  /** What another device's asks said last, by step and side. */
  private readonly heard = new Map<string, AskDetails>();

  constructor(
    private readonly plan: Pick<OutingPlan, "program" | "exercises" | "known" | "checkUp">,
    private changed: KeptLines = {},
  ) {}

  /** The line of one side of a step; the same object until it is changed. */
  of(step: StepId, side: SideKey): AskDetails {
    return this.changed[step]?.[side] ?? this.heard.get(`${step} ${side}`) ?? this.beginning(step, side);
  }

  /** Takes over the lines of another device's asks, where this one has not changed its own: pen and rail have one line. */
  hear(others: readonly RecordEvent[]): void {
    for (const ask of others.filter(isAsk)) {
      const step = findStep(this.plan.program, ask.step);
      const side = step ? sideOfAsk(ask, step) : null;
      if (step && side !== null && ask.rung !== undefined) this.heard.set(`${step.id} ${side}`, lineOfAsk(ask, step));
    }
  }

  /** @returns all that was changed so far, to be kept with the outing */
  change(step: StepId, side: SideKey, change: LineChange): KeptLines {
    const own = this.changed[step] ?? {};
    const sides = { [side]: changeLine(this.of(step, side), change) };
    // The side changed last stands last: the others take over from it what is in the hand.
    const others = Object.fromEntries(Object.entries(own).filter(([one]) => one !== side));
    this.changed = { ...this.changed, [step]: { ...others, ...sides } };
    for (const key of this.begun.keys()) if (key.startsWith(`${step} `)) this.begun.delete(key);
    return this.changed;
  }

  private beginning(step: StepId, side: SideKey): AskDetails {
    const key = `${step} ${side}`;
    const known = this.begun.get(key);
    if (known) return known;
    const found = findStep(this.plan.program, step);
    const begin = found ? beginLine(found, this.rungToBegin(step, side)) : {};
    const other = Object.values(this.changed[step] ?? {}).at(-1);
    const line = other ? lineOnSide(other, begin) : begin;
    this.begun.set(key, line);
    return line;
  }

  /** What the card names; of what it does not name the standard, where he knows it or is checked on it. */
  private rungToBegin(step: StepId, side: SideKey): string | undefined {
    const { program, exercises, known, checkUp } = this.plan;
    const planned = exercises.find((one) => one.step === step);
    if (planned) return planned.from?.[side];
    const isKnown = known.includes(step) || checkUp?.tests.some((test) => test.step === step) === true;
    const { ladder } = findStep(program, step) ?? {};
    return isKnown ? ladder?.rungs[ladder.standard]?.id : undefined;
  }
}
