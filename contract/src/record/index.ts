export { namedIn } from "./record-shape";
export { parseRecord, programChosenBy, type ParsedRecord } from "./record";
export { RecordReader, type Known, type ReadThrough, type RecordHead } from "./record-reader";
export { PROBLEMS_SHOWN, RECORD_FORMAT, RECORD_MOST_BYTES, recordJsonSchema } from "./record-shape";
export { limitsInWords, typesInMarkdown } from "./describe";
export { parseEvent } from "./check-event";
export { canonical, outingToText, recordClosing, recordOpening, recordToText } from "./canonical";
export { anyEventSchema, idSchema, instantSchema, isKnownType, labelSchema, misfits } from "./events";
export {
  isTooDeep,
  LEVELS_MOST,
  pathInWords,
  problemInWords,
  problemsFrom,
  shown,
  unstorable,
  type InputProblem,
  type InputWarning,
  type SetAside,
} from "./problems";
export {
  OWN_PROGRAM,
  OWN_PROGRAMS_MOST,
  parseOwnPrograms,
  parseProgram,
  programJsonSchema,
  programShapeProblems,
  type OwnProgram,
} from "./program";
