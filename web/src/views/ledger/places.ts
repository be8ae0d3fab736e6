/** Where in the ledger a row stands: rows are counted from the latest on, days hold known numbers of them. */

export type DayCounts = readonly (readonly [day: string, rows: number])[];

/** Rows before each day, for the search of a place. */
export function startsOf(days: DayCounts): number[] {
  const starts: number[] = [];
  let before = 0;
  for (const [, rows] of days) {
    starts.push(before);
    before += rows;
  }
  return starts;
}

/**
 * The day a row stands on and how many rows of that day come before it.
 *
 * @param row counted from 0; beyond the last one is null
 */
export function placeOf(days: DayCounts, starts: readonly number[], row: number): { day: string; skip: number } | null {
  let low = 0;
  let high = days.length - 1;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((starts[middle] ?? 0) <= row) low = middle;
    else high = middle - 1;
  }
  const [day, rows] = days[low] ?? ["", 0];
  const skip = row - (starts[low] ?? 0);
  return row >= 0 && skip < rows ? { day, skip } : null;
}
