import type { BodyOf, RecordEvent, StepId } from "../record";
import { GAITS } from "../record/vocabulary";

type Gait = BodyOf<"gait">["gait"];
type Rein = NonNullable<BodyOf<"gait">["direction"]>;

/** How long he went in a gait on one rein, over an outing. */
export interface GaitTime {
  gait: Gait;
  /** Null where nobody said it. */
  rein: Rein | null;
  seconds: number;
}

interface Going {
  gait: Gait;
  rein: Rein | null;
  from: number;
}

/**
 * Seconds by gait and rein, slowest gait first. A gait lasts until another one is said, the exercise is left, or the outing ends, and
 * goes along over a change of rein. One that says its own seconds lasted so long; what he went in before goes on after it.
 *
 * @param events what counts of the outing, in effective order
 * @param endedAt its end, in milliseconds since 1970
 */
export function gaitTimes(events: readonly RecordEvent[], endedAt: number): GaitTime[] {
  const times = new Map<string, GaitTime>();
  let going: Going | null = null;
  let step: StepId | undefined;
  let rein: Rein | null = null;
  const add = (gait: Gait, on: Rein | null, ms: number): void => {
    const key = `${gait} ${on}`;
    const { seconds } = times.get(key) ?? { seconds: 0 };
    if (ms > 0) times.set(key, { gait, rein: on, seconds: seconds + ms / 1000 });
  };
  /** What he goes in has lasted up to now, and may go on on another rein. */
  const upTo = (at: number, next: Rein | null | "over"): void => {
    if (going) add(going.gait, going.rein, at - going.from);
    going = going && next !== "over" ? { ...going, rein: next, from: Math.max(going.from, at) } : null;
  };
  const take = (to: StepId | undefined, side: string | undefined, at: number): void => {
    const next = side === "near" || side === "off" ? side : rein;
    // What was said before anything was taken up is of what is taken up first.
    if (step !== undefined && to !== step) upTo(at, "over");
    else if (next !== rein) upTo(at, next);
    step = to;
    rein = next;
  };
  for (const event of events) {
    const at = Date.parse(event.at);
    if (event.type === "ask" || event.type === "watch") take(event.step, event.side, at);
    else if (event.type === "side-change") take(step, event.to, at);
    else if (event.type === "spurt" && event.edge === "start") take(event.step ?? step, event.side, at);
    else if (event.type === "spurt") upTo(at, "over");
    else if (event.type === "gait") {
      const on = event.direction ?? rein;
      if (event.seconds === undefined) {
        upTo(at, "over");
        going = { gait: event.gait, rein: on, from: at };
      } else {
        upTo(at, going ? (going as Going).rein : "over");
        if (going) going = { ...(going as Going), from: at + event.seconds * 1000 };
        add(event.gait, on, event.seconds * 1000);
      }
    }
  }
  upTo(endedAt, "over");
  return [...times.values()]
    .map(({ seconds, ...one }) => ({ ...one, seconds: Math.round(seconds) }))
    .toSorted((a, b) => GAITS.indexOf(a.gait) - GAITS.indexOf(b.gait) || reinOrder(a) - reinOrder(b));
}

const reinOrder = ({ rein }: GaitTime): number => (rein === "near" ? 0 : rein === "off" ? 1 : 2);
