import { idsOfGiven } from "../../evidence";
import type { SideRule } from "./side-rule";

/** Rule 5: the usual phase of his answers in the last outings is at most the standard's. */
export const light: SideRule = {
  code: "light",
  applies: ({ standard }) => standard.phase !== null,
  isEarned: (side) => (side.usualPhase() ?? 0) <= (side.standard.phase ?? 0),
  isLost: (side) => (side.usualPhase() ?? 0) > (side.standard.phase ?? 0),
  measure: (side) => ({ have: side.usualPhase(), need: side.standard.phase }),
  shownBy: (side) => idsOfGiven(side.lateEntries()),
};
