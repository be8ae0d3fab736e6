/** What the benchmarks run of the core, bundled as the programs bundle it. */
export { foldRecord } from "@still-pine/core/record";
export { inFull, sureOf } from "@still-pine/core/evidence";
export { gather, gatherOn, judgeFolded, judgeGathered } from "@still-pine/core/readiness";
export { DEFAULT_NUMBERS, loosePenStart, sidesOf } from "@still-pine/core/programs";
export { chipsOf, CHIP_VALUES } from "@still-pine/core/programs/chips";
export { advise, foldOuting, LiveOuting } from "@still-pine/core/outing";
export {
  alikeHorse,
  anySides,
  asksForHolds,
  compareJudges,
  judgesBy,
  mixedHorse,
  FAMILIES,
  keepPace,
  keptBy,
  MILESTONES,
  outingsUntilLost,
  randomFrom,
  shapeOf,
  SidePool,
  sumTrials,
  sureAfter,
  tryFixedShares,
  tryGate,
  tryJudge,
  workLive,
} from "@still-pine/core/simulated";
export { barOf } from "@still-pine/core/readiness";
export { parseRecord } from "@still-pine/contract/record";
export { planCheckUp } from "@still-pine/core/checkup";
export { findStep, PROGRAMS, SCHOOLS, STAGES } from "@still-pine/core/programs";
export { describeMove, gatherAfterMove } from "@still-pine/core/readiness";
export { parseProgram } from "@still-pine/contract/record";
