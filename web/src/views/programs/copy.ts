import { v7 as newId } from "uuid";
import { OWN_PROGRAM } from "@still-pine/contract/record";
import { catalogueOf, SCHOOLS, type NeedFile, type Program, type ProgramFile } from "@still-pine/core/programs";
import { schoolTextsOf } from "@still-pine/core/programs/school-texts";

/** What a program is written down as; undefined where this device does not know it. */
export function fileOf(program: Program, own: readonly ProgramFile[]): ProgramFile | undefined {
  const school = SCHOOLS.find(({ id }) => id === program.id);
  if (school) return school;
  return own.findLast(({ id, version }) => id === program.id && version === program.version);
}

/** A program to be made one's own: all of its road by name, and every need where it can be changed. */
export function copyOf(program: Program, file: ProgramFile): ProgramFile {
  const { stageNeeds = {}, ...rest } = file;
  const texts = file.texts ?? schoolTextsOf(program.id);
  const ofStages = program.steps.flatMap(({ id, stage }): [string, NeedFile[]][] => {
    const more = stageNeeds[stage];
    const own = file.needs?.[id] ?? catalogueOf(file.catalogue).steps.find((step) => step.id === id)?.needs;
    return more && own ? [[id, [...own, ...more]]] : [];
  });
  return {
    ...rest,
    id: `${OWN_PROGRAM}${newId()}`,
    version: 1,
    name: `${program.name}, ours`,
    road: program.steps.map(({ id }) => id),
    needs: { ...file.needs, ...Object.fromEntries(ofStages) },
    ...(texts ? { texts } : {}),
  };
}
