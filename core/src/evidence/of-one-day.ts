import { daysBetween } from "../record";
import type { Visit } from "./visit";

/**
 * What a record says of two things nobody has measured on horses: how far asks of one side on one day hang together, and how much worse a
 * day's first ask is than those after it. Sums only, so that those of several horses are added up. They change no verdict.
 */
export interface DaySums {
  /** Pairs of days of one side, one after the other, with two asks or more on each beside the first. */
  pairs: number;
  /** By how much the clean shares of such a pair lie apart beyond what chance within a day would do. */
  shared: number;
  /** How unlike the asks of one day are. */
  apart: number;
  /** Days of a side with a first ask that was cold, and two asks or more after it. */
  colds: number;
  /** Of these first asks, those that came clean. */
  coldClean: number;
  /** The clean shares of the asks after them, summed up. */
  laterClean: number;
}

export const noDaySums = (): DaySums => ({ pairs: 0, shared: 0, apart: 0, colds: 0, coldClean: 0, laterClean: 0 });

/** Days further apart are not compared: in between he may have learned, or forgotten. */
const NEAR_DAYS = 7;
const LEAST_ASKS = 2;

/** Asks beside a day's first one, one by one; what was remembered as a number of asks is none of them. */
export type LaterAsks = Pick<Visit, "day" | "cold" | "later" | "laterClean">;

const shareOf = ({ later, laterClean }: LaterAsks): number => laterClean / later;

/** How often two asks drawn from one day are unlike, halved: what one ask varies within its day. */
const unlikeIn = ({ later, laterClean }: LaterAsks): number =>
  (laterClean * (later - laterClean)) / (later * (later - 1));

/** Adds an outing of a side. @param before the outing before it on this side */
export function addDay(sums: DaySums, before: LaterAsks | undefined, visit: LaterAsks): void {
  if (visit.later < LEAST_ASKS) return;
  if (visit.cold !== undefined) {
    sums.colds += 1;
    sums.coldClean += visit.cold ? 1 : 0;
    sums.laterClean += shareOf(visit);
  }
  if (!before || before.later < LEAST_ASKS) return;
  const between = daysBetween(before.day, visit.day);
  if (between < 1 || between > NEAR_DAYS) return;
  const [one, other] = [unlikeIn(before), unlikeIn(visit)];
  const chance = (one / before.later + other / visit.later) / 2;
  sums.pairs += 1;
  sums.shared += (shareOf(before) - shareOf(visit)) ** 2 / 2 - chance;
  sums.apart += (one + other) / 2;
}

const NAMES = Object.keys(noDaySums()) as (keyof DaySums)[];

/** Sums with others added, or taken away again. */
function withSums(sums: DaySums, other: DaySums, times: 1 | -1): DaySums {
  const both = { ...sums };
  for (const name of NAMES) both[name] += times * other[name];
  return both;
}

const addedUp = (all: readonly DaySums[]): DaySums => all.reduce((sum, one) => withSums(sum, one, 1), noDaySums());

/** An estimate with how much it was made from. */
export interface DayEstimate {
  value: number;
  /** About 95 of 100 such ranges hold the true value; null where there are too few horses to say. */
  range: [number, number] | null;
  /** Pairs of days, or days. */
  from: number;
}

export interface DayEstimates {
  horses: number;
  /** How far asks of one side on one day hang together: 0 not at all, 1 all alike. Null where there is too little. */
  together: DayEstimate | null;
  /** Share of clean first asks less than of those after them, 0.1 for ten of a hundred. Null where there is too little. */
  firstWorse: DayEstimate | null;
}

/** Fewer pairs or days say nothing. Still Pine's own judgement. */
const LEAST_FROM = 50;
const LEAST_HORSES = 4;

/** Null where every ask was alike: then nothing can be said of how they hang together. */
function togetherOf({ shared, apart }: DaySums): number | null {
  return shared + apart > 0 ? Math.min(1, Math.max(0, shared / (shared + apart))) : null;
}

const firstWorseOf = ({ colds, coldClean, laterClean }: DaySums): number | null =>
  colds > 0 ? (laterClean - coldClean) / colds : null;

/**
 * What the records of these horses say, each summed up by itself.
 *
 * Asks that hang together: the correlation within groups, from what varies within a day (the share of unlike pairs, J. L. Fleiss and
 * J. Cuzick 1979, "The reliability of dichotomous judgments") and between two days that follow each other, so that slow learning is not
 * taken for good and bad days (differences of neighbours, J. von Neumann and others 1941). The range leaves out one horse after the other
 * (jackknife, J. W. Tukey 1958).
 */
export function estimateDays(horses: readonly DaySums[]): DayEstimates {
  const all = addedUp(horses);
  return {
    horses: horses.filter(({ pairs, colds }) => pairs + colds > 0).length,
    together: estimate(
      horses.filter(({ pairs }) => pairs > 0),
      all.pairs,
      togetherOf,
      [0, 1],
    ),
    firstWorse: estimate(
      horses.filter(({ colds }) => colds > 0),
      all.colds,
      firstWorseOf,
      [-1, 1],
    ),
  };
}

function estimate(
  horses: readonly DaySums[],
  from: number,
  valueOf: (sums: DaySums) => number | null,
  [least, most]: [number, number],
): DayEstimate | null {
  const all = addedUp(horses);
  const value = valueOf(all);
  if (from < LEAST_FROM || value === null) return null;
  const without = horses.flatMap((one) => valueOf(withSums(all, one, -1)) ?? []);
  if (horses.length < LEAST_HORSES || without.length < horses.length) return { value, range: null, from };
  const mean = without.reduce((sum, one) => sum + one, 0) / without.length;
  const squares = without.reduce((sum, one) => sum + (one - mean) ** 2, 0);
  const about = 2 * Math.sqrt(((without.length - 1) / without.length) * squares);
  return { value, range: [Math.max(least, value - about), Math.min(most, value + about)], from };
}
