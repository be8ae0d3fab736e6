// How benchmarks measure: medians of two things run in turn, so that a slow moment of the machine meets both.
export const median = (values) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)];
export const ms = (value) => `${value < 10 ? value.toFixed(1) : Math.round(value)} ms`;

export async function timed(work) {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

/** The medians of both, and of their ratio, run by run; the first run only warms up. */
export async function inTurn(runs, first, second) {
  const a = [];
  const b = [];
  for (let run = 0; run <= runs; run += 1) {
    const times = [await timed(first), await timed(second)];
    if (run === 0) continue;
    a.push(times[0]);
    b.push(times[1]);
  }
  return [median(a), median(b), median(a.map((value, index) => value / b[index]))];
}
