import { describe, expect, it } from "vitest";
import { DEFAULT_NUMBERS } from "../programs";
import { barOf } from "../readiness";
import {
  alikeHorse,
  anySides,
  compareJudges,
  judgesBy,
  LastTen,
  mixedHorse,
  ThreeRunning,
  type Compared,
} from "./other-judges";

const rider = judgesBy(DEFAULT_NUMBERS, barOf([{ kind: "rider" }], DEFAULT_NUMBERS));
const ordinary = judgesBy(DEFAULT_NUMBERS, barOf([], DEFAULT_NUMBERS));
const PLAN = { horses: 150, outings: 40, asksASide: 4, there: 0.75, seed: 7 };

describe("the other judges", () => {
  it("say three in a row on three days running, and lose it with the first day without", () => {
    const judge = new ThreeRunning();
    for (const day of [
      [true, true, true],
      [false, true, true, true],
    ])
      judge.work(day);
    expect(judge.holds).toBe(false);
    judge.work([true, true, true, false]);
    expect(judge.holds).toBe(true);
    judge.work([true, true, false, true]);
    expect(judge.holds).toBe(false);
  });

  it("say eight of the last ten, and nothing before there are ten", () => {
    const judge = new LastTen();
    judge.work(Array.from({ length: 9 }, () => true));
    expect(judge.holds).toBe(false);
    judge.work([false]);
    expect(judge.holds).toBe(true);
    judge.work([false, false]);
    expect(judge.holds).toBe(false);
  });
});

describe("before the same horses", () => {
  it("ours is slower than the plain average with a good one, and keeps the gate open as often", () => {
    const { ours, "last ten": ten } = compareJudges(rider, { ...PLAN, sharesOf: () => alikeHorse({ warm: 0.95 }) });
    const middle = ({ firstOpen }: Compared): number => firstOpen.toSorted((a, b) => a - b)[75] ?? 0;
    expect(middle(ours as Compared)).toBeGreaterThan(middle(ten as Compared));
    expect(ours?.openLate).toBeGreaterThan(0.7);
  });

  it("ours opens next to no gate for a hole that both others open one for", () => {
    const hole = compareJudges(rider, { ...PLAN, sharesOf: () => alikeHorse({ warm: 0.96 }, { warm: 0.6 }) });
    expect((hole["ours"]?.passed ?? 1) / PLAN.horses).toBeLessThanOrEqual(0.01);
    expect((hole["last ten"]?.passed ?? 0) / PLAN.horses).toBeGreaterThan(0.8);
  });

  it("ours says few words that are not true, of sides of any kind and of a mixed crowd at a gate", () => {
    const any = compareJudges(ordinary, { ...PLAN, sharesOf: anySides });
    const untrue = ({ untrue: wrong, words }: Compared): number => wrong / words;
    expect(untrue(any["ours"] as Compared)).toBeLessThanOrEqual(0.03);
    expect(untrue(any["last ten"] as Compared)).toBeGreaterThan(0.05);
    const { ours } = compareJudges(rider, { ...PLAN, sharesOf: mixedHorse });
    expect(ours?.passed).toBeGreaterThan(20);
    expect((ours?.passedWithHole ?? 1) / (ours?.passed ?? 1)).toBeLessThanOrEqual(0.08);
  });
});
