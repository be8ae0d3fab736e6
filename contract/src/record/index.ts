export * from "./record";
export { parseEvent } from "./check-event";
export { canonical, recordToText } from "./canonical";
export { EVENT_SCHEMAS, idSchema, instantSchema, isKnownType, labelSchema, type KnownType } from "./events";
export { isTooDeep, LEVELS_MOST, problemInWords, problemsFrom, type InputProblem, type InputWarning } from "./problems";
