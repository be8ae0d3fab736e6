import type { Day } from "../record";
import { daysAway, groundDue } from "./away";
import type { Judging } from "./judging";
import type { GateState, NeedState, StepState } from "./states";

/** Whether every side of a step was shown clean since a day, and its last first ask was not missed. */
function isShownSince(state: StepState, day: Day): boolean {
  return state.sides.every(({ evidence }) => {
    const { lastClean } = evidence.fresh;
    const last = evidence.visits.findLast(({ counted }) => counted);
    return lastClean !== null && lastClean >= day && last?.cold !== false;
  });
}

/** Whether a need of a gate has come clean since a day, by any of its ways; as a whole where only a rung is asked for. */
function isWayShownSince(way: readonly NeedState[], day: Day): boolean {
  return way.every(({ state }) => isShownSince(state, day) || (state.whole !== null && isShownSince(state.whole, day)));
}

/** The needs of a gate that have not come clean since the break. @returns all of them while he is away */
export function notShownSince({ away, needs }: GateState, judging: Judging): NeedState[][][] {
  if (!away) return [];
  if (daysAway(away, judging) !== null) return needs;
  const { back } = away;
  return back === null ? [] : needs.filter((need) => !need.some((way) => isWayShownSince(way, back)));
}

/**
 * Whether a gate that he has been beyond lies ahead again: after a break a horse that was ridden goes by the way of his first ride, from the
 * ground up.
 */
export function liesAheadAgain(gate: GateState, judging: Judging): boolean {
  const { away, beyond } = gate;
  if (!away || beyond.every(({ workedIn }) => workedIn === null)) return false;
  if (away.back === null && daysAway(away, judging) === null) return false;
  return groundDue(away, judging) > 0 || notShownSince(gate, judging).length > 0;
}
