// How many presses a whole road takes that is recorded live alone: a horse that answers perfectly, under each of the programs.

/** Outings that are counted: the first of each road, until there are so many. */
const OUTINGS = 300;
const MEAN_MOST = 1.2;
const MOST_95 = 1.4;
const WATCH_MOST = 3;

/**
 * @param core the compiled core
 * @param report a row of the table
 */
export function countPresses({ PROGRAMS, workLive }, report) {
  const roads = PROGRAMS.map((program) => workLive(program, { outings: 250 }));
  const open = roads.flatMap((road) => road.open);
  if (open.length > 0) throw new Error(`the perfect horse does not come to the end: ${JSON.stringify(open)}`);
  // Outing by outing of every road in turn, so that each program and each part of its road is among them.
  const longest = Math.max(...roads.map(({ outings }) => outings.length));
  const every = Math.max(1, Math.floor(roads.reduce((sum, { outings }) => sum + outings.length, 0) / OUTINGS));
  const all = Array.from({ length: longest }, (_, at) => roads.flatMap(({ outings }) => outings[at] ?? [])).flat();
  const taken = all.filter((_, at) => at % every === 0).slice(0, OUTINGS);
  const sum = (name) => taken.reduce((total, one) => total + one[name], 0);
  const shares = taken
    .filter(({ asks }) => asks > 0)
    .map(({ asks, presses }) => presses / asks)
    .toSorted((a, b) => a - b);
  const at95 = shares[Math.floor(shares.length * 0.95)];
  const mean = sum("presses") / sum("asks");
  const watch = sum("watchPresses") / sum("watches");
  const of = `${taken.length} outings of the ${PROGRAMS.length} programs`;
  report(`presses an ask that is no watch, mean of ${of}`, "one press an ask", mean.toFixed(2), "1", mean, MEAN_MOST);
  report(`presses an ask that is no watch, 95th of ${of}`, "one press an ask", at95.toFixed(2), "1", at95, MOST_95);
  report(`presses a watch, mean of ${of}`, "one press", watch.toFixed(2), "1", watch, WATCH_MOST);
}
