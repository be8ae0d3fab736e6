import { describe, expect, it } from "vitest";
import { CATALOGUE, everythingUnder, loosePenStart } from "../programs";
import { gather, judgeGathered, type Judgement } from "../readiness";
import { broughtUp, shortRecord, type ShortOuting } from "../readiness/cases/notation";
import { addDays, foldRecord, MISHAPS } from "../record";
import order from "./cases/order.json" with { type: "json" };
import { findTroubles, lookInto, TROUBLES } from ".";

const idsUnder = (...wanted: string[]): string[] => {
  const ids = new Set(wanted.flatMap((id) => [...everythingUnder(loosePenStart, id), id]));
  return loosePenStart.steps.map(({ id }) => id).filter((id) => ids.has(id));
};
/** So many of each side came clean, and so many did not. */
const asked = (step: string, clean: number, missed: number): string =>
  (loosePenStart.steps.find(({ id }) => id === step)?.side === "none"
    ? [""]
    : loosePenStart.steps.find(({ id }) => id === step)?.side === "leg"
      ? ["near-fore ", "near-hind ", "off-fore ", "off-hind "]
      : ["near ", "off "]
  )
    .map((side) => `${step} ${side}1g1x${clean}${missed > 0 ? ` 1n1x${missed}` : ""}`)
    .join("; ");

const judged = (outings: readonly ShortOuting[]): Judgement[] =>
  judgeGathered(gather(foldRecord(shortRecord(outings)), loosePenStart), addDays("2026-01-10", -5));

const HORSES: Record<keyof typeof order, Judgement[]> = {
  "half-way": judged([
    ...broughtUp(
      loosePenStart,
      idsUnder("step-up", "step-back", "turn-through").filter((id) => id !== "draw"),
    ),
    [
      -6,
      [
        ...["draw", "head-down", "lead", "yield-fore", "leg-rub", "flex"].map((step) => asked(step, 4, 0)),
        ...["rope-over", "noise"].map((step) => asked(step, 5, 0)),
        ...["stick", "stand", "mouth"].map((step) => asked(step, 2, 3)),
        asked("yield-hind", 3, 3),
      ].join("; "),
    ],
  ]),
  ridden: judged([
    ...broughtUp(
      loosePenStart,
      idsUnder("loose-ride").filter((id) => !["noise", "head-down", "leg-rub", "transitions"].includes(id)),
    ),
    [-6, "stick near 1n2x4; stick off 1n2x4; flex off 1n2x4; block near 0n1x4; block off 0n1x4"],
  ]),
  unknown: judged([]),
};

describe("where to look", () => {
  for (const [horse, { why, order: expected }] of Object.entries(order))
    it.each(Object.entries(expected))(`${horse}, %s: ${why}`, (id, steps) => {
      const trouble = TROUBLES.find((one) => one.id === id);
      if (!trouble) throw new Error(`no trouble ${id}`);
      const found = lookInto(trouble, HORSES[horse as keyof typeof order], loosePenStart);
      expect(found.map(({ step }) => step)).toEqual(steps);
    });

  it("has an expectation for every trouble of the table, on each horse", () => {
    for (const { order: expected } of Object.values(order))
      expect(Object.keys(expected)).toEqual(TROUBLES.map(({ id }) => id));
  });

  it("names the side that is weak", () => {
    const trouble = TROUBLES.find(({ id }) => id === "no-steering");
    if (!trouble) throw new Error("no such trouble");
    const [flex] = lookInto(trouble, HORSES.ridden, loosePenStart);
    expect([flex?.step, flex?.side, flex?.status]).toEqual(["flex", "off", "slipped"]);
  });
});

describe("the table", () => {
  it("begins every trouble with the body, and with whom to have it looked at", () => {
    for (const { id, body } of TROUBLES) {
      expect([id, body.length > 0]).toEqual([id, true]);
      for (const { look, who } of body) {
        expect(look).toMatch(/[.?]$/);
        expect(["vet", "dentist", "farrier", "saddle fitter", "you"]).toContain(who);
      }
      expect([id, body.some(({ who }) => who !== "you")]).toEqual([id, true]);
    }
  });

  it("names steps of the catalogue, each with why, and mishaps that can be recorded", () => {
    const known = new Set(CATALOGUE.steps.map(({ id }) => id));
    for (const { id, steps, mishaps } of TROUBLES) {
      expect([id, steps.filter(({ step }) => !known.has(step))]).toEqual([id, []]);
      for (const { why } of steps) expect(why.endsWith(".")).toBe(true);
      for (const mishap of mishaps) expect(MISHAPS).toContain(mishap);
    }
  });

  it("leads on from every mishap but a fall and what has no name, and from each to one trouble", () => {
    const led = TROUBLES.flatMap(({ mishaps }) => mishaps);
    expect(new Set(led).size).toBe(led.length);
    expect(MISHAPS.filter((one) => !led.includes(one))).toEqual(["fall", "other"]);
  });
});

describe("found by what a person would say", () => {
  it.each([
    ["pulls back when tied", "pulls-back"],
    ["he breaks his lead rope at the ring", "pulls-back"],
    ["kicking", "kicks-pushy"],
    ["barging into me", "kicks-pushy"],
    ["won't load", "will-not-load"],
    ["wont go in the trailor", "will-not-load"],
    ["float", "will-not-load"],
    ["biting", "nips"],
    ["mouthy", "nips"],
    ["head shy", "head-shy"],
    ["hates his ears touched", "head-shy"],
    ["can't catch him in the field", "hard-to-catch"],
    ["runs away when he sees the halter", "hard-to-catch"],
    ["bucks", "girthy"],
    ["girth", "girthy"],
    ["snatches his foot", "feet"],
    ["farrier", "feet"],
    ["spooky", "spooks"],
    ["shying at plastic", "spooks"],
    ["lazy", "dead-to-leg"],
    ["rearing", "rears-naps"],
    ["bolted home", "rears-naps"],
    ["walks off from the mounting block", "moves-at-mounting"],
    ["steering", "no-steering"],
    ["rushing in trot", "rushes"],
    ["will not leave the helper", "stops-at-helper"],
  ])("%s", (typed, id) => {
    expect(findTroubles(TROUBLES, typed)[0]?.id).toBe(id);
  });

  it("shows all of them where nothing was typed, and none where nothing fits", () => {
    expect(findTroubles(TROUBLES, "  ")).toEqual(TROUBLES);
    expect(findTroubles(TROUBLES, "xyzzy")).toEqual([]);
  });
});
