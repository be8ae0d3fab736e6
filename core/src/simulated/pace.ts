import { addDays, type Answer, type Day, type FoldedOuting, type StepId } from "../record";
import type { OutingPlan } from "../outing";
import { writeBrief } from "../planning";
import { findStep, sidesOf, type Program, type SideKey, type Step } from "../programs";
import {
  createGathered,
  gatherOn,
  judgeGates,
  judgeGathered,
  mayWork,
  nextAtAge,
  readAbout,
  whatNext,
  wordsOf,
  type Gathered,
} from "../readiness";
import type { Random } from "../random";
import { Hand, outingOf, PERFECT, wantedOf, type Answers } from "./hand";

/** How a horse learns: the share of asks that come clean after so many of a side. */
export interface Learner {
  /** 1 − less · e^(−asks / by) − never. */
  less: number;
  by: number;
  never: number;
  /** How much worse a day's first ask is, and how far the asks of one day hang together. */
  cold?: number;
  rho?: number;
}

/** The share of a side that comes clean, after so many asks of it. */
export const shareAfter = ({ less, by, never }: Learner, asks: number): number =>
  Math.max(0, 1 - less * Math.exp(-asks / by) - never);

/** One link opened by what was good for today: how the weakest side of what it rests on truly was. */
export interface OpenedLink {
  step: StepId;
  base: StepId;
  warm: number;
  cold: number;
}

/** How fast a horse came along the road by the product's own proposals. */
export interface Pace {
  /** The outing after which a step was steady, from one on. */
  steadyAt: Readonly<Record<StepId, number>>;
  /** The outing after which a gate's steps were all shown, and the fewest days one of their sides had then. */
  gates: Readonly<Record<string, { outing: number; days: number }>>;
  links: readonly OpenedLink[];
  /** Steps that were worked although nothing allowed it. */
  beyond: readonly StepId[];
  outings: number;
  asks: number;
  /** What the first of the steps that were waited for lacks in the end: of its gate, of what it rests on, or itself. Empty where it was come to. */
  heldBy: readonly StepId[];
}

interface PacePlan {
  outings: number;
  until: readonly StepId[];
  random: Random;
  /** Minutes of an outing, in place of those of his age. */
  minutes?: number;
}

const FIRST_DAY: Day = "2026-01-05";
/** Old enough for all a program asks. */
const MONTHS = 48;
const LATE = 20;
/** So many asks of a side and an exercise a starter makes at most. */
const ASKS_MOST = 12;

/**
 * Works a horse one outing a day along a program's road by the product's own proposals: the card with its chain, the coach in the pen, the
 * words and gates after it. The hand presses what a person presses.
 *
 * @param until steps after which nobody need go on; with none of them on the road it goes to the end of the outings
 */
export function keepPace(
  program: Program,
  learner: Learner | null,
  { outings: most, until, random, minutes }: PacePlan,
): Pace {
  const gathered = createGathered(program, readAbout([], "UTC"));
  const horse = learner ? new LearningHorse(learner, random) : null;
  const late: FoldedOuting[] = [];
  const steadyAt: Record<StepId, number> = {};
  const gates: Record<string, { outing: number; days: number }> = {};
  const links: OpenedLink[] = [];
  const beyond: StepId[] = [];
  let asks = 0;
  let made = 0;
  const waited = until.filter((step) => findStep(program, step));
  for (; made < most && !(waited.length > 0 && waited.every((step) => steadyAt[step] !== undefined)); made += 1) {
    const day = addDays(FIRST_DAY, made);
    const startedAt = `${day}T09:00:00.000Z`;
    const plan = planOf(gathered, late, day, made, startedAt, minutes);
    const hand = new Hand(plan, `o${made}`, new Set(), { answers: horse?.answers ?? PERFECT, most: ASKS_MOST });
    const left = plan.exercises.flatMap(({ step }) => findStep(program, step) ?? []);
    for (;;) {
      const at = left.findIndex((step) => hand.isOpen(step));
      const [step] = at < 0 || hand.isOver ? [] : left.splice(at, 1);
      if (!step) break;
      const onTrust = plan.exercises.find((one) => one.step === step.id)?.after?.filter(({ stands }) => !stands) ?? [];
      for (const { step: base } of horse ? onTrust : [])
        links.push({ step: step.id, base, ...(horse?.trueOf(findStep(program, base)) ?? { warm: 1, cold: 1 }) });
      if (onTrust.length === 0 && !isAllowed(gathered, step, day)) beyond.push(step.id);
      hand.work(step, wantedOf(program, step));
    }
    asks += hand.asks + hand.watches;
    const folded = outingOf(made, day, startedAt, hand);
    gatherOn(gathered, [folded]);
    late.push(folded);
    for (const { step, status } of wordsOf(gathered, day)) if (status === "steady") steadyAt[step] ??= made + 1;
    for (const { gate, met } of judgeGates(gathered, day))
      if (met) gates[gate] ??= { outing: made + 1, days: fewestDays(gathered, gate) };
  }
  const missing = waited.find((step) => steadyAt[step] === undefined);
  const heldBy = missing === undefined ? [] : lackOf(gathered, missing, addDays(FIRST_DAY, made));
  return { steadyAt, gates, links, beyond, outings: made, asks, heldBy };
}

