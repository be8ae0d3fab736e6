import { addDays as addDaysTo, differenceInCalendarDays, format, parse } from "date-fns";

/**
 * Calendar days are `YYYY-MM-DD` strings, never instants. Arithmetic counts calendar days, so a day of 23 or 25 hours
 * (a clock change) is one day like any other.
 */
export type Day = string;

const fromDay = (day: Day): Date => parse(day, "yyyy-MM-dd", new Date(2000, 0, 1));

/** Whole calendar days from `from` to `to`; negative when `to` is earlier. */
export function daysBetween(from: Day, to: Day): number {
  return differenceInCalendarDays(fromDay(to), fromDay(from));
}

/** `day` moved by `days` calendar days. `addDays("2026-03-28", 2)` is `"2026-03-30"`. */
export function addDays(day: Day, days: number): Day {
  return format(addDaysTo(fromDay(day), days), "yyyy-MM-dd");
}

const formatters = new Map<string, Intl.DateTimeFormat>();

/** The calendar day an instant (ISO 8601, or milliseconds) falls on in a time zone. Throws RangeError on an unknown zone. */
export function dayIn(timeZone: string, instant: string | number): Day {
  let formatter = formatters.get(timeZone);
  if (!formatter) {
    formatter = new Intl.DateTimeFormat("en-CA", { timeZone, year: "numeric", month: "2-digit", day: "2-digit" });
    formatters.set(timeZone, formatter);
  }
  return formatter.format(typeof instant === "string" ? Date.parse(instant) : instant);
}

/** True for an IANA zone this machine knows. */
export function isTimeZone(name: string): boolean {
  try {
    dayIn(name, 0);
    return true;
  } catch {
    return false;
  }
}
