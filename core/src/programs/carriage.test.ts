import { describe, expect, it } from "vitest";
import { loosePenStart } from ".";
import { framesOf, isTravelled, mayFallIntoCanter, wayOfWork } from "./carriage";
import words from "./catalogue/ladder-words.json" with { type: "json" };

const faultsOf = (id: string): readonly string[] => (words as Record<string, { faults: string[] }>)[id]?.faults ?? [];

describe("what is said of how he goes", () => {
  it("spoils by a frame just the steps whose faults name it", () => {
    for (const step of loosePenStart.steps) {
      const named = faultsOf(step.id).filter((fault) => fault === "hollow" || fault === "behind-the-vertical");
      expect([step.id, framesOf(step).slice(1).toSorted()]).toEqual([step.id, named.toSorted()]);
    }
  });

  it("an unasked canter is a fault of steps in a slower gait that name an unasked gait", () => {
    const may = loosePenStart.steps.filter(mayFallIntoCanter).map(({ id }) => id);
    expect(may).toEqual(["circle-walk", "circle-trot", "trot-ride"]);
    for (const id of may) expect(faultsOf(id)).toContain("unasked-gait");
  });

  it("means something on the line, on long reins and ridden, and nothing at a halt or in hand", () => {
    const travelled = new Set(loosePenStart.steps.filter(isTravelled).map(({ id }) => id));
    for (const id of ["circle-walk", "stretch", "long-rein", "line-ride", "arena"]) expect(travelled).toContain(id);
    for (const id of ["flex", "halt-line", "block", "whoa-rein", "hip-in"]) expect(travelled).not.toContain(id);
    const worked = (id: string): string | undefined => {
      const step = loosePenStart.steps.find((one) => one.id === id);
      return step && wayOfWork(step);
    };
    expect([worked("circle-walk"), worked("trot-ride"), worked("long-rein")]).toEqual(["line", "ridden", undefined]);
  });
});
