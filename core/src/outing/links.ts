import { asFarAs, breakRow, isEnough, newRow, takeIntoRow, takesUpAgain, worthOfAsk } from "../evidence";
import { findStep, sidesOf, type SideKey, type Step } from "../programs";
import type { AskEvent, StepId } from "../record";
import type { Base } from "../readiness/types";
import type { Exercise, OutingPlan } from "./types";
import type { LinkRow, OutingState } from "./state-types";

/** The bases that pieces of a card rest on, by their step. */
const bases = new WeakMap<OutingPlan, ReadonlyMap<StepId, readonly Base[]>>();

function basesOf(plan: OutingPlan): ReadonlyMap<StepId, readonly Base[]> {
  let known = bases.get(plan);
  if (!known) {
    const all = new Map<string, Base>();
    for (const base of plan.exercises.flatMap(({ after = [] }) => after)) all.set(keyOf(base, ""), base);
    const byStep = new Map<StepId, Base[]>();
    for (const base of all.values()) byStep.set(base.step, [...(byStep.get(base.step) ?? []), base]);
    bases.set(plan, (known = byStep));
  }
  return known;
}

const keyOf = ({ step, rung = "" }: Base, side: SideKey | ""): string => `${step}@${rung} ${side}`;

const NO_LINK_ROW: LinkRow = Object.freeze({ ...newRow(), isFirstClean: false, ids: [] });
const IDS_KEPT = 4;

const rowOf = ({ rows }: OutingState, base: Base, side: SideKey): LinkRow => rows[keyOf(base, side)] ?? NO_LINK_ROW;

/** An outing after one more ask, as far as pieces of its card wait for that step. @param wasAsked whether the standard was asked before */
export function withRows(
  state: OutingState,
  ask: AskEvent,
  step: Step,
  side: SideKey,
  plan: OutingPlan,
  wasAsked: boolean,
): OutingState {
  const waited = basesOf(plan).get(step.id);
  if (!waited) return state;
  const rows = { ...state.rows };
  for (const base of waited) {
    const before = rowOf(state, base, side);
    const isKnown = wasAsked || base.stands || base.waits.includes(side) || before.made > 0;
    const worth = worthOfAsk(ask, base.rung === undefined ? step : asFarAs(step, base.rung), isKnown);
    if (worth === "neutral" || worth === "practice") continue;
    const row = { ...before, ids: [...before.ids.slice(1 - IDS_KEPT), ask.id] };
    takeIntoRow(row, worth, ask);
    if (row.made === 1) row.isFirstClean = row.running > 0;
    rows[keyOf(base, side)] = row;
  }
  return { ...state, rows };
}

/** An outing after something that ends what is good for today: of one step, or of all of them. */
export function withRowsBroken(state: OutingState, step: StepId | null, plan: OutingPlan): OutingState {
  const broken = [...basesOf(plan).values()].flat().filter((base) => step === null || base.step === step);
  if (broken.length === 0) return state;
  const rows = { ...state.rows };
  for (const base of broken)
    for (const side of sidesOf(findStep(plan.program, base.step) ?? { side: "none" })) {
      const row = { ...rowOf(state, base, side) };
      breakRow(row);
      rows[keyOf(base, side)] = row;
    }
  return { ...state, rows };
}

/** Whether a piece of a card may be worked now: what it rests on is good today, or stands by itself and was not missed cold today. */
export interface Link {
  isOpen: boolean;
  /** The first of what it waits for. */
  waitsFor: Base | null;
  /** Missed today, so that the work goes back to it; else it is only not good yet. */
  isMissed: boolean;
  /** Ids of the asks that say so. */
  evidence: readonly string[];
}

/** @param after of the piece; one without has nothing to wait for */
export function linkOf(state: OutingState, plan: OutingPlan, { after = [] }: Pick<Exercise, "after">): Link {
  const closed = after.find((base) => !isThere(state, plan, base));
  if (!closed) return { isOpen: true, waitsFor: null, isMissed: false, evidence: [] };
  const rows = sidesIn(plan, closed).map((side) => rowOf(state, closed, side));
  const missed = rows.filter(({ made, running }) => made > 0 && running < made);
  return { isOpen: false, waitsFor: closed, isMissed: missed.length > 0, evidence: missed.flatMap(({ ids }) => ids) };
}

const sidesIn = ({ program }: OutingPlan, { step }: Base): readonly SideKey[] =>
  sidesOf(findStep(program, step) ?? { side: "none" });

function isThere(state: OutingState, plan: OutingPlan, base: Base): boolean {
  return sidesIn(plan, base).every((side) => isSideThere(state, plan, base, side));
}

function isSideThere(state: OutingState, { program }: OutingPlan, base: Base, side: SideKey): boolean {
  const row = rowOf(state, base, side);
  const step = findStep(program, base.step);
  if (!step) return base.stands;
  if (isEnough(row, step, program.judge)) return true;
  if (base.stands) return row.made === 0 || row.isFirstClean;
  return base.waits.includes(side) && takesUpAgain(row);
}

/** Pieces of the card that rest on a step and may be worked now because it is good today, not yet asked, in their order. */
export function openedBy(state: OutingState, plan: OutingPlan, step: StepId): Exercise[] {
  return plan.exercises.filter(
    (one) =>
      one.after?.some((base) => base.step === step && !base.stands) === true &&
      state.exercises[one.step] === undefined &&
      linkOf(state, plan, one).isOpen,
  );
}
