import type { BodyOf } from "@still-pine/core/record";
import { findStep, type Step } from "@still-pine/core/programs";
import { chipsOf } from "@still-pine/core/programs/chips";
import { framesOf, isTravelled, mayFallIntoCanter, wayOfWork } from "@still-pine/core/programs/carriage";
import { bodyOfPress, gaitBeside, type Press } from "@still-pine/core/recording";
import type { PenSession } from "./session";

type Gait = BodyOf<"gait">;

/** The exercise at hand, where he travels in it; how he goes means nothing in another. */
function travelled({ plan: { program }, here }: PenSession): Step | undefined {
  const step = findStep(program, here.step);
  return step && isTravelled(step) ? step : undefined;
}

/** Records it of the exercise at hand, which is taken up by it where nothing was yet, or after a rest. */
const enter = (session: PenSession, press: Press, onceOnly: boolean): void => {
  session.takeUp(session.here.step);
  session.enter(bodyOfPress(press, session.here, session.now()), onceOnly);
};

/** He goes in that gait now, on the rein at hand. @param isUnasked nobody asked him for it */
function goIn(session: PenSession, gait: Gait["gait"], onceOnly: boolean, isUnasked = false): void {
  const step = travelled(session);
  if (!step) return;
  enter(session, { press: "gait", gait, unasked: isUnasked || undefined, work: wayOfWork(step) }, onceOnly);
  // What he was asked for every ask says from now on, where its step wants to know.
  if (!isUnasked && gait !== "halt" && chipsOf(step).includes("gait")) session.say({ gait });
}

/** One gait up or down from the one he goes in, where there is one. */
export function changeGait(session: PenSession, by: 1 | -1, onceOnly: boolean): void {
  const gait = gaitBeside(session.read().state.going?.gait ?? null, by);
  if (gait !== null) goIn(session, gait, onceOnly);
}

/** He falls into a canter nobody asked for; pressed while he goes in it, he was brought back. */
export function fallIntoCanter(session: PenSession, onceOnly: boolean): void {
  const step = travelled(session);
  if (session.read().state.going?.isUnasked) comeBack(session, "brought", onceOnly);
  else if (step && mayFallIntoCanter(step)) goIn(session, "canter", onceOnly, true);
}

/** He is back from the gait nobody asked for. */
export function comeBack(session: PenSession, back: NonNullable<Gait["back"]>, onceOnly: boolean): void {
  const { going } = session.read().state;
  if (going?.isUnasked) enter(session, { press: "came-back", gait: going.id, at: going.at, back }, onceOnly);
}

/** How he carries himself, on the rein at hand. */
export function carries(session: PenSession, frame: BodyOf<"frame">["frame"], onceOnly: boolean): void {
  const step = travelled(session);
  if (step) enter(session, { press: "frame", frame, work: wayOfWork(step) }, onceOnly);
}

/** Of his frame what spoils the exercise at hand: hollow, or behind the vertical where it names that alone. */
export function carriesBadly(session: PenSession, onceOnly: boolean): void {
  const step = travelled(session);
  const frame = step && framesOf(step).find((one) => one !== "stretches");
  if (frame) carries(session, frame, onceOnly);
}
