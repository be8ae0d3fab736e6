import type { CountedAsk } from "@still-pine/core/readiness";

export const TALLIES = [
  { tally: "clean", name: "clean", theme: "pine" },
  { tally: "missed", name: "missed", theme: "clay" },
  { tally: "uncounted", name: "counts for nothing", theme: "line" },
] as const;
type Tally = (typeof TALLIES)[number]["tally"];

const OF: Record<CountedAsk["worth"], Tally | null> = {
  clean: "clean",
  miss: "missed",
  neutral: "uncounted",
  practice: "uncounted",
  lucky: "uncounted",
  "failed-lucky": "uncounted",
  series: null,
};

/** Asks of a step by outing, the earliest first, and side; a remembered series as many as it was. */
export function tallyAsks(asks: readonly CountedAsk[]): {
  outings: { id: string; day: string }[];
  /** By "outing side". */
  counts: Map<string, Record<Tally, number>>;
} {
  const outings = new Map<string, { id: string; day: string }>();
  const counts = new Map<string, Record<Tally, number>>();
  for (const { event, outing, day, side, worth } of asks.toReversed()) {
    outings.set(outing, { id: outing, day });
    const key = `${outing} ${side}`;
    const one = counts.get(key) ?? { clean: 0, missed: 0, uncounted: 0 };
    counts.set(key, one);
    const tally = OF[worth];
    if (tally) one[tally] += 1;
    else if (event.type === "series") {
      one.clean += event.clean;
      one.missed += event.count - event.clean;
    }
  }
  return { outings: [...outings.values()].toSorted((a, b) => a.day.localeCompare(b.day)), counts };
}
