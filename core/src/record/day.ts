/**
 * Calendar days are `YYYY-MM-DD` strings, never instants. Arithmetic counts calendar days, so a day of 23 or 25 hours
 * (a clock change) is one day like any other: days of UTC have no clock changes.
 */
export type Day = string;

/** Years a record can hold. */
export const EARLIEST_YEAR = 1900;
export const LATEST_YEAR = 2200;
const FIRST_MS = Date.UTC(EARLIEST_YEAR, 0);
const END_MS = Date.UTC(LATEST_YEAR + 1, 0);

/** Whether an instant, in milliseconds since 1970, lies within those years. */
export const isWithinRecord = (time: number): boolean => time >= FIRST_MS && time < END_MS;

const MS_A_DAY = 86_400_000;

/** Whole calendar days from `from` to `to`; negative when `to` is earlier. */
export function daysBetween(from: Day, to: Day): number {
  return Math.round((Date.parse(to) - Date.parse(from)) / MS_A_DAY);
}

/** `day` moved by `days` calendar days. `addDays("2026-03-28", 2)` is `"2026-03-30"`. Throws RangeError on what is no day. */
export function addDays(day: Day, days: number): Day {
  return new Date(Date.parse(day) + days * MS_A_DAY).toISOString().slice(0, 10);
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

/** Forgets the zones that were asked for: a program that is laid down as it is takes none of this machine along. */
export const forgetZones = (): void => formatters.clear();

/** True for an IANA zone this machine knows. */
export function isTimeZone(name: string): boolean {
  try {
    dayIn(name, 0);
    return true;
  } catch {
    return false;
  }
}

/**
 * An instant near the middle of a calendar day, for what is known by its day alone: `noonIn("Europe/Dublin", "2026-05-01")` is
 * `"2026-05-01T12:00:00.000Z"`.
 *
 * @returns null where the text is no day of the calendar
 */
export function noonIn(timeZone: string, day: string): string | null {
  if (!/^\d{4}-\d\d-\d\d$/.test(day) || Number.isNaN(Date.parse(day))) return null;
  // East of twelve hours, noon of UTC is the next day there already.
  const found = ["12", "00"].map((hour) => `${day}T${hour}:00:00.000Z`).find((at) => dayIn(timeZone, at) === day);
  return found ?? null;
}
