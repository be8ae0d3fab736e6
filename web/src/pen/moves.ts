import { findStep } from "@still-pine/core/programs";
import { chipsOf } from "@still-pine/core/programs/chips";
import { isAsk, type AskEvent, type EventBody, type Fault, type Severity, type StepId } from "@still-pine/core/record";
import { bodyOfPress, rungBeside, turned } from "@still-pine/core/recording";
import type { PenSession } from "./session";

/** One rung up or down the ladder of the exercise at hand, where there is one. */
export function toRung(session: PenSession, by: 1 | -1): void {
  const step = findStep(session.plan.program, session.here.step);
  const rung = step ? rungBeside(step, session.read().line, by) : null;
  if (rung !== null) session.say({ rung });
}

/** Turns a chip of the line to its next word. @param at its place, from 0 */
export function turnChip(session: PenSession, at: number): void {
  const step = findStep(session.plan.program, session.here.step);
  const chip = step ? chipsOf(step)[at] : undefined;
  if (chip) session.say({ [chip]: turned(chip, session.read().line) });
}

/** In a check-up: to the side or the step the coach names next. */
export function goNext(session: PenSession): void {
  const { side, step } = session.read().advice;
  if (side !== undefined) session.goToSide(side);
  else if (step !== undefined) session.takeUp(step);
}

/** To the exercise after or before the one at hand in today's list. */
export function move(session: PenSession, by: 1 | -1, steps: readonly StepId[]): void {
  const at = steps.indexOf(session.here.step);
  const next = steps[(at + by + steps.length) % steps.length];
  if (next !== undefined) session.takeUp(next);
}

/** Why the exercise in hand is worked though a gate before it is shut; said of the entry that says so, which is made where there is none. */
export function sayWhy(session: PenSession, gate: string, reason: string): void {
  const { step } = session.here;
  if (session.read().state.against[step] === undefined)
    session.enter(bodyOfPress({ press: "against-gate", gate }, session.here, session.now()), true);
  const id = session.read().state.against[step]?.id;
  if (id !== undefined) session.correct(id, { with: { reason } });
}

/** A fright of that size at what is in hand, if anything is: exercise, side and the place of the hide come along. */
export function frightOf(session: PenSession, size: Severity): EventBody {
  const { state, line } = session.read();
  if (state.step === null) return { type: "startle", size };
  return bodyOfPress({ press: "fright", size }, { ...session.here, more: line }, session.now());
}

/** Notes a mishap by one press; until it is told how bad it was it counts as bad. @returns its id, or null for the same press twice */
export function noteMishap(session: PenSession, onceOnly: boolean): string | null {
  const body = { type: "mishap", kind: "other", severity: 2, personHurt: false, toTell: true } as const;
  return session.enter(body, onceOnly)?.id ?? null;
}

/** What is seen of the work goes on with the ask before it. */
const SEEN = new Set(["gait", "frame", "sign"]);

/** The ask recorded here last, though a gait, a frame or a sign was noted since; null where something else was. */
export function lastAsk(session: PenSession): AskEvent | null {
  const { last } = session.read();
  if (!last || isAsk(last)) return last;
  if (!SEEN.has(last.type)) return null;
  for (const { id, type, device } of session.history.toReversed()) {
    if (device !== last.device || (type !== "ask" && SEEN.has(type)) || type === "correction") continue;
    const standing = session.standing(id);
    if (standing) return isAsk(standing) ? standing : null;
  }
  return null;
}

/** What a digit says was wrong with the last ask, or what it was for: 1 to 5 the step's own faults, and the rest for every step. */
export const FAULT_DIGITS = {
  0: "bolted after",
  6: "mine",
  7: "a reminder",
  8: "a probe",
  9: "one more bump",
} as const;

/**
 * Says of the last ask what a digit means there; nothing where no ask was recorded, or the step has no such fault.
 *
 * @param faults of its step, in their order
 */
export function sayFault(session: PenSession, digit: number, faults: readonly Fault[]): void {
  const last = lastAsk(session);
  if (!last) return;
  const say = (said: Record<string, unknown>): void => session.correct(last.id, { with: said });
  const fault = faults[digit - 1];
  if (digit === 0) say({ after: "bolted" });
  else if (digit === 6) say({ answer: "neutral" });
  else if (digit === 7) say({ purpose: "reminder" });
  else if (digit === 8) say({ purpose: "probe" });
  else if (digit === 9) say({ helps: (last.helps ?? 0) + 1 });
  else if (fault !== undefined) say({ fault });
}
