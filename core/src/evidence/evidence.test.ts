import { describe, expect, it } from "vitest";
import { findStep, loosePenStart, type Standard, type Step } from "../programs";
import type { AskEvent, Mood, SeriesEvent } from "../record";
import { countInSeries, isFirstOfSeriesClean, worthOfAsk } from "./classify";
import { SideEvidence } from "./side-evidence";
import { watchOf, type OutingFacts } from "./shown";

const STANDARD: Standard = { phase: 1, mood: 1, dose: { amount: 3, unit: "seconds" } };
const NO_PHASE: Standard = { phase: null, mood: 1, dose: null };
const { ladder } = findStep(loosePenStart, "flex") as Step;
let count = 0;
const ask = (more: Partial<AskEvent> = {}): AskEvent => ({
  id: `e${(count += 1)}`,
  at: "2026-01-10T10:00:00Z",
  v: 2,
  rung: "3s",
  type: "ask",
  step: "flex",
  side: "near",
  phase: 1,
  answer: "gave",
  mood: 1,
  ...more,
});
const series = (more: Partial<SeriesEvent> = {}): SeriesEvent => ({
  id: `s${(count += 1)}`,
  at: "2026-01-10T10:00:00Z",
  v: 2,
  rung: "3s",
  type: "series",
  step: "flex",
  side: "near",
  count: 6,
  clean: 6,
  first: "gave",
  worst: "gave",
  phase: 1,
  mood: 1,
  ...more,
});

describe("what one ask is worth", () => {
  it.each<[Partial<AskEvent>, string]>([
    [{}, "clean"],
    [{ phase: 0, mood: 0 }, "clean"],
    [{ phase: 2 }, "miss"],
    [{ mood: 2 }, "miss"],
    [{ answer: "tried" }, "miss"],
    [{ answer: "none", mood: undefined }, "miss"],
    [{ answer: "against", mood: undefined }, "miss"],
    [{ answer: "neutral" }, "neutral"],
    [{ answer: "neutral", asked: 1 }, "neutral"],
    [{ asked: 2 }, "practice"],
    [{ asked: 2, answer: "against" }, "practice"],
    [{ asked: 3 }, "clean"],
    [{ asked: 9, dose: 2 }, "miss"],
    [{ dose: 2.9 }, "miss"],
    [{ dose: 3 }, "clean"],
    [{ after: "bolted" }, "miss"],
    [{ after: "jumped" }, "clean"],
    [{ mood: undefined }, "miss"],
    [{ phase: undefined }, "miss"],
  ])("%j is %s", (more, worth) => {
    expect(worthOfAsk(ask(more), { standard: STANDARD, ladder })).toBe(worth);
  });

  it("has no phase and no dose where the step has none", () => {
    expect(worthOfAsk(ask({ phase: 4 }), { standard: NO_PHASE, ladder })).toBe("clean");
    expect(worthOfAsk(ask({ phase: undefined, asked: 1, dose: 0 }), { standard: NO_PHASE, ladder })).toBe("clean");
  });
});

describe("a remembered series", () => {
  it.each<[Partial<SeriesEvent>, number, boolean | null]>([
    [{}, 6, true],
    [{ clean: 4 }, 4, true],
    [{ phase: 2 }, 0, false],
    [{ mood: 3 }, 0, false],
    [{ worst: "against" }, 5, true],
    [{ first: "none", worst: "none" }, 5, false],
    [{ first: "neutral" }, 6, null],
    [{ clean: 0, mood: undefined }, 0, false],
  ])("%j has %d clean", (more, clean, first) => {
    const one = series(more);
    expect(countInSeries(one, { standard: STANDARD, ladder })).toEqual({ clean, missed: one.count - clean });
    expect(isFirstOfSeriesClean(one, { standard: STANDARD, ladder })).toBe(first);
  });
});

const FLEX = findStep(loosePenStart, "flex");
if (!FLEX) throw new Error("no flex");
const PLAIN: OutingFacts = {
  shutDown: [],
  eased: false,
  canter: { near: false, off: false },
  stretched: { near: false, off: false },
  place: "pen",
  person: "A",
};
const sideOf = (step: Partial<Step> = {}): SideEvidence =>
  new SideEvidence({ ...FLEX, standard: STANDARD, ...step }, loosePenStart.judge, watchOf({ ...FLEX, ...step }, []));

