import { findStep, gatesOf, sidesOf, type Gate, type NeedRef, type Program, type Step } from "../programs";
import { barOf, type Bar } from "../readiness";
import { randomFrom } from "../random";
import { answersBy, OneSide, type Shares } from "./one-side";

export interface GateTrialPlan {
  horses: number;
  outings: number;
  asksASide: number;
  shares: Shares;
  /** One side that every way of the gate needs comes clean by these instead. */
  hole?: Shares;
  /** So many days of all are bad ones, on which every side comes clean so seldom. */
  badDays?: { chance: number; share: number };
  seed: number;
}

/** What came of one gate on many horses, outing by outing: of how many its steps were open going in, and of how many the day's check passed too. */
export interface GateTrial {
  horses: number;
  open: readonly number[];
  passed: readonly number[];
  /** Horses that passed at least once in so many first outings. */
  everPassed(outings: number): number;
}

/** What a gate asks for: need by need, way by way, the steps. The same step stands for the same sides wherever it is named. */
interface Asked {
  steps: readonly Step[];
  ways: readonly (readonly (readonly number[])[])[];
  /** A step that every way of the gate needs. */
  always: number;
}

function askedBy(program: Program, { needs, ridden }: Gate): Asked {
  const ids: string[] = [];
  const placeOf = ({ step }: NeedRef): number => {
    const known = ids.indexOf(step);
    return known >= 0 ? known : ids.push(step) - 1;
  };
  const ways = [...needs, ...(ridden?.needs ?? [])].map(({ anyOf }) => anyOf.map((way) => way.map(placeOf)));
  const [always = 0] = ways.flatMap((need) => (need.length === 1 ? (need[0] ?? []) : []));
  const steps = ids.map((id) => {
    const step = findStep(program, id);
    if (!step) throw new Error(`no step ${id}`);
    return step;
  });
  return { steps, ways, always };
}

/** Whether minutes or whole outings are among the steps a gate asks for. */
export const asksForHolds = (program: Program, gate: Gate): boolean =>
  askedBy(program, gate).steps.some(({ kind }) => kind !== "moment");

/** Kinds and sides of what a gate asks for, with what each is asked for: gates alike in that come to the same. */
export function shapeOf(program: Program, gate: Gate): string {
  const { steps, ways } = askedBy(program, gate);
  const shapes = steps.map((step) => [
    step.kind,
    sidesOf(step).length,
    barOf(gatesOf(program, step.id), program.judge),
  ]);
  return JSON.stringify([shapes, ways]);
}

type Check = "clean" | "mended" | "missed";

/** How one side did: whether it had the word going into each outing, and how the day's check of it went. */
interface SideRun {
  holds: readonly boolean[];
  check: readonly Check[];
}

/** Sides of many horses worked once each: gates of any program that ask for sides of the same kind by the same bar are tried on the same ones. */
export class SidePool {
  private readonly runs = new Map<string, SideRun[]>();
  private readonly badDays: (readonly boolean[])[] = [];

  constructor(private readonly plan: Omit<GateTrialPlan, "horses" | "hole">) {}

  /** Sides of a step of one horse, counted on from those that were taken of him. */
  sidesFor(step: Step, program: Program, shares: Shares, horse: number, taken: number): SideRun[] {
    const bar = barOf(gatesOf(program, step.id), program.judge);
    const key = JSON.stringify([step.kind, step.still, bar, shares, horse]);
    let runs = this.runs.get(key);
    if (!runs) this.runs.set(key, (runs = []));
    return sidesOf(step).map(
      (_, side) => (runs[taken + side] ??= this.run(step, program, bar, shares, horse, taken + side)),
    );
  }

