// How benchmarks measure: medians of two things run in turn, so that a slow moment of the machine meets both.
export const median = (values) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)];
export const ms = (value) => `${value < 10 ? value.toFixed(1) : Math.round(value)} ms`;

export async function timed(work) {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

const quartile = (values, share) => values.toSorted((a, b) => a - b)[Math.round((values.length - 1) * share)];

/**
 * What rounds of two things by turns come to: the medians of both, the median of their ratio round by round, and the middle half of
 * those ratios, which says how far to trust it.
 *
 * @param rounds of `[measured, floor]`
 */
export function paired(rounds) {
  const ratios = rounds.map(([measured, floor]) => measured / floor);
  return {
    measured: median(rounds.map(([measured]) => measured)),
    floor: median(rounds.map(([, floor]) => floor)),
    ratio: median(ratios),
    spread: [quartile(ratios, 0.25), quartile(ratios, 0.75)],
  };
}

/** Runs two things by turns, each after the other; the first round only warms up. */
export async function inTurn(runs, first, second) {
  const rounds = [];
  for (let run = 0; run <= runs; run += 1) {
    const round = [await timed(first), await timed(second)];
    if (run > 0) rounds.push(round);
  }
  return paired(rounds);
}

/** The same where the floor is a limit that stands for itself: what a person does not feel, what one waits for. */
export const against = (limit, values) => paired(values.map((value) => [value, limit]));
