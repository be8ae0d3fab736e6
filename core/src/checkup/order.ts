import type { StepId } from "../record";
import { randomFrom } from "../random";
import { Quick, type Answer } from "./quick";
import { asksFor, type Results } from "./run";
import type { Found, Test } from "./types";

/** Asks a step takes, on average over its shares. */
export const expectedAsks = ({ sides, twice }: Test): number =>
  sides.reduce((sum, { share }) => sum + (twice ? 2 : 1 + (1 - share)), 0);

/** The chance that every side comes clean at the first, and that none of them fails outright. */
const holdChance = ({ sides, twice }: Test): number =>
  sides.reduce((all, { share }) => all * (twice ? share * share : share), 1);
const goChance = ({ sides }: Test): number => sides.reduce((all, { share }) => all * (1 - (1 - share) ** 2), 1);

/**
 * The order of one stage, that which is expected to take the fewest asks of these: the road's own; the one that takes, of the steps
 * that may be asked now, the one whose clean answer spares the most asks below it, less those in vain where something below
 * fails; and what comes of the better of the two by moving one at a time as long as that spares asks. Still Pine's own rule, compared
 * with every possible order on small graphs.
 *
 * @param tests in the order of the road
 * @param before what is known by then: of the steps asked earlier in the check-up that they hold
 */
export function orderStage(tests: readonly Test[], before: Results): Test[] {
  if (tests.length < 2) return [...tests];
  const quick = new Quick(tests, before);
  const samples = samplesOf(tests);
  const cost = remembered((order, best) => {
    let sum = 0;
    for (let at = 0; at < samples.length && sum < best; at += 1) sum += quick.asks(order, samples[at] ?? []);
    return sum;
  });
  const place = new Map(tests.map((test, at) => [test, at]));
  const candidates = [tests.map((_, at) => at), sparing(tests, before).map((test) => place.get(test) ?? 0)];
  const [start] = candidates.toSorted((a, b) => cost(a, Infinity) - cost(b, Infinity));
  return improved(start ?? [], cost).flatMap((at) => tests[at] ?? []);
}

/** Asks of an order over all samples. @param best one that takes as many or more need not be counted to its end */
type Cost = (order: readonly number[], best: number) => number;

/** An order is come to again and again, from either side of two that change places. The best so far only ever gets less. */
function remembered(cost: Cost): Cost {
  const known = new Map<string, number>();
  return (order, best) => {
    const key = String.fromCharCode(...order);
    const asks = known.get(key) ?? cost(order, best);
    known.set(key, asks);
    return asks;
  };
}

const SWEEPS = 2;
/** In a large stage a step is only moved so far: farther rarely spares more. */
const FAR = 2;

/** One of them is moved to another place as long as that spares asks. */
function improved(start: readonly number[], cost: Cost): number[] {
  const far = start.length <= FEW ? start.length : FAR;
  let order = [...start];
  let best = cost(order, Infinity);
  for (let sweep = 0; sweep < SWEEPS; sweep += 1) {
    const before = best;
    for (const test of start) {
      const at = order.indexOf(test);
      for (let to = Math.max(0, at - far); to <= Math.min(order.length - 1, at + far); to += 1) {
        const rest = order.filter((one) => one !== test);
        const other = [...rest.slice(0, to), test, ...rest.slice(to)];
        const now = cost(other, best);
        if (now < best) [order, best] = [other, now];
      }
    }
    if (best === before) break;
  }
  return order;
}

/** What horses that answer by the shares would show: more of them where there is little to try. */
function samplesOf(tests: readonly Test[]): Answer[][] {
  const random = randomFrom(SEED);
  const count = tests.length <= FEW ? MANY_SAMPLES : FEW_SAMPLES;
  return Array.from({ length: count }, () => tests.map((test) => answerBy(test, random)));
}
const FEW = 7;
const MANY_SAMPLES = 300;
const FEW_SAMPLES = 24;

/** The top first where that is expected to spare more than it costs, else the first of the road. */
function sparing(tests: readonly Test[], before: Results): Test[] {
  const left = new Map(tests.map((test) => [test.step, test]));
  const order: Test[] = [];
  while (left.size > 0) {
    const waiting = [...left.values()];
    const isBehind = (step: StepId): boolean => before.has(step) || !left.has(step);
    const may = waiting.filter(({ needs, guarded }) =>
      needs.every((need) =>
        need.some((way) => way.every((step) => isBehind(step) || (!guarded && left.get(step)?.held === true))),
      ),
    );
    const best = may
      .map((test) => ({ test, gain: gainOf(test, left) }))
      .reduce<{ test: Test; gain: number } | null>((a, b) => (a && a.gain >= b.gain ? a : b), null);
    const first = may.find(({ needs }) => needs.every((need) => need.some((way) => way.every(isBehind))));
    // A need of a later stage leaves one waiting: it is asked when its turn comes.
    const next = best && best.gain > 0 ? best.test : (first ?? best?.test ?? waiting[0]);
    if (!next) break;
    order.push(next);
    left.delete(next.step);
  }
  return order;
}

/** Asks expected to be spared below a step if it is asked before what it rests on, less those that would be in vain. */
function gainOf(test: Test, left: ReadonlyMap<string, Test>): number {
  const below = [...test.under].flatMap((step) => left.get(step) ?? []);
  if (below.length === 0) return 0;
  const spared = below.filter(({ held }) => held).reduce((sum, one) => sum + expectedAsks(one), 0);
  const vain = 1 - below.reduce((all, one) => all * goChance(one), 1);
  return holdChance(test) * spared - expectedAsks(test) * vain;
}

const SAMPLES = 120;
const SEED = 7;

/** Asks a check-up in this order is expected to take, by going through it with horses that answer by the shares. Within about a tenth. */
export function expectedOf(order: readonly Test[], known: Results): number {
  const random = randomFrom(SEED);
  const quick = new Quick(order, known);
  const places = order.map((_, at) => at);
  let sum = 0;
  for (let sample = 0; sample < SAMPLES; sample += 1)
    sum += quick.asks(
      places,
      order.map((test) => answerBy(test, random)),
    );
  return sum / SAMPLES;
}

/** What a horse that answers by its shares shows of one step: each side asked, a miss asked once more, and no further side after one that fails. */
function answerBy({ sides, twice }: Test, random: () => number): Answer {
  let found: Found = "holds";
  let asks = 0;
  for (const { share } of sides) {
    const first = random() < share;
    const taken = asksFor(first, twice);
    const second = taken === 2 ? random() < share : first;
    asks += taken;
    if (!first && !second) return { found: "hole", asks };
    if (!first || !second) found = "rusty";
  }
  return { found, asks };
}
