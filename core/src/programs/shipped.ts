import gates from "./catalogue/gates.json" with { type: "json" };
import former from "./catalogue/loose-pen-start-1.json" with { type: "json" };
import approachAndStand from "./catalogue/schools/approach-and-stand.json" with { type: "json" };
import inHandClassical from "./catalogue/schools/in-hand-classical-start.json" with { type: "json" };
import learningTheory from "./catalogue/schools/learning-theory-start.json" with { type: "json" };
import loosePen from "./catalogue/schools/loose-pen-start.json" with { type: "json" };
import lungeAndHelper from "./catalogue/schools/lunge-and-helper-start.json" with { type: "json" };
import markerAndReward from "./catalogue/schools/marker-and-reward.json" with { type: "json" };
import weanlingCourse from "./catalogue/schools/weanling-course.json" with { type: "json" };
import safeguard from "./catalogue/safeguard.json" with { type: "json" };
import steps from "./catalogue/steps.json" with { type: "json" };
import { buildProgram, type GateFile, type ProgramFile, type StepFile } from "./file";
import type { Program } from "./types";

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

/** What every program is held to: the whole catalogue, with what a program may ask less of; each program names its own stop. */
export const SAFEGUARD: Program = buildProgram(safeguard, CATALOGUE);

/** Versions that outings were worked under before. */
export const FORMER: readonly Program[] = [buildProgram(former as unknown as ProgramFile, CATALOGUE)];
