import { describe, expect, it } from "vitest";
import { loosePenStart } from "../programs";
import { dayIn, daysBetween } from "../record";
import { judgeRecord, waitingSteps } from "../readiness";
import { buildDemoYard, randomFrom, SimulatedHorse } from ".";

const TODAY = "2026-05-20";
const build = (today: string) => {
  let n = 0;
  return buildDemoYard(today, () => `id${(n += 1)}`);
};
const verdictsOf = (name: string, today = TODAY) => {
  const record = build(today).find((one) => one.horse.name === name);
  if (!record) throw new Error(`no ${name}`);
  return judgeRecord(record, loosePenStart, `${today}T12:00:00Z`);
};
const wordOf = (name: string, step: string) => verdictsOf(name).find((one) => one.step === step);

describe("the demo yard", () => {
  it("is the same for the same day", () => {
    expect(build(TODAY)).toEqual(build(TODAY));
  });

  it("has three horses with some two weeks of outings each, none of them today or later", () => {
    const yard = build(TODAY);
    expect(yard.map((record) => record.horse.name)).toEqual(["Teasel", "Bracken", "Plover"]);
    for (const { outings } of yard) {
      const days = outings.map((outing) => daysBetween(dayIn("Europe/Dublin", outing.startedAt), TODAY));
      expect(days.length).toBeGreaterThanOrEqual(8);
      expect(Math.max(...days)).toBeLessThanOrEqual(14);
      expect(Math.min(...days)).toBeGreaterThanOrEqual(1);
    }
  });

  it("gives the same words on whichever day it is built, over a clock change too", () => {
    for (const name of ["Teasel", "Bracken", "Plover"])
      for (const day of ["2026-03-30", "2026-11-01", "2027-01-01"])
        expect(verdictsOf(name, day).map((one) => one.status)).toEqual(verdictsOf(name).map((one) => one.status));
  });

  it("Teasel, gathered ten days ago, has come as far as the rope", () => {
    expect(wordOf("Teasel", "share-space")?.status).toBe("steady");
    expect(waitingSteps(verdictsOf("Teasel"), loosePenStart)[0]?.step).toBe("catch-rope");
    expect(wordOf("Teasel", "halter-on")?.status).toBe("untried");
  });

  it("Bracken is at the halter with a sticky off side", () => {
    const halter = wordOf("Bracken", "halter-on");
    expect(halter?.sides.near?.sure).toBeGreaterThan(0.8);
    expect(halter?.sides.off?.sure).toBeLessThan(0.3);
    expect(halter?.findings.some((one) => one.code === "side-gap" && one.side === "off")).toBe(true);
  });

  it("Plover reacts in the quarters: light and tight on both sides, the rest steady", () => {
    const yields = wordOf("Plover", "yield-hind");
    expect(yields?.findings.filter((one) => one.code === "reacts").map((one) => one.side)).toEqual(["near", "off"]);
    const others = verdictsOf("Plover").filter((one) => one.step !== "yield-hind");
    expect(others.map((one) => one.status)).toEqual(others.map(() => "steady"));
  });
});

describe("a simulated horse", () => {
  it("learns, each side apart, and answers lighter as it does", () => {
    const flex = loosePenStart.steps.find((step) => step.id === "flex");
    if (!flex) throw new Error("no flex");
    const horse = new SimulatedHorse(
      { known: {}, start: 0.4, learns: 0.05, offBehind: 0.5, coldLoss: 0, worry: 0 },
      randomFrom(3),
    );
    const share = (side: "near" | "off"): number =>
      Array.from({ length: 50 }, () => horse.ask(flex, side, false).answer).filter((answer) => answer === "gave")
        .length / 50;
    const first = share("near");
    const later = share("near");
    expect(later).toBeGreaterThan(first);
    expect(share("off")).toBeLessThan(later);
  });

  it("draws the same numbers from the same seed", () => {
    const draw = (seed: number): number[] => Array.from({ length: 5 }, randomFrom(seed));
    expect(draw(1)).toEqual(draw(1));
    expect(draw(1)).not.toEqual(draw(2));
    for (const value of draw(9)) expect(value >= 0 && value < 1).toBe(true);
  });
});
