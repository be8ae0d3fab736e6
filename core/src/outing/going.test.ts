import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { RecordEvent } from "../record";
import { foldOuting, gaitTimes, LiveOuting, tallyOf } from ".";
import { planOf } from "./testing";

const START = Date.parse("2026-05-01T08:00:00Z");
const plan = planOf({ step: "circle-trot" });

/** Events ten seconds apart, by the device that began the outing. */
const eventsOf = (list: readonly Record<string, unknown>[]): RecordEvent[] =>
  list.map((fields, index) => {
    const at = new Date(START + (index + 1) * 10_000).toISOString();
    return { id: `e${index}`, at, device: "phone", seq: index + 1, ...fields } as unknown as RecordEvent;
  });
const ask = (side: string, answer = "gave"): Record<string, unknown> => ({
  type: "ask",
  v: 2,
  step: "circle-trot",
  side,
  answer,
  phase: 1,
  mood: 1,
  rung: "3",
});
const gait = (name: string, more: Record<string, unknown> = {}): Record<string, unknown> => ({
  type: "gait",
  gait: name,
  ...more,
});

describe("how he goes, while the outing runs", () => {
  const moment = fc.constantFrom<Record<string, unknown>>(
    ask("near"),
    ask("off"),
    ask("near", "none"),
    { type: "frame", frame: "hollow" },
    { type: "frame", frame: "hollow", direction: "near" },
    { type: "frame", frame: "stretches" },
    gait("canter", { unasked: true }),
    gait("trot"),
    { type: "side-change", to: "off" },
    { type: "spurt", edge: "end" },
    { type: "spurt", edge: "start", step: "stretch", side: "near" },
  );
  // What is said of an entry later: struck out, or told to be another frame.
  const later = fc.option(fc.tuple(fc.nat(20), fc.boolean()), { nil: undefined });

  it("one entry after another comes to what all of them together do", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(moment, later), { minLength: 1, maxLength: 30 }), (list) => {
        const fields: Record<string, unknown>[] = [];
        for (const [one, change] of list) {
          fields.push(one);
          if (!change) continue;
          const replaces = `e${change[0] % fields.length}`;
          fields.push({
            type: "correction",
            replaces,
            ...(change[1] ? { void: true } : { with: { frame: "hollow" } }),
          });
        }
        const events = eventsOf(fields);
        const live = new LiveOuting(plan);
        events.forEach((event, index) => {
          expect(live.take(event)).toEqual(foldOuting(plan, events.slice(0, index + 1)));
        });
      }),
      { numRuns: 300 },
    );
  });

  it("what was good is good no more once he is said to be hollow, and again once that is taken back", () => {
    const live = new LiveOuting(plan);
    const good = (): number => tallyOf(live.state, "circle-trot", "near").good;
    const [one, two, hollow, back] = eventsOf([
      ask("near"),
      ask("near"),
      { type: "frame", frame: "hollow", direction: "near" },
      { type: "correction", replaces: "e2", void: true },
    ]);
    const seen = [one, two, hollow, back].map((event) => {
      if (event) live.take(event);
      return good();
    });
    expect(seen).toEqual([1, 2, 0, 2]);
  });

  it("says the gait he goes in until the exercise is left, and one he came back from no longer", () => {
    const going = (...list: Record<string, unknown>[]): unknown => {
      const { going: now } = foldOuting(plan, eventsOf(list));
      return now && [now.gait, now.isUnasked];
    };
    expect(going(ask("near"), gait("trot"))).toEqual(["trot", false]);
    expect(going(ask("near"), gait("trot"), { type: "side-change", to: "off" })).toEqual(["trot", false]);
    // Said before anything was in hand it is of what is asked first, and not of another exercise after it.
    expect(going(gait("trot"), ask("near"))).toEqual(["trot", false]);
    expect(going(gait("trot"), ask("near"), { ...ask("near"), step: "stretch" })).toBeNull();
    expect(going(ask("near"), gait("trot"), gait("canter", { unasked: true }))).toEqual(["canter", true]);
    expect(going(ask("near"), gait("trot"), gait("canter", { unasked: true, seconds: 4, back: "brought" }))).toEqual([
      "trot",
      false,
    ]);
    expect(going(ask("near"), gait("trot"), { type: "spurt", edge: "end" })).toBeNull();
  });
});

describe("minutes by gait and rein", () => {
  const timesOf = (list: readonly Record<string, unknown>[]): [string, string | null, number][] =>
    gaitTimes(eventsOf(list), START + (list.length + 1) * 10_000).map(({ gait: name, rein, seconds }) => [
      name,
      rein,
      seconds,
    ]);

  it("last until the next gait, go along over a change of rein, and end with a rest or the outing", () => {
    expect(
      timesOf([
        ask("near"),
        gait("walk"),
        ask("near"),
        gait("trot", { direction: "near" }),
        { type: "side-change", to: "off" },
        ask("off"),
        { type: "spurt", edge: "end" },
        ask("off"),
        gait("walk"),
      ]),
    ).toEqual([
      ["walk", "near", 20],
      ["walk", "off", 10],
      ["trot", "near", 10],
      ["trot", "off", 20],
    ]);
  });

  it("one that says its seconds lasted those, and what he went in before goes on after it", () => {
    expect(timesOf([ask("near"), gait("trot"), gait("canter", { unasked: true, seconds: 4 }), ask("near")])).toEqual([
      ["trot", "near", 26],
      ["canter", "near", 4],
    ]);
  });

  it("are nothing where nobody said a gait, and of no rein where nobody said one", () => {
    expect(timesOf([ask("near"), ask("near")])).toEqual([]);
    expect(timesOf([gait("walk")])).toEqual([["walk", null, 10]]);
    expect(timesOf([gait("walk", { direction: "near" }), ask("near"), ask("off")])).toEqual([
      ["walk", "near", 20],
      ["walk", "off", 10],
    ]);
  });
});
