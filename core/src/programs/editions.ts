import type { StepId } from "../record";
import former from "./catalogue/splits.json" with { type: "json" };
import { LADDERS, readLadder, rungAtSamePlace } from "./ladders";
import type { Catalogue, GateFile, NeedFile, ProgramFile, RefFile, StepFile } from "./file-types";

/** The first edition of the catalogue, which a file means that names none; and the newest one. */
export const FIRST_EDITION = 1;
export const NEWEST_EDITION = 2;

/** What an edition made of a step of the one before. */
interface Split {
  edition: number;
  step: StepId;
  /** The steps it became; itself where it stays. What was recorded of it counts for each of them. */
  heirs: readonly StepId[];
  /** The heir that stands in a stop. */
  stop?: StepId;
  /** Steps that follow it on a road from then on, and for which nothing recorded of it counts. */
  beside?: readonly StepId[];
}

const SPLITS: readonly Split[] = former;
const byStep: ReadonlyMap<StepId, Split> = new Map(SPLITS.map((split) => [split.step, split]));
const byHeir: ReadonlyMap<StepId, StepId> = new Map(
  SPLITS.flatMap(({ step, heirs }) =>
    heirs.flatMap((heir): [StepId, StepId][] => (heir === step ? [] : [[heir, step]])),
  ),
);

/** Whether a former edition has this step and the newest has not. */
export const isFormerStep = (step: StepId): boolean => byStep.get(step)?.heirs.includes(step) === false;

/** The steps that one of a former edition became; the step itself where it stays as it is. */
export const heirsOf = (step: StepId): readonly StepId[] => byStep.get(step)?.heirs ?? [step];

/** The step of a former edition that this one was a part of; undefined where it was none. */
export const formerOf = (step: StepId): StepId | undefined => byHeir.get(step);

/**
 * What was said of a step, by its id: the step's own where there is one, else what was said of the step of a former edition that it
 * was a part of.
 */
export function saidOf<Value>(all: Readonly<Record<string, Value>>, step: StepId): Value | undefined {
  const own = Object.hasOwn(all, step) ? all[step] : undefined;
  const before = formerOf(step);
  return own ?? (before !== undefined && Object.hasOwn(all, before) ? all[before] : undefined);
}

/** What names a rung of a step by its id, with the rung at the same place of an heir's ladder. */
function withRungOf<Value extends object>(step: StepId, heir: StepId, value: Value): Value {
  const { rung } = value as { rung?: unknown };
  if (heir === step || typeof rung !== "string") return value;
  return { ...value, rung: rungAtSamePlace(step, rung, readLadder(LADDERS.get(heir))) };
}

/** Takes what is written for one edition of the catalogue to the next. */
class NextEdition {
  private readonly splits: ReadonlyMap<StepId, Split>;

  constructor(edition: number) {
    this.splits = new Map(SPLITS.filter((split) => split.edition === edition).map((split) => [split.step, split]));
  }

  heirs(step: StepId): readonly StepId[] {
    return this.splits.get(step)?.heirs ?? [step];
  }

  /** Steps on a road, and what stands beside it: all that one became. */
  onRoad = (steps: readonly StepId[]): StepId[] =>
    steps.flatMap((step) => [...this.heirs(step), ...(this.splits.get(step)?.beside ?? [])]);

  /** Steps before a gate or at the end of a road: what one became, and nothing that is new beside it. */
  steps = (steps: readonly StepId[]): StepId[] => steps.flatMap((step) => this.heirs(step));

  stop = (steps: readonly StepId[]): StepId[] =>
    steps.flatMap((step) => this.splits.get(step)?.stop ?? this.heirs(step));

  private ref = (ref: RefFile): RefFile[] =>
    typeof ref === "string"
      ? [...this.heirs(ref)]
      : this.heirs(ref.step).map((step) => ({ ...withRungOf(ref.step, step, ref), step }));

  /** A need of a step that became several is a need of each of them. */
  needs = (needs: readonly NeedFile[]): NeedFile[] =>
    needs.flatMap((need): NeedFile[] => {
      if (!Array.isArray(need)) return this.ref(need);
      return [
        need.map((way) => {
          if (typeof way === "object" && "all" in way) return { all: way.all.flatMap(this.ref) };
          const refs = this.ref(way);
          const [only] = refs;
          return refs.length === 1 && only !== undefined ? only : { all: refs };
        }),
      ];
    });

  /** What is written down by step: each heir has what the step had. */
  byStep<Value extends object>(all: Readonly<Record<string, Value>>): Record<string, Value> {
    return Object.fromEntries(
      Object.entries(all).flatMap(([step, value]) =>
        this.heirs(step).map((heir): [string, Value] => [heir, withRungOf(step, heir, value)]),
      ),
    );
  }

  gate = (gate: GateFile): GateFile => ({
    ...gate,
    before: this.steps(gate.before),
    steps: this.needs(gate.steps),
    ...(gate.ridden ? { ridden: this.needs(gate.ridden) } : {}),
    ...(gate.riddenBefore ? { riddenBefore: this.steps(gate.riddenBefore) } : {}),
  });

  step = (step: StepFile): StepFile => ({ ...step, needs: this.needs(step.needs) });
}

/**
 * The catalogue as the next edition has it.
 *
 * @param fresh the steps that are new in it, with needs as that edition names them
 */
export function nextCatalogue(edition: number, before: Catalogue, fresh: readonly StepFile[]): Catalogue {
  const next = new NextEdition(edition);
  const known = new Map([...before.steps.map(next.step), ...fresh].map((step) => [step.id, step]));
  return {
    steps: next.onRoad(before.steps.map(({ id }) => id)).flatMap((id) => known.get(id) ?? []),
    gates: before.gates.map(next.gate),
  };
}

const mapped = <Value, Key extends string>(key: Key, value: Value | undefined): Partial<Record<Key, Value>> =>
  value === undefined ? {} : ({ [key]: value } as Record<Key, Value>);

/**
 * A program as an edition of the catalogue has it: every step it names by what that became. Its version stays as it is. A file that
 * has all its steps written out itself is of no edition, and stays as it is.
 */
export function toEdition(file: ProgramFile, edition = NEWEST_EDITION): ProgramFile {
  const from = file.catalogue ?? FIRST_EDITION;
  if (from >= edition || file.steps) return file;
  const next = new NextEdition(from + 1);
  const { stageNeeds } = file;
  return toEdition(
    {
      ...file,
      catalogue: from + 1,
      stop: next.stop(file.stop),
      ...mapped("optional", file.optional && next.onRoad(file.optional)),
      ...mapped("road", file.road && next.onRoad(file.road)),
      ...mapped("ends", file.ends && next.steps(file.ends)),
      ...mapped("ownSteps", file.ownSteps?.map(next.step)),
      ...mapped("standards", file.standards && next.byStep(file.standards)),
      ...mapped(
        "needs",
        file.needs &&
          Object.fromEntries(Object.entries(next.byStep(file.needs)).map(([step, needs]) => [step, next.needs(needs)])),
      ),
      ...mapped(
        "stageNeeds",
        stageNeeds &&
          Object.fromEntries(Object.entries(stageNeeds).map(([stage, needs]) => [stage, next.needs(needs)])),
      ),
      ...mapped("gates", file.gates?.map(next.gate)),
    },
    edition,
  );
}
