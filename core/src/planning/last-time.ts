import { findStep, type Program, type SideKey } from "../programs";
import { isAsk, isSeries, type FoldedOuting, type Mood, type Phase, type StepId } from "../record";
import { countInSeries, heardBy, sideOfAsk, worthOfAsk } from "../evidence";
import type { Exercise, LastTime } from "../outing";
import type { SideJudgement } from "../readiness";

interface Tally {
  asks: number;
  clean: number;
  phases: Phase[];
  moods: Mood[];
}

/** The middle one, the worse of two. */
const middle = <Value extends number>(values: readonly Value[]): Value | undefined =>
  values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)];

/**
 * How each side of a step was in the latest of these outings in which it was asked.
 *
 * @param sides when the standard was first asked of each
 */
export function lastTimeOf(
  program: Program,
  outings: readonly FoldedOuting[],
  stepId: StepId,
  sides: Partial<Record<SideKey, Pick<SideJudgement, "standardAsked">>> = {},
): Exercise["last"] {
  const step = findStep(program, stepId);
  if (!step) return {};
  const found = new Map<SideKey, LastTime>();
  for (const { events } of outings.toReversed()) {
    const tallies = new Map<SideKey, Tally>();
    const tally = (side: SideKey): Tally => {
      const one = tallies.get(side) ?? { asks: 0, clean: 0, phases: [], moods: [] };
      tallies.set(side, one);
      return one;
    };
    for (const raw of events) {
      const event = heardBy(raw, step);
      if ((!isAsk(event) && !isSeries(event)) || event.step !== stepId) continue;
      const side = sideOfAsk(event, step);
      if (side === null) continue;
      const one = tally(side);
      if (isSeries(event)) {
        const { clean, missed } = countInSeries(event, step);
        one.asks += clean + missed;
        one.clean += clean;
      } else {
        const asked = sides[side]?.standardAsked;
        const wasAsked = typeof asked === "string" && Date.parse(asked) < Date.parse(event.at);
        const worth = worthOfAsk(event, step, wasAsked);
        if (worth === "neutral" || worth === "practice") continue;
        one.asks += 1;
        one.clean += worth === "clean" ? 1 : 0;
        if (event.answer !== "gave") continue;
      }
      if (event.phase !== undefined) one.phases.push(event.phase);
      if (event.mood !== undefined) one.moods.push(event.mood);
    }
    for (const [side, { asks, clean, phases, moods }] of tallies)
      if (!found.has(side) && asks > 0)
        found.set(side, { asks, clean, phase: middle(phases) ?? null, mood: middle(moods) ?? 2 });
  }
  return Object.fromEntries(found);
}
