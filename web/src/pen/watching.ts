import { nextStanding, stoodIn, watchAt, type Stood } from "@still-pine/core/outing";
import { findStep } from "@still-pine/core/programs";
import { isDwelt } from "@still-pine/core/programs/dwelt";
import { bodyOfPress } from "@still-pine/core/recording";
import type { PenSession } from "./session";

/** Starts the watch for what is at hand, unless it runs. */
export function startWatch(session: PenSession): void {
  if (watchAt(session.read().state, session.here)) return;
  session.enter(bodyOfPress({ press: "watch" }, { ...session.here, more: session.read().line }, session.now()), false);
}

/** Steps in to stand with him: a watch where standing is what the exercise is about, else only how long it was; once more steps away. */
export function stepIn(session: PenSession): void {
  const step = findStep(session.plan.program, session.here.step);
  if (step && isDwelt(step) && session.read().dwellFrom === null) startWatch(session);
  else session.dwell();
}

/** How long he stood the last time in this outing, and how long the next may be; null where he did not yet. */
export function standingSoFar(session: PenSession): { last: number; next: number } | null {
  const step = findStep(session.plan.program, session.here.step);
  if (!step) return null;
  const last = session.lastOf((event) => stoodIn(event, step) !== null);
  const before = last && session.lastOf((event) => event.id !== last.id && stoodIn(event, step) !== null);
  const stood: Stood | null = last ? stoodIn(last, step) : null;
  if (!stood) return null;
  return {
    last: stood.seconds,
    next: nextStanding(stood, before ? stoodIn(before, step) : null, session.plan.program.coach),
  };
}
