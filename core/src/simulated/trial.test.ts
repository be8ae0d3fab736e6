import { describe, expect, it } from "vitest";
import { DEFAULT_NUMBERS } from "../programs";
import { FAMILIES, PLAIN, sumTrials, sureAfter, tryFixedShares, tryJudge, type TrialPlan } from ".";

const { share, sure, gateSure } = DEFAULT_NUMBERS;

describe("sides whose true share never changes", () => {
  const countsOf = (sides: number, forgetBy: number, bar: number, asksAnOuting: number, countAfter: number[]) =>
    tryFixedShares({
      sides,
      asksAnOuting,
      countAfter,
      numbers: { ...DEFAULT_NUMBERS, forgetBy },
      sure: bar,
      miss: "none",
      seed: 7,
    }).map(({ ever, now }) => ({ called: ever.called, ever: ever.right / ever.called, now: now.right / now.called }));

  // Bayes with an even start: P(share ≥ 0.75 | called) is the mean of what was computed when it was called, whenever that was
  // (the stopping rule is irrelevant: Berger & Wolpert, The Likelihood Principle, 1984). Within one point.
  it.each([
    ["a step's", sure],
    ["a gate's", gateSure],
  ])("keep %s promise at the first call, looked at after every ask, with nothing forgotten", (_, bar) => {
    for (const { called, ever } of countsOf(2000, 1, bar, 1, [20, 40, 80])) {
      expect(called).toBeGreaterThan(300);
      expect(ever).toBeGreaterThan(bar - 0.01);
    }
  });

  it("break it in the long run where the past is forgotten; but of the words that stand, far more are right", () => {
    const [short, , long] = countsOf(1000, DEFAULT_NUMBERS.forgetBy, sure, 4, [10, 40, 100]);
    expect(short?.ever).toBeGreaterThan(sure);
    expect(long?.ever).toBeLessThan(sure);
    expect(long?.ever).toBeGreaterThan(sure - 0.1);
    expect(long?.now).toBeGreaterThan(0.95);
  });

  it("lose the word within two outings of going off where the past is forgotten, and keep it for long where it is not", () => {
    const outings = Array.from({ length: 20 }, (_, n) => [true, n < 10, true, n < 10]);
    const fallsAfter = (forgetBy: number): number =>
      sureAfter(outings, { ...DEFAULT_NUMBERS, forgetBy }).findIndex((value, n) => n >= 10 && value < sure) - 10;
    expect(fallsAfter(DEFAULT_NUMBERS.forgetBy)).toBeLessThan(2);
    expect(fallsAfter(1)).toBeGreaterThan(4);
  });
});

/** A tenth of the horses of the table in docs/judge.md. */
const HORSES = 20;
const PLAN: TrialPlan = {
  isGate: false,
  outings: 60,
  asksASide: 4,
  everyDays: 2,
  rest: { before: 40, days: 60 },
};

const sumsOf = (family: string, isGate: boolean, judge: TrialPlan["judge"] = {}) => {
  const nature = FAMILIES[family]?.nature ?? PLAIN;
  const trials = Array.from({ length: HORSES }, (_, n) => tryJudge(nature, { ...PLAN, isGate, judge }, n + 1));
  return sumTrials(trials.flat(), share);
};

describe("horses of families the judge's arithmetic does not assume", () => {
  const getThere = Object.keys(FAMILIES).filter((family) => family !== "not quite");

  it.each(getThere)("%s: a call is right in three of four at least, and a slip seldom stays unseen", (family) => {
    for (const isGate of [false, true]) {
      const { horses, called, right, slips, noticed, noticedAfter, noticedLast } = sumsOf(family, isGate);
      expect(called).toBeGreaterThan(horses / 4);
      expect(right / called).toBeGreaterThanOrEqual(0.75);
      expect(noticed).toBe(slips);
      expect(noticedAfter ?? 0).toBeLessThanOrEqual(0);
      expect(noticedLast ?? 0).toBeLessThanOrEqual(6);
    }
  });

  it("slips happen where the family says so, and nowhere else", () => {
    const slipping = getThere.filter((family) => sumsOf(family, false).slips >= HORSES / 2);
    expect(slipping).toEqual(["setbacks", "forgetful", "fading"]);
  });

  it("a gate is called later than a step, and no horse keeps the word all the time", () => {
    const [step, gate] = [sumsOf("plain", false), sumsOf("plain", true)];
    expect(gate.late ?? 0).toBeGreaterThan(step.late ?? 0);
    expect(step.kept ?? 1).toBeLessThan(0.85);
    expect(step.kept ?? 0).toBeGreaterThan(0.5);
  });

  it("one that never gets there is called by luck in fewer than half, at a gate's bar in fewer than a quarter; a higher bar mends it", () => {
    const { horses, called, right } = sumsOf("not quite", false);
    expect(right).toBe(0);
    expect(called).toBeLessThan(horses / 2);
    expect(sumsOf("not quite", true).called).toBeLessThan(horses / 4);
    expect(sumsOf("not quite", false, { sure: 0.95 }).called).toBeLessThan(horses / 20);
  });
});
