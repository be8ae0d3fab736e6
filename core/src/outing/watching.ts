import { findStep, type Program } from "../programs";
import { rungReached, timed, timeUnit, type AskLine, type Press } from "../recording";
import type { OutingState } from "./state-types";

export type AskPress = Extract<Press, { press: "ask" }>;

/** The watch that runs for an exercise and side, if one does. */
export const watchAt = (
  { watches }: OutingState,
  { step, side }: AskLine,
): OutingState["watches"][number] | undefined => watches.findLast((one) => one.step === step && one.side === side);

/**
 * An ask as it is pressed: where a watch runs for what is at hand it ends that. Ended by the person it counts for the rung its time came
 * to; ended by the horse it is one of the rung the line says.
 *
 * @param now the moment of the press, in milliseconds since 1970
 */
export function pressUnderWatch(
  press: AskPress,
  line: AskLine,
  state: OutingState,
  program: Program,
  now: number,
): { press: Press; line: AskLine } {
  const step = findStep(program, line.step);
  const unit = step ? timeUnit(step) : null;
  const watch = watchAt(state, line);
  if (!step || !watch || unit === null) return { press, line };
  const { answer, phase, mood } = press;
  const isGiven = answer === "gave" || answer === "neutral";
  const rung = rungReached(step, line.more ?? {}, timed(watch.from, now, unit));
  return {
    press: {
      press: "watch-end",
      watch: watch.id,
      from: watch.from,
      unit,
      answer,
      ...(phase === undefined ? {} : { phase }),
      ...(mood === undefined ? {} : { mood }),
    },
    line: isGiven && rung !== undefined ? { ...line, more: { ...line.more, rung } } : line,
  };
}
