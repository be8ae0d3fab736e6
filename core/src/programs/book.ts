import { buildProgram } from "./file";
import type { ProgramFile } from "./file-types";
import { findStep } from "./graph";
import { catalogueStep, formerPrograms, PROGRAMS, SAFEGUARD } from "./shipped";
import type { NamedProgram, Program, Step } from "./types";

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
  /** By id and version; former versions of those that ship come to it when somebody asks for one. */
  private readonly versions = new Map<string, Program>();
  private readonly unknown = new Map<string, UnknownProgram>();
  /** Steps of the yard's own programs: entries name steps that a horse's program of today may not have. */
  private readonly foreign: readonly Step[];

  /** @param files the yard's own programs, every version; a later one of the same id and version is left out */
  constructor(readonly files: readonly ProgramFile[] = []) {
    const own = new Map<string, Program>();
    for (const file of files) {
      const key = keyOf(file);
      if (!own.has(key)) own.set(key, buildProgram(file));
    }
    this.foreign = [...own.values()].flatMap(({ steps }) => steps).filter(({ id }) => catalogueStep(id) === undefined);
    const shipped = PROGRAMS.map(this.keep);
    const latest = new Map<string, Program>();
    for (const program of own.values()) {
      if (SHIPPED_IDS.has(program.id)) continue;
      const kept = this.keep(program);
      if ((latest.get(program.id)?.version ?? 0) < program.version) latest.set(program.id, kept);
    }
    this.all = [...shipped, ...latest.values()];
  }

  private readonly keep = (program: Program): Program => {
    const has = new Set(program.steps.map(({ id }) => id));
    const elsewhere = this.foreign.filter(({ id }) => !has.has(id));
    const kept = elsewhere.length === 0 ? program : { ...program, elsewhere };
    this.versions.set(keyOf(program), kept);
    return kept;
  };

  /** The program with this id, in its current version or in the one asked for; an unknown one where it is not here, never another. */
  find(id: string, version?: number): Program {
    return this.known(id, version) ?? this.unknownOf(id, version);
  }

  /** The same; undefined where it is not here. */
  known(id: string, version?: number): Program | undefined {
    if (version === undefined) return this.all.find((one) => one.id === id);
    const here = this.versions.get(keyOf({ id, version }));
    if (here || !SHIPPED_IDS.has(id)) return here;
    const former = formerPrograms().find((one) => one.id === id && one.version === version);
    return former && this.keep(former);
  }

  /**
   * The program by which a horse goes whom somebody put on a version of it. A program that ships stays with him in the edition of the
   * catalogue that he knows, in the newest version on it; of a yard's own the newest version is his. Where no version was said, or one
   * that is not here, it is the newest; an unknown one where the program is not here, never another.
   *
   * @param edition of the catalogue he goes by where no version is said; the newest where that is not said either
   */
  goneBy({ id, version }: NamedProgram, edition?: number): Program {
    const newest = this.known(id);
    if (!newest) return this.find(id, version);
    const then = version === undefined ? edition : this.known(id, version)?.catalogue;
    if (!SHIPPED_IDS.has(id) || then === undefined || then === newest.catalogue) return newest;
    const latest = formerPrograms().findLast((one) => one.id === id && one.catalogue === then);
    return latest ? this.find(id, latest.version) : newest;
  }

  /** The version on a later edition of the catalogue that is offered to who goes by this one; undefined where there is none. */
  offeredTo(named: NamedProgram): Program | undefined {
    const newest = this.known(named.id);
    return newest && newest.catalogue > this.goneBy(named).catalogue ? newest : undefined;
  }

  /** Every program a horse here may go by: the current ones, and what those that ship were on former editions. */
  get inUse(): readonly Program[] {
    const former = formerPrograms().filter((one) => this.goneBy(one).version === one.version);
    return [...this.all, ...former];
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
    const key = keyOf({ id, version });
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

const keyOf = ({ id, version }: Pick<ProgramFile, "id" | "version">): string => `${id} ${version}`;
const SHIPPED_IDS: ReadonlySet<string> = new Set(PROGRAMS.map(({ id }) => id));

/** A step by its id, as this program has it or as another one here does: records name steps that the program of today may not have. */
export const findStepAnywhere = (program: Program, id: string): Step | undefined =>
  findStep(program, id) ?? catalogueStep(id) ?? program.elsewhere?.find((step) => step.id === id);

/** The book of a yard without programs of its own. */
export const SHIPPED = new ProgramBook();
