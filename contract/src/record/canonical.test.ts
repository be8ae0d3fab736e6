import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { HorseRecord } from "@still-pine/core/record";
import { canonical, recordToText } from "./canonical";

describe("one text for one value", () => {
  it("whatever the order of its keys", () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const turned = (one: unknown): unknown =>
          Array.isArray(one)
            ? one.map(turned)
            : typeof one === "object" && one !== null
              ? Object.fromEntries(
                  Object.entries(one)
                    .toReversed()
                    .map(([key, field]) => [key, turned(field)]),
                )
              : one;
        expect(canonical(turned(value))).toBe(canonical(value));
        expect(JSON.parse(canonical(value))).toEqual(JSON.parse(JSON.stringify(value)));
      }),
      { numRuns: 300 },
    );
  });

  it("with the keys a person looks for first, unknown ones by name, absent ones left out", () => {
    expect(canonical({ zebra: 1, mood: 1, ant: 2, id: "x", gone: undefined })).toBe(
      '{"id":"x","mood":1,"ant":2,"zebra":1}',
    );
  });
});

describe("a record as text", () => {
  const record: HorseRecord = {
    yard: { timeZone: "UTC" },
    horse: { id: "h", name: 'Ünlaut "x"', foaled: "2023-01-01", foaledPrecision: "year", sex: "mare" },
    program: { id: "loose-pen-start" },
    horseEvents: [],
    outings: [
      { id: "b", startedAt: "2026-01-02T10:00:00Z", endedAt: "2026-01-02T11:00:00Z", events: [] },
      {
        id: "a",
        startedAt: "2026-01-01T10:00:00Z",
        endedAt: "2026-01-01T11:00:00Z",
        events: [
          { id: "2", at: "2026-01-01T10:02:00Z", type: "note", text: "two" },
          { id: "1", at: "2026-01-01T11:01:00+01:00", type: "note", text: "one" },
        ],
      },
    ],
  };

  it("is JSON, outings by start and events by time, one event a line, a line feed at the end", () => {
    const text = recordToText(record);
    const parsed = JSON.parse(text) as HorseRecord;
    expect(parsed.outings.map((outing) => outing.id)).toEqual(["a", "b"]);
    expect(parsed.outings[0]?.events.map((event) => event.id)).toEqual(["1", "2"]);
    expect(text.endsWith("}\n")).toBe(true);
    expect(text.split("\n").filter((line) => line.includes('"type":"note"'))).toHaveLength(2);
    expect(parsed.horse.name).toBe('Ünlaut "x"');
  });

  it("writes every text and number as JSON does", () => {
    fc.assert(
      fc.property(fc.oneof(fc.string({ unit: "binary" }), fc.double(), fc.string()), (value) => {
        expect(canonical(value)).toBe(JSON.stringify(value));
        expect(canonical([value])).toBe(JSON.stringify([value]));
      }),
      { numRuns: 500 },
    );
    expect(canonical(["\ud800", "a\u2028b", "\u007f", '"\\', -0, Number.NaN])).toBe(
      JSON.stringify(["\ud800", "a\u2028b", "\u007f", '"\\', -0, Number.NaN]),
    );
  });

  it("tells apart keys that read alike when joined, and keeps a key named like something every object has", () => {
    const values = [{}, { "": 1 }, { a: 1, b: 1 }, { "a\u0000b": 1 }, { "a\u0000b": 1, c: 1 }, { a: 1, "b\u0000c": 1 }];
    for (const value of [...values, ...values]) expect(JSON.parse(canonical(value))).toEqual(value);
    const odd = JSON.parse('{"__proto__":{"x":1},"constructor":2}');
    expect(canonical(odd)).toBe('{"__proto__":{"x":1},"constructor":2}');
  });

  it("does not change the record it was given, and is the same for the same record in another order", () => {
    const before = structuredClone(record);
    const turned = { ...record, outings: record.outings.toReversed() };
    expect(recordToText(turned)).toBe(recordToText(record));
    expect(record).toEqual(before);
  });
});
