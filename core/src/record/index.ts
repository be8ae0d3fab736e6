/** What happened? Events as they were recorded, and the fold that says what of them counts. Instants ISO 8601, days of the yard. */
export * from "./vocabulary";
export * from "./types";
export * from "./age";
export { addDays, dayIn, daysBetween, EARLIEST_YEAR, isTimeZone, LATEST_YEAR, noonIn, type Day } from "./day";
export { FIXED_FIELDS, resolveCorrections, type Corrections, type Standing } from "./corrections";
export { compareEvents, effectiveTimes, isClockSkew, measuredClocks, orderEvents, withMeasuredTimes } from "./order";
export {
  arePair,
  compareOutings,
  foldRecord,
  pairsOf,
  pairUp,
  type FoldedOuting,
  type FoldedRecord,
  type Pair,
} from "./fold";
