// How benchmarks measure: medians of two things run in turn, so that a slow moment of the machine meets both.
import { readFileSync } from "node:fs";
import { availableParallelism } from "node:os";
import { setTimeout as sleep } from "node:timers/promises";

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

/** A tick of the kernel's count of time, in milliseconds (`USER_HZ` is 100 on every Linux). */
const TICK_MS = 10;

/** Processor time that the machine's host gave to others while this machine wanted it, in milliseconds since it began; 0 where nobody counts. */
function stolenMs() {
  try {
    const [, , , , , , , , stolen] = readFileSync("/proc/stat", "utf8").split("\n", 1)[0].split(/\s+/);
    return Number(stolen ?? 0) * TICK_MS;
  } catch {
    return 0;
  }
}

/** Begins to watch how much is taken away. @returns says which share of the processors' time was, from 0 to 1, and after how long */
export function watchStolen() {
  const [before, began] = [stolenMs(), performance.now()];
  return () => {
    const took = performance.now() - began;
    return { share: (stolenMs() - before) / (took * availableParallelism()), took };
  };
}

/** More than this share of the processors taken away is not this program's own slowness any more. */
export const DISTURBED = 0.05;
const TRIES = 3;

/**
 * So many rounds, without those in which the host gave the processors to others: up to three times as many are run, and those kept of
 * which least was taken. What a round came to has no say in it.
 *
 * @param once one round; it is given its number
 * @param warmUps rounds before, which are not kept: a program that has run for a while is what people meet
 */
export async function inRounds(count, once, warmUps = 1) {
  for (let run = 0; run < warmUps; run += 1) await once(run);
  const rounds = [];
  const calm = () => rounds.filter(({ share }) => share <= DISTURBED).length;
  while (rounds.length < count * TRIES && calm() < count) {
    const stolen = watchStolen();
    const round = await once(warmUps + rounds.length);
    rounds.push({ round, share: stolen().share });
  }
  return rounds
    .toSorted((a, b) => a.share - b.share)
    .slice(0, count)
    .map(({ round }) => round);
}

/** Does something long again where the processors were taken away meanwhile: at most three times, and the calmest counts. */
export async function undisturbed(once) {
  let best = null;
  for (let run = 0; run < TRIES; run += 1) {
    if (run > 0) await sleep(AFTER_TROUBLE_MS);
    const stolen = watchStolen();
    const result = await once(run);
    const { share } = stolen();
    if (best === null || share < best.share) best = { result, share };
    if (share <= DISTURBED) break;
  }
  return best.result;
}

const AFTER_TROUBLE_MS = 10_000;

/** Runs two things by turns, each after the other. @param warmUps rounds before, which are not counted */
export const inTurn = async (runs, first, second, warmUps) =>
  paired(await inRounds(runs, async () => [await timed(first), await timed(second)], warmUps));

/** The same where the floor is a limit that stands for itself: what a person does not feel, what one waits for. */
export const against = (limit, values) => paired(values.map((value) => [value, limit]));
