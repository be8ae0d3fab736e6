import { findStep, sidesOf, type SideKey, type Step } from "../programs";
import { MOODS, TIGHT, type AskEvent, type EventOf, type Mood, type RecordEvent, type StepId } from "../record";
import { askOfDwell, asksStandardAt, sideOfAsk } from "../evidence";
import { weighAnswer, type Answer } from "./answers";
import { withRows, withRowsBroken } from "./links";
import type { Exercise, FinishLine, OutingPlan } from "./types";
import {
  type Going,
  type Scare,
  type SideTally,
  type ExerciseState,
  type EndCause,
  type OutingState,
} from "./state-types";

export const CALM_ANSWERS = 2;
const MOODS_WEIGHED = 6;
const TAIL = 4;
const BIG_FRIGHT = 3;
/** Loose or quiet, whatever a step would allow. */
const QUIET: Mood = 1;
const WORST_SCARE = 1;
const MS_A_MINUTE = 60_000;

const EMPTY_TALLY: SideTally = { asks: 0, practice: 0, good: 0, best: null, goodIds: [], feels: [] };

export const DEFAULT_LINE: FinishLine = { count: 3, worth: "clean" };

export function startOuting(plan: OutingPlan): OutingState {
  return {
    at: Date.parse(plan.startedAt),
    step: null,
    side: "none",
    spurt: null,
    spurts: [],
    watches: [],
    going: null,
    workingMs: 0,
    exercises: {},
    lines: Object.fromEntries([
      ...(plan.checkUp?.tests ?? []).map(
        ({ step, twice }) => [step, { count: twice ? 2 : 1, worth: "clean" }] as const,
      ),
      ...plan.exercises.map(({ step, line }) => [step, line] as const),
    ]),
    tail: [],
    isBest: false,
    lucky: null,
    tightRun: [],
    unquiet: null,
    firstMoods: [],
    lastMoods: [],
    moods: 0,
    fright: null,
    bigFrights: [],
    ends: {},
    easyDone: null,
    asks: 0,
    rows: {},
    against: {},
    standardAsked: Object.fromEntries([
      // What is tested was asked before.
      ...(plan.checkUp?.tests ?? []).map(
        ({ step }) => [step, sidesOf(findStep(plan.program, step) ?? { side: "none" })] as const,
      ),
      ...plan.exercises.map(({ step, asked = [] }) => [step, asked] as const),
    ]),
  };
}

/** Minutes since the start, and of those with the feet working, at a moment. */
export function minutesAt(state: OutingState, plan: OutingPlan, now: number): { inHand: number; working: number } {
  const running = state.spurt && isFeetWork(plan, state.spurt.step) ? Math.max(0, now - state.spurt.from) : 0;
  return {
    inHand: Math.max(0, now - Date.parse(plan.startedAt)) / MS_A_MINUTE,
    working: (state.workingMs + running) / MS_A_MINUTE,
  };
}

/** Standing, giving and looking tire nobody's joints; moving feet do. */
export const isFeetWork = (plan: OutingPlan, step: StepId): boolean => findStep(plan.program, step)?.ends === "move";

export const isAtCap = (state: OutingState, plan: OutingPlan, now: number): boolean => {
  const { inHand, working } = minutesAt(state, plan, now);
  return inHand >= plan.caps.inHandMinutes || working >= plan.caps.workingMinutes;
};

/** Mood over the outing: the first answers and the last ones; null before there are enough. */
function moodDrift({ moods, firstMoods, lastMoods }: OutingState): { first: number; last: number } | null {
  if (moods < 2 * MOODS_WEIGHED) return null;
  const mean = (list: readonly number[]): number => list.reduce((sum, one) => sum + one, 0) / list.length;
  return { first: mean(firstMoods), last: mean(lastMoods.map(({ mood }) => mood)) };
}

const isFalling = (state: OutingState): boolean => {
  const drift = moodDrift(state);
  return drift !== null && drift.last >= 2 && drift.last - drift.first >= 1;
};

/** Why it is time to end, strongest first, time aside. */
export function endCauseOf(state: OutingState): EndCause | "frights" | "falling" | null {
  for (const cause of ["person-hurt", "mishap", "shut-down", "tired"] as const) if (state.ends[cause]) return cause;
  if (state.bigFrights.length >= 2) return "frights";
  if (isFalling(state)) return "falling";
  return state.ends.enough ? "enough" : null;
}

/**
 * The outing after one more entry that stands. Entries come in their order; a clock that went back counts as having stood still.
 */
