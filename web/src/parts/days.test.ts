import { describe, expect, it } from "vitest";
import { dayInWords, instantIn, timeIn, weekdayOf } from "./days";

describe("days and times as people say them", () => {
  it.each([
    ["2026-06-10", "today"],
    ["2026-06-09", "yesterday"],
    ["2026-06-01", "9 days ago"],
    ["2026-05-02", "2 May"],
    ["2025-12-30", "30 Dec 2025"],
  ])("%s is %s", (day, words) => {
    expect(dayInWords(day, "2026-06-10")).toBe(words);
  });

  it("names the weekday of a calendar day, whatever the browser's zone", () => {
    expect(weekdayOf("2026-03-29")).toBe("Sun 29 Mar");
  });

  // Clock changes of Europe/Dublin in 2026: 29 March and 25 October, 01:00 UTC (IANA tz database).
  it("goes between the yard's clock and instants, over a clock change too", () => {
    expect(instantIn("Europe/Dublin", "2026-03-28", "10:00")).toBe("2026-03-28T10:00:00.000Z");
    expect(instantIn("Europe/Dublin", "2026-03-29", "10:00")).toBe("2026-03-29T09:00:00.000Z");
    expect(timeIn("Europe/Dublin", "2026-10-25T00:30:00Z")).toBe("01:30");
    expect(timeIn("Europe/Dublin", "2026-10-25T01:30:00Z")).toBe("01:30");
    expect(instantIn("Europe/Dublin", "2026-06", "10:00")).toBeNull();
    expect(instantIn("Europe/Dublin", "2026-06-01", "")).toBeNull();
  });
});
