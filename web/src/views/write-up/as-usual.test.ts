import { expect, it } from "vitest";
import { justNow } from "./as-usual";

it("an outing that ended just now is of the day it began on, and ends after it began at every minute round midnight", () => {
  const at = (time: string): number => Date.parse(`2026-06-10T${time}:30Z`);
  expect(justNow("Europe/Dublin", at("12:00"), 30)).toEqual({ day: "2026-06-10", start: "12:30", end: "13:00" });
  expect(justNow("UTC", at("00:10"), 30)).toEqual({ day: "2026-06-09", start: "23:40", end: "23:59" });
  for (let minute = 0; minute < 60; minute += 1) {
    const { start, end } = justNow("UTC", at("00:00") + minute * 60_000, 30);
    expect([minute, start < end]).toEqual([minute, true]);
  }
});
