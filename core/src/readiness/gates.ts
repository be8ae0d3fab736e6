import type { Day } from "../record";
import { groundDue } from "./away";
import { liesAheadAgain, notShownSince } from "./back-again";
import type { Judging } from "./judging";
import { isAhead, type Gathered, type GateState, type NeedState } from "./states";
import { isNeedMet, stepStatus } from "./status";
import { STATUSES, type GateJudgement, type Status } from "./types";

/**
 * What the record shows of every gate, in the order of the road: the steps it asks for. It never opens a gate by itself: body and
 * care, the last outings and the checks of the day come on top.
 */
export function judgeGates(gathered: Gathered, today: Day): GateJudgement[] {
  return gathered.gates.map((state) => judgeGate(state, { ...gathered, today }));
}

/** What the record shows of one gate. */
function judgeGate(state: GateState, judging: Judging): GateJudgement {
  const statusOf = (way: readonly NeedState[]): Status => {
    const words = way.map((one) => stepStatus(one.state, judging));
    return STATUSES.find((word) => words.includes(word)) ?? "untried";
  };
  // After a break what was shown before it is asked for once more.
  const isAgain = liesAheadAgain(state, judging);
  const unshown = isAgain ? notShownSince(state, judging) : [];
  const needs = [...state.needs, ...state.ridden].map((need) => {
    const statuses = need.map(statusOf);
    return {
      anyOf: need.map((way) => way.map(({ ref }) => ref.step).join(" and ")),
      met: isNeedMet(need, judging, "gate") && !unshown.includes(need),
      status: STATUSES.findLast((word) => statuses.includes(word)) ?? "untried",
    };
  });
  return {
    gate: state.gate.id,
    behind: !isAgain && !isAhead(state, judging.about),
    met: needs.every(({ met }) => met) && !(isAgain && state.away && groundDue(state.away, judging) > 0),
    needs,
  };
}
