import { asFarAsRung, saidRung, worthOfAsk } from "@still-pine/core/evidence";
import { sidesOf, type SideKey, type Step } from "@still-pine/core/programs";
import type { CountedAsk } from "@still-pine/core/readiness";

/** What came clean in one outing: by side the place of the highest rung, null where none did or none was said. */
export interface RungsOfOuting {
  outing: string;
  day: string;
  highest: Partial<Record<SideKey, number | null>>;
}

/** The highest rung that came clean, outing by outing, the earliest first; outings in which no rung was said are left out. */
export function rungsByOuting(step: Step, asks: readonly CountedAsk[]): RungsOfOuting[] {
  const outings = new Map<string, RungsOfOuting>();
  for (const { event, outing, day, side } of asks.toReversed()) {
    if (event.type !== "ask") continue;
    const place = saidRung(event, step);
    if (place === null || !sidesOf(step).includes(side)) continue;
    const one = outings.get(outing) ?? { outing, day, highest: {} };
    outings.set(outing, one);
    const before = one.highest[side] ?? null;
    const isClean = worthOfAsk(event, asFarAsRung(step, place)) === "clean";
    one.highest[side] = isClean ? Math.max(place, before ?? 0) : before;
  }
  return [...outings.values()].toSorted((a, b) => a.day.localeCompare(b.day));
}
