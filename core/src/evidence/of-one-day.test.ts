import { describe, expect, it } from "vitest";
import { addDays, type Day } from "../record";
import { loosePenStart } from "../programs";
import { randomFrom, type Random } from "../random";
import { barOf } from "../readiness";
import { answersBy, OneSide, type Shares } from "../simulated/one-side";
import { trialStep } from "../simulated/trial";
import { addDay, estimateDays, noDaySums, type DaySums, type LaterAsks } from "./of-one-day";

const START: Day = "2026-03-02";
const step = trialStep();
const { judge } = loosePenStart;

/** A horse whose sides come clean so often; the shares may change from outing to outing. Judged by the real evidence of a side. */
function horse(
  sharesOn: (outing: number) => Shares,
  random: Random,
  { sides = 20, outings = 30, asks = 5 } = {},
): DaySums {
  const sums = noDaySums();
  for (let n = 0; n < sides; n += 1) {
    const side = new OneSide(step, judge, barOf([], judge));
    for (let outing = 0; outing < outings; outing += 1) {
      side.work(answersBy(sharesOn(outing), asks, random));
      const visit = side.evidence.visits.at(-1);
      if (visit) addDay(sums, side.evidence.visits.at(-2), visit);
    }
  }
  return sums;
}

const yard = (horses: number, sharesOn: (outing: number) => Shares): DaySums[] => {
  const random = randomFrom(7);
  return Array.from({ length: horses }, () => horse(sharesOn, random));
};

describe("how far asks of one day hang together, from the record alone", () => {
  it.each([0, 0.1, 0.2, 0.4])("finds a correlation of %d again", (rho) => {
    const { together } = estimateDays(yard(12, () => ({ warm: 0.85, rho })));
    expect(together?.value).toBeCloseTo(rho, 1);
    expect(Math.abs((together?.value ?? 1) - rho)).toBeLessThan(0.03);
  });

  it("does not take slow learning for good and bad days", () => {
    const learns = (outing: number): Shares => ({ warm: 0.5 + 0.45 * Math.min(1, outing / 25) });
    expect(estimateDays(yard(12, learns)).together?.value).toBeLessThan(0.03);
  });

  it("gives a range that holds the true value in most yards", () => {
    const random = randomFrom(11);
    let held = 0;
    const yards = 60;
    for (let n = 0; n < yards; n += 1) {
      const horses = Array.from({ length: 8 }, () =>
        horse(() => ({ warm: 0.8, rho: 0.15 }), random, { sides: 6, outings: 15 }),
      );
      const [from, to] = estimateDays(horses).together?.range ?? [1, 0];
      if (from <= 0.15 && 0.15 <= to) held += 1;
    }
    // About 95 of 100 are promised; of sixty yards fewer than 50 would be a rare misfortune.
    expect(held).toBeGreaterThanOrEqual(50);
  });
});

describe("how much worse a day's first ask is", () => {
  it.each([0, 0.1, 0.25])("finds %d again", (less) => {
    const { firstWorse } = estimateDays(yard(12, () => ({ warm: 0.9, cold: 0.9 - less })));
    expect(Math.abs((firstWorse?.value ?? 1) - less)).toBeLessThan(0.02);
    const [from, to] = firstWorse?.range ?? [1, 0];
    expect(from).toBeLessThanOrEqual(less);
    expect(to).toBeGreaterThanOrEqual(less);
  });
});

describe("sums of days", () => {
  const on = (day: number, later: number, laterClean: number, cold?: boolean): LaterAsks => ({
    day: addDays(START, day),
    cold,
    later,
    laterClean,
  });

  it("leave out days far apart, two outings of one day, and days of one later ask", () => {
    const sums = noDaySums();
    addDay(sums, on(0, 3, 3), on(8, 3, 3));
    addDay(sums, on(0, 3, 3), on(0, 3, 3));
    addDay(sums, on(0, 1, 1), on(1, 3, 3));
    addDay(sums, undefined, on(1, 3, 3));
    addDay(sums, on(0, 3, 3), on(1, 1, 0, true));
    expect(sums).toEqual(noDaySums());
  });

  it("are worked out by hand for one pair", () => {
    const sums = noDaySums();
    // Three of four, then one of two: (0.75 - 0.5)² / 2 = 0.03125; unlike 3·1/12 = 0.25 and 1·1/2 = 0.5.
    addDay(sums, on(0, 4, 3), on(1, 2, 1, false));
    expect(sums).toEqual({
      pairs: 1,
      shared: 0.03125 - (0.25 / 4 + 0.5 / 2) / 2,
      apart: 0.375,
      colds: 1,
      coldClean: 0,
      laterClean: 0.5,
    });
  });

  it("say nothing of a record that is too small, nor a range of three horses", () => {
    const random = randomFrom(3);
    const small = horse(() => ({ warm: 0.8 }), random, { sides: 2, outings: 10 });
    expect(estimateDays([small])).toEqual({ horses: 1, together: null, firstWorse: null });
    expect(estimateDays([])).toEqual({ horses: 0, together: null, firstWorse: null });
    const three = Array.from({ length: 3 }, () => horse(() => ({ warm: 0.8, rho: 0.1 }), random));
    expect(estimateDays(three)).toMatchObject({ together: { range: null }, firstWorse: { range: null } });
  });

  it("of horses that never miss say nothing of how asks hang together", () => {
    const perfect = yard(4, () => ({ warm: 1 }));
    expect(estimateDays(perfect)).toMatchObject({ together: null, firstWorse: { value: 0 } });
  });
});
