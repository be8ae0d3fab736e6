import { nextTest } from "../checkup/run";
import type { Found, Test } from "../checkup/types";
import type { SideKey } from "../programs";
import { say } from "./say";
import { tallyOf } from "./state";
import { type OutingState } from "./state-types";
import type { Advice, CheckUpCourse } from "./types";

/** What the tests of a check-up have shown so far. */
export function checkUpResults(state: OutingState, { tests, known }: CheckUpCourse): Map<string, Found> {
  const results = new Map<string, Found>(known);
  for (const test of tests) {
    const found = foundSoFar(state, test);
    if (found) results.set(test.step, found);
  }
  return results;
}

/** What a test came to; undefined while a side of it is still to be asked. */
function foundSoFar(state: OutingState, test: Test): Found | undefined {
  const sides = test.sides.map(({ side }) => sideSoFar(state, test, side));
  if (sides.includes("hole")) return "hole";
  if (sides.includes(undefined)) return undefined;
  return sides.includes("rusty") ? "rusty" : "holds";
}

/** One ask, or two: after a miss once more, and after a clean first where the test says twice. */
function sideSoFar(state: OutingState, { step, twice }: Test, side: SideKey): Found | undefined {
  const { good, ...all } = tallyOf(state, step, side);
  // What was asked smaller, or with a tool, says nothing of how he is.
  const asks = all.asks - all.practice;
  if (asks === 0 || (asks === 1 && (twice || good === 0))) return undefined;
  return good === asks ? "holds" : good > 0 ? "rusty" : "hole";
}

/** The coach's word in a check-up: ask, once more, the other side, or leave it and on to the next; never work on it. */
export function adviseCheckUp(state: OutingState, course: CheckUpCourse): Advice {
  const results = checkUpResults(state, course);
  const next = nextTest(course.tests, results);
  const here = course.tests.find(({ step }) => step === state.step);
  const goTo = next ? { step: next.step } : {};
  if (!here) return next ? say("go-on", "check-start", [], goTo) : say("finish", "check-done");
  const found = results.get(here.step);
  if (found !== undefined) {
    if (!next) return say("finish", "check-done");
    return say("leave", found === "hole" ? "check-hole" : "check-holds", evidenceOf(state, here), goTo);
  }
  if (next?.step !== here.step && next) return say("leave", "check-off", [], goTo);
  const open = here.sides.filter(({ side }) => sideSoFar(state, here, side) === undefined);
  const isHere = open.some(({ side }) => side === state.side);
  const side = isHere ? state.side : open[0]?.side;
  const { asks, practice, good } = tallyOf(state, here.step, state.side);
  if (!isHere && side) return say("leave", "check-side", evidenceOf(state, here), { side });
  if (asks === practice) return say("go-on", "check-start", [], { step: here.step });
  return say("stay", good === 0 ? "check-again" : "check-twice", evidenceOf(state, here));
}

const evidenceOf = (state: OutingState, { step, sides }: Test): string[] =>
  sides.flatMap(({ side }) => tallyOf(state, step, side).goodIds);
