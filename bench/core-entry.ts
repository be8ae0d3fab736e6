/** What the benchmarks run of the core, bundled as the programs bundle it. */
export { foldRecord } from "@still-pine/core/record";
export { gather, gatherOn, judgeFolded, judgeGathered } from "@still-pine/core/readiness";
export { loosePenStart, sidesOf } from "@still-pine/core/programs";
export { FAMILIES, sumTrials, tryJudge } from "@still-pine/core/simulated";
export { parseRecord } from "@still-pine/contract/record";
