/**
 * What are the steps, and what does each rest on? Programs are data (`catalogue/*.json`); phases and moods on the 0–4 scales
 * of the record, doses in the unit each step names. Standards and numbers are Still Pine's own judgement.
 */
import type { Side } from "../record/vocabulary";
import gates from "./catalogue/gates.json" with { type: "json" };
import former from "./catalogue/loose-pen-start-1.json" with { type: "json" };
import approachAndStand from "./catalogue/schools/approach-and-stand.json" with { type: "json" };
import inHandClassical from "./catalogue/schools/in-hand-classical-start.json" with { type: "json" };
import learningTheory from "./catalogue/schools/learning-theory-start.json" with { type: "json" };
import loosePen from "./catalogue/schools/loose-pen-start.json" with { type: "json" };
import lungeAndHelper from "./catalogue/schools/lunge-and-helper-start.json" with { type: "json" };
import markerAndReward from "./catalogue/schools/marker-and-reward.json" with { type: "json" };
import weanlingCourse from "./catalogue/schools/weanling-course.json" with { type: "json" };
import steps from "./catalogue/steps.json" with { type: "json" };
import { findStep } from "./graph";
import { buildProgram, type GateFile, type ProgramFile, type StepFile } from "./file";
import type { Program, Step } from "./types";

export * from "./types";
export {
  buildProgram,
  DEFAULT_COACH,
  DEFAULT_NUMBERS,
  DEFAULT_WAYS,
  STOP,
  type GateFile,
  type NeedFile,
  type ProgramFile,
  type RefFile,
  type StandardFile,
  type StepFile,
} from "./file";
export {
  everythingUnder,
  findStep,
  gatesOf,
  nearestStep,
  problemsOf,
  refsOf,
  stepsInOrder,
  type ProgramProblem,
} from "./graph";
export { alwaysUnder, unsafePartsOf } from "./safety";
export { inDialect, nameIn, type Dialect } from "./dialect";
export { phaseWordsOf, type PhaseWords } from "./phase-words";

/** All steps and gates there are; JSON has no literal types, a test reads it through the contract's schema. */
export const CATALOGUE = {
  steps: steps as unknown as readonly StepFile[],
  gates: gates as unknown as readonly GateFile[],
} as const;

/** The programs that ship, as they are written down. */
export const SCHOOLS = [
  loosePen,
  inHandClassical,
  approachAndStand,
  markerAndReward,
  weanlingCourse,
  learningTheory,
  lungeAndHelper,
] as unknown as readonly ProgramFile[];

/** The current version of every program that ships. */
export const PROGRAMS: readonly Program[] = SCHOOLS.map((file) => buildProgram(file, CATALOGUE));
export const loosePenStart = PROGRAMS[0] as Program;
/**
 * Programs of yards, by id and version. Ids are unique everywhere and a version never changes, so that it does not matter who
 * read it first: this only spares reading it again.
 */
const ofYards = new Map<string, Program>();
const latest = new Map<string, Program>();

/** Makes a yard's own program known to whoever judges by it. Says nothing of whether it is sound: who publishes it has seen to that. */
export function keepProgram(file: ProgramFile): Program {
  const key = `${file.id} ${file.version}`;
  const known = ofYards.get(key);
  if (known) return known;
  const program = buildProgram(file, CATALOGUE);
  ofYards.set(key, program);
  if ((latest.get(file.id)?.version ?? 0) < file.version) latest.set(file.id, program);
  return program;
}

/** Forgets a version that was not stored after all; the one before it is the latest again. */
export function forgetProgram({ id, version }: Pick<ProgramFile, "id" | "version">): void {
  ofYards.delete(`${id} ${version}`);
  if (latest.get(id)?.version !== version) return;
  const before = [...ofYards.values()].filter((one) => one.id === id).toSorted((a, b) => b.version - a.version)[0];
  if (before) latest.set(id, before);
  else latest.delete(id);
}

/** Every program there is, in its current version: those that ship, then the yard's own. */
export const allPrograms = (): readonly Program[] => [...PROGRAMS, ...latest.values()];

/** What every program is held to: the whole catalogue. Long reins may run from the halter, without a roller; each program names its own stop. */
export const SAFEGUARD: Program = buildProgram(
  {
    id: "catalogue",
    version: 1,
    name: "Catalogue",
    about: "Every step and gate there is.",
    stop: [],
    needs: { "long-rein": ["drive-behind", "halt-line", "girth-rope"] },
  },
  CATALOGUE,
);

/** Versions that outings were worked under before. */
const FORMER: readonly Program[] = [buildProgram(former as unknown as ProgramFile, CATALOGUE)];

/** A step by its id in whichever program has it: records name steps that the program of today may not have. */
export function findStepAnywhere(id: string): Step | undefined {
  for (const program of [...PROGRAMS, ...latest.values(), ...ofYards.values()]) {
    const step = findStep(program, id);
    if (step) return step;
  }
  return undefined;
}

/** The program with this id, in its current version or in the one asked for; undefined where there is none. */
export function findProgram(id: string, version?: number): Program | undefined {
  return (
    [...PROGRAMS, ...FORMER].find(
      (program) => program.id === id && (version === undefined || program.version === version),
    ) ?? (version === undefined ? latest.get(id) : ofYards.get(`${id} ${version}`))
  );
}

/** The sides of a step that are judged each by itself. */
export type SideKey = Side | "near-fore" | "near-hind" | "off-fore" | "off-hind";

const TWO: readonly SideKey[] = ["near", "off"];
const LEGS: readonly SideKey[] = ["near-fore", "near-hind", "off-fore", "off-hind"];
const WHOLE: readonly SideKey[] = ["none"];

/** The sides a step is judged on: near and off, fore and hind of each, or none. */
export function sidesOf({ side }: Pick<Step, "side">): readonly SideKey[] {
  return side === "none" ? WHOLE : side === "leg" ? LEGS : TWO;
}