  private run(step: Step, program: Program, bar: Bar, shares: Shares, horse: number, place: number): SideRun {
    const { asksASide, badDays, seed } = this.plan;
    const random = randomFrom(seedFrom(seed, horse, place, KINDS.indexOf(step.kind)));
    const side = new OneSide(step, program.judge, bar);
    const asks = step.kind === "moment" ? asksASide : 1;
    const holds: boolean[] = [];
    const check: Check[] = [];
    for (const isBad of this.badDaysOf(horse)) {
      holds.push(side.holds);
      // What takes minutes is asked once; a miss of it is mended on another day.
      const came = answersBy(isBad && badDays ? { warm: badDays.share } : shares, asks, random);
      side.work(came);
      const { mendAsks } = program.judge;
      const isMended = came.length > mendAsks && came.slice(1, 1 + mendAsks).every(Boolean);
      check.push(came[0] === true ? "clean" : isMended ? "mended" : "missed");
    }
    return { holds, check };
  }

  private badDaysOf(horse: number): readonly boolean[] {
    const { badDays, outings, seed } = this.plan;
    let days = this.badDays[horse];
    if (!days) {
      const random = randomFrom(seedFrom(seed, horse));
      days = Array.from({ length: outings }, () => badDays !== undefined && random() < badDays.chance);
      this.badDays[horse] = days;
    }
    return days;
  }
}

const KINDS: readonly Step["kind"][] = ["moment", "hold", "outing"];

/**
 * Works the steps of one gate with many horses whose shares never change, one outing a day, judged by the real rules side by side. The
 * day's check: each side once, cold; one may miss if its next two come clean.
 *
 * @param pool sides that other gates were tried on by the same plan
 */
export function tryGate(
  program: Program,
  gate: Gate,
  plan: GateTrialPlan,
  pool: SidePool = new SidePool(plan),
): GateTrial {
  const { outings } = plan;
  const asked = askedBy(program, gate);
  const open = Array.from({ length: outings }, () => 0);
  const passed = Array.from({ length: outings }, () => 0);
  const firstPasses: number[] = [];
  for (let horse = 0; horse < plan.horses; horse += 1) {
    let taken = 0;
    const runs = asked.steps.map((step, place) => {
      const sides = pool.sidesFor(step, program, plan.shares, horse, taken);
      taken += sides.length;
      if (plan.hole && place === asked.always)
        sides.splice(0, 1, ...pool.sidesFor(step, program, plan.hole, horse, 0).slice(0, 1));
      return sides;
    });
    let isFirst = true;
    for (let outing = 0; outing < outings; outing += 1) {
      const ways = asked.ways.map((need) => need.find((way) => way.every((step) => holdsAt(runs[step], outing))));
      if (ways.includes(undefined)) continue;
      open[outing] = (open[outing] ?? 0) + 1;
      const keys = [...new Set(ways.flatMap((way) => way ?? []))].flatMap((step) => runs[step] ?? []);
      if (
        !isDayPassed(
          keys.map(({ check }) => check[outing] ?? "missed"),
          program,
        )
      )
        continue;
      passed[outing] = (passed[outing] ?? 0) + 1;
      if (isFirst) firstPasses.push(outing);
      isFirst = false;
    }
  }
  const everPassed = (most: number): number => firstPasses.filter((outing) => outing < most).length;
  return { horses: plan.horses, open, passed, everPassed };
}

const holdsAt = (sides: readonly SideRun[] | undefined, outing: number): boolean =>
  sides?.every(({ holds }) => holds[outing] === true) ?? false;

const isDayPassed = (checks: readonly Check[], { judge }: Program): boolean =>
  !checks.includes("missed") && checks.filter((one) => one === "mended").length <= judge.mendedMost;

/** A seed of its own for each of several numbers: those next to each other begin alike. */
function seedFrom(...parts: readonly number[]): number {
  let mixed = 0;
  for (const part of parts) {
    mixed = Math.imul(mixed ^ (part + 0x9e3779b9), 0x85ebca6b);
    mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
    mixed ^= mixed >>> 16;
  }
  return mixed;
}
