import {
  alwaysUnder,
  findStep,
  gatedRungOf,
  stepsMarked,
  type GatedRung,
  type Program,
  type StepMark,
} from "../programs";
import { daysBetween, type Day, type StepId } from "../record";
import { daysAway } from "./away";
import { liesAheadAgain, notShownSince } from "./back-again";
import type { Judging } from "./judging";
import { isAhead, type Gathered, type GateState, type NeedState, type StepState } from "./states";
import { Openings, type Opening } from "./openings";
import { stepStatus } from "./status";
import { NEXT_REASONS, type Finding, type Judgement, type NextStep, type UpTo, type WhatNext } from "./types";

/**
 * What to work on, the most pressing first: what slipped, then what a begun step rests on and was missed cold the last time, then the edge of
 * the road (steps that are not steady while everything they rest on is or is good today, or a person let them start): what the next gate needs,
 * then what lies longest, then what was never asked, then what stands beside this program's road. Where a gate stands within a step's ladder
 * and is shut, the step may be worked as far as the rung before it. Then what may follow as the work of the day is good. And what to check cold.
 *
 * @param judgements of the same day, in the order of the road
 */
export function whatNext(gathered: Gathered, judgements: readonly Judgement[], today: Day): WhatNext {
  const judged = new Map(judgements.map((one) => [one.step, one]));
  const openings = new Openings(gathered, today);
  const edge = new Edge(gathered, today, openings);
  const work = gathered.steps.flatMap((state, index) => {
    const judgement = judged.get(state.step.id);
    if (!judgement) return [];
    const hasWord = judgement.status === "steady" || judgement.status === "rusty";
    if (hasWord && !edge.isMissedBase(state)) return [];
    const opening = openings.of(state);
    // What slipped, and what is gone back to, waits for nothing under it but a cold check; a gate and a person's hold it waits for.
    const isTakenUp = hasWord || judgement.status === "slipped";
    if (opening.may === "no" && !(opening.why.code === "held" || (isTakenUp && isOnItsOwn(opening.why)))) return [];
    return [{ next: edge.reasonFor(state, judgement, opening, openings), index }];
  });
  const rank = ({ reason }: NextStep): number => NEXT_REASONS.indexOf(reason);
  const checkCold = checksOf(gathered, judgements, openings, today);
  return {
    work: work
      .toSorted((a, b) => rank(a.next) - rank(b.next) || (b.next.days ?? -1) - (a.next.days ?? -1) || a.index - b.index)
      .map(({ next }) => next),
    follow: followingOn(
      gathered,
      judged,
      openings,
      edge,
      work.map(({ next }) => next),
    ),
    checkCold,
    breakDays: breakLeft(gathered, checkCold, today),
    shut: openings.heldBack(),
    gate: edge.gate?.gate.id ?? null,
    upTo: [...edge.shut].map(([step, { rung, gate }]): UpTo => ({ step, rung, gate: gate.id })),
  };
}

/** Whether a finding is about what a step rests on, and that is not rusty. */
const isOnItsOwn = (why: Finding): boolean => why.code === "rests-on" && why.have?.status !== "rusty";

/**
 * What to check cold. What is due comes in the order of the road, the lowest first, and with it what is wanted again before a horse back from a
 * break is ridden; then what falls due soon, the soonest first.
 */
function checksOf(gathered: Gathered, judgements: readonly Judgement[], openings: Openings, today: Day): NextStep[] {
  const beyond = new Set(openings.heldBack().flatMap(({ steps }) => steps));
  const judging = { program: gathered.program, about: gathered.about, today };
  const again = new Set(
    gathered.gates
      .filter((gate) => liesAheadAgain(gate, judging))
      .flatMap((gate) => notShownSince(gate, judging).flatMap(([way = []]) => way.map(({ ref }) => ref.step))),
  );
  const checks = judgements.flatMap((one): NextStep[] => {
    if (beyond.has(one.step)) return [];
    const [check] = checkOf(one);
    if (check?.reason === "rusty" || one.status !== "steady" || !again.has(one.step)) return check ? [check] : [];
    return [{ step: one.step, status: one.status, reason: "back" }];
  });
  const isSoon = ({ reason }: NextStep): boolean => reason === "soon";
  return [
    ...checks.filter((one) => !isSoon(one)),
    ...checks.filter(isSoon).toSorted((a, b) => (a.days ?? 0) - (b.days ?? 0)),
  ];
}

/** Days of a break that is not over: he is away, or something of what is to be shown again after it is left. */
function breakLeft({ away, program }: Gathered, checks: readonly NextStep[], today: Day): number | null {
  const days = daysAway(away, { program, today });
  if (days !== null) return days;
  return away.back !== null && checks.some(({ reason }) => reason === "rusty" || reason === "back") ? away.days : null;
}

