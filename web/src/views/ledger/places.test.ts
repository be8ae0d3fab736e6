import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { placeOf, startsOf } from "./places";

const days = [
  ["2026-06-03", 2],
  ["2026-06-01", 5],
  ["2026-05-20", 1],
] as const;

describe("a place in the ledger", () => {
  it.each([
    [0, { day: "2026-06-03", skip: 0 }],
    [1, { day: "2026-06-03", skip: 1 }],
    [2, { day: "2026-06-01", skip: 0 }],
    [6, { day: "2026-06-01", skip: 4 }],
    [7, { day: "2026-05-20", skip: 0 }],
    [8, null],
    [-1, null],
  ])("row %d is %j", (row, place) => {
    expect(placeOf(days, startsOf(days), row)).toEqual(place);
  });

  it("of no rows is nowhere", () => expect(placeOf([], [], 0)).toBeNull());

  it("is the one a count from the top comes to", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 40 }),
        fc.nat(400),
        (counts, row) => {
          const all = counts.map((count, index) => [`d${index}`, count] as const);
          const plain = all.flatMap(([day, count]) => Array.from({ length: count }, (_, skip) => ({ day, skip })));
          expect(placeOf(all, startsOf(all), row)).toEqual(plain[row] ?? null);
        },
      ),
    );
  });
});
