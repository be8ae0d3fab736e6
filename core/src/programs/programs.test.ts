import { describe, expect, it } from "vitest";
import { everythingUnder, loosePenStart, nearestStep, problemsOf, sidesOf } from ".";

describe("loose pen start", () => {
  it("has a sound graph: nothing unknown, nothing in a circle, needs before what rests on them", () => {
    expect(problemsOf(loosePenStart)).toEqual([]);
  });

  it("a broken graph is named", () => {
    const [first, second] = loosePenStart.steps;
    if (!first || !second) throw new Error("no steps");
    const broken = {
      ...loosePenStart,
      steps: [{ ...first, needs: [{ anyOf: ["catch-rope"] }, { anyOf: ["nowhere"] }, { anyOf: [] }] }, second, second],
    };
    expect(problemsOf(broken)).toEqual([
      "share-space rests on catch-rope, which does not stand before it",
      "share-space rests on nowhere, which does not exist",
      "share-space has an empty need",
      "catch-rope stands twice",
    ]);
  });

  it("knows what lies under a step, all the way down", () => {
    expect(everythingUnder(loosePenStart, "halter-on")).toEqual([
      "share-space",
      "catch-rope",
      "first-touch",
      "head-rub",
      "swap-sides",
    ]);
    expect(everythingUnder(loosePenStart, "share-space")).toEqual([]);
  });

  it("names the nearest step for a misspelt one, and none for a stranger", () => {
    expect(nearestStep(loosePenStart, "give-halster")).toBe("give-halter");
    expect(nearestStep(loosePenStart, "piaffe-on-the-moon")).toBeUndefined();
  });

  it("asks share-space and catch-rope without sides, the rest on two", () => {
    expect(loosePenStart.steps.filter((step) => sidesOf(step).length === 1).map((step) => step.id)).toEqual([
      "share-space",
      "catch-rope",
    ]);
  });
});
