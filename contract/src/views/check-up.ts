import { checkUpOf, planCheckUp, stagesSoFar, type Scope } from "@still-pine/core/checkup";
import type { Stage } from "@still-pine/core/programs";
import type { Gathered, Standing } from "@still-pine/core/readiness";
import { ageOn, type Day, type FoldedOuting } from "@still-pine/core/record";
import type { CheckUpView, YardView } from "../http";
import { horseLine, type HorseRow } from "./line";

/** So many earlier check-ups are shown. */
const RESULTS_SHOWN = 2;

/**
 * A horse's next check-up and what the last ones found.
 *
 * @param gathered his whole record; the plan rests on its shares
 * @param asked the stages up to one, or just some steps; what he has come through where nothing is said
 */
export function composeCheckUp({
  yard,
  row,
  standing,
  today,
  gathered,
  outings,
  asked: { upTo, steps },
}: {
  yard: YardView;
  row: HorseRow;
  standing: Standing;
  today: Day;
  gathered: Gathered;
  outings: readonly FoldedOuting[];
  asked: { upTo?: Stage | undefined; steps?: readonly string[] | undefined };
}): CheckUpView {
  const stages = [...new Set(gathered.program.steps.map(({ stage }) => stage))];
  const so = stagesSoFar(gathered);
  const until = upTo && stages.includes(upTo) ? stages.slice(0, stages.indexOf(upTo) + 1) : so;
  const scope: Scope = steps ? { steps } : { stages: until };
  const { monthsAtLeast } = ageOn(row.foaled, row.foaledPrecision, today);
  const plan = planCheckUp(gathered, scope, today, monthsAtLeast);
  return {
    yard,
    horse: horseLine(row, standing, today),
    stages,
    upTo: steps ? null : (until.at(-1) ?? null),
    plan,
    results: outings
      .toReversed()
      .flatMap((outing) => checkUpOf(outing, gathered.program) ?? [])
      .slice(0, RESULTS_SHOWN),
  };
}
