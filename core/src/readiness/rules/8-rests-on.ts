import type { Judging } from "../judging";
import type { NeedState, StepState } from "../states";
import { isNeedMet, metFor, missingOf, sideStatus, stepStatus } from "../status";
import type { Finding, FindingOf } from "../findings";
import { STATUSES } from "../types";
import type { RuleWords } from "./side-rule";
import { sideFindings } from "./side-rules";

export const restsOnWords: RuleWords = {
  title: "What it rests on",
  says: () =>
    "What it rests on must be steady when it becomes steady. A piece that lacks only its second person counts here; a gate still asks for that.",
};

export const needsSlippedWords: RuleWords = {
  title: "A piece has slipped",
  says: () => "It keeps its word, and gates stay shut until the piece is mended.",
};

/** Rule 8: a finding for each need, and a warning where one slipped after this step was steady. */
export function restsOn(state: StepState, judging: Judging): Finding[] {
  const wasSteady = state.sides.every((side) => side.steadySince !== null);
  return state.needs.flatMap((need) => {
    if (need.length === 0) return [];
    const met = isNeedMet(need, judging, metFor(state));
    const best = bestWay(need, judging);
    const weakest = weakestOf(best, judging);
    if (!weakest) return [];
    const missing = [...new Set(best.flatMap((one) => missingOf(one).map(({ what }) => what)))];
    const have = {
      step: weakest.state.step.id,
      status: stepStatus(weakest.state, judging),
      ...(missing.length > 0 ? { missing } : {}),
    };
    const wanted: FindingOf<"rests-on">["need"] = {
      anyOf: need.map((way) => way.map(({ ref }) => ref.step).join(" and ")),
      status: "steady",
    };
    const found: Finding[] = [{ code: "rests-on", met, have, need: wanted, evidence: [] }];
    if (wasSteady && !met && stepStatus(weakest.state, judging, true) === "slipped") {
      const evidence = whatSlipped(weakest.state, judging);
      found.push({ code: "needs-slipped", met: false, have, need: wanted, evidence });
    }
    return found;
  });
}

const placeOf = ({ state }: NeedState, judging: Judging): number => STATUSES.indexOf(stepStatus(state, judging, true));

/** The way of a need that has come furthest. */
function bestWay(need: readonly (readonly NeedState[])[], judging: Judging): readonly NeedState[] {
  const rank = (way: readonly NeedState[]): number =>
    Math.min(...way.map((one) => placeOf(one, judging))) - (way.some((one) => missingOf(one).length > 0) ? 0.5 : 0);
  return need.toSorted((a, b) => rank(b) - rank(a))[0] ?? [];
}

const weakestOf = (way: readonly NeedState[], judging: Judging): NeedState | undefined =>
  way.toSorted((a, b) => placeOf(a, judging) - placeOf(b, judging))[0];

/** The events that made a step slip: what breaks a rule on a side that was steady. */
function whatSlipped(state: StepState, judging: Judging): string[] {
  const slipped = state.sides.filter((side) => sideStatus(state, side, judging) === "slipped");
  const unmet = slipped.flatMap((side) =>
    sideFindings(state, side.evidence, judging.program.judge, side.holds).filter(({ met }) => !met),
  );
  return [...new Set(unmet.flatMap(({ evidence }) => evidence))];
}
