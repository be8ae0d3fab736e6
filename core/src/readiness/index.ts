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
export { gather, gatherOn, type Gathered } from "./gather";
export { GATHER_VERSION, restoreGathered, saveGathered, type SavedGathered } from "./saved";
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
export { barOf, type Bar } from "./bar";
export { createGathered } from "./states";
export { holdsOnItsOwn } from "./rules";
export { dayCheckOf, type DayCheck, type KeyAsk } from "./day-check";
export { judgeGates } from "./gates";
export { stepStatus, wordsOf } from "./status";
export { explainStep, type CountedAsk } from "./explain";
export { describeMove, gatherAfterMove, heldBy, type Move } from "./moving";
export { ageFor, nextAtAge, whatNext } from "./next";
export { isGoodToday, mayWork, Openings, type Opening } from "./openings";
export { describeChanges, wordsAnew, type StepWords, type VerdictChange, type WordAnew } from "./changes";
export { RULES } from "./rule-words";
export * from "./words";
