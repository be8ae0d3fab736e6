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

/** One press for when, where and who: it ended just now and was as long as usual, where and with whom it was the last time. */
export function AsUsual({ brief, timeZone, onTake }: AsUsualProps) {
  const minutes = Math.max(1, brief.usualMinutes ?? FIRST_MINUTES);
  const { place, handler } = brief.last ?? {};
  const take = (): void => {
    const end = new Date();
    const start = new Date(end.getTime() - minutes * MINUTE_MS);
    const day = dayOf(timeZone, start.toISOString());
    // A clock that passed midnight: the outing's day is the day it began.
    const isOneDay = day === dayOf(timeZone, end.toISOString());
    onTake({
      day,
      start: timeIn(timeZone, start.toISOString()),
      end: isOneDay ? timeIn(timeZone, end.toISOString()) : "23:59",
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
