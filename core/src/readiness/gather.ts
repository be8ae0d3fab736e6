import { isAsk, isSeries, isSign, type Day, type FoldedOuting, type FoldedRecord } from "../record";
import { everythingUnder, sidesOf, type JudgeNumbers, type Program, type Step } from "../programs";
import { SideEvidence, type SavedSide } from "../evidence";
import { standsOnItsOwn } from "./rules";
import { STATUSES, type Status } from "./types";

export interface SideState {
  side: "near" | "off" | "none";
  evidence: SideEvidence;
  /** The outing after which it was first steady; a step keeps its word when a need slips later. */
  steadyAfter: number | null;
  /** Whether it meets rules 1, 3, 4 and 5; asked anew only when it was worked. */
  stands: boolean | null;
}

export interface StepState {
  step: Step;
  sides: SideState[];
  /** Outing in which it was last asked. */
  workedIn: number | null;
  /** Steps it rests on, all the way down. */
  under: StepState[];
  needs: StepState[][];
}

/** The evidence of every step of a program after the last outing of a record. */
export interface Gathered {
  program: Program;
  steps: StepState[];
  /** How many outings it has seen. */
  outings: number;
}

/** A step's evidence as plain data; steps never asked are left out. */
interface SavedStep {
  workedIn: number | null;
  sides: { steadyAfter: number | null; evidence: SavedSide }[];
}

/** What `gather` knew after some outings, as plain data, to go on from. */
export interface SavedGathered {
  outings: number;
  steps: Record<string, SavedStep>;
}

/** What was gathered as plain data: enough to judge and to go on from, without the asks that show as evidence. */
export function saveGathered({ outings, steps }: Gathered): SavedGathered {
  const worked = steps.filter(
    ({ workedIn, sides }) => workedIn !== null || sides.some((side) => side.evidence.freshened),
  );
  return {
    outings,
    steps: Object.fromEntries(
      worked.map(({ step, workedIn, sides }) => [
        step.id,
        { workedIn, sides: sides.map(({ steadyAfter, evidence }) => ({ steadyAfter, evidence: evidence.save() })) },
      ]),
    ),
  };
}

/** Takes up again what was saved. */
export function restoreGathered(program: Program, saved: SavedGathered): Gathered {
  const steps = createStates(program, undefined);
  for (const state of steps) {
    const known = saved.steps[state.step.id];
    if (!known) continue;
    state.workedIn = known.workedIn;
    state.sides.forEach((side, index) => {
      const own = known.sides[index];
      if (!own) return;
      side.steadyAfter = own.steadyAfter;
      side.evidence = SideEvidence.restore(state.step.standard, program.judge, own.evidence);
    });
  }
  return { program, steps, outings: saved.outings };
}

/** Goes on through later outings; every one of them must have begun after those already seen. */
export function gatherOn(gathered: Gathered, outings: readonly FoldedOuting[]): Gathered {
  const byId = new Map(gathered.steps.map((state) => [state.step.id, state]));
  outings.forEach((outing, offset) => {
    const index = gathered.outings + offset;
    const touched = takeOuting(outing, index, byId);
    if (touched) settle(gathered.steps, gathered.program.judge, outing.day, index);
  });
  return { ...gathered, outings: gathered.outings + outings.length };
}

/**
 * Goes through a folded record once, outing by outing, and keeps for each side when it first became steady.
 *
 * @param wholeHistory a step whose asks are all kept for showing, not only those that still carry weight
 */
export function gather(folded: FoldedRecord, program: Program, wholeHistory?: string): Gathered {
  const steps = createStates(program, wholeHistory);
  return gatherOn({ program, steps, outings: 0 }, folded.outings);
}

