import type { SideEvidence } from "../../evidence";
import type { SideRule } from "./side-rule";

/** What was tight, over or shut down in the last outings, and mishaps; an ask in which he was over once. */
const seenOfLate = (side: SideEvidence): string[] => [
  ...new Set([...side.ofLate("tight"), ...side.ofLate("shutDown"), ...side.ofLate("upset")]),
];

/** Rule 4: nothing tight, over or shut down, and no mishap. One tight outing is a wobble; two running, over, or a mishap take the word. */
export const relaxed: SideRule = {
  code: "relaxed",
  isEarned: (side) => side.unquietOutings() === 0,
  isLost: (side, { tightLost, recent }) =>
    side.unquietOutings() >= Math.min(tightLost, recent) || (side.visits.at(-1)?.upset.length ?? 0) > 0,
  measure: (side) => ({ have: seenOfLate(side).length, need: 0 }),
  shownBy: (side) => seenOfLate(side),
};

/** Rule 4 where stillness is the answer: still is not always quiet, and a sign of ease has to be seen. */
export const provenRelaxed: SideRule = {
  code: "not-proven-relaxed",
  applies: ({ step }) => step.still,
  isEarned: (side) => side.eased,
  measure: (side) => ({ have: side.eased ? 1 : 0, need: 1 }),
  shownBy: () => [],
};
