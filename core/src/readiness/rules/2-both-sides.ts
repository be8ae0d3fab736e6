import type { Judging } from "../judging";
import type { SideState, StepState } from "../states";
import { sideStatus } from "../status";
import { percent } from "../percent";
import type { Finding, FindingOf } from "../findings";
import { round, type RuleWords } from "./side-rule";

export const bothSidesWords: RuleWords = {
  title: "Both sides",
  says: () => "Each side is judged by itself, and the weakest is the step's word.",
};

export const sideGapWords: RuleWords = {
  title: "One side behind",
  says: ({ judge }) =>
    `Named from ${percent(judge.gapAtLeast)} between the shares, with ${judge.gapAsks} asks on each.`,
};

/** Rule 2: each side by itself; and a gap between them by name, the weakest against the strongest. */
export function bothSides(state: StepState, judging: Judging): Finding[] {
  if (state.sides.length < 2 || state.sides.every((side) => side.evidence.asked === 0)) return [];
  const have: FindingOf<"both-sides">["have"] = Object.fromEntries(
    state.sides.map((side) => [side.side, sideStatus(state, side, judging)]),
  );
  const met = state.sides.every((side) => side.holds);
  // Of long lists: one is made of them all.
  const evidence: string[] = ([] as string[]).concat(...state.sides.map((side) => side.evidence.carriedBy()));
  const found: Finding = { code: "both-sides", met, have, need: "each by itself", evidence };
  const gap = gapBetween(state, judging);
  return gap ? [found, gap] : [found];
}

function gapBetween(state: StepState, { program: { judge } }: Judging): Finding | null {
  const share = ({ evidence: { memories } }: SideState): number =>
    memories.weightClean / (memories.weightClean + memories.weightNot);
  const enough = state.sides.filter((side) => side.evidence.count >= judge.gapAsks);
  const sorted = enough.toSorted((a, b) => share(a) - share(b));
  const weaker = sorted[0];
  const stronger = sorted.at(-1);
  if (!weaker || !stronger) return null;
  const [low, high] = [share(weaker), share(stronger)];
  if (high - low < judge.gapAtLeast) return null;
  return {
    code: "side-gap",
    met: false,
    side: weaker.side,
    have: round(low),
    need: round(high),
    evidence: [...weaker.evidence.carriedBy(), ...stronger.evidence.carriedBy()],
  };
}
