import type { StepId } from "../record";
import type { Found, Test } from "./types";

/** What is known while a check-up goes on: what was found so far, and what needed no test. */
export type Results = ReadonlyMap<string, Found>;

/**
 * The step to ask now: the first of the order that is neither found nor settled by a clean one above it, and that may be asked.
 *
 * @returns undefined where all is found or nothing more may be asked
 */
export function nextTest(order: readonly Test[], results: Results): Test | undefined {
  const listed = new Map(order.map((test) => [test.step, test]));
  const known = new Map<string, May>();
  return order.find(
    (test) =>
      !results.has(test.step) &&
      !settledBy(test, order, results) &&
      mayAsk(test, { order, listed, results, known }) === "yes",
  );
}

/** The step above it that came clean in this check-up: who does that needs no test of this, if he had it before. */
function settledBy({ step, held }: Test, order: readonly Test[], results: Results): string | undefined {
  if (!held) return undefined;
  return order.find((one) => one.under.includes(step) && results.get(one.step) === "holds")?.step;
}

/** Whether a step may be asked: now, once something else was found, or never, because what it rests on failed. */
type May = "yes" | "wait" | "never";

interface Going {
  order: readonly Test[];
  listed: ReadonlyMap<string, Test>;
  results: Results;
  known: Map<string, May>;
}

/**
 * All a step rests on has to be there, some way: found so in the check-up, or held before and not out of reach by now. Behind a gate
 * only what was found counts, and only what came clean at the first.
 */
function mayAsk(test: Test, going: Going): May {
  const before = going.known.get(test.step);
  if (before) return before;
  // Needs never go in a circle.
  const may = worst(
    test.needs.map((need) => best(need.map((way) => worst(way.map((step) => isThere(step, test, going)))))),
  );
  going.known.set(test.step, may);
  return may;
}

function isThere(step: StepId, { guarded }: Test, going: Going): May {
  const found = going.results.get(step);
  if (found !== undefined) return found === "holds" || (found === "rusty" && !guarded) ? "yes" : "never";
  const test = going.listed.get(step);
  if (!test || mayAsk(test, going) === "never") return "never";
  if (!test.held) return "wait";
  return guarded && !settledBy(test, going.order, going.results) ? "wait" : "yes";
}

const worst = (all: readonly May[]): May => (all.includes("never") ? "never" : all.includes("wait") ? "wait" : "yes");
const best = (all: readonly May[]): May => (all.includes("yes") ? "yes" : all.includes("wait") ? "wait" : "never");

/** What every step came to once no more may be asked: those never reached are not tested. */
function finish(order: readonly Test[], results: Results): Map<string, Found> {
  const all = new Map(results);
  for (const test of order)
    if (!results.has(test.step)) all.set(test.step, settledBy(test, order, results) ? "holds" : "not-tested");
  return all;
}

/** Asks one side takes when its answers are known: once or twice, and once more after a miss. */
export const asksFor = (first: boolean, twice: boolean): number => (first && !twice ? 1 : 2);

/** Goes through a check-up with a horse whose answers are known. @returns the asks it took, and what was found */
export function goThrough(
  order: readonly Test[],
  known: Results,
  answer: (test: Test) => { found: Found; asks: number },
): { asks: number; results: Map<string, Found> } {
  const results = new Map(known);
  let asks = 0;
  for (let test = nextTest(order, results); test; test = nextTest(order, results)) {
    const one = answer(test);
    results.set(test.step, one.found);
    asks += one.asks;
  }
  return { asks, results: finish(order, results) };
}
