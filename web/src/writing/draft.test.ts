import { beforeEach, describe, expect, it, vi } from "vitest";
import {
  dropDraft,
  emptyDraft,
  eventsOf,
  headErrors,
  keepDraft,
  readDraft,
  withHorse,
  withTimes,
  type Draft,
} from "./draft";

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
  });
});

const ZONE = "Europe/Dublin";
const NOW = "2026-06-10T12:00:00.000Z";
const draft = (more: Partial<Draft> = {}): Draft => ({
  ...emptyDraft("h1", "2026-06-09"),
  start: "10:00",
  end: "10:30",
  place: "Pen",
  handler: "A",
  ...more,
});
const ask = (n: number): Draft["entries"][number] => ({
  type: "ask",
  step: "flex",
  side: "near",
  phase: 1,
  answer: "gave",
  mood: 1,
  id: `e${n}`,
  recordedAt: NOW,
  device: "d",
  seq: n,
});

describe("the head of a write-up", () => {
  it("is right when all is said", () => {
    expect(headErrors(draft(), ZONE, NOW)).toEqual({});
  });

  it("names every field that is missing or wrong", () => {
    expect(
      Object.keys(headErrors(draft({ horse: "", day: "", start: "", end: "", place: " ", handler: "" }), ZONE, NOW)),
    ).toEqual(["horse", "day", "start", "end", "place", "handler"]);
    expect(headErrors(draft({ end: "09:59" }), ZONE, NOW).end).toBe("Must be after the start, 10:00.");
    expect(headErrors(draft({ day: "2026-06-11" }), ZONE, NOW).start).toBe("That has not come yet.");
  });
});

describe("the events of a write-up", () => {
  it("are its head and its entries, spread evenly in the order they were typed, in the yard's time", () => {
    const events = eventsOf(withTimes(draft({ outing: "o", entries: [ask(1), ask(2)] }), ZONE), ZONE);
    expect(events.map(({ event }) => [event.id, event["at"]])).toEqual([
      ["o:start", "2026-06-09T09:00:00.000Z"],
      ["e1", "2026-06-09T09:10:00.000Z"],
      ["e2", "2026-06-09T09:20:00.000Z"],
      ["o:end", "2026-06-09T09:30:00.000Z"],
    ]);
  });

  it("are the same when they are made again, so that sending twice changes nothing", () => {
    const one = draft({ outing: "o", entries: [ask(1), ask(2), ask(3)] });
    const send = (from: Draft) => eventsOf(withTimes(from, ZONE), ZONE);
    expect(send(one)).toEqual(send(structuredClone(one)));
  });

  it("keep the times they were first sent with when more is added, and take new ones when the outing is moved", () => {
    const sent = withTimes(draft({ entries: [ask(1), ask(2)] }), ZONE);
    const more = withTimes({ ...sent, entries: [...sent.entries, ask(3)] }, ZONE);
    expect(more.entries.slice(0, 2)).toEqual(sent.entries);
    expect(more.entries[2]?.at).toBe("2026-06-09T09:25:00.000Z");
    const moved = withTimes({ ...more, start: "15:00", end: "15:40" }, ZONE);
    expect(moved.entries.map((entry) => entry.at)).toEqual(
      [10, 20, 30].map((minute) => `2026-06-09T14:${minute}:00.000Z`),
    );
  });

  it("are none while the times are missing", () => {
    expect(eventsOf(draft({ start: "" }), ZONE)).toEqual([]);
  });
});

describe("what is kept in the browser", () => {
  it("is one write-up a horse; an empty one is not kept, a broken store is none", () => {
    keepDraft(draft({ entries: [ask(1)] }));
    keepDraft(draft({ horse: "h2", place: "Other" }));
    expect([readDraft("h1")?.entries.length, readDraft("h2")?.place]).toEqual([1, "Other"]);
    keepDraft(emptyDraft("h2", "2026-06-09"));
    expect(readDraft("h2")).toBeNull();
    dropDraft("h1");
    expect(readDraft("h1")).toBeNull();
    kept.set("still-pine.drafts", "{broken");
    expect(readDraft("h1")).toBeNull();
  });

  it("moves to another horse, but never over that horse's own unsaved write-up", () => {
    const first = draft({ entries: [ask(1)] });
    keepDraft(first);
    const moved = withHorse(first, "h2");
    expect([moved.horse, moved.entries.length, readDraft("h1")]).toEqual(["h2", 1, null]);
    keepDraft(moved);
    keepDraft(draft({ horse: "h3", place: "Third" }));
    expect(withHorse(moved, "h3").place).toBe("Third");
    expect(readDraft("h2")?.entries.length).toBe(1);
  });
});
