import { describe, expect, it } from "vitest";
import { seriesErrors } from "./series-form";
import { HOW_MANY, seriesOf, usualCount } from "./series-of";

describe("a series as people remember it", () => {
  it("agrees with itself, however many there were", () => {
    for (const how of HOW_MANY)
      for (let count = 1; count <= 50; count += 1) {
        const { clean, first, worst } = seriesOf(count, how);
        expect([how, count, seriesErrors(count, clean, first, worst)]).toEqual([how, count, {}]);
      }
  });

  it("counts fewer clean the less was good", () => {
    expect(HOW_MANY.map((how) => seriesOf(8, how).clean)).toEqual([8, 6, 4, 0]);
  });

  it("has none clean where the usual feel was over the standard", () => {
    expect(seriesOf(6, "all", false)).toEqual({ count: 6, clean: 0, first: "gave", worst: "gave" });
  });

  it("was one ask where one was planned, and hardly fewer than four otherwise", () => {
    expect([1, 2, 3, 5].map(usualCount)).toEqual([1, 4, 4, 5]);
  });
});
