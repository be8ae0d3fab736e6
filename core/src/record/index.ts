/** What happened? Events as they were recorded, and the fold that says what of them counts. Instants ISO 8601, days of the yard. */
export type * from "./ids";
export * from "./vocabulary";
export * from "./types";
export {
  EVENT_TYPES,
  eventTypeOf,
  HEAD_FIELDS,
  PROGRAM_FIELDS,
  type EventType,
  type Field,
  type FieldIs,
} from "./declared";
export { versionOf } from "./shapes";
export * from "./age";
export {
  addDays,
  dayIn,
  daysBetween,
  EARLIEST_YEAR,
  isTimeZone,
  forgetZones,
  LATEST_YEAR,
  noonIn,
  type Day,
} from "./day";
export { FIXED_FIELDS, resolveCorrections, type Corrections, type Standing } from "./corrections";
export { compareEvents, isClockSkew, measuredClocks, measuredTimes, orderEvents } from "./order";
export { arePair, pairUp, type Pair } from "./pairs";
export { saysCarriage, spoiltByCarriage, withCarriage, withFault } from "./carriage";
export { headOf, standingEvents, type StandingEvents } from "./standing-events";
export { compareOutings, foldRecord, type FoldedOuting, type FoldedRecord } from "./fold";
