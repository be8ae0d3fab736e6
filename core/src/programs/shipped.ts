import former from "./catalogue/loose-pen-start-1.json" with { type: "json" };
import approachAndStand from "./catalogue/schools/approach-and-stand.json" with { type: "json" };
import inHandClassical from "./catalogue/schools/in-hand-classical-start.json" with { type: "json" };
import learningTheory from "./catalogue/schools/learning-theory-start.json" with { type: "json" };
import loosePen from "./catalogue/schools/loose-pen-start.json" with { type: "json" };
import lungeAndHelper from "./catalogue/schools/lunge-and-helper-start.json" with { type: "json" };
import markerAndReward from "./catalogue/schools/marker-and-reward.json" with { type: "json" };
import secondEdition from "./catalogue/schools/second-edition.json" with { type: "json" };
import weanlingCourse from "./catalogue/schools/weanling-course.json" with { type: "json" };
import safeguard from "./catalogue/safeguard.json" with { type: "json" };
import { FIRST_EDITION, isFormerStep, toEdition } from "./editions";
import { buildProgram } from "./file";
import type { ProgramFile } from "./file-types";
import type { Program, Step } from "./types";

/** The programs that ship, as they are written down for the first edition of the catalogue. */
const OF_FIRST_EDITION = [
  loosePen,
  inHandClassical,
  approachAndStand,
  markerAndReward,
  weanlingCourse,
  learningTheory,
  lungeAndHelper,
] as unknown as readonly ProgramFile[];

/** What their next versions have besides what the second edition made of the steps they name; JSON has no literal types, a test reads all of it. */
const OF_SECOND_EDITION = secondEdition as unknown as Readonly<Record<string, Partial<ProgramFile>>>;

/** The programs that ship in their current version, as they are written down. */
export const SCHOOLS: readonly ProgramFile[] = OF_FIRST_EDITION.map((file) => ({
  ...toEdition(file),
  ...OF_SECOND_EDITION[file.id],
}));

/** The current version of every program that ships. */
export const PROGRAMS: readonly Program[] = SCHOOLS.map((file) => buildProgram(file));
export const loosePenStart = PROGRAMS[0] as Program;

/** Versions that horses went by before, the earlier first. They are built when the first one asks for them. */
export function formerPrograms(): readonly Program[] {
  return (builtFormer ??= [former as unknown as ProgramFile, ...OF_FIRST_EDITION].map((file) => buildProgram(file)));
}
let builtFormer: readonly Program[] | undefined;

/** What every program is held to: the whole catalogue, with what a program may ask less of; each program names its own stop. */
export const SAFEGUARD: Program = buildProgram(toEdition(safeguard));

/** The same in the edition a program goes by. */
export const guardOf = ({ catalogue }: Pick<Program, "catalogue">): Program =>
  catalogue === FIRST_EDITION ? (builtGuard ??= buildProgram(safeguard)) : SAFEGUARD;
let builtGuard: Program | undefined;

const CATALOGUE_STEPS: ReadonlyMap<string, Step> = new Map(SAFEGUARD.steps.map((step) => [step.id, step]));

/** A step of the catalogue in any edition, as the newest that has it does. */
export const catalogueStep = (id: string): Step | undefined =>
  CATALOGUE_STEPS.get(id) ??
  (isFormerStep(id) ? guardOf({ catalogue: FIRST_EDITION }).steps.find((step) => step.id === id) : undefined);
