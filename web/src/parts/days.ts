import { TZDate } from "@date-fns/tz";
import { format } from "date-fns";
import { dayIn, daysBetween, type Day } from "@still-pine/core/record";

/** A day as people say it: today, yesterday, 5 days ago, 3 Nov. */
export function dayInWords(day: Day, today: Day): string {
  const ago = daysBetween(day, today);
  if (ago === 0) return "today";
  if (ago === 1) return "yesterday";
  if (ago > 1 && ago < 15) return `${ago} days ago`;
  return format(new TZDate(`${day}T12:00:00Z`, "UTC"), day.slice(0, 4) === today.slice(0, 4) ? "d MMM" : "d MMM yyyy");
}

export function weekdayOf(day: Day): string {
  return format(new TZDate(`${day}T12:00:00Z`, "UTC"), "EEE d MMM");
}

/** The clock time of an instant in the yard's zone. */
export function timeIn(timeZone: string, instant: string): string {
  return format(new TZDate(instant, timeZone), "HH:mm");
}

/** The day of an instant in the yard's zone. */
export const dayOf = (timeZone: string, instant: string): Day => dayIn(timeZone, instant);

/** The instant at which a clock in the yard's zone shows a day and a time. Null where either is not filled in. */
export function instantIn(timeZone: string, day: Day, time: string): string | null {
  const date = /^(\d{4})-(\d\d)-(\d\d)$/.exec(day);
  const clock = /^(\d\d):(\d\d)$/.exec(time);
  if (!date || !clock) return null;
  const [year, month, dayOfMonth] = date.slice(1).map(Number) as [number, number, number];
  const [hours, minutes] = clock.slice(1).map(Number) as [number, number];
  return new Date(new TZDate(year, month - 1, dayOfMonth, hours, minutes, timeZone).getTime()).toISOString();
}
