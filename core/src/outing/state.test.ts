import { describe, expect, it } from "vitest";
import type { RecordEvent } from "../record";
import { DEFAULT_LINE, exerciseOf, foldOuting, isReached, lineFor, tallyOf, type OutingState } from ".";
import { planOf } from "./testing";

const START = Date.parse("2026-05-01T08:00:00Z");
let count = 0;
/** An event so many seconds into the outing. */
const at = (second: number, fields: Record<string, unknown>): RecordEvent => {
  count += 1;
  const time = new Date(START + second * 1000).toISOString();
  return { id: `x${count}`, at: time, device: "phone", seq: count, ...fields } as unknown as RecordEvent;
};
const ask = (second: number, fields: Record<string, unknown> = {}): RecordEvent =>
  at(second, {
    type: "ask",
    v: 2,
    rung: "3s",
    step: "flex",
    side: "near",
    answer: "gave",
    phase: 1,
    mood: 1,
    ...fields,
  });
const fold = (...events: RecordEvent[]): OutingState => foldOuting(planOf(), events);
const spurtsOf = ({ spurts }: OutingState): [string, string, number, number][] =>
  spurts.map(({ step, side, from, to }) => [step, side, (from - START) / 1000, (to - START) / 1000]);

describe("spurts", () => {
  it("end by themselves when exercise or side changes, and with a rest or the outing's end", () => {
    const state = fold(
      at(0, { type: "spurt", edge: "start", step: "flex", side: "near" }),
      ask(10),
      at(30, { type: "side-change", to: "off" }),
      at(70, { type: "spurt", edge: "start", step: "yield-hind" }),
      at(100, { type: "spurt", edge: "end" }),
      at(160, { type: "spurt", edge: "start", step: "flex" }),
      at(200, { type: "outing-end" }),
    );
    expect(spurtsOf(state)).toEqual([
      ["flex", "near", 0, 30],
      ["flex", "off", 30, 70],
      ["yield-hind", "off", 70, 100],
      ["flex", "off", 160, 200],
    ]);
    expect([state.spurt, state.workingMs]).toEqual([null, 30_000]);
    // Taken up twice; a change of side within is not a third time.
    expect(exerciseOf(state, "flex").spurts).toBe(2);
  });

  it("begin with an ask that was made without saying so, on its step and side", () => {
    const state = fold(ask(5), ask(20, { side: "off" }), ask(40, { step: "stand", side: "none", phase: 0 }));
    expect(spurtsOf(state)).toEqual([
      ["flex", "near", 5, 20],
      ["flex", "off", 20, 40],
    ]);
    expect(state.spurt).toMatchObject({ step: "stand", side: "none" });
  });

  it("never run backwards: a clock that was set back counts as having stood still", () => {
    const state = fold(ask(50), ask(10, { side: "off" }), ask(60));
    expect(spurtsOf(state)).toEqual([
      ["flex", "near", 50, 50],
      ["flex", "off", 50, 60],
    ]);
  });

  it("of feet are worked leg by leg", () => {
    const state = fold(
      at(0, { type: "spurt", edge: "start", step: "pick-up", side: "near" }),
      at(10, { type: "side-change", to: "near", part: "hind" }),
      ask(20, { step: "pick-up", side: "off", part: "hind" }),
    );
    expect(spurtsOf(state).map(([, side]) => side)).toEqual(["near-fore", "near-hind"]);
    expect(tallyOf(state, "pick-up", "off-hind").asks).toBe(1);
  });
});

describe("what a side came to", () => {
  it("counts answers by feel, neutral ones and those without a mood aside", () => {
    const state = fold(
      ask(1),
      ask(2),
      ask(3, { phase: 2, mood: 3 }),
      ask(4, { answer: "neutral" }),
      ask(5, { answer: "none", mood: undefined }),
    );
    const { asks, good, feels } = tallyOf(state, "flex", "near");
    expect([asks, good, feels[1 * 5 + 1], feels[2 * 5 + 3]]).toEqual([4, 2, 2, 1]);
    expect(feels.reduce((sum, one) => sum + one, 0)).toBe(3);
  });

  it("comes to today's line, and to another one that was said later", () => {
    const events = [ask(1), ask(2), ask(3)];
    expect(isReached(fold(...events), "flex", "near")).toBe(true);
    const raised = fold(...events, at(4, { type: "finish-line", step: "flex", count: 5, worth: "clean" }));
    expect([lineFor(raised, "flex").count, isReached(raised, "flex", "near")]).toEqual([5, false]);
    expect(lineFor(raised, "lead")).toEqual(DEFAULT_LINE);
  });

  it("leaves out a step the program does not have, and a type nobody knows", () => {
    const state = fold(ask(1, { step: "dance" }), at(2, { type: "whistle" }));
    expect([state.exercises, state.asks]).toEqual([{}, 0]);
  });
});
