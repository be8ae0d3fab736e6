import type { StepId } from "../record";
import type { Results } from "./run";
import type { Found, Test } from "./types";

export interface Answer {
  found: Found;
  asks: number;
}

const OPEN = 0;
const HOLDS = 1;
const RUSTY = 2;
const HOLE = 3;
/** It rests on a failure: it is never asked. */
const SHUT = 4;
const STATES: Record<Found, number> = { holds: HOLDS, rusty: RUSTY, hole: HOLE, "not-tested": SHUT };

const NONE = new Int16Array(0);

/** A check-up as places in lists, to be gone through some thousand times: the same rules as `nextTest`, a test says so. */
export class Quick {
  private readonly above: Int16Array[];
  private readonly needs: Int16Array[][][];
  private readonly state: Uint8Array;
  private readonly held: Uint8Array;
  private readonly guarded: Uint8Array;

  /** @param known what was found before the first ask; a need that is neither listed nor known is not there */
  constructor(tests: readonly Test[], known: Results) {
    const place = new Map(tests.map(({ step }, at) => [step, at]));
    this.state = new Uint8Array(tests.length);
    this.held = Uint8Array.from(tests, ({ held }) => Number(held));
    this.guarded = Uint8Array.from(tests, ({ guarded }) => Number(guarded));
    this.above = tests.map(({ step }) =>
      Int16Array.from(tests.flatMap(({ under }, at) => (under.includes(step) ? [at] : []))),
    );
    this.needs = tests.map(({ needs, guarded }) => {
      const isGood = (step: StepId): boolean =>
        known.get(step) === "holds" || (!guarded && known.get(step) === "rusty");
      return needs.flatMap((need) => {
        const ways = need
          .filter((way) => way.every((step) => place.has(step) || isGood(step)))
          .map((way) => way.flatMap((step) => place.get(step) ?? []));
        return ways.some((way) => way.length === 0) ? [] : [ways.map((way) => Int16Array.from(way))];
      });
    });
  }

  /** Asks it takes in an order. @param order places of the tests. @param answers what each would show */
  asks(order: readonly number[], answers: readonly Answer[]): number {
    const { state, held } = this;
    state.fill(OPEN);
    let asks = 0;
    let waiting = order.length;
    for (let at = 0; at < order.length; at += 1) {
      const test = order[at] ?? 0;
      if (state[test] !== OPEN || (held[test] === 1 && this.isSettled(test))) continue;
      const may = this.may(test);
      const answer = answers[test];
      if (may !== "yes" || !answer) {
        if (may === "never") state[test] = SHUT;
        else waiting = Math.min(waiting, at);
        continue;
      }
      asks += answer.asks;
      state[test] = STATES[answer.found];
      // Those that waited have their turn now.
      if (waiting < at) at = waiting - 1;
      waiting = order.length;
    }
    return asks;
  }

  private isSettled(test: number): boolean {
    const above = this.above[test] ?? NONE;
    for (let at = 0; at < above.length; at += 1) if (this.state[above[at] ?? 0] === HOLDS) return true;
    return false;
  }

  private may(test: number): "yes" | "wait" | "never" {
    const guarded = this.guarded[test] === 1;
    let all: "yes" | "wait" = "yes";
    for (const ways of this.needs[test] ?? []) {
      let best: "yes" | "wait" | "never" = "never";
      for (const way of ways) {
        const one = this.isThere(way, guarded);
        if (one === "yes") best = "yes";
        else if (one === "wait" && best === "never") best = "wait";
      }
      if (best === "never") return "never";
      if (best === "wait") all = "wait";
    }
    return all;
  }

  private isThere(way: Int16Array, guarded: boolean): "yes" | "wait" | "never" {
    let all: "yes" | "wait" = "yes";
    for (let at = 0; at < way.length; at += 1) {
      const one = way[at] ?? 0;
      const state = this.state[one];
      if (state === HOLDS || (state === RUSTY && !guarded)) continue;
      if (state !== OPEN || this.may(one) === "never") return "never";
      const isHeld = this.held[one] === 1 && (!guarded || this.isSettled(one));
      if (!isHeld) all = "wait";
    }
    return all;
  }
}