describe("the evidence of a side", () => {
  const evidenceOf = (...outings: AskEvent[][]): SideEvidence => {
    const side = sideOf();
    outings.forEach((asks, index) => {
      for (const one of asks) side.ask(one, index, `2026-01-${10 + index}`, index > 0);
      side.close(PLAIN, "near");
    });
    return side;
  };
  const clean = (n: number): AskEvent[] => Array.from({ length: n }, () => ask());

  it("weighs asks by those of later outings only: 0.8 for each three", () => {
    const side = evidenceOf(clean(3), clean(3), clean(6));
    expect(side.memories.weightClean).toBeCloseTo(3 * 0.8 ** 3 + 3 * 0.8 ** 2 + 6, 10);
    expect(side.keptOf(0)).toBeCloseTo(0.8 ** 3, 10);
    expect(side.keptOf(2)).toBe(1);
  });

  it("settles at about fourteen effective asks", () => {
    const side = evidenceOf(...Array.from({ length: 150 }, () => clean(1)));
    expect(side.memories.weightClean).toBeCloseTo(1 / (1 - 0.8 ** (1 / 3)), 2);
  });

  it("a lucky answer proven in a later outing weighs as if it had counted from the start", () => {
    const late = evidenceOf(clean(3), [ask({ answer: "none" }), ask()], [ask()]);
    const plain = evidenceOf(clean(3), [ask({ answer: "tried" }), ask()], [ask()]);
    expect([late.memories.weightClean, late.memories.weightNot]).toEqual([
      plain.memories.weightClean,
      plain.memories.weightNot,
    ]);
    expect([late.days, late.fresh.cleanDays, late.lucky()]).toEqual([3, 3, []]);
  });

  it("knows the usual phase as the heavier middle one of the last two outings", () => {
    expect(
      evidenceOf([ask({ phase: 4 }), ask({ phase: 4 })], [ask({ phase: 0 }), ask({ phase: 2 })], [ask()]).usualPhase(),
    ).toBe(1);
    expect(evidenceOf([ask({ phase: 0 }), ask({ phase: 3 })]).usualPhase()).toBe(3);
    expect(evidenceOf([ask({ answer: "none" })]).usualPhase()).toBeNull();
  });

  it("names a corner of the feel square from three answers that are half of them", () => {
    const tight = (n: number): AskEvent[] => Array.from({ length: n }, () => ask({ mood: 3 }));
    expect(evidenceOf([...tight(2), ...clean(1)]).corner("reacts")).toEqual([]);
    expect(evidenceOf([...tight(3), ...clean(3)]).corner("reacts")).toHaveLength(3);
    expect(evidenceOf([...tight(3), ...clean(4)]).corner("reacts")).toEqual([]);
    expect(evidenceOf(tight(3), clean(1), clean(1)).corner("reacts")).toEqual([]);
  });

  it("takes a remembered series into the feel at its half", () => {
    const dull = sideOf();
    const six = series({ phase: 3, mood: 0, clean: 0 });
    dull.series(six, 0, "2026-01-10", false);
    dull.close(PLAIN, "near");
    expect([dull.corner("dull"), dull.usualPhase()]).toEqual([[six.id], 3]);
    const four = sideOf();
    four.series(series({ count: 4, clean: 0, phase: 3, mood: 0 }), 0, "2026-01-10", false);
    four.close(PLAIN, "near");
    expect(four.corner("dull")).toEqual([]);
  });

  it("can be forked and tried on without changing", () => {
    const proven = evidenceOf(clean(3), [ask({ answer: "none" }), ask()]);
    for (const side of [proven, evidenceOf(clean(3), [ask({ mood: 3 })])]) {
      const { days: daysBefore } = side;
      const before = JSON.stringify(side.save());
      const copy = side.fork();
      const days: [AskEvent[], number][] = [
        [[ask({ answer: "none", mood: 4 }), ask()], 5],
        [[ask(), ask()], 6],
      ];
      for (const [asks, outing] of days) {
        for (const one of asks) copy.ask(one, outing, `2026-01-2${outing}`, true);
        copy.close(PLAIN, "near");
      }
      expect(JSON.stringify(side.save())).toBe(before);
      expect([copy.days, copy.lucky()]).toEqual([daysBefore + 2, []]);
    }
  });

  it("keeps of places and people so many as are asked for, and only of clean outings", () => {
    const side = sideOf({ elsewhere: ["place", "person", "settings"] });
    const out = (asks: AskEvent[], place: string, index: number): void => {
      for (const one of asks) side.ask(one, index, `2026-01-${10 + index}`, index > 0);
      side.close({ ...PLAIN, place }, "near");
    };
    out([ask({ answer: "tried" })], "hill", 0);
    out([ask({ setting: "moving" })], "pen", 1);
    out([ask()], "yard", 2);
    out([ask()], "road", 3);
    // What does not say how he went was standing.
    expect(side.shown).toMatchObject({ places: ["pen", "yard"], people: ["A"], settings: ["moving", "standing"] });
  });

  it("shows the place of a lucky answer proven later", () => {
    const side = sideOf({ elsewhere: ["place"] });
    side.ask(ask({ answer: "none" }), 0, "2026-01-10", false);
    side.ask(ask(), 0, "2026-01-10", false);
    side.close({ ...PLAIN, place: "hill" }, "near");
    expect(side.shown.places).toEqual([]);
    side.ask(ask(), 1, "2026-01-11", true);
    side.close(PLAIN, "near");
    expect(side.shown.places).toEqual(["hill", "pen"]);
  });

  it("takes a sign of ease as proof until he is tight again", () => {
    const side = sideOf({ still: true });
    const out = (mood: Mood, eased: boolean, index: number): boolean => {
      side.ask(ask({ mood }), index, `2026-01-${10 + index}`, index > 0);
      side.close({ ...PLAIN, eased }, "near");
      return side.eased;
    };
    expect([
      out(1, false, 0),
      out(1, true, 1),
      out(1, false, 2),
      out(3, true, 3),
      out(1, false, 4),
      out(0, true, 5),
    ]).toEqual([false, true, true, false, false, true]);
  });
});
