import { describe, expect, it } from "vitest";
import { gatherFeel } from "./feel";

const day = (n: number): string => `2026-05-${String(n + 1).padStart(2, "0")}`;
const feel = {
  outings: Array.from({ length: 14 }, (_, n) => ({ id: `o${n}`, day: day(n) })),
  answers: Array.from({ length: 14 }, (_, outing) => [
    { outing, step: "flex", phase: outing < 7 ? 3 : 1, mood: outing < 7 ? 3 : 1, count: 2 },
    { outing, step: "head-rub", phase: null, mood: 0, count: 5 },
  ]).flat(),
};

describe("feel then and now", () => {
  it("lays the last outings together, and as many ten outings before", () => {
    const { before, now } = gatherFeel(feel, null, 10, 3);
    expect([before.from, before.to, now.from, now.to]).toEqual([1, 3, 11, 13]);
    expect([...now.cells]).toEqual([["1 1", 6]]);
    expect([...before.cells]).toEqual([["3 3", 6]]);
  });

  it("has nothing to say of a step never asked, nor of a time before the first outing", () => {
    expect(gatherFeel(feel, "lead", 10, 3).now.cells.size).toBe(0);
    const short = { outings: feel.outings.slice(0, 4), answers: feel.answers.filter(({ outing }) => outing < 4) };
    expect(gatherFeel(short, "flex", 10, 3).before).toEqual({ from: -1, to: -1, cells: new Map() });
  });
});
