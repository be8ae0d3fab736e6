import { GATE_KINDS, gatesOf, type Gate, type GateKind, type JudgeNumbers, type Program, type Step } from "../programs";

/** What a step is asked for: more where a gate rests on it, most where somebody is to sit on him. */
export interface Bar {
  kind: "ordinary" | GateKind;
  /** How sure the long record has to make us. */
  sure: number;
  days: number;
  /** How sure the first asks of the days have to make us, and under what they take the word; null where they are no record of their own. */
  firsts: { sure: number; lost: number } | null;
}

/** The strictest bar of the gates that ask for a step. No gate asks for less than another of a milder kind, nor than a step without one. */
export function barOf(gates: readonly Pick<Gate, "kind">[], numbers: JudgeNumbers): Bar {
  const kind = GATE_KINDS.findLast((one) => gates.some((gate) => gate.kind === one)) ?? "ordinary";
  const { sure, handlingSure, gateSure, days, handlingDays, gateDays, riderDays } = numbers;
  const steps: readonly Bar[] = [
    { kind: "ordinary", sure, days, firsts: null },
    { kind: "handling", sure: handlingSure, days: handlingDays, firsts: null },
    { kind: "force", sure: gateSure, days: gateDays, firsts: null },
    { kind: "rider", sure: gateSure, days: riderDays, firsts: { sure: numbers.firstSure, lost: numbers.firstLost } },
  ];
  return steps.slice(0, steps.findIndex((one) => one.kind === kind) + 1).reduce((before, one) => ({
    ...one,
    sure: Math.max(before.sure, one.sure),
    days: Math.max(before.days, one.days),
  }));
}

/** What a step of a program is asked for. */
export const barOfStep = (program: Program, step: Step): Bar => barOf(gatesOf(program, step.id), program.judge);

/** Whether a gate of the program asks for a step. */
export const isGateStep = (program: Program, step: Step): boolean => barOfStep(program, step).kind !== "ordinary";
