import { addDays, type Day, type FoldedOuting, type RecordEvent } from "../record";
import { buildProgram, CATALOGUE, sidesOf, type Program, type SideKey } from "../programs";
import { createGathered, gatherOn, readAbout, wordsOf } from "../readiness";
import { SimulatedHorse, type Nature } from "./horse";
import { randomFrom } from "./random";

/** How the judge did with one side of one simulated horse. Outings are counted from 0. */
export interface SideTrial {
  side: SideKey;
  /** The outing after which the side was first called steady, and the true share of clean asks at that moment. */
  called: { outing: number; truth: number } | null;
  /** The outing after which the true share was first at the asked one. */
  reached: number | null;
  /** Whether it was called steady after the last outing. */
  isSteady: boolean;
  /** Times the true share fell well under the asked one while it was called steady, and after how many outings the word fell too. */
  slips: { outing: number; noticedAfter: number | null }[];
}

export interface TrialPlan {
  /** A gate's step, asked for more. */
  isGate: boolean;
  outings: number;
  asksASide: number;
  /** Days between outings, and a break before some outing. */
  everyDays: number;
  rest: { before: number; days: number } | null;
}

/** A fall of the true share is a slip from so far under the asked share on. */
const SLIP_MARGIN = 0.1;

function programOf(isGate: boolean): Program {
  const flex = CATALOGUE.steps.find((step) => step.id === "flex");
  if (!flex) throw new Error("no flex in the catalogue");
  return buildProgram(
    {
      id: "trial",
      version: 1,
      name: "Trial",
      about: "One step with two sides, resting on nothing.",
      stop: [],
      steps: [{ ...flex, needs: [] }],
      gates: isGate ? [{ id: "gate", name: "Gate", before: [], beforeCare: "vet", steps: ["flex"] }] : [],
    },
    CATALOGUE,
  );
}

const FIRST_DAY: Day = "2026-01-05";

/** Works one step with a simulated horse for some outings and has it judged after each, by the real judge. */
export function tryJudge(nature: Nature, plan: TrialPlan, seed: number): SideTrial[] {
  const program = programOf(plan.isGate);
  const [step] = program.steps;
  if (!step) throw new Error("no step");
  const horse = new SimulatedHorse(nature, randomFrom(seed));
  const gathered = createGathered(program, readAbout([], "UTC"));
  const trials = sidesOf(step).map((side): SideTrial => ({
    side,
    called: null,
    reached: null,
    isSteady: false,
    slips: [],
  }));
  let day = FIRST_DAY;
  for (let outing = 0; outing < plan.outings; outing += 1) {
    if (outing > 0) day = addDays(day, plan.rest?.before === outing ? plan.rest.days : plan.everyDays);
    horse.goOut(day);
    const events = trials.flatMap(({ side }) =>
      Array.from({ length: plan.asksASide }, (_, n): RecordEvent => ({
        id: `${outing}-${side}-${n}`,
        at: `${day}T10:00:00Z`,
        type: "ask",
        step: step.id,
        side,
        ...horse.ask(step, side),
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

function noteOuting(trial: SideTrial, outing: number, truth: number, isSteady: boolean, share: number): void {
  if (truth >= share) trial.reached ??= outing;
  if (isSteady) trial.called ??= { outing, truth };
  const open = trial.slips.at(-1);
  const isOpen = open !== undefined && open.noticedAfter === null;
  if (isOpen && !isSteady) open.noticedAfter = outing - open.outing;
  // He came back by himself before anybody could have seen it.
  else if (isOpen && truth >= share) trial.slips.pop();
  else if (!isOpen && trial.isSteady && truth < share - SLIP_MARGIN)
    trial.slips.push({ outing, noticedAfter: isSteady ? null : 0 });
  trial.isSteady = isSteady;
}

/** What many trials come to, for one side. */
export interface TrialSums {
  horses: number;
  called: number;
  /** Calls made while the true share was at the asked one. */
  right: number;
  /** Median outings from when the share was truly there to the call; negative: before it was. */
  late: number | null;
  slips: number;
  noticed: number;
  /** Median outings until a slip was noticed; 0: in the same one. */
  noticedAfter: number | null;
}

/** Sums trials up, side by side. */
export function sumTrials(trials: readonly SideTrial[], share: number): TrialSums {
  const called = trials.flatMap((one) => (one.called ? [{ ...one.called, reached: one.reached }] : []));
  const slips = trials.flatMap((one) => one.slips);
  const noticed = slips.flatMap(({ noticedAfter }) => (noticedAfter === null ? [] : [noticedAfter]));
  return {
    horses: trials.length,
    called: called.length,
    right: called.filter(({ truth }) => truth >= share).length,
    late: median(called.flatMap(({ outing, reached }) => (reached === null ? [] : [outing - reached]))),
    slips: slips.length,
    noticed: noticed.length,
    noticedAfter: median(noticed),
  };
}

function median(values: readonly number[]): number | null {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? null;
}
