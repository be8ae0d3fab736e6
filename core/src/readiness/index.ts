/**
 * Is a step ready, why not, and what would open it? Verdicts are made of findings with their numbers; sureness is a
 * probability, freshness is in days of the yard. Numbers are Still Pine's own judgement and stand in the program.
 */
export * from "./types";
export { judgeFolded, judgeGathered, judgeRecord } from "./judge";
export { gather, gatherOn, restoreGathered, saveGathered, type Gathered, type SavedGathered } from "./gather";
export { whyNotOnItsOwn } from "./rules";
export { leastWork, tryOuting, type LeastWork } from "./to-open";
export { explainStep, type CountedAsk } from "./explain";
export { waitingSteps } from "./next";
export { describeChanges, type StepWords, type VerdictChange } from "./changes";
export {
  findingInWords,
  openInWords,
  openSummary,
  RULE_TITLES,
  sideInWords,
  STATUS_MEANS,
  STATUS_WORDS,
  stepName,
} from "./words";
