import type { AskEvent, Day, SeriesEvent, Setting } from "../record";
import { sidesOf, type SideKey, type Step } from "../programs";
import { asFarAsRung, saidRung, worthOfAsk } from "./classify";

/** An ask with the side it is judged on and the yard's day it was on. */
export interface AskOnStair {
  event: AskEvent | SeriesEvent;
  side: SideKey;
  day: Day;
}

/** What was shown clean of one rung on one side: last on which day, by which ask, and how he went in any of them. */
export interface ShownOnRung {
  day: Day;
  event: string;
  settings: readonly Setting[];
  withTool: boolean;
  withoutTool: boolean;
}

/** A step's ladder as a stair: what was shown of each rung, the smallest first. */
export interface Stair {
  rungs: readonly { id: string; isStandard: boolean; sides: readonly (readonly [SideKey, ShownOnRung | null])[] }[];
  /** Asks that say no rung: they are on none. */
  unsaid: number;
  /** Asks that say one. */
  said: number;
}

/**
 * What was shown of each rung of a step, by the asks that say theirs. A clean ask shows its rung and all below it.
 *
 * @param asks in any order; a remembered series shows no rung, for it says nothing of its single asks
 */
export function stairOf(step: Step, asks: readonly AskOnStair[]): Stair {
  const { ladder } = step;
  const own = asks.flatMap(({ event, ...where }) => (event.type === "ask" ? [{ event, ...where }] : []));
  const said = own.filter(({ event }) => saidRung(event, step) !== null);
  return {
    rungs: ladder.rungs.map(({ id }, standard) => {
      const clean = said.filter(({ event }) => worthOfAsk(event, asFarAsRung(step, standard)) === "clean");
      return {
        id,
        isStandard: standard === ladder.standard,
        sides: sidesOf(step).map((side) => [side, shownBy(clean.filter((one) => one.side === side))] as const),
      };
    }),
    unsaid: own.length - said.length,
    said: said.length,
  };
}

function shownBy(asks: readonly { event: AskEvent; day: Day }[]): ShownOnRung | null {
  const [last] = asks.toSorted((a, b) => (a.day === b.day ? 0 : a.day < b.day ? 1 : -1));
  if (!last) return null;
  const tools = asks.map(({ event }) => event.tool);
  return {
    day: last.day,
    event: last.event.id,
    settings: [...new Set(asks.flatMap(({ event }) => event.setting ?? []))].toSorted().toReversed(),
    withTool: tools.some((tool) => tool !== undefined && tool !== "none"),
    withoutTool: tools.includes("none"),
  };
}
