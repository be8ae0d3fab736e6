import type { Day, StepId } from "../record";
import {
  alwaysAbove,
  findStep,
  findStepAnywhere,
  placeOfRung,
  gatesOf,
  isUnknown,
  refsOf,
  sidesOf,
  stepsInOrder,
  type Gate,
  type NeedRef,
  type Program,
  type SideKey,
  type Step,
} from "../programs";
import { asFarAs, noDaySums, SideEvidence, watchOf, type DaySums, type Watch } from "../evidence";
import type { HorseAbout } from "./about";
import { neverAway, type Away } from "./away";
import { sameSidesAs } from "./same-side";
import { barOf, type Bar } from "./bar";
import type { Finding, FormerAsks, LeastWork } from "./types";

/** When something first held: the outing, by its place in the order, and its day. */
export interface Since {
  outing: number;
  day: Day;
}

export interface SideState {
  side: SideKey;
  /** Sides of steps above it whose clean asks freshen it, as bits of `SIDE_BITS`. */
  freshenedBy: number;
  evidence: SideEvidence;
  /** Whether its own record earned the word, and has not lost it since. */
  holds: boolean;
  /** Since when it was steady; a step keeps its word when a need slips later. */
  steadySince: Since | null;
  /** The same but for the second person: who works alone is not stopped. */
  readySince: Since | null;
  /** The day of the last check-up in which it came clean and did not miss; null once it missed again. */
  checkedOn: Day | null;
  /** What its evidence says, each worked out when it is asked for and kept until the side is worked again. */
  known: {
    /** Findings of those rules, and of what its answers are like. */
    rules: readonly Finding[] | null;
    answers: readonly Finding[] | null;
    /** The least work that would do, for what it was worked out. */
    least: { key: string; work: LeastWork | null } | null;
  };
}

/** One step, or a step as far as one rung of its ladder, with its evidence. */
export interface StepState {
  step: Step;
  /** The rung as far as which it is judged; null for the whole step. */
  rung: number | string | null;
  watch: Watch;
  bar: Bar;
  sides: SideState[];
  /** Outing and day in which it was last asked. */
  workedIn: Since | null;
  /** Its asks that could not say their rung, and say too little to count for its standard. */
  formerAsks: FormerAsks | null;
  /** Whether a side may be about to be steady for the first time: it was worked since it was last known not to be. */
  mayTurn: boolean;
  /** The last outings in which it was asked or offered, and the offers in them. */
  outings: number[];
  offers: { id: string; outing: number }[];
  /** Steps and rungs it rests on directly, by whichever way. */
  under: readonly StepState[];
  /** While an outing ends: on which sides it, or something above it, came clean; bits of `SIDE_BITS`. */
  cleanOn: number;
  /** By need, by way: what has to be there. */
  needs: NeedState[][][];
  /** The first of its needs that was missing when all were last asked for. */
  missing: NeedState[][] | null;
  /** The same step as far as a rung that another one needs; and of such a one the whole step. */
  variants: StepState[];
  whole: StepState | null;
  /** Gates in whose lists it stands. */
  gates: GateState[];
}

export interface NeedState {
  ref: NeedRef;
  state: StepState;
}

export interface GateState {
  gate: Gate;
  /** What it stands before and a horse of this program goes through. */
  before: StepState[];
  /** By need, by way. */
  needs: NeedState[][][];
  ridden: NeedState[][][];
  /** Whether it lies ahead, kept until a side is steady for the first time. */
  isAhead: boolean | null;
  /** Of the gate of the first ride, what an absence leaves to be done, and all steps on its far side; null of all others. */
  away: Away | null;
  beyond: readonly StepState[];
  /** The same gate by the former reading, where his record has anything of it. */
  former: GateState | null;
}

/** The evidence of every step of a program after the last outing of a record. */
export interface Gathered {
  program: Program;
  about: HorseAbout;
  /** Every step in the order of the road. */
  steps: StepState[];
  /** Steps and their rungs, each after everything it rests on. */
  inOrder: StepState[];
  gates: GateState[];
  byId: ReadonlyMap<string, StepState>;
  /** How many outings it has seen. */
  outings: number;
  /** What its days say of how asks hang together. */
  days: DaySums;
  away: Away;
  /** What outings with asks of the former shape come to where all of those were made in full; null where there are none. */
  former: Gathered | null;
}

/** What a state takes from the program alone; its needs name states by their place among all of them. */
interface Mold {
  step: Step;
  rung: number | string | null;
  watch: Watch;
  bar: Bar;
  sides: { side: SideKey; freshenedBy: number }[];
  under: number[];
  needs: NeedMold[][][];
  variants: number[];
  /** By their place among the gates. */
  gates: number[];
}