export function takeEvent(before: OutingState, event: RecordEvent, plan: OutingPlan): OutingState {
  const at = Math.max(before.at, Date.parse(event.at));
  const state: OutingState = { ...before, at };
  switch (event.type) {
    case "ask":
      return takeAsk(state, event, plan);
    case "spurt":
      if (event.edge === "end") return { ...endSpurt(state, plan), going: null };
      return event.step === undefined
        ? state
        : takeUp(state, event.step, sideFor(plan, event.step, event.side, state.side), plan);
    case "side-change":
      return state.step === null
        ? { ...state, side: event.to }
        : takeUp(state, state.step, sideFor(plan, state.step, legOf(event), state.side), plan);
    case "watch": {
      const side = sideOfAsk(event, findStep(plan.program, event.step) ?? { side: "none" }) ?? state.side;
      const begun = takeUp(state, event.step, side, plan);
      return { ...begun, watches: [...state.watches, { id: event.id, step: event.step, side, from: at }] };
    }
    case "dwell": {
      const stood = askOfDwell(event, event.step === undefined ? undefined : findStep(plan.program, event.step));
      return stood ? takeAsk(state, stood, plan) : state;
    }
    case "gait":
      return event.seconds === undefined ? { ...state, going: goingOf(event, at) } : state;
    case "against-gate":
      return {
        ...state,
        against: {
          ...state.against,
          [event.step]: { id: event.id, gate: event.gate, isSaid: event.reason !== undefined },
        },
      };
    case "offer":
      return changed(state, event.step, (one) => ({ ...one, offers: [...one.offers, event.id] }));
    case "startle":
      return takeFright(state, event.id, event.size, event.recoverSeconds !== undefined);
    case "mishap":
      return withRowsBroken(takeMishap(state, event), state.step, plan);
    case "tired":
      return withEnd(state, "tired", event.id);
    case "sign":
      return event.sign === "shut-down" ? withRowsBroken(withEnd(state, "shut-down", event.id), null, plan) : state;
    case "enough":
      return withEnd(state, "enough", event.id);
    case "finish-line":
      return { ...state, lines: { ...state.lines, [event.step]: lineOf(event) } };
    case "outing-end":
      return endSpurt(state, plan);
    default:
      return state;
  }
}

const lineOf = ({ v = 1, count, worth, phase, rung, dose }: EventOf<"finish-line">): FinishLine => ({
  count,
  worth: worth ?? "clean",
  ...(phase === undefined ? {} : { phase }),
  ...(rung === undefined || v < 2 ? {} : { rung }),
  ...(dose === undefined ? {} : { dose }),
});

const goingOf = ({ id, gait, unasked }: EventOf<"gait">, at: number): Going => ({
  id,
  gait,
  at,
  isUnasked: unasked === true,
});

const legOf = ({ to, part }: EventOf<"side-change">): SideKey => (part ? `${to}-${part}` : to);

/** The side meant, or the nearest there is: the first of a step's sides where none was said. */
function sideFor(plan: OutingPlan, stepId: StepId, wanted: SideKey | undefined, now: SideKey): SideKey {
  const step = findStep(plan.program, stepId);
  const sides: readonly SideKey[] = step ? sidesOf(step) : ["near", "off"];
  const of = (side: SideKey): SideKey | undefined =>
    sides.find((one) => one === side) ?? sides.find((one) => one.split("-")[0] === side.split("-")[0]);
  return (wanted === undefined ? undefined : of(wanted)) ?? of(now) ?? sides[0] ?? "none";
}

function endSpurt(state: OutingState, plan: OutingPlan): OutingState {
  if (!state.spurt) return state;
  const { step, side, from } = state.spurt;
  const ms = isFeetWork(plan, step) ? state.at - from : 0;
  return {
    ...state,
    spurt: null,
    spurts: [...state.spurts, { step, side, from, to: state.at }],
    workingMs: state.workingMs + ms,
    tail: [],
    lucky: null,
    isBest: false,
  };
}

function takeUp(state: OutingState, step: StepId, side: SideKey, plan: OutingPlan): OutingState {
  if (state.spurt && state.spurt.step === step && state.spurt.side === side) return state;
  const isAnother = state.step !== step || state.spurt === null;
  const ended = endSpurt(state, plan);
  const begun: OutingState = {
    ...ended,
    step,
    side,
    spurt: { step, side, from: state.at },
    going: state.step === null || state.step === step ? ended.going : null,
  };
  return changed(begun, step, (one) => (isAnother ? { ...one, spurts: one.spurts + 1, offers: [] } : one));
}

