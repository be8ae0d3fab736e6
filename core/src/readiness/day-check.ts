import { isAsk, type Day, type FoldedOuting, type StepId } from "../record";
import type { SideKey } from "../programs";
import { heardBy, outingsFor, sideOfAsk, worthOfAsk } from "../evidence";
import type { Gathered, GateState, NeedState, StepState } from "./states";
import { isRefMet } from "./status";

/** One side of one step before a gate, asked once today, cold. */
export interface KeyAsk {
  step: StepId;
  side: SideKey;
  /** `mending`: missed, and so far its next asks came clean. */
  word: "not-asked" | "clean" | "mending" | "mended" | "missed";
  /** Ids of the asks that say so. */
  evidence: readonly string[];
}

/** The key asks of a day before a gate. */
export interface DayCheck {
  gate: string;
  asks: readonly KeyAsk[];
  word: "open" | "passed" | "not-today";
}

/**
 * Today's key asks before a gate: each side of what it asks for once, cold. One may miss if its next two come clean; a second miss, of
 * that side or of another, and it is not today. Where it has a choice, the way that is steady is asked. What was remembered in series
 * is no cold ask.
 *
 * @param outings those of the day, in order
 */
export function dayCheckOf(
  { gate, needs, ridden }: GateState,
  { program, about }: Pick<Gathered, "program" | "about">,
  outings: readonly FoldedOuting[],
  today: Day,
): DayCheck {
  const wayOf = (need: readonly (readonly NeedState[])[]): readonly NeedState[] =>
    need.find((way) => way.every((one) => isRefMet(one, { program, about, today }, "gate"))) ?? need[0] ?? [];
  const keys = new Set([...needs, ...ridden].flatMap(wayOf).map(({ state }) => state));
  const { mendAsks, mendedMost } = program.judge;
  const ofToday = outingsFor(
    program,
    outings.filter(({ day }) => day === today),
  );
  const asks = [...keys].flatMap((state) => state.sides.map(({ side }) => keyAskOf(state, side, ofToday, mendAsks)));
  const count = (word: KeyAsk["word"]): number => asks.filter((one) => one.word === word).length;
  const isOver = count("missed") > 0 || count("mending") + count("mended") > mendedMost;
  const isPassed = !isOver && asks.every(({ word }) => word === "clean" || word === "mended");
  return { gate: gate.id, asks, word: isOver ? "not-today" : isPassed ? "passed" : "open" };
}

/** The first asks of one side that count, as far as they decide. */
function keyAskOf({ step }: StepState, side: SideKey, outings: readonly FoldedOuting[], mendAsks: number): KeyAsk {
  const seen = outings
    .flatMap(({ events }) => events)
    .map((event) => heardBy(event, step))
    .filter(isAsk)
    .filter((ask) => ask.step === step.id && sideOfAsk(ask, step) === side)
    .map((ask) => ({ id: ask.id, worth: worthOfAsk(ask, step, true) }))
    .filter(({ worth }) => worth === "clean" || worth === "miss");
  const [first] = seen;
  const after = first?.worth === "miss" ? seen.slice(1, 1 + mendAsks) : [];
  const evidence = first ? [first.id, ...after.map(({ id }) => id)] : [];
  return { step: step.id, side, word: wordOf(first?.worth, after, mendAsks), evidence };
}

function wordOf(first: string | undefined, after: readonly { worth: string }[], mendAsks: number): KeyAsk["word"] {
  if (first === undefined) return "not-asked";
  if (first === "clean") return "clean";
  if (after.some(({ worth }) => worth !== "clean")) return "missed";
  return after.length < mendAsks ? "mending" : "mended";
}