interface NeedMold {
  ref: NeedRef;
  state: number;
}

/** All states of a program, steps first in the order of the road and then their rungs, and its gates. */
interface Plan {
  molds: Mold[];
  /** So many of them are whole steps. */
  steps: number;
  inOrder: number[];
  gates: { gate: Gate; before: number[]; needs: NeedMold[][][]; ridden: NeedMold[][][] }[];
}

/** Worked out once for each program: a horse's evidence is made anew with every batch that comes in. */
const plans = new WeakMap<Program, Plan>();

function planOf(program: Program): Plan {
  let plan = plans.get(program);
  if (!plan) plans.set(program, (plan = makePlan(isUnknown(program) ? { ...program, steps: [] } : program)));
  return plan;
}

function makePlan(program: Program): Plan {
  const refs = new Map<string, NeedRef[]>();
  const rungs = new Map<string, Set<number | string>>();
  const allNeeds = [
    ...program.steps.flatMap((step) => step.needs),
    ...program.gates.flatMap((gate) => [...gate.needs, ...(gate.ridden?.needs ?? [])]),
  ];
  for (const ref of refsOf(allNeeds)) {
    refs.set(ref.step, [...(refs.get(ref.step) ?? []), ref]);
    const step = findStep(program, ref.step);
    if (ref.rung !== undefined && step && isPartOf(ref.rung, step))
      rungs.set(ref.step, (rungs.get(ref.step) ?? new Set()).add(ref.rung));
  }

  const moldOf = (step: Step, rung: Mold["rung"] = null): Mold => ({
    step,
    rung,
    watch: watchOf(step, refs.get(step.id) ?? []),
    bar: barOf(gatesOf(program, step.id), program.judge),
    sides: sidesOf(step).map((side) => ({ side, freshenedBy: sameSidesAs(side) })),
    under: [],
    needs: [],
    variants: [],
    gates: [],
  });
  const molds = program.steps.map((step) => moldOf(step));
  const steps = molds.length;
  const byId = new Map(program.steps.map((step, place) => [step.id, place]));
  for (const [id, wanted] of rungs) {
    const mold = molds[byId.get(id) ?? -1];
    if (!mold) continue;
    const placeOf = (rung: number | string): number => placeOfRung(mold.step.ladder, rung);
    for (const rung of [...wanted].toSorted((a, b) => placeOf(a) - placeOf(b)))
      mold.variants.push(molds.push(moldOf(asFarAs(mold.step, rung), rung)) - 1);
  }

  // A step that is named and is not here is one that nobody can ask: what rests on it waits.
  const gone = new Map<string, number>();
  const goneOf = (id: string): number => {
    const before = gone.get(id);
    if (before !== undefined) return before;
    const place = molds.push(moldOf(stepThatIsGone(program, id))) - 1;
    gone.set(id, place);
    return place;
  };
  const find = ({ step, rung }: NeedRef): number => {
    const place = byId.get(step);
    if (place === undefined) return goneOf(step);
    const variants = molds[place]?.variants ?? [];
    return variants.find((one) => rung !== undefined && molds[one]?.rung === rung) ?? place;
  };
  const link = (needs: Step["needs"]): NeedMold[][][] =>
    needs.map((need) => need.anyOf.map((way) => way.map((ref) => ({ ref, state: find(ref) }))));
  const pick = (ids: readonly string[]): number[] => ids.flatMap((id) => byId.get(id) ?? []);
  const withVariants = (place: number): number[] => [place, ...(molds[place]?.variants ?? [])];
  for (const mold of molds.slice(0, steps)) {
    const { id, needs } = mold.step;
    const below = new Set(refsOf(needs).map((ref) => ref.step));
    const own = gatesOf(program, id);
    const shared = {
      under: pick([...below]).flatMap(withVariants),
      needs: link(needs),
      gates: program.gates.flatMap((gate, place) => (own.includes(gate) ? [place] : [])),
    };
    Object.assign(mold, shared);
    for (const variant of mold.variants) Object.assign(molds[variant] ?? {}, shared);
  }
  return {
    molds,
    steps,
    inOrder: pick(stepsInOrder(program).map((step) => step.id)).flatMap(withVariants),
    gates: program.gates.map((gate) => ({
      gate,
      before: pick(mainOf(program, gate.before)),
      needs: link(gate.needs),
      ridden: link(gate.ridden?.needs ?? []),
    })),
  };
}

