/**
 * What to do now, in the pen? Events of one outing in, one word with its reason out; the same in the pen, in the review and in the
 * tests. Times in milliseconds since 1970, minutes where a name says so. Common practice, no published source, unless a
 * number says otherwise; the numbers are Still Pine's own judgement and stand in the program or beside the rule.
 */
export * from "./types";
export { advise } from "./advise";
export { againstGate, isSaidWhy, shutBefore } from "./behind-gate";
export { checkUpResults } from "./advise-check-up";
export { aThirdMore, nextStanding, stoodIn, type Stood } from "./growth";
export { weighAnswer } from "./answers";
export { Lines, type KeptLines } from "./lines";
export { pressUnderWatch, watchAt, type AskPress } from "./watching";
export { gaitTimes, type GaitTime } from "./gait-times";
export { linkOf, openedBy, type Link } from "./links";
export { linkChanges, type LinkChange } from "./opened";
export { foldOuting, LiveOuting } from "./live";
export {
  DEFAULT_LINE,
  exerciseOf,
  isFeetWork,
  isReached,
  isSpurtLong,
  lineFor,
  minutesAt,
  startOuting,
  tallyOf,
} from "./state";
export { type ExerciseState, type LinkRow, type OutingState, type SideTally, type Spurt } from "./state-types";
export { proposeNextTime } from "./next-time";
export { adviceInWords, VERB_WORDS, whereInWords } from "./words";