/** What the work of a day would open, link by link, as each piece is good. */
function followingOn(
  gathered: Gathered,
  judged: ReadonlyMap<StepId, Judgement>,
  now: Openings,
  edge: Edge,
  work: readonly NextStep[],
): NextStep[] {
  const rusty = [...judged.values()].filter(({ status }) => status === "rusty").map(({ step }) => step);
  const assumed = new Set([...work.flatMap(({ step, reason }) => (reason === "held" ? [] : [step])), ...rusty]);
  const found = new Map<StepState, NextStep>();
  for (let link = 0; link < gathered.program.judge.trustLinks; link += 1) {
    const openings = now.assuming(new Set(assumed));
    const opened = gathered.steps.flatMap((state) => {
      const judgement = judged.get(state.step.id);
      if (!judgement || assumed.has(state.step.id) || judgement.held) return [];
      if (judgement.status === "steady" || judgement.status === "rusty") return [];
      const opening = openings.of(state);
      return opening.may === "yes" ? [[state, edge.reasonFor(state, judgement, opening, openings)] as const] : [];
    });
    for (const [state, next] of opened) {
      assumed.add(state.step.id);
      found.set(state, next);
    }
  }
  return gathered.steps.flatMap((state) => found.get(state) ?? []);
}

/** Ridden canter waits so many months longer than canter on the line: a rider is on top. Still Pine's own judgement. */
const RIDDEN_CANTER_LATER = 6;

/**
 * Holds back what the program does not ask of a horse of this age: weight on his back, canter on the line and ridden.
 *
 * @param months of age, the younger end where a birthday is not known
 */
export function nextAtAge(next: WhatNext, program: Program, months: number): WhatNext {
  const work = next.work.map((one): NextStep => {
    const wanted = ageFor(program, one.step);
    return wanted !== null && months < wanted && one.reason !== "held"
      ? { step: one.step, status: one.status, reason: "too-young", months: wanted }
      : one;
  });
  const isBack = ({ reason }: NextStep): boolean => reason === "too-young" || reason === "held";
  const isOldEnough = ({ step }: NextStep): boolean => months >= (ageFor(program, step) ?? 0);
  return {
    ...next,
    work: [...work.filter((one) => !isBack(one)), ...work.filter(isBack)],
    follow: next.follow.filter(isOldEnough),
    checkCold: next.checkCold.filter(isOldEnough),
  };
}

/** Months a program waits before a step; null where it names none. */
export function ageFor(program: Program, step: StepId): number | null {
  const { canterMonths, ridingMonths } = program.ways;
  const restsOn = (mark: StepMark): boolean =>
    stepsMarked(program, mark).some(({ id }) => id === step || alwaysUnder(program, step).has(id));
  const ridden = restsOn("weight") ? ridingMonths : null;
  if (findStep(program, step)?.marks.includes("canter-line")) return canterMonths;
  if (restsOn("canter-ridden")) return Math.max(ridden ?? 0, (canterMonths ?? 0) + RIDDEN_CANTER_LATER);
  return ridden;
}

const DAYS_A_WEEK = 7;

class Edge {
  /** The gate ahead that takes the fewest steps more, at least one, begun ones counting half; the first of the road where several do. */
  readonly gate: GateState | null;
  private readonly forGate: ReadonlySet<StepState>;
  /** Ids of the steps that begun ones rest on. */
  private readonly bases: ReadonlySet<StepId>;
  /** Gates within the ladders of steps, while they lie ahead and one of the steps they ask for is not steady. */
  readonly shut: ReadonlyMap<StepId, GatedRung>;
  private readonly judging: Judging;

  constructor(
    private readonly gathered: Gathered,
    private readonly today: Day,
    openings: Openings,
  ) {
    this.judging = { program: gathered.program, about: gathered.about, today };
    const { gates, about, program } = gathered;
    const isBeside = ({ before }: GateState): boolean =>
      before.length > 0 && before.every(({ step }) => program.optional.includes(step.id));
    const ahead = gates
      .filter((gate) => isAhead(gate, about) && !isBeside(gate))
      .map((gate) => ({ gate, missing: this.missingFor(gate) }));
    // A gate whose steps are all there wants no more work; the next one is the nearest of the others.
    const nearest = ahead
      .filter(({ missing }) => missing.size > 0)
      .toSorted((a, b) => effortOf(a.missing) - effortOf(b.missing))[0];
    this.shut = new Map(
      gathered.steps.flatMap(({ step }) => {
        const gated = gatedRungOf(program, step);
        return gated && openings.isShut(gated.gate.id) ? [[step.id, gated] as const] : [];
      }),
    );
    const begun = gathered.steps.filter((state) => state.workedIn !== null && !this.holds(state));
    this.bases = new Set(begun.flatMap(({ needs }) => needs.flat(2).map(({ ref }) => ref.step)));
    // After a break the way back to his back comes first.
    this.gate = gates.find((gate) => liesAheadAgain(gate, this.judging)) ?? nearest?.gate ?? null;
    this.forGate = nearest?.missing ?? new Set();
  }

