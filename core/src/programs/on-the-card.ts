import { facetsOf } from "./facets";
import { findStep } from "./graph";
import type { Program, Step, Ways } from "./types";

/** What a program puts on the opening card, for just the steps of today. */
export interface CardLines {
  /** How this school asks, and tells him that it was right. */
  how: string[];
  /** What to have at hand besides the gear of the steps. */
  gear: string[];
  /** What to mind besides the cautions of the steps. */
  mind: string[];
}

const HEADGEAR: Record<Ways["headgear"], string> = {
  "rope-halter": "rope halter",
  "headcollar-bridle": "headcollar",
  rope: "catching rope",
  "flat-halter": "flat halter",
  collar: "neck collar",
  bridle: "bridle",
  "halter-under-bridle": "bridle over a rope halter",
};

/** Where the headgear of first rides is another one. */
const RIDDEN_IN: Record<Exclude<Ways["firstRidesIn"], null>, string> = {
  halter: "halter and reins",
  snaffle: "snaffle bridle",
};

const MIND_LEAD: Record<Exclude<Ways["lead"], null>, string> = {
  behind:
    "Behind you means an arm's length and more, and to one side: a spook must have somewhere to go that is not you.",
  shoulder: "At his shoulder you are out of the kick and within reach of a shoulder that jumps in: elbow ready.",
  beside: "Beside him, not in front: keep the rope out from under both of you.",
};

/** @param ids today's steps; those the program does not know are left out */
export function onTheCard(program: Program, ids: readonly string[]): CardLines {
  const steps = ids.flatMap((id) => findStep(program, id) ?? []);
  const { ways } = program;
  const said = new Map(facetsOf(program).map(({ id, says }) => [id, says]));
  const any = (test: (step: Step) => boolean): boolean => steps.some(test);
  const isOnline = any(({ stage }) => stage !== "first-handling");
  const isRidden = any(({ stage }) => stage === "riding" || stage === "schooling");
  const ask = ["pressure", "reward", ...(ways.twoEyes ? ["twoEyes"] : [])];
  return {
    how: ask.flatMap((id) => said.get(id) ?? []),
    gear: [
      ...(isOnline || ways.headgear === "rope" ? [HEADGEAR[ways.headgear]] : []),
      ...(isRidden && ways.firstRidesIn !== null ? [RIDDEN_IN[ways.firstRidesIn]] : []),
      ...(ways.reward === "mark-food" ? ["food pouch"] : []),
    ],
    mind: [
      ways.quarters === "never"
        ? "Quarters turned to you: out of reach first, then send him on until he faces."
        : "Quarters turned to you: step out of reach and wait; do not chase them.",
      ...(ways.lead !== null && any(({ marks }) => marks.includes("led")) ? [MIND_LEAD[ways.lead]] : []),
    ],
  };
}
