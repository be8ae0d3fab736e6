import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { goThrough, nextTest } from "./run";
import { expectedAsks, expectedOf, orderStage } from "./order";
import { Quick } from "./quick";
import type { Found, Test } from "./types";

interface Small {
  name: string;
  on: string[];
  share: number;
  held?: boolean;
  guarded?: boolean;
  twice?: boolean;
}

/** Tests of one side each, needs before what rests on them. */
function graph(steps: readonly Small[]): Test[] {
  const under = new Map<string, Set<string>>();
  for (const { name, on } of steps) under.set(name, new Set(on.flatMap((one) => [one, ...(under.get(one) ?? [])])));
  return steps.map(({ name, on, share, held = false, guarded = false, twice = !held }) => ({
    step: name,
    sides: [{ side: "none", share }],
    twice,
    held,
    guarded,
    needs: on.map((one) => [[one]]),
    under: [...(under.get(name) ?? [])],
  }));
}

/** Every way one test can come out, with its chance and its asks. */
function outcomesOf({ sides, twice }: Test): { chance: number; found: Found; asks: number }[] {
  const share = sides[0]?.share ?? 0;
  const miss = 1 - share;
  return twice
    ? [
        { chance: share * share, found: "holds", asks: 2 },
        { chance: 2 * share * miss, found: "rusty", asks: 2 },
        { chance: miss * miss, found: "hole", asks: 2 },
      ]
    : [
        { chance: share, found: "holds", asks: 1 },
        { chance: miss * share, found: "rusty", asks: 2 },
        { chance: miss * miss, found: "hole", asks: 2 },
      ];
}

/** Asks an order takes on average, over every way the horse may answer. */
function exactly(order: readonly Test[]): number {
  const go = (known: Map<string, Found>): number => {
    const test = nextTest(order, known);
    if (!test) return 0;
    return outcomesOf(test).reduce(
      (sum, { chance, found, asks }) => sum + chance * (asks + go(new Map([...known, [test.step, found]]))),
      0,
    );
  };
  return go(new Map());
}

function permutations<Item>(items: readonly Item[]): Item[][] {
  if (items.length < 2) return [[...items]];
  return items.flatMap((item, at) =>
    permutations([...items.slice(0, at), ...items.slice(at + 1)]).map((rest) => [item, ...rest]),
  );
}
const names = (tests: readonly Test[]): string => tests.map(({ step }) => step).join("");

const chain = (shares: readonly number[], more: Partial<Small> = {}): Test[] =>
  graph(
    shares.map((share, at) => ({
      name: "abcdef"[at] ?? "",
      on: at === 0 ? [] : ["abcdef"[at - 1] ?? ""],
      share,
      ...more,
    })),
  );

/** Small roads: some held before, some behind a gate, each resting on some of those before it. */
const small = fc
  .array(
    fc.record({
      share: fc.integer({ min: 10, max: 98 }).map((percent) => percent / 100),
      on: fc.array(fc.nat(4), { minLength: 1, maxLength: 3 }),
      held: fc.nat(3).map((digit) => digit > 0),
      guarded: fc.nat(9).map((digit) => digit === 0),
    }),
    { minLength: 2, maxLength: 5 },
  )
  .map((steps) =>
    graph(
      steps.map(({ on, ...rest }, at) => ({
        name: "abcde"[at] ?? "",
        on: [...new Set(on.filter((one) => one < at).map((one) => "abcde"[one] ?? ""))],
        ...rest,
      })),
    ),
  );

describe("the order of a check-up", () => {
  it("of a horse nobody knows goes from the bottom up", () => {
    expect(names(orderStage(chain([0.5, 0.5, 0.5, 0.5]), new Map()))).toBe("abcd");
  });

  it("of one that held it all begins at the top: a clean one there spares the rest", () => {
    expect(names(orderStage(chain([0.9, 0.9, 0.9, 0.9], { held: true }), new Map()))).toBe("dcba");
  });

  it("begins below where the top is likely to fail for what is below it", () => {
    const order = names(orderStage(chain([0.1, 0.3, 0.2], { held: true }), new Map()));
    expect(order).toBe("abc");
  });

  it("never asks what stands behind a gate before all it rests on came clean", () => {
    const tests = graph([
      { name: "a", on: [], share: 0.95, held: true },
      { name: "b", on: ["a"], share: 0.95, held: true, guarded: true },
    ]);
    expect(names(orderStage(tests, new Map()))).toBe("ab");
    // Asked out of order all the same, it waits; a rusty need keeps it shut.
    const wrong = tests.toReversed();
    expect(nextTest(wrong, new Map())?.step).toBe("a");
    expect(nextTest(wrong, new Map([["a", "rusty"]]))).toBeUndefined();
    expect(nextTest(wrong, new Map([["a", "holds"]]))?.step).toBe("b");
  });

  it("leaves what rests on a failure untested", () => {
    const order = orderStage(chain([0.5, 0.5, 0.5]), new Map());
    const { results, asks } = goThrough(order, new Map(), ({ step }) =>
      step === "a" ? { found: "holds", asks: 2 } : { found: "hole", asks: 2 },
    );
    expect([...results]).toEqual([
      ["a", "holds"],
      ["b", "hole"],
      ["c", "not-tested"],
    ]);
    expect(asks).toBe(4);
  });

  it("is the best of all orders on most small roads, and never takes a seventh more than the best", () => {
    let best = 0;
    let all = 0;
    let worst = 1;
    fc.assert(
      fc.property(small, (tests) => {
        const ours = exactly(orderStage(tests, new Map()));
        const least = Math.min(...permutations(tests).map(exactly));
        all += 1;
        if (ours <= least + 1e-9) best += 1;
        worst = Math.max(worst, ours / least);
        expect(ours).toBeLessThanOrEqual(least * 1.15 + 1e-9);
      }),
      { numRuns: 300, seed: 11 },
    );
    expect(best / all).toBeGreaterThan(0.9);
    expect(worst).toBeGreaterThanOrEqual(1);
  });

  it("counts quickly what going through it step by step takes, whatever the order and the answers", () => {
    const FOUND: Found[] = ["holds", "rusty", "hole"];
    fc.assert(
      fc.property(
        small,
        fc.array(fc.nat(2), { minLength: 5, maxLength: 5 }),
        fc.shuffledSubarray([0, 1, 2, 3, 4], { minLength: 5 }),
        (tests, found, shuffled) => {
          const order = shuffled.filter((at) => at < tests.length);
          const answers = tests.map((_, at) => ({ found: FOUND[found[at] ?? 0] ?? "hole", asks: at + 1 }));
          const slow = goThrough(
            order.flatMap((at) => tests[at] ?? []),
            new Map(),
            (test) => answers[tests.indexOf(test)] ?? { found: "hole", asks: 0 },
          );
          expect(new Quick(tests, new Map()).asks(order, answers)).toBe(slow.asks);
        },
      ),
      { numRuns: 2000, seed: 17 },
    );
  });

  it("expects what going through it takes on average", () => {
    fc.assert(
      fc.property(small, (tests) => {
        const order = orderStage(tests, new Map());
        expect(Math.abs(expectedOf(order, new Map()) - exactly(order)) / exactly(order)).toBeLessThan(0.2);
      }),
      { numRuns: 60, seed: 3 },
    );
    expect(expectedAsks(chain([0.75], { held: true })[0] as Test)).toBeCloseTo(1.25);
  });
});