/** The day as the card has it. @param made outings before it */
function planOf(
  gathered: Gathered,
  late: readonly FoldedOuting[],
  day: Day,
  made: number,
  startedAt: string,
  minutes: number | undefined,
): OutingPlan {
  const { program } = gathered;
  const judgements = judgeGathered(gathered, day);
  const brief = writeBrief({
    program,
    judgements,
    next: nextAtAge(whatNext(gathered, judgements, day), program, MONTHS),
    outings: late.slice(-LATE),
    workDays: made,
    firstDay: made > 0 ? FIRST_DAY : null,
    today: day,
    monthsAtLeast: MONTHS,
  });
  return {
    program,
    startedAt,
    exercises: [...brief.checkCold, ...brief.edge],
    known: judgements.filter(({ status }) => status === "steady").map(({ step }) => step),
    upTo: brief.upTo,
    caps: minutes === undefined ? brief.caps : { workingMinutes: minutes, inHandMinutes: minutes },
  };
}

/** What keeps a step from being worked, or itself. */
function lackOf(gathered: Gathered, step: StepId, day: Day): StepId[] {
  const opening = mayWork(gathered, step, day);
  if (opening.may === "yes") return [step];
  const have = opening.may === "no" ? (opening.why.have as { lacks?: StepId[]; step?: StepId } | null) : null;
  return have?.lacks ?? [have?.step ?? step];
}

/** Whether the step may be worked by itself, or was steady and is checked. */
function isAllowed(gathered: Gathered, step: Step, day: Day): boolean {
  const word = wordsOf(gathered, day).find((one) => one.step === step.id)?.status;
  return word === "steady" || word === "rusty" || word === "slipped" || mayWork(gathered, step.id, day).may !== "no";
}

/** The fewest days on which a side of what a gate asks for was asked, of the ways that are there. */
function fewestDays(gathered: Gathered, id: string): number {
  const gate = gathered.gates.find((one) => one.gate.id === id);
  const states = (gate?.needs ?? []).flatMap((need) =>
    need.flatMap((way) => (way.every(({ state }) => state.sides.every(({ holds }) => holds)) ? way : [])),
  );
  return Math.min(...states.flatMap(({ state }) => state.sides.map(({ evidence }) => evidence.days)));
}

/** A horse that learns each side of each step by the asks of it. */
class LearningHorse {
  private readonly asked = new Map<string, number>();
  private readonly today = new Map<string, { clean: number; share: number }>();

  constructor(
    private readonly learner: Learner,
    private readonly random: Random,
  ) {}

  readonly answers: Answers = (step, side, asksToday) => {
    const key = `${step.id} ${side}`;
    const { rho = 0, cold = 0 } = this.learner;
    const before = this.asked.get(key) ?? 0;
    // What a day is like is drawn with its first ask: the asks of one day hang together by an urn that gives back one more of its kind.
    if (asksToday === 0) this.today.set(key, { clean: 0, share: shareAfter(this.learner, before) });
    const day = this.today.get(key) ?? { clean: 0, share: 1 };
    const share = Math.max(0, shareAfter(this.learner, before) - (asksToday === 0 ? cold : 0));
    const isClean = this.random() < (share * (1 - rho) + day.clean * rho) / (1 - rho + asksToday * rho);
    this.asked.set(key, before + 1);
    if (isClean) day.clean += 1;
    const answer: Answer = isClean ? "gave" : "none";
    return { answer, mood: PERFECT(step, side, asksToday).mood };
  };

  /** How the weakest side of a step truly is now. */
  trueOf(step: Step | undefined): { warm: number; cold: number } {
    const sides: readonly SideKey[] = step ? sidesOf(step) : [];
    const warm = Math.min(...sides.map((side) => shareAfter(this.learner, this.asked.get(`${step?.id} ${side}`) ?? 0)));
    return { warm, cold: Math.max(0, warm - (this.learner.cold ?? 0)) };
  }
}

/** Steps a pace is measured by: the halter, tied, the saddle, and somebody sits on him. */
export const MILESTONES: readonly StepId[] = ["halter-on", "tie", "saddle", "astride"];
