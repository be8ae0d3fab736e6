import { describe, expect, it } from "vitest";
import type { OutingView } from "@still-pine/contract/http";
import { tallyOf } from "@still-pine/core/outing";
import type { RecordEvent } from "@still-pine/core/record";
import type { KeptEvent } from "../outbox/kept";
import { review, type Loaded } from "./reviewed-outing";

const START = "2026-06-01T09:00:00.000Z";
const ask = (id: string, minute: number, more: Record<string, unknown> = {}): RecordEvent =>
  ({
    id,
    at: `2026-06-01T09:0${minute}:00.000Z`,
    v: 2,
    type: "ask",
    step: "flex",
    rung: "3s",
    side: "near",
    answer: "gave",
    phase: 1,
    mood: 1,
    ...more,
  }) as unknown as RecordEvent;
const strike = (id: string, of: string): RecordEvent =>
  ({ id, at: "2026-06-01T10:00:00.000Z", type: "correction", replaces: of, void: true }) as unknown as RecordEvent;

const kept: Loaded["kept"] = {
  id: "o",
  horse: "h",
  horseName: "Moss",
  program: { id: "loose-pen-start", version: 2 },
  startedAt: START,
  exercises: [],
  known: [],
  caps: { workingMinutes: 20, inHandMinutes: 40 },
  timeZone: "Europe/Dublin",
  words: "american",
  isOver: true,
  clockOffset: 0,
  dwellFrom: null,
};
const keptEvents = (...events: RecordEvent[]): KeptEvent[] =>
  events.map((event) => ({ outing: "o", horse: "h", event, sent: 0 }));
const view = (events: RecordEvent[], corrections: Record<string, RecordEvent[]> = {}): OutingView =>
  ({
    horse: { name: "Moss" },
    outing: { startedAt: START, endedAt: "2026-06-01T09:20:00.000Z" },
    head: { workingMinutes: 15, inHandMinutes: 30 },
    program: { id: "loose-pen-start", version: 2 },
    entries: events.map((event) => ({
      event,
      current: event,
      voided: false,
      corrections: (corrections[event.id] ?? []).map((correction) => ({ event: correction, undone: false })),
    })),
  }) as unknown as OutingView;

describe("an outing in review", () => {
  it("is what this device keeps, while the server is not reached", () => {
    const { state, events, endedAt, plan } = review({ kept, events: keptEvents(ask("a", 1), ask("b", 2)) }, undefined);
    expect(events.map(({ id }) => id)).toEqual(["a", "b"]);
    expect(tallyOf(state, "flex", "near").good).toBe(2);
    expect(new Date(endedAt).toISOString()).toBe("2026-06-01T09:02:00.000Z");
    expect(plan.caps.workingMinutes).toBe(20);
  });

  it("is what the server has, on a device that recorded none of it", () => {
    const { plan, events, endedAt } = review({ kept: undefined, events: [] }, view([ask("a", 1)]));
    expect([events.length, plan.startedAt, plan.caps]).toEqual([1, START, { workingMinutes: 15, inHandMinutes: 30 }]);
    expect(new Date(endedAt).toISOString()).toBe("2026-06-01T09:20:00.000Z");
  });

  it("holds an entry both have once, and what only one of them has as well", () => {
    const both = review({ kept, events: keptEvents(ask("a", 1), ask("b", 2)) }, view([ask("a", 1), ask("c", 3)]));
    expect(both.events.map(({ id }) => id)).toEqual(["a", "b", "c"]);
  });

  it("ends when it did by a clock that was measured after the server was asked", () => {
    const of = (event: Record<string, unknown>): RecordEvent =>
      ({ device: "phone", ...event }) as unknown as RecordEvent;
    const events = [
      of({ id: "o:start", at: "2026-06-01T11:00:00.000Z", type: "outing-start", seq: 1 }),
      of({ id: "o:end", at: "2026-06-01T11:20:00.000Z", type: "outing-end", seq: 2 }),
    ];
    const skew = of({
      id: "k",
      at: "2026-06-01T11:30:00.000Z",
      type: "clock-skew",
      of: "phone",
      behindSeconds: -7200,
      seq: 3,
    });
    const asked = { ...view(events), outing: { startedAt: START, endedAt: "2026-06-01T11:20:00.000Z" } } as OutingView;
    const { plan, endedAt } = review({ kept, events: keptEvents(...events, skew) }, asked);
    expect([plan.startedAt, new Date(endedAt).toISOString()]).toEqual([START, "2026-06-01T09:20:00.000Z"]);
    // Said anew, the end is what was said.
    const anew = of({ id: "n", at: "2026-06-01T12:00:00.000Z", type: "head", endedAt: "2026-06-01T09:15:00.000Z" });
    const told = review({ kept, events: keptEvents(...events, skew, anew) }, asked);
    expect(new Date(told.endedAt).toISOString()).toBe("2026-06-01T09:15:00.000Z");
  });

  it("names what was struck out with the correction that did it, and what was brought back no more", () => {
    const events = keptEvents(ask("a", 1), ask("b", 2), strike("s1", "a"), strike("s2", "b"), strike("s3", "s2"));
    const { struckOut, strikes, events: standing } = review({ kept, events }, undefined);
    expect(struckOut.map(({ id }) => id)).toEqual(["a"]);
    expect([...strikes]).toEqual([["a", "s1"]]);
    expect(standing.map(({ id }) => id)).toEqual(["b"]);
  });

  it("says when nobody ended it, whoever knows", () => {
    const end = {
      id: "o:end",
      at: "2026-06-01T09:05:00.000Z",
      type: "outing-end",
      unended: true,
    } as unknown as RecordEvent;
    expect(review({ kept, events: keptEvents(ask("a", 1), end) }, undefined).unended).toBe(true);
    const elsewhere = { ...view([ask("a", 1)]), head: { unended: true } };
    expect(review({ kept: undefined, events: [] }, elsewhere).unended).toBe(true);
    expect(review({ kept, events: keptEvents(ask("a", 1)) }, undefined).unended).toBe(false);
  });
});
