import { outingsFor, sideOfAsk, worthOfAsk } from "../evidence";
import { alwaysUnder, findStep, idsFor, sidesOf, stepsInOrder, type Program, type SideKey } from "../programs";
import { is, isAsk, type AskEvent, type Day, type FoldedOuting, type OutingId, type StepId } from "../record";
import type { Found } from "./types";

/** What one check-up found: of every step it set out to test, and what to mend first. */
export interface CheckUpResult {
  outing: OutingId;
  day: Day;
  found: { step: StepId; found: Found; sides: Partial<Record<SideKey, Found>>; spared: boolean }[];
  /** The shortest list of what to mend: what failed or came late, each after all of it that it rests on. */
  mend: string[];
  asks: number;
  expected: number | null;
}

/** How one side came out: clean at once, clean in the end, or not. `undefined` where it was not asked. */
function foundOf(asks: readonly boolean[]): Found | undefined {
  if (asks.length === 0) return undefined;
  if (asks.every(Boolean)) return "holds";
  return asks.some(Boolean) ? "rusty" : "hole";
}

const WORST: readonly Found[] = ["hole", "not-tested", "rusty", "holds"];

/** A step is as its worst side; one side never asked after another failed is the failure's. */
function worstOf(sides: readonly (Found | undefined)[]): Found {
  return WORST.find((one) => sides.some((side) => (side ?? "not-tested") === one)) ?? "not-tested";
}

/** What a check-up found, from its outing; null where the outing was none. */
export function checkUpOf(outing: FoldedOuting, program: Program): CheckUpResult | null {
  const said = outing.events.find((event) => is(event, "check-up"));
  if (!said) return null;
  const here = (ids: readonly StepId[] = []): StepId[] => idsFor(program, ids);
  const [tested, spared, held] = [here(said.steps), here(said.spared), here(said.held)];
  const asks = (outingsFor(program, [outing])[0] ?? outing).events.filter(isAsk);
  const found = [...tested, ...spared].map((id) => {
    const sides = sidesFound(program, id, asks);
    const isSpared = spared.includes(id) && Object.keys(sides).length === 0;
    const all = findStep(program, id) ? sidesOf(findStep(program, id) ?? { side: "none" }) : [];
    const own = isSpared ? "holds" : worstOf(all.map((side) => sides[side]));
    return { step: id, found: own, sides, spared: isSpared };
  });
  const settled = new Set(
    found.filter((one) => one.found === "holds").flatMap(({ step }) => [...alwaysUnder(program, step)]),
  );
  const whole = found.map((one) => {
    const isSettled = one.found === "not-tested" && Object.keys(one.sides).length === 0 && settled.has(one.step);
    return isSettled && held.includes(one.step) ? { ...one, found: "holds" as const, spared: true } : one;
  });
  const broken = new Set(whole.flatMap((one) => (one.found === "hole" || one.found === "rusty" ? [one.step] : [])));
  return {
    outing: outing.id,
    day: outing.day,
    found: whole,
    mend: stepsInOrder(program)
      .map(({ id }) => id)
      .filter((id) => broken.has(id)),
    asks: asks.filter(({ step }) => tested.includes(step)).length,
    expected: said.expected ?? null,
  };
}

function sidesFound(program: Program, id: string, asks: readonly AskEvent[]): Partial<Record<SideKey, Found>> {
  const step = findStep(program, id);
  if (!step) return {};
  const own = asks.filter((ask) => ask.step === id);
  const sides: Partial<Record<SideKey, Found>> = {};
  for (const side of sidesOf(step)) {
    const worths = own
      .filter((ask) => sideOfAsk(ask, step) === side)
      // What is tested was asked before, so that a miss of less is one of it too.
      .map((ask) => worthOfAsk(ask, step, true))
      .filter((worth) => worth === "clean" || worth === "miss");
    const found = foundOf(worths.map((worth) => worth === "clean"));
    if (found) sides[side] = found;
  }
  return sides;
}