function createStates(program: Program, wholeHistory: string | undefined): StepState[] {
  const states = program.steps.map((step): StepState => ({
    step,
    workedIn: null,
    under: [],
    needs: [],
    sides: sidesOf(step).map((side) => ({
      side,
      evidence: new SideEvidence(step.standard, program.judge, step.id === wholeHistory),
      steadyAfter: null,
      stands: null,
    })),
  }));
  const byId = new Map(states.map((state) => [state.step.id, state]));
  const pick = (ids: readonly string[]): StepState[] => ids.flatMap((id) => byId.get(id) ?? []);
  for (const state of states) {
    state.under = pick(everythingUnder(program, state.step.id));
    state.needs = state.step.needs.map((need) => pick(need.anyOf));
  }
  return states;
}

function takeOuting(outing: FoldedOuting, index: number, byId: Map<string, StepState>): boolean {
  const touched = new Set<StepState>();
  const shutDown: string[] = [];
  // Asks of one step mostly follow each other.
  let state: StepState | undefined;
  for (const event of outing.events) {
    if (isSign(event)) {
      if (event.sign === "shut-down") shutDown.push(event.id);
      continue;
    }
    if (!isAsk(event) && !isSeries(event)) continue;
    if (state?.step.id !== event.step) {
      state = byId.get(event.step);
      if (state) touched.add(state);
    }
    if (!state) continue;
    const [first, second] = state.sides;
    const side =
      second === undefined || first?.side === event.side ? first : second.side === event.side ? second : undefined;
    if (!side) continue;
    const workedBefore = state.workedIn !== null;
    if (isAsk(event)) side.evidence.ask(event, index, outing.day, workedBefore);
    else side.evidence.series(event, index, outing.day, workedBefore);
  }
  for (const worked of touched) {
    worked.workedIn = index;
    for (const side of worked.sides) if (side.evidence.isOpen) closeSide(worked, side, outing.day, shutDown);
  }
  return touched.size > 0;
}

function closeSide(state: StepState, side: SideState, day: Day, shutDown: string[]): void {
  side.evidence.close(shutDown);
  side.stands = null;
  const lastVisit = side.evidence.visits.at(-1);
  if (lastVisit && lastVisit.clean > 0) for (const under of state.under) freshenUnder(under, side.side, day);
}

/** A clean ask freshens what its step rests on: the same side where both have sides, else all of it. */
function freshenUnder(under: StepState, side: SideState["side"], day: Day): void {
  for (const other of under.sides)
    if (other.side === side || other.side === "none" || side === "none") other.evidence.freshen(day);
}

/** After an outing that asked something: which sides are steady for the first time? Needs stand before what rests on them, so one pass is enough. */
function settle(states: StepState[], numbers: JudgeNumbers, day: Day, index: number): void {
  for (const state of states) {
    const open = state.sides.filter((side) => side.steadyAfter === null && side.evidence.asked > 0);
    // What it rests on first: it is known, while measuring a side costs.
    if (
      open.length === 0 ||
      !state.needs.every((need) => need.some((one) => stepStatus(one, numbers, day) === "steady"))
    )
      continue;
    for (const side of open) if (stands(side, numbers) && !side.evidence.isCheckDue(day)) side.steadyAfter = index;
  }
}

export function stands(side: SideState, numbers: JudgeNumbers): boolean {
  side.stands ??= standsOnItsOwn(side.evidence, numbers);
  return side.stands;
}

/** The word of one side on a day. */
export function sideStatus(side: SideState, numbers: JudgeNumbers, today: Day): Status {
  const { evidence } = side;
  if (evidence.asked === 0) return "untried";
  if (side.steadyAfter !== null) {
    if (!stands(side, numbers)) return "slipped";
    return evidence.isCheckDue(today) ? "rusty" : "steady";
  }
  const weight = evidence.weightClean + evidence.weightNot;
  return evidence.count >= 3 && evidence.weightClean > weight / 2 ? "coming" : "begun";
}

/** The word of a step: that of its weaker side; begun where one side was never asked and the other was. */
export function stepStatus(state: StepState, numbers: JudgeNumbers, today: Day): Status {
  const words = state.sides.map((side) => sideStatus(side, numbers, today));
  if (words.includes("untried")) return words.every((word) => word === "untried") ? "untried" : "begun";
  return STATUSES.find((word) => words.includes(word)) ?? "untried";
}
