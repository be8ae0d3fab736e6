import { describe, expect, it } from "vitest";
import { DEFAULT_NUMBERS, type GateKind } from "../programs";
import { barOf, type Bar } from "../readiness";
import {
  FAMILIES,
  keptBy,
  outingsUntilLost,
  PLAIN,
  sumTrials,
  sureAfter,
  tryFixedShares,
  tryJudge,
  type TrialPlan,
} from ".";

const { share, sure, gateSure } = DEFAULT_NUMBERS;
const barFor = (kind: GateKind): Bar => barOf([{ kind }], DEFAULT_NUMBERS);
const ORDINARY = barOf([], DEFAULT_NUMBERS);

describe("sides whose true share never changes", () => {
  const countsOf = (sides: number, bar: number | Bar, asksAnOuting: number, countAfter: number[], more: object = {}) =>
    tryFixedShares({
      sides,
      asksAnOuting,
      countAfter,
      numbers: DEFAULT_NUMBERS,
      bar,
      miss: "none",
      seed: 7,
      ...more,
    }).map(({ ever, now }) => ({ called: ever.called, ever: ever.right / ever.called, now: now.right / now.called }));

  // Bayes with an even start: P(share ≥ 0.75 | called) is the mean of what was computed when it was called, whenever that was
  // (the stopping rule is irrelevant: Berger & Wolpert, The Likelihood Principle, 1984). Within one point.
  it.each([
    ["a step's", sure],
    ["a strict gate's", gateSure],
  ])("keep %s promise by the first rule alone, looked at after every ask, with nothing forgotten", (_, bar) => {
    const numbers = { ...DEFAULT_NUMBERS, forgetBy: 1 };
    for (const { called, ever } of countsOf(2000, bar, 1, [20, 40, 80], { numbers })) {
      expect(called).toBeGreaterThan(300);
      expect(ever).toBeGreaterThan(bar - 0.01);
    }
  });

  it.each([
    ["a step's", ORDINARY, 0.8],
    ["a gate of force's", barFor("force"), 0.9],
    ["a rider's gate's", barFor("rider"), 0.9],
  ])("keep %s promise as the judge is used, also where the asks of one day hang together", (_, bar, promised) => {
    for (const rho of [0, 0.1, 0.2]) {
      const [count] = countsOf(800, bar, 4, [40], { rho });
      expect(count?.called).toBeGreaterThan(100);
      expect(count?.ever).toBeGreaterThan(promised);
      expect(count?.now).toBeGreaterThan(0.95);
    }
  });

  it("keep the word while they are good", () => {
    const kept = (shareOf: number, bar: Bar): number =>
      keptBy({ sides: 100, asksASide: 4, numbers: DEFAULT_NUMBERS, bar, seed: 5 }, { warm: shareOf, rho: 0.1 }, 60) ??
      0;
    for (const bar of [ORDINARY, barFor("rider")]) {
      expect(kept(0.95, bar)).toBeGreaterThan(0.97);
      expect(kept(0.9, bar)).toBeGreaterThan(0.85);
    }
  });

  it.each([
    ["at once to a half", { fallBy: 1, fallTo: 0.5 }, 2, 5],
    ["at once to three of ten", { fallBy: 1, fallTo: 0.3 }, 1, 2],
    ["by three hundredths an outing", { fallBy: 0.03, fallTo: 0 }, 3, 8],
  ])("lose the word soon after going off %s", (_, fall, median, late) => {
    for (const bar of [ORDINARY, barFor("rider")]) {
      const plan = { sides: 400, asksASide: 4, numbers: DEFAULT_NUMBERS, bar, seed: 3 };
      const after = outingsUntilLost({ ...plan, good: 0.97, goodOutings: 25, under: share, ...fall });
      expect(after.length).toBeGreaterThan(250);
      expect(after[Math.floor(after.length / 2)]).toBeLessThanOrEqual(median);
      expect(after[Math.floor(after.length * 0.95)]).toBeLessThanOrEqual(late);
    }
  });

  it("are called on the long record, and lost on the last asks", () => {
    const outings = Array.from({ length: 24 }, (_, n) => [n < 12, n < 12, true, n < 12]);
    const seen = sureAfter(outings, DEFAULT_NUMBERS);
    const called = seen.findIndex(({ holds }) => holds);
    const lost = seen.findIndex(({ holds }, n) => n >= 12 && !holds);
    expect(seen[called]?.long).toBeGreaterThanOrEqual(sure);
    expect(lost - 12).toBeLessThan(3);
    expect(seen[lost]?.long).toBeGreaterThan(seen[lost]?.lately ?? 1);
  });
});

/** A tenth of the horses of the table in docs/judge.md. */
const HORSES = 20;
const PLAN: TrialPlan = {
  kind: "ordinary",
  outings: 60,
  asksASide: 4,
  everyDays: 2,
  rest: { before: 40, days: 60 },
};

const sumsOf = (family: string, kind: TrialPlan["kind"], judge: TrialPlan["judge"] = {}) => {
  const nature = FAMILIES[family]?.nature ?? PLAIN;
  const trials = Array.from({ length: HORSES }, (_, n) => tryJudge(nature, { ...PLAN, kind, judge }, n + 1));
  return sumTrials(trials.flat(), share);
};

describe("horses of families the judge's arithmetic does not assume", () => {
  const getThere = Object.keys(FAMILIES).filter((family) => family !== "not quite");

  it.each(getThere)("%s: a call is right in three of four at least, and a slip seldom stays unseen", (family) => {
    for (const kind of ["ordinary", "force"] as const) {
      const { called, right, slips, noticed, noticedAfter, noticedLast } = sumsOf(family, kind);
      expect(called).toBeGreaterThan(0);
      expect(right / called).toBeGreaterThanOrEqual(0.75);
      expect(noticed).toBe(slips);
      expect(noticedAfter ?? 0).toBeLessThanOrEqual(2);
      expect(noticedLast ?? 0).toBeLessThanOrEqual(10);
    }
  });

  it("slips happen where the family says so, and nowhere else", () => {
    const slipping = getThere.filter((family) => sumsOf(family, "ordinary").slips >= HORSES / 2);
    expect(slipping).toEqual(["setbacks", "forgetful", "fading"]);
  });

  it("a gate is called later than a step, and a good horse keeps his word", () => {
    const [step, gate, rider] = (["ordinary", "force", "rider"] as const).map((kind) => sumsOf("plain", kind));
    expect(gate?.late ?? 0).toBeGreaterThan(step?.late ?? 0);
    expect(rider?.late ?? 0).toBeGreaterThanOrEqual(gate?.late ?? 0);
    expect(step?.kept ?? 0).toBeGreaterThan(0.9);
  });

  it("one that never gets there is called by luck in fewer than half, at a strict gate's bar in fewer than a tenth; a higher bar mends it", () => {
    const { horses, called, right } = sumsOf("not quite", "ordinary");
    expect(right).toBe(0);
    expect(called).toBeLessThan(horses / 2);
    expect(sumsOf("not quite", "force").called).toBeLessThan(horses / 10);
    expect(sumsOf("not quite", "ordinary", { sure: 0.95 }).called).toBeLessThan(horses / 20);
  });
});