  /** Everything that is not there yet and has to be before a gate: its steps, what they rest on, and what it stands before. */
  private missingFor({ needs, ridden, before }: GateState): Set<StepState> {
    const missing = new Set<StepState>();
    const sure: (readonly NeedState[])[] = [];
    const choices: (readonly (readonly NeedState[])[])[] = [];
    const take = (list: StepState["needs"]): void => {
      for (const need of list) {
        const [only] = need;
        if (need.length === 1 && only) sure.push(only);
        else choices.push(need);
      }
    };
    // Of the ways of a need, the one that has come furthest is the one he takes, and what is wanted anyway takes nothing more.
    const lackOf = (way: readonly NeedState[]): number =>
      way.filter(({ state }) => !missing.has(state) && !this.holds(state)).length;
    take([...needs, ...ridden, ...before.flatMap((state) => state.needs)]);
    for (;;) {
      const way = sure.pop() ?? choices.shift()?.toSorted((a, b) => lackOf(a) - lackOf(b))[0];
      if (!way) return missing;
      for (const { state } of way) {
        if (missing.has(state) || this.holds(state)) continue;
        missing.add(state);
        take(state.needs);
      }
    }
  }

  /** Steady, or only waiting for a check. */
  private holds(state: StepState): boolean {
    const word = stepStatus(state, this.judging, true);
    return word === "steady" || word === "rusty";
  }

  /** Whether a begun step rests on it, and its first ask failed the last time: nothing above it is lost, and work goes back to it first. */
  isMissedBase({ step, sides }: StepState): boolean {
    if (!this.bases.has(step.id)) return false;
    return sides.some(({ evidence }) => evidence.visits.findLast(({ counted }) => counted)?.cold === false);
  }

  /** Days until the bit has been carried as long as the program wants before it asks anything of him. */
  private bitDaysLeft(step: StepId): number {
    const { contactWeeks } = this.gathered.program.ways;
    const { byId, program } = this.gathered;
    if (contactWeeks === null || !byId.get(step)?.step.marks.includes("bit-asks")) return 0;
    const [since] = stepsMarked(program, "bit-carried")
      .flatMap(({ id }) => byId.get(id)?.sides[0]?.steadySince?.day ?? [])
      .toSorted();
    return contactWeeks * DAYS_A_WEEK - (since === undefined ? 0 : daysBetween(since, this.today));
  }

  reasonFor(
    state: StepState,
    { step, status, held, lastAsked }: Judgement,
    opening: Opening,
    openings: Openings,
  ): NextStep {
    const days = lastAsked === null ? {} : { days: daysBetween(lastAsked, this.today) };
    const onTrust = opening.may === "no" || opening.onTrust.length === 0 ? {} : { onTrust: opening.onTrust };
    const after = openings.basesOf(state, opening);
    const next = { step, status, ...days, ...onTrust, ...(after.length > 0 ? { after } : {}) };
    if (held) return { ...next, reason: "held" };
    if (status === "slipped") return { ...next, reason: "slipped" };
    if (this.isMissedBase(state)) return { ...next, reason: "base" };
    const left = this.bitDaysLeft(step);
    if (left > 0) return { step, status, reason: "bit-weeks", days: left };
    if (this.gate && this.forGate.has(state)) return { ...next, reason: "gate", gate: this.gate.gate.id };
    if (this.gathered.program.optional.includes(step)) return { ...next, reason: "beside" };
    if (opening.may === "small") return { ...next, reason: "smaller", gate: opening.gate.gate.id };
    return { ...next, reason: lastAsked === null ? "untried" : "longest" };
  }
}

/** What is begun takes less than what is not. */
const effortOf = (missing: ReadonlySet<StepState>): number =>
  [...missing].reduce((sum, state) => sum + (state.workedIn === null ? 1 : 0.5), 0);

/** Days a check is over due (negative) or until it will be, soonest first. */
function checkOf({ step, status, findings }: Judgement): NextStep[] {
  const of = (code: Finding["code"]): Finding[] => findings.filter((one) => one.code === code && !one.met);
  if (status === "rusty") {
    const over = of("fresh").map(({ have, need }) => Number(need) - Number(have));
    return [{ step, status, reason: "rusty", days: Math.min(...over) }];
  }
  const soon = of("cold-check-due").map(({ have }) => Number(have));
  return soon.length > 0 && status === "steady" ? [{ step, status, reason: "soon", days: Math.min(...soon) }] : [];
}
