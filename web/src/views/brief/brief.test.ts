import { beforeEach, describe, expect, it, vi } from "vitest";
import type { BriefView } from "@still-pine/contract/http";
import { findStep, loosePenStart } from "@still-pine/core/programs";
import type { Brief, Help, OldHabit, Proposed, Worry } from "@still-pine/core/planning";
import { endedInWords, habitInWords, helpInWords, lineInWords, whyInWords, worryInWords } from "./brief-words";
import { cardErrors, headOf, keepCard, openCard, proposeCard, withLine, type CardDraft } from "./card-draft";

const naming = { program: loosePenStart, words: "american" as const };
const stepOf = (id: string) => {
  const step = findStep(loosePenStart, id);
  if (!step) throw new Error(id);
  return step;
};
const proposed = (step: string, more: Partial<Proposed> = {}): Proposed => ({
  step,
  line: { count: 3, worth: "clean" },
  isNew: false,
  outings: 3,
  sticky: null,
  last: {},
  why: "longest",
  days: 4,
  ...more,
});
const BRIEF: Brief = {
  workDay: 3,
  calendarDay: 8,
  last: null,
  nextTime: null,
  oldHabits: [],
  breakDays: null,
  checkCold: [proposed("lead", { why: "cold", line: { count: 1, worth: "clean" } })],
  upTo: [],
  shut: [],
  heldBack: [],
  edge: [proposed("flex")],
  caps: { name: "a yearling", workingMinutes: 20, inHandMinutes: 40 },
  usualMinutes: 25,
};

describe("the card in words", () => {
  it.each([
    [{ kind: "startle", thing: "a gate", size: 3 }, "jumped at a gate"],
    [{ kind: "startle", thing: null, size: 1 }, "flinched at something"],
    [{ kind: "mishap", what: "pull-back", severity: 2 }, "mishap: pull back, severity 2"],
    [{ kind: "tight", step: "flex", side: "off", times: 1, over: false }, "tight once: Lateral flexion, off side"],
    [{ kind: "tight", step: "stand", side: "none", times: 3, over: true }, "over 3 times: Stands where put"],
  ] as [Worry, string][])("says what worried him: %j", (worry, words) => {
    expect(worryInWords(worry, naming)).toBe(words);
  });

  it.each([
    [{ kind: "ease", step: "flex", sign: "long-breath" }, "let down (long breath) at: Lateral flexion"],
    [{ kind: "smaller", step: "flex", side: "near" }, "asking for less: Lateral flexion, near side"],
    [{ kind: "setting", step: "flag", side: "off", setting: "standing" }, /^standing: Flag, off side$/],
    [{ kind: "came-back", step: "flex", side: "off" }, /coming back: Lateral flexion, off side/],
    [{ kind: "waited", step: "flex", side: "off" }, "a wait: Lateral flexion, off side"],
    [{ kind: "other-tool", step: "flex", side: "off" }, /something else in the hand/],
  ] as [Help, string | RegExp][])("says what helped: %j", (help, words) => {
    expect(helpInWords(help, naming)).toMatch(words);
  });

  it.each([
    [{ kind: "fault", step: "flex", fault: "walks-forward", times: 3 }, "walks forward (3 times): Lateral flexion"],
    [{ kind: "startle", thing: "bags" }, "starts at bags"],
    [{ kind: "caught", how: "walked-off", seconds: 300 }, "catching him: walked off, 5 min"],
    [{ kind: "caught", how: "ran", seconds: null }, "catching him: ran"],
  ] as [OldHabit, string][])("says what may come back: %j", (habit, words) => {
    expect(habitInWords(habit, naming)).toBe(words);
  });

  it("says what counts as enough, on each side, each leg, or at all", () => {
    expect(lineInWords({ count: 3, worth: "clean" }, stepOf("flex"), naming.program)).toBe("3 clean on each side");
    expect(lineInWords({ count: 2, worth: "tried" }, stepOf("pick-up"), naming.program)).toBe(
      "2 tries or better on each leg",
    );
    expect(lineInWords({ count: 1, worth: "clean", phase: 2, dose: 20 }, stepOf("share-space"), naming.program)).toBe(
      "1 clean, at most ask, 20 seconds",
    );
  });

  it("says why a step stands on the card, and which side needs more", () => {
    expect(whyInWords(proposed("flex", { why: "gate", sticky: "off" }), "tie", naming)).toBe(
      "First tying asks for it; off side needs more",
    );
    expect(whyInWords(proposed("flex", { why: "again", isNew: true }), null, naming)).toBe(
      "the last review said so; still new to him",
    );
    expect(endedInWords({ lastAsk: null } as never, naming)).toBeNull();
  });
});

describe("the card that is filled in", () => {
  const kept = new Map<string, string>();
  beforeEach(() => {
    kept.clear();
    vi.stubGlobal("localStorage", {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    });
  });
  const card = (more: Partial<CardDraft> = {}): CardDraft => ({
    ...proposeCard(BRIEF, "2026-06-01"),
    place: "Pen",
    handler: "M",
    ...more,
  });
  const view = (today: string): BriefView =>
    ({ horse: { id: "h1" }, yard: { today }, brief: BRIEF }) as unknown as BriefView;

  it("stands as it was left, on its day only and for its horse only", () => {
    keepCard("h1", card({ place: "Top yard" }));
    expect(openCard(view("2026-06-01")).place).toBe("Top yard");
    expect(openCard(view("2026-06-02")).place).toBe("");
    keepCard("h1", null);
    expect(openCard(view("2026-06-01")).place).toBe("");
    kept.set("still-pine.cards", "{broken");
    expect(openCard(view("2026-06-01")).exercises.map(({ step, isCold }) => [step, isCold])).toEqual([
      ["lead", true],
      ["flex", false],
    ]);
  });

  it("needs a place and a handler, and a reason for more minutes than his age has", () => {
    expect(cardErrors(card(), BRIEF)).toEqual({});
    expect(cardErrors(card({ place: " ", handler: "" }), BRIEF)).toEqual({
      place: "Say where.",
      handler: "Say who handles him.",
    });
    const longer = card({ caps: { workingMinutes: 25, inHandMinutes: 40 } });
    expect(cardErrors(longer, BRIEF).capReason).toContain("a yearling");
    expect(cardErrors({ ...longer, capReason: "walks only" }, BRIEF)).toEqual({});
    expect(cardErrors(card({ caps: { workingMinutes: 10, inHandMinutes: 20 } }), BRIEF)).toEqual({});
  });

  it("becomes the outing's head, with what was left open left out", () => {
    expect(headOf(card())).toEqual({ place: "Pen", handler: "M" });
    expect(
      headOf(
        card({ caught: "ran", caughtSeconds: 80, gear: ["flag"], state: ["sore", "mates-in-sight"], helper: " J " }),
      ),
    ).toEqual({
      place: "Pen",
      handler: "M",
      helper: "J",
      caught: "ran",
      caughtSeconds: 80,
      gear: ["flag"],
      sore: true,
      company: "mates-in-sight",
    });
  });

  it("changes one line and leaves the others", () => {
    const lines = withLine(card(), "flex", { count: 5 }).exercises.map(({ step, line }) => [step, line.count]);
    expect(lines).toEqual([
      ["lead", 1],
      ["flex", 5],
    ]);
  });
});
