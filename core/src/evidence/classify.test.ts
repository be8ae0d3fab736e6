import { describe, expect, it } from "vitest";
import { findStep, loosePenStart, type Step } from "../programs";
import type { AskEvent, SeriesEvent } from "../record";
import {
  asFarAsRung,
  countInSeries,
  isFirstOfSeriesClean,
  saidRung,
  worthOfAsk,
  type Measure,
  type Worth,
} from "./classify";

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
    expect(saidRung(ask({ v: 1, rung: "open" }), flag)).toBeNull();
    expect(worthOfAsk(ask({ v: 1, rung: "open" }), flag)).toBe("practice");
    expect(worthOfAsk(ask({ v: 1, asked: 3, rung: "rolled-touched", purpose: "probe" }), flag)).toBe("clean");
  });

  it.each<[why: string, step: Step, said: Partial<AskEvent>, rung: string | undefined]>([
    ["nothing said, nothing known", flag, {}, undefined],
    ["the flag rolled small was one", flag, { asked: 1 }, "rolled-stroked"],
    ["half open was two", flag, { asked: 2 }, "half"],
    ["open was three", flag, { asked: 3 }, "open"],
    ["between two rungs it has reached the lower", space, { asked: 20 }, "1m-10s"],
    ["below all of them it is the lowest", space, { asked: 2 }, "5m-10s"],
    ["seconds are those at the standard's distance", space, { asked: 30 }, "1m-30s"],
    ["of two rungs of one size the first", hind, { asked: 180 }, "180"],
    ["narrower is more", gap, { asked: 1.5 }, "2m"],
    ["what he gave was asked", space, { dose: 40 }, "1m-30s"],
    ["what he broke off may have been asked for longer", space, { answer: "none", dose: 10 }, undefined],
    ["what was asked is said before what was got", space, { asked: 10, dose: 30 }, "1m-10s"],
  ])("reads a dose of the former shape as a rung: %s", (_why, step, said, rung) => {
    const place = saidRung(ask({ v: 1, step: step.id, ...said }), step);
    expect(place === null ? undefined : step.ladder.rungs[place]?.id).toBe(rung);
  });

  it("counts what was asked in full as far as the standard, however far it is judged", () => {
    const full: Step = { ...flag, ladder: { ...flag.ladder, inFullUntil: Date.parse("2026-05-01T08:00:00Z") } };
    const place = (said: Partial<AskEvent>, measure: Measure = full): number | null =>
      saidRung(ask({ v: 1, ...said }), measure);
    expect(place({})).toBe(flag.ladder.standard);
    expect(place({ at: "2026-05-01T08:00:00.001Z" })).toBeNull();
    expect(place({ asked: 2 })).toBe(2);
    expect(place({}, { ...flag, ...asFarAsRung(full, 1) })).toBe(flag.ladder.standard);
    expect(worthOfAsk(ask({ v: 1 }), asFarAsRung(full, 5))).toBe("practice");
  });

  it.each<[why: string, said: Partial<AskEvent>, worth: Worth]>([
    ["he would not stand for a rolled flag", { rung: "rolled-touched", answer: "against" }, "miss"],
    ["tight under a rolled flag", { rung: "rolled-touched", mood: 3 }, "miss"],
    ["a smaller piece tried and not given", { rung: "half", answer: "tried" }, "miss"],
    ["a smaller dose missed", { rung: "open", asked: 2, answer: "none" }, "miss"],
    ["a smaller piece given", { rung: "half" }, "practice"],
    ["what is unsaid is the smallest, and was missed", { rung: undefined, answer: "none" }, "miss"],
    ["more was asked, and missed", { rung: "overhead", answer: "none" }, "practice"],
  ])("after the open flag was asked, %s", (_why, said, worth) => {
    expect(worthOfAsk(ask(said), flag, true)).toBe(worth);
    expect(worthOfAsk(ask(said), flag)).toBe("practice");
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
