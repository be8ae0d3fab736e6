import { describe, expect, it } from "vitest";
import { foldRecord } from "./fold";
import type { AskEvent, HorseRecord, RecordEvent } from "./types";
import { shortRecord } from "../readiness/cases/notation";

const ask = (id: string, second: number, more: Partial<AskEvent> = {}): AskEvent => ({
  id,
  at: `2026-01-10T10:00:${String(second).padStart(2, "0")}.000Z`,
  type: "ask",
  step: "flex",
  side: "near",
  phase: 1,
  answer: "gave",
  mood: 1,
  ...more,
});

function recordOf(events: RecordEvent[]): HorseRecord {
  const record = shortRecord([[0, ""]]);
  record.outings[0]?.events.push(...events);
  return record;
}

const idsOf = (events: RecordEvent[]): string[] =>
  foldRecord(recordOf(events)).outings.flatMap((outing) => outing.events.map((event) => event.id));

describe("folding an outing", () => {
  it("orders by time, whatever the offset it is written with", () => {
    expect(idsOf([ask("b", 20), ask("a", 10), ask("c", 0, { at: "2026-01-10T11:00:15+01:00" })])).toEqual([
      "a",
      "c",
      "b",
    ]);
  });

  it("keeps one device's own count when its clock jumps back", () => {
    expect(
      idsOf([
        ask("a", 30, { device: "d", seq: 1 }),
        ask("b", 10, { device: "d", seq: 2 }),
        ask("c", 40, { device: "d", seq: 3 }),
      ]),
    ).toEqual(["a", "b", "c"]);
  });

  it("leaves what was written up later at its own time", () => {
    const recordedAt = "2026-01-11T10:00:00Z";
    expect(
      idsOf([ask("a", 30, { device: "d", seq: 1, recordedAt }), ask("b", 10, { device: "d", seq: 2, recordedAt })]),
    ).toEqual(["b", "a"]);
  });

  it("counts an ask that two devices saw within three seconds once, as the less clean", () => {
    const folded = foldRecord(recordOf([ask("a", 10, { device: "x" }), ask("b", 13, { device: "y", phase: 2 })]));
    expect(folded.outings[0]?.events.map((event) => event.id)).toEqual(["b"]);
    expect(folded.pairs).toEqual([["b", "a"]]);
  });

  it("counts both when they are further apart, on other sides, or from one device", () => {
    expect(idsOf([ask("a", 10, { device: "x" }), ask("b", 14, { device: "y" })])).toHaveLength(2);
    expect(idsOf([ask("a", 10, { device: "x" }), ask("b", 11, { device: "y", side: "off" })])).toHaveLength(2);
    expect(
      idsOf([ask("a", 10, { device: "x" }), ask("b", 11, { device: "x" }), ask("c", 50, { device: "y" })]),
    ).toHaveLength(3);
  });

  it("takes an outing written on two phones as one", () => {
    const record = recordOf([ask("a", 10)]);
    const [first] = record.outings;
    if (!first) throw new Error("no outing");
    record.outings.push({ ...first, events: [ask("b", 20), ask("a", 10)] });
    const folded = foldRecord(record);
    expect(folded.outings).toHaveLength(1);
    expect(folded.outings[0]?.events.map((event) => event.id)).toEqual(["a", "b"]);
  });

  it("is reached by a correction that stands in another outing, or among what is said of the horse", () => {
    const record = shortRecord([
      [0, ""],
      [1, ""],
      [2, ""],
    ]);
    const [first, second, third] = record.outings;
    if (!first || !second || !third) throw new Error("no outings");
    first.events.push(ask("a", 10), ask("b", 20));
    second.events.push(ask("c", 10));
    const strike = (id: string, replaces: string): RecordEvent => ({
      id,
      at: "2026-01-20T10:00:00Z",
      type: "correction",
      replaces,
      void: true,
    });
    third.events.push(strike("x", "a"));
    record.horseEvents.push(strike("y", "c"));
    const ids = foldRecord(record).outings.map(({ events }) => events.map(({ id }) => id));
    expect(ids).toEqual([["b"], [], []]);
  });

  it("belongs to the yard's day on which it began", () => {
    const record = shortRecord([[0, "flex near 1g1"]]);
    const [outing] = record.outings;
    if (!outing) throw new Error("no outing");
    outing.startedAt = "2026-06-30T23:30:00Z";
    expect(foldRecord(record).outings[0]?.day).toBe("2026-07-01");
    expect(foldRecord({ ...record, yard: { timeZone: "UTC" } }).outings[0]?.day).toBe("2026-06-30");
  });
});

