import { buildProgram, type ProgramFile } from "./file";
import { findStep } from "./graph";
import { CATALOGUE, FORMER, PROGRAMS, SAFEGUARD } from "./shipped";
import type { Program, Step } from "./types";

/**
 * Stands where a program is named that is not known. Nothing is judged or proposed by it; its steps are those of the catalogue, so that
 * what is recorded meanwhile has its names.
 */
export interface UnknownProgram extends Program {
  readonly isUnknown: true;
}

export const isUnknown = (program: Program): program is UnknownProgram => program.isUnknown === true;

/**
 * All programs one yard can go by: those that ship, and its own in every version. Never changed; another one is made of more files. It
 * belongs to a yard and is handed on with it: to the server's yard, a phone's pack, a kept outing, a worker.
 */
export class ProgramBook {
  /** Every program in its current version: those that ship, then the yard's own. */
  readonly all: readonly Program[];
  private readonly versions: readonly Program[];
  private readonly unknown = new Map<string, UnknownProgram>();

  /** @param files the yard's own programs, every version; a later one of the same id and version is left out */
  constructor(readonly files: readonly ProgramFile[] = []) {
    const own = new Map<string, Program>();
    for (const file of files) {
      const key = keyOf(file.id, file.version);
      if (!own.has(key)) own.set(key, buildProgram(file, CATALOGUE));
    }
    // Entries name steps that a horse's program of today may not have.
    const foreign = [...own.values()].flatMap(({ steps }) => steps).filter(({ id }) => !CATALOGUE_STEPS.has(id));
    const withOthers = (program: Program): Program => {
      const has = new Set(program.steps.map(({ id }) => id));
      const elsewhere = foreign.filter(({ id }) => !has.has(id));
      return elsewhere.length === 0 ? program : { ...program, elsewhere };
    };
    const shipped = PROGRAMS.map(withOthers);
    this.versions = [...shipped, ...FORMER.map(withOthers), ...[...own.values()].map(withOthers)];
    const ids = new Set(shipped.map(({ id }) => id));
    const latest = new Map<string, Program>();
    for (const program of this.versions.slice(shipped.length + FORMER.length))
      if (!ids.has(program.id) && (latest.get(program.id)?.version ?? 0) < program.version)
        latest.set(program.id, program);
    this.all = [...shipped, ...latest.values()];
  }

  /** The program with this id, in its current version or in the one asked for; an unknown one where it is not here, never another. */
  find(id: string, version?: number): Program {
    return this.known(id, version) ?? this.unknownOf(id, version);
  }

  /** The same; undefined where it is not here. */
  known(id: string, version?: number): Program | undefined {
    return version === undefined
      ? this.all.find((one) => one.id === id)
      : this.versions.find((one) => one.id === id && one.version === version);
  }

  has(id: string, version?: number): boolean {
    return this.known(id, version) !== undefined;
  }

  /** This one and more files; those that are here already stay as they are. */
  with(more: readonly ProgramFile[]): ProgramBook {
    const fresh = more.filter(({ id, version }) => !this.has(id, version));
    return fresh.length === 0 ? this : new ProgramBook([...this.files, ...fresh]);
  }

  private unknownOf(id: string, version = 1): UnknownProgram {
    const key = keyOf(id, version);
    const before = this.unknown.get(key);
    if (before) return before;
    const made: UnknownProgram = {
      ...SAFEGUARD,
      id,
      version,
      name: id,
      about: "",
      gates: [],
      optional: [],
      stop: [],
      isUnknown: true,
    };
    this.unknown.set(key, made);
    return made;
  }
}

const keyOf = (id: string, version: number): string => `${id} ${version}`;
const CATALOGUE_STEPS: ReadonlyMap<string, Step> = new Map(SAFEGUARD.steps.map((step) => [step.id, step]));

/** A step by its id, as this program has it or as another one here does: records name steps that the program of today may not have. */
export const findStepAnywhere = (program: Program, id: string): Step | undefined =>
  findStep(program, id) ?? CATALOGUE_STEPS.get(id) ?? program.elsewhere?.find((step) => step.id === id);

/** The book of a yard without programs of its own. */
export const SHIPPED = new ProgramBook();
