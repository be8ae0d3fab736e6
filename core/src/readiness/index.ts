/**
 * Is a step ready, why not, and what would open it? Verdicts are made of findings with their numbers; sureness is a
 * probability, freshness is in days of the yard. Numbers are Still Pine's own judgement and stand in the program.
 */
export * from "./types";
export {
  aboutOf,
  adjustedProgram,
  chosenProgram,
  holdsOn,
  horseProgram,
  readAbout,
  type HorseAbout,
  type OwnStandard,
  type Said,
} from "./about";
export { judgeFolded, judgeGathered, judgeRecord, judgeState } from "./judge";
export {
  gather,
  GATHER_VERSION,
  gatherOn,
  restoreGathered,
  saveGathered,
  type Gathered,
  type SavedGathered,
} from "./gather";
export {
  bringUp,
  currentJudges,
  programOfRecord,
  foldHorse,
  goOn,
  isInWork,
  judgeFold,
  restoreFold,
  type HorseFold,
  type OutingKey,
  type Standing,
} from "./horse-fold";
export { createGathered } from "./states";
export { judgeGates } from "./gates";
export { stepStatus, wordsOf } from "./status";
export { explainStep, type CountedAsk } from "./explain";
export { describeMove, gatherAfterMove, heldBy, type Move } from "./moving";
export { ageFor, nextAtAge, whatNext } from "./next";
export { describeChanges, type StepWords, type VerdictChange } from "./changes";
export { RULES } from "./rule-words";
export * from "./words";
