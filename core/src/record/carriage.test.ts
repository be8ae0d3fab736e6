import { describe, expect, it } from "vitest";
import type { RecordEvent } from ".";
import { foldRecord, spoiltByCarriage, withCarriage } from ".";

let count = 0;
const event = (fields: Record<string, unknown>): RecordEvent => {
  count += 1;
  return {
    id: String(fields["id"] ?? `e${count}`),
    at: new Date(Date.parse("2026-05-01T08:00:00Z") + count * 10_000).toISOString(),
    ...fields,
  } as RecordEvent;
};
const ask = (id: string, side?: string, more: Record<string, unknown> = {}): RecordEvent =>
  event({ id, type: "ask", step: "circle-trot", ...(side ? { side } : {}), answer: "gave", ...more });
const frame = (what: string, direction?: string): RecordEvent =>
  event({ type: "frame", frame: what, ...(direction ? { direction } : {}) });
const unasked = (direction?: string): RecordEvent =>
  event({ type: "gait", gait: "canter", unasked: true, ...(direction ? { direction } : {}) });
const spoiltIn = (...events: RecordEvent[]): Record<string, string> =>
  Object.fromEntries(spoiltByCarriage(events.map((one) => one)));

describe("how he goes spoils asks", () => {
  it("hollow or behind the vertical all of that spurt and rein, those before it too", () => {
    expect(
      spoiltIn(
        ask("a", "near"),
        frame("hollow", "near"),
        ask("b", "near"),
        ask("c", "off"),
        ask("d", "near"),
        frame("behind-the-vertical"),
      ),
    ).toEqual({ a: "hollow", b: "hollow", d: "behind-the-vertical" });
  });

  it("nothing of another rein, another exercise, after a rest, or where nothing is in hand", () => {
    expect(
      spoiltIn(
        frame("hollow"),
        ask("a", "near"),
        frame("hollow", "off"),
        event({ type: "spurt", edge: "end" }),
        frame("hollow", "near"),
        ask("b", "near"),
        event({ type: "spurt", edge: "start", step: "stretch", side: "near" }),
        frame("hollow", "near"),
        ask("c", "near", { step: "stretch" }),
        event({ type: "side-change", to: "off" }),
        ask("d", "off", { step: "stretch" }),
      ),
    ).toEqual({ c: "hollow" });
  });

  it("of a step without sides whatever the rein was", () => {
    expect(spoiltIn(ask("a", "none", { step: "arena" }), frame("hollow", "off"))).toEqual({ a: "hollow" });
  });

  it("a gait nobody asked for the ask it fell into: the next, or the last where the spurt ends with it", () => {
    expect(
      spoiltIn(
        ask("a", "near"),
        unasked("near"),
        ask("b", "near"),
        ask("c", "near"),
        unasked(),
        ask("d", "off"),
        ask("e", "off"),
        unasked("off"),
      ),
    ).toEqual({ b: "unasked-gait", c: "unasked-gait", e: "unasked-gait" });
  });

  it("none that says its own fault, and an asked canter or a stretch none at all", () => {
    expect(spoiltIn(ask("a", "near", { fault: "drags" }), ask("b", "near"), frame("hollow"))).toEqual({ b: "hollow" });
    const events = [ask("a", "near"), event({ type: "gait", gait: "canter" }), frame("stretches")];
    expect(withCarriage(events)).toBe(events);
  });

  it("in what counts of an outing alone: what was recorded stays as it was, and a frame struck out spoils nothing", () => {
    const events = [ask("a", "near"), { ...frame("hollow", "near"), id: "f" }];
    const record = (more: RecordEvent[]) =>
      foldRecord({
        yard: { timeZone: "UTC" },
        horse: { id: "h", name: "Test", foaled: "2023-05-01", foaledPrecision: "month", sex: "gelding" },
        program: { id: "loose-pen-start" },
        horseEvents: [],
        outings: [
          { id: "o", startedAt: "2026-05-01T08:00:00Z", endedAt: "2026-05-01T09:00:00Z", events: [...events, ...more] },
        ],
      } as never).outings[0];
    const first = record([]);
    expect(first?.events[0]).toMatchObject({ id: "a", fault: "hollow" });
    expect(first?.history[0]).not.toHaveProperty("fault");
    const struck = record([event({ type: "correction", replaces: "f", void: true })]);
    expect(struck?.events[0]).not.toHaveProperty("fault");
  });
});
