import { describe, expect, it } from "vitest";
import { findStep, loosePenStart, type Step } from "../programs";
import type { AskEvent, SeriesEvent } from "../record";
import { countInSeries, isFirstOfSeriesClean, rungOfAsk, worthOfAsk, type Worth } from "./classify";

const stepOf = (id: string): Step => {
  const step = findStep(loosePenStart, id);
  if (!step) throw new Error(`no ${id}`);
  return step;
};
const flag = stepOf("flag");
const space = stepOf("share-space");
const hind = stepOf("yield-hind");
const gap = stepOf("gap");

const ask = (more: Partial<AskEvent>): AskEvent => ({
  id: "a",
  at: "2026-05-01T08:00:00Z",
  v: 2,
  type: "ask",
  step: "flag",
  side: "near",
  answer: "gave",
  phase: 1,
  mood: 1,
  ...more,
});

/** Each says beside it why; common practice, no published source. */
const EXPECTED: [why: string, step: Step, said: Partial<AskEvent>, worth: Worth][] = [
  ["the open flag is what is asked for", flag, { rung: "open" }, "clean"],
  ["a flag rolled small is not the open flag", flag, { rung: "rolled-touched" }, "practice"],
  ["quiet under the flag overhead he is quiet under it at his side", flag, { rung: "overhead" }, "clean"],
  ["tight under the open flag is a miss of it", flag, { rung: "open", mood: 3 }, "miss"],
  [
    "tight under the flag overhead says nothing of the flag at his side",
    flag,
    { rung: "overhead", mood: 3 },
    "practice",
  ],
  ["tight under a rolled flag was practice", flag, { rung: "rolled-touched", mood: 3 }, "practice"],
  ["a rung that nobody knows is the smallest", flag, { rung: "gone" }, "practice"],
  ["ten seconds at 1 m are not thirty", space, { rung: "1m-10s" }, "practice"],
  ["thirty seconds at 1 m are", space, { rung: "1m-30s" }, "clean"],
  [
    "he walked forward through it: the quarters gave, and it is not the answer",
    hind,
    { rung: "90", fault: "walks-forward" },
    "miss",
  ],
  ["whatever spoiled it, it was spoiled", hind, { rung: "90", fault: "snatches" }, "miss"],
  ["half a turn holds a quarter of one", hind, { rung: "180" }, "clean"],
  ["narrower is more", gap, { rung: "1m" }, "clean"],
  ["wider is less", gap, { rung: "3m" }, "practice"],
  ["a reminder is no lesson", hind, { rung: "90", purpose: "reminder" }, "neutral"],
  ["nor is a probe, however it went", hind, { rung: "90", purpose: "probe", answer: "against" }, "neutral"],
  ["a lesson that is called one", hind, { rung: "90", purpose: "lesson" }, "clean"],
];

describe("what an ask is worth", () => {
  it.each(EXPECTED)("%s", (_why, step, said, worth) => {
    expect(worthOfAsk(ask({ step: step.id, ...said }), step)).toBe(worth);
  });

  it.each([
    ["rolled-touched", 6, 4, { clean: 0, missed: 0 }, null],
    ["open", 6, 4, { clean: 4, missed: 2 }, true],
    ["overhead", 6, 4, { clean: 4, missed: 0 }, true],
  ])("of a remembered series on the rung %s", (rung, count, clean, counts, first) => {
    const series: SeriesEvent = {
      id: "s",
      at: "2026-05-01T08:00:00Z",
      v: 2,
      type: "series",
      step: "flag",
      side: "near",
      count,
      clean,
      first: "gave",
      worst: "tried",
      mood: 1,
      rung,
    };
    expect(countInSeries(series, flag)).toEqual(counts);
    expect(isFirstOfSeriesClean(series, flag)).toBe(first);
    const overhead = { ...series, first: "none" as const };
    expect(isFirstOfSeriesClean(overhead, flag)).toBe(rung === "open" ? false : null);
  });

  it("takes what a former shape calls by these names for nothing", () => {
    expect(worthOfAsk(ask({ v: 1, rung: "rolled-touched" }), flag)).toBe("clean");
    expect(worthOfAsk(ask({ v: 1, purpose: "probe" }), flag)).toBe("clean");
    expect(rungOfAsk({ rung: "open" }, flag.ladder)).toBeNull();
  });

  it("is clean on every rung up to the one that was asked, and on none above it", () => {
    for (const step of loosePenStart.steps) {
      const { rungs } = step.ladder;
      rungs.forEach(({ id }, asked) => {
        rungs.forEach((_rung, standard) => {
          // A dose is measured on its own rung only: this is of the rungs alone.
          const asRung = { standard: { ...step.standard, dose: null }, ladder: { ...step.ladder, standard } };
          const worth = worthOfAsk(ask({ step: step.id, rung: id, phase: 0, mood: 0, tool: "none" }), asRung);
          expect([step.id, id, standard, worth]).toEqual([
            step.id,
            id,
            standard,
            asked >= standard ? "clean" : "practice",
          ]);
        });
      });
    }
  });
});