function changed(state: OutingState, step: StepId, change: (one: ExerciseState) => ExerciseState): OutingState {
  return { ...state, exercises: { ...state.exercises, [step]: change(exerciseOf(state, step)) } };
}

export const exerciseOf = (state: OutingState, step: StepId): ExerciseState =>
  state.exercises[step] ?? { step, spurts: 0, sides: {}, scare: null, scared: [], offers: [] };

export const tallyOf = (state: OutingState, step: StepId, side: SideKey): SideTally =>
  state.exercises[step]?.sides[side] ?? EMPTY_TALLY;

export const lineFor = (state: OutingState, step: StepId): FinishLine => state.lines[step] ?? DEFAULT_LINE;

export const plannedOf = (plan: OutingPlan, step: StepId): Exercise | undefined =>
  plan.exercises.find((one) => one.step === step);

/** Whether a side has come to today's line. */
export const isReached = (state: OutingState, step: StepId, side: SideKey): boolean =>
  tallyOf(state, step, side).good >= lineFor(state, step).count;

function takeAsk(before: OutingState, ask: AskEvent, plan: OutingPlan): OutingState {
  const step = findStep(plan.program, ask.step);
  if (!step) return before;
  const side = sideOfAsk(ask, step) ?? sideFor(plan, ask.step, ask.side, before.side);
  let state = takeUp(before, ask.step, side, plan);
  const wasAsked = state.standardAsked[ask.step]?.includes(side) === true;
  const answer = weighAnswer(ask, step, lineFor(state, ask.step), wasAsked);
  if (answer && !wasAsked && asksStandardAt(ask, step) !== null) state = withStandardAsked(state, ask.step, side);
  state = withRows(withMood(state, ask, step, side), ask, step, side, plan, wasAsked);
  if (answer) state = withAnswer(state, answer, plan);
  const { watch } = ask;
  const watches = watch === undefined ? state.watches : state.watches.filter(({ id }) => id !== watch);
  return { ...state, asks: state.asks + 1, watches };
}

const withStandardAsked = (state: OutingState, step: StepId, side: SideKey): OutingState => ({
  ...state,
  standardAsked: { ...state.standardAsked, [step]: [...(state.standardAsked[step] ?? []), side] },
});

/** How he was counts whatever he answered. */
function withMood(state: OutingState, { id, mood, after }: AskEvent, step: Step, side: SideKey): OutingState {
  let next = state;
  if (mood !== undefined) {
    next = {
      ...next,
      moods: next.moods + 1,
      firstMoods: next.firstMoods.length < MOODS_WEIGHED ? [...next.firstMoods, mood] : next.firstMoods,
      lastMoods: [...next.lastMoods.slice(1 - MOODS_WEIGHED), { id, mood }],
    };
    const isTight = mood >= TIGHT;
    if (isTight) next = { ...next, tightRun: [...next.tightRun.slice(-1), id] };
    else next = { ...next, tightRun: [] };
    if (mood === 4) next = withScare(next, step.id, { kind: "over", side: null, ids: [id], calm: 0 });
    else if (isTight && next.tightRun.length >= 2)
      next = withScare(next, step.id, { kind: "two-tight", side, ids: next.tightRun, calm: 0 });
  }
  return after === "bolted" ? withScare(next, step.id, { kind: "bolt", side: null, ids: [id], calm: 0 }) : next;
}

/** A fright stays until he is quiet again, and is not made less by a lesser one. */
function withScare(state: OutingState, step: StepId, scare: Scare): OutingState {
  const { kind, ids } = scare;
  const next = changed(state, step, (one) => ({
    ...one,
    scare: one.scare && one.scare.kind !== "two-tight" && kind === "two-tight" ? { ...one.scare, calm: 0 } : scare,
    scared: kind === "two-tight" ? one.scared : [...one.scared, ...ids],
  }));
  return { ...next, unquiet: { ids, calm: 0 } };
}

/** Smaller is better: lighter first, then looser. */
const feelOf = ({ phase = 0, mood = 4 }: Answer): number => phase * 5 + mood;

function withFeel(feels: readonly number[], { phase = 0, mood }: Answer): readonly number[] {
  if (mood === undefined) return feels;
  const at = phase * MOODS.length + mood;
  return Array.from(
    { length: Math.max(feels.length, at + 1) },
    (_, index) => (feels[index] ?? 0) + (index === at ? 1 : 0),
  );
}

