import { describe, expect, it } from "vitest";
import { ageInWords, ageOn, foalingSpan } from "./age";

describe("age from a foaling date", () => {
  it("is exact when the day is known", () => {
    expect(ageOn("2023-05-10", "day", "2026-05-09")).toEqual({ monthsAtLeast: 35, monthsAtMost: 35 });
    expect(ageOn("2023-05-10", "day", "2026-05-10")).toEqual({ monthsAtLeast: 36, monthsAtMost: 36 });
  });

  it("is a span when only the month or the year is known, and the younger end comes first", () => {
    expect(ageOn("2023-05-01", "month", "2026-05-20")).toEqual({ monthsAtLeast: 35, monthsAtMost: 36 });
    expect(ageOn("2023-05-01", "year", "2026-05-01")).toEqual({ monthsAtLeast: 28, monthsAtMost: 40 });
  });

  it("takes all days of a month, a leap February too", () => {
    expect(foalingSpan("2024-02-11", "month")).toEqual({ first: "2024-02-01", last: "2024-02-29" });
    expect(foalingSpan("2023-02-11", "month")).toEqual({ first: "2023-02-01", last: "2023-02-28" });
  });

  it("is never less than nothing", () => {
    expect(ageOn("2026-05-01", "year", "2026-05-01").monthsAtLeast).toBe(0);
  });

  it.each([
    [7, 7, "7 mo"],
    [38, 38, "3 y 2 mo"],
    [36, 36, "3 y"],
    [28, 40, "2–3 y"],
    [36, 37, "about 3 y"],
    [6, 7, "6–7 mo"],
  ])("%d to %d months reads %s", (monthsAtLeast, monthsAtMost, words) => {
    expect(ageInWords({ monthsAtLeast, monthsAtMost })).toBe(words);
  });
});
