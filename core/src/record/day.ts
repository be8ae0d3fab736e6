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

/** A week: from 1900 on no zone of the time zone database changes its clock there and back within one. */
const SPAN_MS = 7 * MS_A_DAY;

/** The days of one time zone. */
class Zone {
  private readonly formatter: Intl.DateTimeFormat;
  /** By week since 1970: what its local clock is ahead of UTC at the beginning of the week, in milliseconds. */
  private readonly ahead = new Map<number, number>();

  constructor(timeZone: string) {
    this.formatter = new Intl.DateTimeFormat("en-CA", {
      timeZone,
      hourCycle: "h23",
      year: "numeric",
      month: "2-digit",
      day: "2-digit",
      hour: "2-digit",
      minute: "2-digit",
      second: "2-digit",
    });
  }

  dayOf(time: number): Day {
    const week = Math.floor(time / SPAN_MS);
    const ahead = isWithinRecord(time) ? this.aheadIn(week) : null;
    // In a week in which clocks change it is asked for.
    if (ahead === null || ahead !== this.aheadIn(week + 1)) return this.formatter.format(time).slice(0, 10);
    return new Date(time + ahead).toISOString().slice(0, 10);
  }

  private aheadIn(week: number): number {
    let ahead = this.ahead.get(week);
    if (ahead === undefined) this.ahead.set(week, (ahead = this.askFor(week * SPAN_MS)));
    return ahead;
  }

  private askFor(time: number): number {
    // "2026-03-29, 01:00:00"
    const [year = 0, month = 0, day, hour, minute, second] = (this.formatter.format(time).match(/\d+/g) ?? []).map(
      Number,
    );
    return Date.UTC(year, month - 1, day, hour, minute, second) - time;
  }
}

const zones = new Map<string, Zone>();

/** The calendar day an instant (ISO 8601, or milliseconds) falls on in a time zone. Throws RangeError on an unknown zone. */
export function dayIn(timeZone: string, instant: string | number): Day {
  let zone = zones.get(timeZone);
  if (!zone) zones.set(timeZone, (zone = new Zone(timeZone)));
  return zone.dayOf(typeof instant === "string" ? Date.parse(instant) : instant);
}

/** Forgets the zones that were asked for: a program that is laid down as it is takes none of this machine along. */
export const forgetZones = (): void => zones.clear();

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
