import betaCdf from "@stdlib/stats-base-dists-beta-cdf";

/**
 * How sure the record makes us that at least `share` of a side's asks come clean: P(X ≥ share) where
 * X ~ Beta(1 + clean, 1 + not), an even start before the first ask.
 *
 * @param clean summed weight of clean asks, ≥ 0
 * @param not summed weight of misses, ≥ 0
 * @param share between 0 and 1
 * @returns a probability. `sureOf(5, 0, 0.75)` is 1 − 0.75⁶ = 0.822…
 */
export function sureOf(clean: number, not: number, share: number): number {
  return 1 - betaCdf(share, 1 + clean, 1 + not);
}
