import type { Answer } from "@still-pine/core/record";

/** How many of a remembered series were good, as people remember it. */
export const HOW_MANY = ["all", "most", "half", "none"] as const;
export type HowMany = (typeof HOW_MANY)[number];

/** Fewer than this nobody does on a side, once he begins. */
const ASKS_LEAST = 4;

/** How often a side was probably asked, from what was planned for it. */
export const usualCount = (lineCount: number): number => (lineCount === 1 ? 1 : Math.max(ASKS_LEAST, lineCount));

interface SeriesNumbers {
  count: number;
  clean: number;
  first: Answer;
  worst: Answer;
}

/**
 * A series in the record's own fields. `seriesOf(5, "most")` is four clean of five, the first given, the worst a try.
 *
 * @param isClean whether its usual feel is within the standard; otherwise none of it was clean, however good it was
 */
export function seriesOf(count: number, how: HowMany, isClean = true): SeriesNumbers {
  const series = remembered(count, how);
  return isClean ? series : { ...series, clean: 0 };
}

function remembered(count: number, how: HowMany): SeriesNumbers {
  switch (how) {
    case "all":
      return { count, clean: count, first: "gave", worst: "gave" };
    case "most":
      return { count, clean: Math.max(0, count - Math.max(1, Math.floor(count / 4))), first: "gave", worst: "tried" };
    case "half":
      return { count, clean: Math.floor(count / 2), first: "tried", worst: "none" };
    case "none":
      return { count, clean: 0, first: "none", worst: "none" };
    default:
      return how satisfies never;
  }
}
