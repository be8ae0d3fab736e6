import { addDays, type Day, type FoldedOuting, type RecordEvent } from "../record";
import {
  buildProgram,
  CATALOGUE,
  sidesOf,
  type JudgeNumbers,
  type Program,
  type SideKey,
  type Step,
} from "../programs";
import { inFull } from "../evidence";
import { bodyOfPress } from "../recording";
import { createGathered, gatherOn, readAbout, wordsOf, type Bar } from "../readiness";
import { SimulatedHorse, type Nature } from "./horse";
import { randomFrom } from "../random";

/** How the judge did with one side of one simulated horse. Outings are counted from 0. */
export interface SideTrial {
  side: SideKey;
  /** The outing after which the side was first called steady, and the true share of clean asks at that moment. */
  called: { outing: number; truth: number } | null;
  /** The outing after which the true share was first at the asked one. */
  reached: number | null;
  /** Times the true share fell under the asked one once it was called steady, and how many outings later the word fell; negative: before. */
  slips: { outing: number; noticedAfter: number | null }[];
  /** Outings after the call in which the true share was at the asked one, and those of them after which the word was steady. */
  there: number;
  kept: number;
}

/** What has to be known from one outing to the next. */
interface Watching extends SideTrial {
  isSteady: boolean;
  isThere: boolean;
  /** The outing after which the word was last no longer steady. */
  fell: number;
}

export interface TrialPlan {
  /** Of a step no gate asks for, or of one that a gate of some kind does. */
  kind: Bar["kind"];
  outings: number;
  asksASide: number;
  /** Days between outings, and a break before some outing. */
  everyDays: number;
  rest: { before: number; days: number } | null;
  /** Numbers of the judge in place of the usual ones. */
  judge?: Partial<JudgeNumbers>;
}

/** A step with two sides that rests on nothing, as the trials work it. */
export function trialStep(): Step {
  const [step] = programOf("ordinary", {}).steps;
  if (!step) throw new Error("no step");
  return step;
}

function programOf(kind: Bar["kind"], judge: Partial<JudgeNumbers>): Program {
  const flex = CATALOGUE.steps.find((step) => step.id === "flex");
  if (!flex) throw new Error("no flex in the catalogue");
  return buildProgram(
    {
      id: "trial",
      version: 1,
      name: "Trial",
      about: "One step with two sides, resting on nothing.",
      stop: [],
      judge,
      steps: [{ ...flex, needs: [] }],
      gates:
        kind === "ordinary" ? [] : [{ id: "gate", name: "Gate", kind, before: [], beforeCare: "vet", steps: ["flex"] }],
    },
    CATALOGUE,
  );
}

const FIRST_DAY: Day = "2026-01-05";

/** Works one step with a simulated horse for some outings and has it judged after each, by the real judge. */
export function tryJudge(nature: Nature, plan: TrialPlan, seed: number): SideTrial[] {
  const program = programOf(plan.kind, plan.judge ?? {});
  const [step] = program.steps;
  if (!step) throw new Error("no step");
  const horse = new SimulatedHorse(nature, randomFrom(seed));
  const gathered = createGathered(program, readAbout([], "UTC"));
  const trials = sidesOf(step).map((side): Watching => ({
    side,
    called: null,
    reached: null,
    slips: [],
    there: 0,
    kept: 0,
    isSteady: false,
    isThere: false,
    fell: 0,
  }));
  let day = FIRST_DAY;
  for (let outing = 0; outing < plan.outings; outing += 1) {
    if (outing > 0) day = addDays(day, plan.rest?.before === outing ? plan.rest.days : plan.everyDays);
    horse.goOut(day);
    const events = trials.flatMap(({ side }) =>
      Array.from({ length: plan.asksASide }, (_, n): RecordEvent => ({
        id: `${outing}-${side}-${n}`,
        at: `${day}T10:00:00Z`,
        v: 2,
        ...bodyOfPress({ press: "ask", ...horse.ask(step, side) }, { step: step.id, side, more: inFull(step) }, 0),
      })),
    );
    gatherOn(gathered, [outingOf(day, events)]);
    const [words] = wordsOf(gathered, day);
    for (const trial of trials) {
      const truth = horse.trueShare(step, trial.side);
      noteOuting(trial, outing, truth, words?.sides[trial.side]?.status === "steady", program.judge.share);
    }
  }
  return trials;
}

function outingOf(day: Day, events: RecordEvent[]): FoldedOuting {
  const at = `${day}T10:00:00Z`;
  return { id: day, startedAt: at, endedAt: at, head: { startedAt: at, endedAt: at }, day, events, history: events };
}

function noteOuting(trial: Watching, outing: number, truth: number, isSteady: boolean, share: number): void {
  const isThere = truth >= share;
  if (isThere) trial.reached ??= outing;
  if (trial.isSteady && !isSteady) trial.fell = outing;
  if (trial.called) {
    if (isThere) trial.there += 1;
    if (isThere && isSteady) trial.kept += 1;
    const open = trial.slips.at(-1);
    const isOpen = open !== undefined && open.noticedAfter === null;
    if (isOpen && !isSteady) open.noticedAfter = outing - open.outing;
    // He came back by himself before anybody could have seen it.
    else if (isOpen && isThere) trial.slips.pop();
    else if (trial.isThere && !isThere)
      trial.slips.push({ outing, noticedAfter: isSteady ? null : trial.fell - outing });
  }
  if (isSteady) trial.called ??= { outing, truth };
  trial.isSteady = isSteady;
  trial.isThere = isThere;
}

/** What many trials come to, for one side. */
export interface TrialSums {
  horses: number;
  called: number;
  /** Calls made while the true share was at the asked one. */
  right: number;
  /** Median outings from when the share was truly there to the call; negative: before it was. */
  late: number | null;
  /** Of the outings after the call in which the share was there, the part after which the word was steady. */
  kept: number | null;
  slips: number;
  noticed: number;
  /** Outings until a slip was noticed, median and longest; 0: in the same one, negative: before. */
  noticedAfter: number | null;
  noticedLast: number | null;
}

/** Sums trials up, side by side. */
export function sumTrials(trials: readonly SideTrial[], share: number): TrialSums {
  const called = trials.flatMap((one) => (one.called ? [{ ...one.called, reached: one.reached }] : []));
  const slips = trials.flatMap((one) => one.slips);
  const there = trials.reduce((sum, one) => sum + one.there, 0);
  const noticed = slips.flatMap(({ noticedAfter }) => (noticedAfter === null ? [] : [noticedAfter]));
  return {
    horses: trials.length,
    called: called.length,
    right: called.filter(({ truth }) => truth >= share).length,
    late: median(called.flatMap(({ outing, reached }) => (reached === null ? [] : [outing - reached]))),
    kept: there === 0 ? null : trials.reduce((sum, one) => sum + one.kept, 0) / there,
    slips: slips.length,
    noticed: noticed.length,
    noticedAfter: median(noticed),
    noticedLast: noticed.length === 0 ? null : Math.max(...noticed),
  };
}

function median(values: readonly number[]): number | null {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? null;
}
