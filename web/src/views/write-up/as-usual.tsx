import type { Brief } from "@still-pine/core/planning";
import { dayOf, timeIn } from "../../parts/days";
import type { Draft } from "../../writing/draft";

interface AsUsualProps {
  brief: Brief;
  timeZone: string;
  onTake: (part: Partial<Draft>) => void;
}

const MINUTE_MS = 60_000;
const FIRST_MINUTES = 20;
const LAST_MINUTE = "23:59";

/** When an outing was that ended just now. One that passed midnight is of the day it began on, and ends with it. */
export function justNow(timeZone: string, now: number, minutes: number): Pick<Draft, "day" | "start" | "end"> {
  const [from, to] = [now - minutes * MINUTE_MS, now].map((time) => new Date(time).toISOString()) as [string, string];
  const day = dayOf(timeZone, from);
  const start = timeIn(timeZone, from);
  if (day === dayOf(timeZone, to)) return { day, start, end: timeIn(timeZone, to) };
  return { day, start: start < LAST_MINUTE ? start : "23:58", end: LAST_MINUTE };
}

/** One press for when, where and who: it ended just now and was as long as usual, where and with whom it was the last time. */
export function AsUsual({ brief, timeZone, onTake }: AsUsualProps) {
  const minutes = Math.max(1, brief.usualMinutes ?? FIRST_MINUTES);
  const { place, handler } = brief.last ?? {};
  const take = (): void => {
    onTake({
      ...justNow(timeZone, Date.now(), minutes),
      ...(place ? { place } : {}),
      ...(handler ? { handler } : {}),
    });
  };
  return (
    <button type="button" className="button justify-self-start" onClick={take}>
      As usual: just now, {minutes} min{place && `, ${place}`}
      {handler && `, with ${handler}`}
    </button>
  );
}
