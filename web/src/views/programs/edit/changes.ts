import type { StepId } from "@still-pine/core/record";
import {
  catalogueOf,
  type Need,
  type NeedFile,
  type NeedRef,
  type ProgramFile,
  type RefFile,
  type StepFile,
} from "@still-pine/core/programs";

/** What can be done with a program while it is written; each makes another file and changes none. */

/** Moves a step to the place of another on the road. */
export function moveStep(file: ProgramFile, step: StepId, to: string): ProgramFile {
  const road = [...(file.road ?? [])];
  const from = road.indexOf(step);
  const at = road.indexOf(to);
  if (from < 0 || at < 0) return file;
  road.splice(from, 1);
  road.splice(at, 0, step);
  return { ...file, road };
}

/** Takes a step from the road; what rested on it rests on it no more. Whether that may be is for the checks to say. */
export function dropStep(file: ProgramFile, step: StepId): ProgramFile {
  return {
    ...file,
    road: (file.road ?? []).filter((id) => id !== step),
    optional: (file.optional ?? []).filter((id) => id !== step),
    ownSteps: (file.ownSteps ?? []).filter(({ id }) => id !== step),
  };
}

/** Puts a step of the catalogue on the road, at its end. */
export const addStep = (file: ProgramFile, step: StepId): ProgramFile => ({
  ...file,
  road: [...(file.road ?? []), step],
});

/** Puts a step of one's own on the road, at its end. */
export const addOwnStep = (file: ProgramFile, step: StepFile): ProgramFile => ({
  ...addStep(file, step.id),
  ownSteps: [...(file.ownSteps ?? []), step],
});

const asRef = (ref: NeedRef): RefFile =>
  ref.setting === undefined && ref.rung === undefined && ref.parts === undefined && ref.gait === undefined
    ? ref.step
    : ref;

/** A need as it is written down. */
function needFile({ anyOf }: Need): NeedFile {
  const ways = anyOf.map((way) => {
    const refs = way.map(asRef);
    const [only] = refs;
    return refs.length === 1 && only !== undefined ? only : { all: refs };
  });
  const [only] = ways;
  return ways.length === 1 && only !== undefined && !(typeof only === "object" && "all" in only) ? only : ways;
}

export const setNeeds = (file: ProgramFile, step: StepId, needs: readonly Need[]): ProgramFile => ({
  ...file,
  needs: { ...file.needs, [step]: needs.map(needFile) },
});

/** Whether what a step of one's own rests on has to be steady before it is begun. */
export const setGuarded = (file: ProgramFile, step: StepId, guarded: boolean): ProgramFile => ({
  ...file,
  ownSteps: (file.ownSteps ?? []).map((one) => (one.id === step ? { ...one, guarded } : one)),
});

export function setStandard(
  file: ProgramFile,
  step: StepId,
  change: NonNullable<ProgramFile["standards"]>[string],
): ProgramFile {
  return { ...file, standards: { ...file.standards, [step]: { ...file.standards?.[step], ...change } } };
}

/** Whether a list names something, turned round. */
export const toggled = (list: readonly string[] | undefined, id: string): string[] =>
  list?.includes(id) ? list.filter((one) => one !== id) : [...(list ?? []), id];

/** Steps of the catalogue that do not stand on the road. */
export const offRoad = ({ road = [], catalogue }: ProgramFile): readonly StepFile[] =>
  catalogueOf(catalogue).steps.filter(({ id }) => !road.includes(id));
