/**
 * What do the answers show of one step on one side? Weights fall as later outings outweigh earlier ones; sureness is a
 * probability between 0 and 1. The rules and their numbers are Still Pine's own judgement; the Beta arithmetic is textbook.
 */
export { asAskOf, outingsFor } from "./of-heirs";
export { isSureEnough, sureOf } from "./sureness";
export {
  asFarAs,
  asFarAsRung,
  asksStandardAt,
  countInSeries,
  inFull,
  isFormerUnsaid,
  isOfFormerShape,
  saidRung,
  sideOfAsk,
  worthOfAsk,
  type Measure,
  type Worth,
} from "./classify";
export { isEnough, newRow, breakRow, takeIntoRow, takesUpAgain, type Row } from "./enough";
export {
  addDay,
  estimateDays,
  noDaySums,
  type DayEstimate,
  type DayEstimates,
  type DaySums,
  type LaterAsks,
} from "./of-one-day";
export { SideEvidence } from "./side-evidence";
export { idsOfGiven, type Entry, type SavedSide } from "./entry";
export { NOTHING_SAID, watchOf, type OutingFacts, type Shown, type Watch } from "./shown";
export type { Corner } from "./visit";
export { askOfDwell, heardBy } from "./dwell";
export { stairOf, type ShownOnRung, type Stair } from "./stair";
