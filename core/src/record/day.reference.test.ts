import { addDays as addDaysOf } from "date-fns/addDays";
import { differenceInCalendarDays } from "date-fns/differenceInCalendarDays";
import { formatISO } from "date-fns/formatISO";
import { parseISO } from "date-fns/parseISO";
import { describe, expect, it } from "vitest";
import { randomFrom } from "../random";
import { addDays, dayIn, daysBetween, EARLIEST_YEAR, isTimeZone, LATEST_YEAR } from "./day";

const FIRST = Date.UTC(EARLIEST_YEAR, 0);
const LAST = Date.UTC(LATEST_YEAR, 11, 31);

describe("the yard's day", () => {
  // Clock changes of Europe/Dublin: last Sundays of March and October at 01:00 UTC (Directive 2000/84/EC; IANA tz database).
  it("changes at local midnight, in summer time too", () => {
    expect(dayIn("Europe/Dublin", "2026-03-29T00:30:00Z")).toBe("2026-03-29");
    expect(dayIn("Europe/Dublin", "2026-06-30T22:59:59Z")).toBe("2026-06-30");
    expect(dayIn("Europe/Dublin", "2026-06-30T23:00:00Z")).toBe("2026-07-01");
    expect(dayIn("Europe/Dublin", "2026-10-25T23:30:00Z")).toBe("2026-10-25");
    expect(dayIn("America/Denver", "2026-01-01T06:59:00Z")).toBe("2025-12-31");
    expect(dayIn("Pacific/Auckland", "2026-01-01T11:00:00Z")).toBe("2026-01-02");
  });

  // Clock changes of all zones of the machine's own time zone database (IANA tz database), asked through Intl.
  it("is what the machine's calendar says, in every zone there is", () => {
    const random = randomFrom(5);
    const others = Intl.supportedValuesOf("timeZone").flatMap((timeZone) => {
      const calendar = new Intl.DateTimeFormat("en-CA", {
        timeZone,
        year: "numeric",
        month: "2-digit",
        day: "2-digit",
      });
      const times = Array.from({ length: 60 }, () => FIRST + Math.floor(random() * (LAST - FIRST)));
      return times.filter((time) => dayIn(timeZone, time) !== calendar.format(time)).map((time) => [timeZone, time]);
    });
    expect(others).toEqual([]);
    expect(() => dayIn("Europe/Dublin", Number.NaN)).toThrow(RangeError);
    expect(dayIn("UTC", Date.UTC(1899, 5, 1))).toBe("1899-06-01");
  });

  it("counts days of 23 and 25 hours as one", () => {
    expect(daysBetween("2026-03-28", "2026-03-30")).toBe(2);
    expect(daysBetween("2026-10-24", "2026-10-26")).toBe(2);
    expect(addDays("2026-03-28", 2)).toBe("2026-03-30");
    expect(addDays("2026-10-24", 2)).toBe("2026-10-26");
  });

  // Gregorian leap years: ISO 8601:2004, 3.2.1.
  it("knows leap years", () => {
    expect(daysBetween("2024-02-28", "2024-03-01")).toBe(2);
    expect(daysBetween("2026-02-28", "2026-03-01")).toBe(1);
    expect(daysBetween("1900-02-28", "1900-03-01")).toBe(1);
    expect(daysBetween("2000-02-28", "2000-03-01")).toBe(2);
    expect(daysBetween("2026-05-02", "2026-05-01")).toBe(-1);
  });

  it("counts as a date library counts (date-fns), over ninety years and the clock changes of wherever this runs", () => {
    const first = "1960-01-01";
    for (let n = 0; n < 33_000; n += 17) {
      const day = formatISO(addDaysOf(parseISO(first), n), { representation: "date" });
      expect(addDays(first, n)).toBe(day);
      expect(daysBetween(day, first)).toBe(differenceInCalendarDays(parseISO(first), parseISO(day)));
    }
    expect(() => addDays("a day", 1)).toThrow(RangeError);
  });

  it("knows which time zones exist", () => {
    expect(isTimeZone("Europe/Dublin")).toBe(true);
    expect(isTimeZone("Europe/Nowhere")).toBe(false);
  });
});