/** Nothing gathered yet. @param wholeHistory a step whose asks are all kept for showing, not only those that still carry weight */
export function createGathered(program: Program, about: HorseAbout, wholeHistory?: string): Gathered {
  const plan = planOf(program);
  const states = plan.molds.map(({ step, rung, watch, bar, sides }): StepState => ({
    step,
    rung,
    watch,
    bar,
    workedIn: null,
    formerAsks: null,
    mayTurn: false,
    outings: [],
    offers: [],
    under: [],
    cleanOn: 0,
    needs: [],
    missing: null,
    variants: [],
    whole: null,
    gates: [],
    sides: sides.map(({ side, freshenedBy }) => ({
      side,
      freshenedBy,
      evidence: new SideEvidence(step, program.judge, watch, step.id === wholeHistory),
      holds: false,
      steadySince: null,
      readySince: null,
      checkedOn: null,
      known: { rules: null, answers: null, least: null },
    })),
  }));
  const away = neverAway();
  const beyond = (gate: Gate): StepState[] => {
    const ids = new Set(gate.before.flatMap((id) => [id, ...alwaysAbove(program, id)]));
    return states.slice(0, plan.steps).filter(({ step }) => ids.has(step.id));
  };
  // Every place a plan names is one of its own.
  const at = (place: number): StepState => states[place] as StepState;
  const link = (needs: NeedMold[][][]): NeedState[][][] =>
    needs.map((need) => need.map((way) => way.map(({ ref, state }) => ({ ref, state: at(state) }))));
  const gates = plan.gates.map(({ gate, before, needs, ridden }): GateState => ({
    gate,
    before: before.map(at),
    needs: link(needs),
    ridden: link(ridden),
    isAhead: null,
    away: gate.roles.includes("first-ride") ? away : null,
    beyond: gate.roles.includes("first-ride") ? beyond(gate) : [],
    former: null,
  }));
  plan.molds.forEach((mold, place) => {
    const state = at(place);
    state.under = mold.under.map(at);
    state.needs = link(mold.needs);
    state.variants = mold.variants.map(at);
    for (const variant of state.variants) variant.whole = state;
    state.gates = mold.gates.map((gate) => gates[gate] as GateState);
  });
  const steps = states.slice(0, plan.steps);
  return {
    program,
    about,
    steps,
    inOrder: plan.inOrder.map(at),
    gates,
    byId: new Map(steps.map((state) => [state.step.id, state])),
    outings: 0,
    days: noDaySums(),
    away,
    former: null,
  };
}

/** Where all that stands behind a gate is beside the road, all of it counts; else only what is on the road. */
function mainOf({ optional }: Program, ids: readonly string[]): readonly string[] {
  const main = ids.filter((id) => !optional.includes(id));
  return main.length > 0 ? main : ids;
}

/** A step that a program names and does not have, as another one has it or by its bare id; nothing of it can be asked. */
function stepThatIsGone(program: Program, id: StepId): Step {
  const known = findStepAnywhere(program, id);
  if (known) return { ...known, needs: [] };
  return {
    id,
    name: id,
    stage: "first-handling",
    side: "none",
    ends: "stop",
    kind: "moment",
    standard: { phase: null, mood: 0, dose: null },
    needs: [],
    guarded: true,
    elsewhere: [],
    still: false,
    end: false,
    rungs: [],
    ladder: { rungs: [], standard: 0, tool: null },
    people: 1,
    marks: [],
  };
}

function isPartOf(rung: number | string, { standard, ladder }: Step): boolean {
  if (typeof rung === "number") return standard.dose?.unit === "rung" && rung < standard.dose.amount;
  const place = placeOfRung(ladder, rung);
  return place >= 0 && place < ladder.standard;
}

/**
 * Whether a gate still lies ahead: what it stands before has never been steady, or its care was not given since its steps were. One that was
 * behind him by the former reading stays behind.
 */
export function isAhead(gate: GateState, about: HorseAbout): boolean {
  return (gate.isAhead ??= liesAhead(gate, about) && (gate.former === null || liesAhead(gate.former, about)));
}

function liesAhead({ gate, before, needs }: GateState, about: HorseAbout): boolean {
  if (gate.beforeCare) {
    const given = about.care[gate.beforeCare];
    const ready = needs.flat(2).map(({ state }) => steadyDay(state));
    return given === undefined || ready.some((day) => day === null || given < day);
  }
  return before.some((state) => state.sides.some((side) => side.steadySince === null));
}

/** The day from which every side was once steady; null where one never was. */
function steadyDay({ sides }: StepState): Day | null {
  const days = sides.map((side) => side.steadySince?.day ?? null);
  return days.reduce<Day | null>(
    (latest, day) => (latest === null || day === null ? null : day > latest ? day : latest),
    days[0] ?? null,
  );
}

/** Whether a gate that lies ahead asks for a cold check of this step. */
export const hasGateAhead = (state: StepState, about: HorseAbout): boolean =>
  state.gates.some((gate) => isAhead(gate, about));
