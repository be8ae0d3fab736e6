import type { SideEvidence } from "../../evidence";
import type { SideRule } from "./side-rule";

/** What was tight, over or shut down in the last outings, and mishaps; an ask in which he was over once. */
const seenOfLate = (side: SideEvidence): string[] => [
  ...new Set([...side.ofLate("tight"), ...side.ofLate("shutDown"), ...side.ofLate("upset")]),
];

/** Rule 4: nothing tight, over or shut down, and no mishap. One tight outing is a wobble; two running, over, or a mishap take the word. */
export const relaxed: SideRule<"relaxed"> = {
  number: 4,
  code: "relaxed",
  title: "Relaxed",
  says: ({ judge }) =>
    `Nothing tight or over, no mishap, and no sign of shutting down, in the last ${judge.recent} outings of this side when the word is earned. It is lost by that in ${judge.tightLost} of them, and by over or a mishap in the last.`,
  isEarned: (side) => side.unquietOutings() === 0,
  isLost: (side, { tightLost, recent }) =>
    side.unquietOutings() >= Math.min(tightLost, recent) || (side.visits.at(-1)?.upset.length ?? 0) > 0,
  measure: (side) => ({ have: seenOfLate(side).length, need: 0 }),
  shownBy: (side) => seenOfLate(side),
};

/** Rule 4 where stillness is the answer: still is not always quiet, and a sign of ease has to be seen. */
export const provenRelaxed: SideRule<"not-proven-relaxed"> = {
  number: 4,
  code: "not-proven-relaxed",
  title: "Not proven relaxed",
  says: () =>
    "Where stillness is the answer, fear can look like it. A sign of ease has to be seen, after he was last tight.",
  applies: ({ step }) => step.still,
  isEarned: (side) => side.eased,
  measure: (side) => ({ have: side.eased ? 1 : 0, need: 1 }),
  shownBy: () => [],
};