function withAnswer(before: OutingState, answer: Answer, plan: OutingPlan): OutingState {
  const { step, side, good, right } = answer;
  const isPractice = answer.worth === "practice";
  const exercise = exerciseOf(before, step);
  const tally = exercise.sides[side] ?? EMPTY_TALLY;
  const feel = good || answer.heavy ? feelOf(answer) : null;
  const isBest = good && tally.best !== null && feel !== null && feel < tally.best;
  const last = before.tail.findLast(({ worth }) => worth !== "practice");
  const isLucky = good && (last?.given === "none" || last?.given === "against");
  const isProof = good && before.lucky !== null && (answer.phase ?? 0) <= (before.lucky.phase ?? 4);
  const { scare } = exercise;
  const isTheirs = scare !== null && (scare.side === null || scare.side === side);
  const calmer = scare && isTheirs ? { ...scare, calm: right ? scare.calm + 1 : 0 } : scare;
  const wasEnding = endCauseOf(before) !== null || isAtCap(before, plan, before.at);
  const state = changed(before, step, (one) => ({
    ...one,
    scare: calmer && calmer.calm >= CALM_ANSWERS ? null : calmer,
    sides: {
      ...one.sides,
      [side]: {
        asks: tally.asks + 1,
        practice: tally.practice + (isPractice ? 1 : 0),
        good: tally.good + (good ? 1 : 0),
        best: feel === null ? tally.best : Math.min(tally.best ?? feel, feel),
        goodIds: good ? [...tally.goodIds.slice(-4), answer.id] : tally.goodIds,
        ...(answer.rung === undefined ? {} : { onRung: rungAfter(tally, answer.rung, right) }),
        feels: withFeel(tally.feels, answer),
      },
    },
  }));
  const { unquiet } = before;
  const calm = unquiet && right && answer.mood !== undefined && answer.mood <= QUIET ? unquiet.calm + 1 : 0;
  return {
    ...state,
    tail: [...before.tail.slice(1 - TAIL), answer],
    isBest,
    lucky: luckyAfter(before, answer, isLucky, isProof),
    unquiet: unquiet === null || calm >= CALM_ANSWERS ? null : { ...unquiet, calm },
    fright: right && before.fright ? { ...before.fright, quiet: true } : before.fright,
    easyDone: before.easyDone ?? (wasEnding && right && isKnown(plan, step) ? answer.id : null),
  };
}

const rungAfter = ({ onRung }: SideTally, rung: number, right: boolean): { rung: number; right: number } => ({
  rung,
  right: right ? 1 + (onRung?.rung === rung ? onRung.right : 0) : 0,
});

/** The good one that may have been luck, after one more answer; practice neither proves it nor lays it aside. */
function luckyAfter({ lucky }: OutingState, answer: Answer, isLucky: boolean, isProof: boolean): OutingState["lucky"] {
  if (isLucky) return { id: answer.id, phase: answer.phase };
  return answer.worth === "practice" || (answer.good && !isProof) ? lucky : null;
}

const isKnown = ({ known }: OutingPlan, step: StepId): boolean => known.length === 0 || known.includes(step);

function takeFright(state: OutingState, id: string, size: number, quiet: boolean): OutingState {
  const next: OutingState = {
    ...state,
    fright: { id, at: state.at, size, quiet },
    unquiet: size >= BIG_FRIGHT ? { ids: [id], calm: 0 } : state.unquiet,
    bigFrights: size >= BIG_FRIGHT ? [...state.bigFrights, id] : state.bigFrights,
  };
  return size >= BIG_FRIGHT && next.step !== null
    ? withScare(next, next.step, { kind: "fright", side: null, ids: [id], calm: 0 })
    : next;
}

function takeMishap(state: OutingState, { id, personHurt, toTell, severity }: EventOf<"mishap">): OutingState {
  if (personHurt) return withEnd(state, "person-hurt", id);
  // Until it is told how bad it was, it is taken as bad.
  if (toTell === true || severity === undefined || severity > WORST_SCARE) return withEnd(state, "mishap", id);
  return state.step === null
    ? { ...state, unquiet: { ids: [id], calm: 0 } }
    : withScare(state, state.step, { kind: "scare", side: null, ids: [id], calm: 0 });
}

function withEnd(state: OutingState, cause: EndCause, id: string): OutingState {
  return { ...state, ends: { ...state.ends, [cause]: [...(state.ends[cause] ?? []), id] } };
}

/** Whether the running spurt has lasted as long as the program gives one thing; never where it stays with one. @param now milliseconds since 1970 */
export function isSpurtLong({ spurt }: OutingState, { program }: OutingPlan, now: number): boolean {
  const most = program.coach.spurtSeconds;
  return most !== null && spurt !== null && now - spurt.from >= most * 1000;
}
