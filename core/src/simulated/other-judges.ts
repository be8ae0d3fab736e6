import type { JudgeNumbers } from "../programs";
import type { Bar } from "../readiness";
import { randomFrom, type Random } from "../random";
import { answersBy, OneSide, type Shares } from "./one-side";
import { trialStep } from "./trial";

/** Whoever says of one side, outing by outing, whether it is there. */
interface SideJudge {
  readonly holds: boolean;
  /** One outing on the next day: whether each ask came clean. */
  work(clean: readonly boolean[]): void;
}

/** The rule of thumb: three good ones in a row, on three days running; lost with the first day without. */
export class ThreeRunning implements SideJudge {
  private days = 0;

  get holds(): boolean {
    return this.days >= 3;
  }

  work(clean: readonly boolean[]): void {
    let row = 0;
    let best = 0;
    for (const one of clean) {
      row = one ? row + 1 : 0;
      best = Math.max(best, row);
    }
    this.days = best >= 3 ? this.days + 1 : 0;
  }
}

/** A plain average: eight of the last ten asks came clean. */
export class LastTen implements SideJudge {
  private last: boolean[] = [];

  get holds(): boolean {
    return this.last.length === 10 && this.last.filter(Boolean).length >= 8;
  }

  work(clean: readonly boolean[]): void {
    this.last = [...this.last, ...clean].slice(-10);
  }
}

/** One kind of judge, made anew for each side. */
export type Judges = Readonly<Record<string, () => SideJudge>>;

/** Ours by a bar, and the two others. */
export const judgesBy = (numbers: JudgeNumbers, bar: Bar): Judges => ({
  ours: () => new OneSide(trialStep(), numbers, bar),
  "three running": () => new ThreeRunning(),
  "last ten": () => new LastTen(),
});

export interface ComparePlan {
  horses: number;
  outings: number;
  asksASide: number;
  /** How often each side of one horse comes clean, for ever. */
  sharesOf: (random: Random) => readonly Shares[];
  /** A side is truly there from this share of cold asks on. */
  there: number;
  seed: number;
}

/** How one judge did with a crowd of horses, each of whose sides a gate asks for. */
export interface Compared {
  /** The outing after which every side was there at once for the first time, horse by horse; infinite where never. */
  firstOpen: readonly number[];
  /** Of all outings of all horses from the twenty-fifth on, after so many every side was there. */
  openLate: number;
  /** Words given, outing by outing and side by side, and those of them of sides that are not truly there. */
  words: number;
  untrue: number;
  /** Horses whose sides were all there at once at some time, and those of them with a side whose first asks are not at 0.60. */
  passed: number;
  passedWithHole: number;
}

const LATE_FROM = 24;
const HOLE = 0.6;

/** Works the same horses, and the very same answers, before several judges. */
export function compareJudges(judges: Judges, plan: ComparePlan): Record<string, Compared> {
  const { horses, outings, asksASide, sharesOf, there, seed } = plan;
  const random = randomFrom(seed);
  const crowd = Array.from({ length: horses }, () => {
    const sides = sharesOf(random);
    return {
      sides,
      answers: Array.from({ length: outings }, () => sides.map((one) => answersBy(one, asksASide, random))),
    };
  });
  const coldOf = ({ warm, cold = warm }: Shares): number => cold;
  return Object.fromEntries(
    Object.entries(judges).map(([name, make]) => {
      const found = { firstOpen: [] as number[], openLate: 0, words: 0, untrue: 0, passed: 0, passedWithHole: 0 };
      for (const { sides, answers } of crowd) {
        const judged = sides.map(() => make());
        let first = Infinity;
        answers.forEach((outing, at) => {
          judged.forEach((side, place) => side.work(outing[place] ?? []));
          const held = judged.flatMap(({ holds }, place) => (holds ? (sides[place] ?? []) : []));
          found.words += held.length;
          found.untrue += held.filter((one) => coldOf(one) < there).length;
          if (held.length < sides.length) return;
          first = Math.min(first, at + 1);
          if (at >= LATE_FROM) found.openLate += 1;
        });
        found.firstOpen.push(first);
        if (first === Infinity) continue;
        found.passed += 1;
        if (sides.some((one) => coldOf(one) < HOLE)) found.passedWithHole += 1;
      }
      const late = horses * Math.max(0, outings - LATE_FROM);
      return [name, { ...found, openLate: late === 0 ? 0 : found.openLate / late }] as const;
    }),
  );
}

/** So many sides as a gate of a rider asks for. */
const GATE_SIDES = 14;

const evenly = (random: Random, from: number, to: number): number => from + random() * (to - from);

/**
 * The mixed population: every side of a horse alike, drawn evenly from 0.90 to 0.98, first asks 0.05 under, rho 0.1; three horses in ten
 * have one side that is a hole, drawn evenly from 0.50 to 0.80, first asks 0.10 under.
 */
export function mixedHorse(random: Random): Shares[] {
  const warm = evenly(random, 0.9, 0.98);
  const hole = random() < 0.3 ? Math.floor(random() * GATE_SIDES) : -1;
  const poor = evenly(random, 0.5, 0.8);
  return Array.from({ length: GATE_SIDES }, (_, place) =>
    place === hole ? { warm: poor, cold: poor - 0.1, rho: 0.1 } : { warm, cold: warm - 0.05, rho: 0.1 },
  );
}

/** A horse whose sides all come clean alike; perhaps but for one. */
export const alikeHorse = (shares: Shares, hole: Shares = shares): Shares[] =>
  Array.from({ length: GATE_SIDES }, (_, place) => (place === 0 ? hole : shares));

/**
 * Sides of any kind, each drawn by itself: six in ten evenly from 0.90 to 0.99, a quarter from 0.75 to 0.90, the others from 0.40 to 0.75;
 * first asks 0.05 under, rho 0.1.
 */
export function anySides(random: Random): Shares[] {
  return Array.from({ length: GATE_SIDES }, () => {
    const kind = random();
    const warm =
      kind < 0.6 ? evenly(random, 0.9, 0.99) : kind < 0.85 ? evenly(random, 0.75, 0.9) : evenly(random, 0.4, 0.75);
    return { warm, cold: warm - 0.05, rho: 0.1 };
  });
}
