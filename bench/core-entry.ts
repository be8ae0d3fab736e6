/** What the benchmarks run of the core, bundled as the programs bundle it. */
export { foldRecord } from "@still-pine/core/record";
export { judgeFolded } from "@still-pine/core/readiness";
export { loosePenStart } from "@still-pine/core/programs";
export { parseRecord } from "@still-pine/contract/record";