describe("the head of an outing", () => {
  const head = (id: string, hour: number, fields: object): RecordEvent => ({
    id,
    at: `2026-01-11T${hour}:00:00.000Z`,
    type: "head",
    ...fields,
  });

  it("is the last word on each of its fields, and a word struck out is no word", () => {
    const said = [head("h1", 10, { place: "field", weather: "rain" }), head("h2", 11, { weather: "sun" })];
    const fold = (...more: RecordEvent[]) => foldRecord(recordOf([...said, ...more])).outings[0]?.head;
    expect(fold()).toMatchObject({ place: "field", weather: "sun" });
    const strike: RecordEvent = { id: "c", at: "2026-01-12T10:00:00Z", type: "correction", replaces: "h2", void: true };
    expect(fold(strike)).toMatchObject({ place: "field", weather: "rain" });
  });

  it("may move the outing to another day of the yard, and never ends before it starts", () => {
    const [outing] = foldRecord(recordOf([head("h", 10, { startedAt: "2026-01-14T23:30:00Z" })])).outings;
    expect(outing).toMatchObject({
      startedAt: "2026-01-14T23:30:00Z",
      endedAt: "2026-01-14T23:30:00Z",
      day: "2026-01-14",
    });
  });
});

describe("a measured clock", () => {
  const skew = (id: string, second: number, behindSeconds: number): RecordEvent => ({
    id,
    at: `2026-01-10T10:00:${String(second).padStart(2, "0")}.000Z`,
    type: "clock-skew",
    of: "d",
    behindSeconds,
  });

  it("moves what its device says, by the last measurement before it, and nothing else", () => {
    const asks = [ask("own", 10, { device: "d", seq: 1 }), ask("other", 12, { device: "e", seq: 1, side: "off" })];
    expect(idsOf(asks)).toEqual(["own", "other"]);
    expect(idsOf([...asks, skew("s", 0, 5)])).toEqual(["s", "other", "own"]);
    const twice = [skew("s", 0, 5), skew("t", 11, -5), ask("late", 13, { device: "d", seq: 2 }), ...asks];
    // 10 + 5 for the first; 13 - 5 for the second, which is then not before the first of its device.
    expect(idsOf(twice)).toEqual(["s", "t", "other", "own", "late"]);
  });

  it("brings the two sightings of one ask together, and keeps two asks apart", () => {
    const asks = [ask("own", 10, { device: "d", seq: 1 }), ask("twin", 18, { device: "e", seq: 1 })];
    expect(idsOf(asks)).toEqual(["own", "twin"]);
    expect(idsOf([...asks, skew("s", 0, 8)])).toEqual(["s", "own"]);
    expect(
      idsOf([ask("own", 10, { device: "d", seq: 1 }), ask("later", 11, { device: "e", seq: 1 }), skew("s", 0, -9)]),
    ).toEqual(["s", "own", "later"]);
  });

  it("holds back nothing that its device wrote down after it: an outing closed later ended when it did", () => {
    const of = { device: "d" };
    const begun = { id: "o:start", at: "2026-01-10T10:00:00.000Z", type: "outing-start", ...of, seq: 1 };
    const closed = { id: "o:end", at: "2026-01-10T10:00:20.000Z", type: "outing-end", ...of, seq: 4 };
    const measured = { ...skew("s", 0, -7200), at: "2026-01-10T12:30:00.000Z", ...of, seq: 3 };
    const events = [begun, ask("own", 20, { ...of, seq: 2 }), measured, closed] as RecordEvent[];
    const [outing] = foldRecord(recordOf(events)).outings;
    expect([outing?.startedAt, outing?.endedAt]).toEqual(["2026-01-10T08:00:00.000Z", "2026-01-10T08:00:20.000Z"]);
  });

  it("leaves alone what was written up later", () => {
    const written = ask("own", 10, { device: "d", seq: 1, recordedAt: "2026-01-10T20:00:00Z" });
    expect(idsOf([written, ask("other", 12, { device: "e", seq: 1, side: "off" }), skew("s", 0, 5)])).toEqual([
      "s",
      "own",
      "other",
    ]);
  });
});

describe("twenty thousand entries of one instant", () => {
  const MANY = 20_000;
  const SOON_MS = 20_000;
  const both = (second: (n: number) => number): AskEvent[] =>
    Array.from({ length: MANY }, (_, n) => [
      ask(`x${n}`, second(n), { device: "x", seq: n }),
      ask(`y${n}`, second(n), { device: "y", seq: n }),
    ]).flat();

  it("by two devices are paired, each once", { timeout: SOON_MS }, () => {
    expect(foldRecord(recordOf(both(() => 10))).pairs).toHaveLength(MANY);
  });

  it("by one device after the other are paired in their order", { timeout: SOON_MS }, () => {
    const [first, ...rest] = foldRecord(recordOf(both(() => 10).toSorted((a, b) => (a.id < b.id ? -1 : 1)))).pairs;
    expect([first, rest.length]).toEqual([["x0", "y0"], MANY - 1]);
  });

  it(
    "by a clock that was measured as often are each moved by the last measurement before",
    { timeout: SOON_MS },
    () => {
      const measured = Array.from({ length: MANY }, (_, n): RecordEvent => ({
        id: `s${n}`,
        at: new Date(Date.parse("2026-01-10T10:00:00.000Z") + n).toISOString(),
        type: "clock-skew",
        of: "x",
        behindSeconds: n % 60,
      }));
      const asks = Array.from({ length: MANY }, (_, n) => ask(`x${n}`, 5, { device: "x" }));
      const [outing] = foldRecord(recordOf([...measured, ...asks])).outings;
      expect(outing?.events.find(({ id }) => id === "x7")?.at).toBe("2026-01-10T10:00:25.000Z");
    },
  );
});
