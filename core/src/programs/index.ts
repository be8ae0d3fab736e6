/**
 * What are the steps, and what does each rest on? Programs are data (`catalogue/*.json`); phases and moods on the 0–4 scales
 * of the record, doses in the unit each step names. Standards and numbers are Still Pine's own judgement.
 */
export * from "./types";
export { buildProgram, rungsNotThere, DEFAULT_COACH, DEFAULT_NUMBERS, DEFAULT_WAYS } from "./file";
export {
  STOP,
  type GateFile,
  type NeedFile,
  type ProgramFile,
  type RefFile,
  type StandardFile,
  type StepFile,
} from "./file-types";
export { catalogueOf, CATALOGUE } from "./catalogue";
export { formerOf, heirsOf, NEWEST_EDITION, saidOf, toEdition } from "./editions";
export {
  everythingUnder,
  findStep,
  howMuchRestsOn,
  gatesOf,
  idsFor,
  nearestStep,
  problemsOf,
  refsOf,
  stepsFor,
  stepsInOrder,
  stepsMarked,
  type ProgramProblem,
} from "./graph";
export { gatedRungOf, type GatedRung } from "./gated-rungs";
export { asFarAsDose, fallsShort, isRungShort, placeOfRung } from "./ladders";
export { alwaysAbove, alwaysUnder, unsafePartsOf } from "./safety";
export { inDialect, nameIn, type Dialect } from "./dialect";
export { phaseWordsOf, type PhaseWords } from "./phase-words";
export { guardOf, loosePenStart, PROGRAMS, SAFEGUARD, SCHOOLS } from "./shipped";
export { findStepAnywhere, isUnknown, ProgramBook, SHIPPED, type UnknownProgram } from "./book";
export { sideFields, sidesOf, type SideKey } from "./sides";
