import { idsOfGiven, type SideEvidence } from "../../evidence";
import type { SideRule } from "./side-rule";

/** Mostly nothing of late was heavy at all, and nothing need be counted. */
const isHeavy = (side: SideEvidence): boolean =>
  side.hasHeavy() && (side.usualPhase() ?? 0) > (side.standard.phase ?? 0);

/** Rule 5: the usual phase of his answers in the last outings is at most the standard's. */
export const light: SideRule<"light"> = {
  number: 5,
  code: "light",
  title: "Light",
  says: ({ judge }, { standard }) =>
    `The usual phase of his answers in the last ${judge.recent} outings is at most ${standard.phase ?? "–"}.`,
  applies: ({ standard }) => standard.phase !== null,
  isEarned: (side) => !isHeavy(side),
  isLost: (side) => isHeavy(side),
  measure: (side) => ({ have: side.usualPhase(), need: side.standard.phase }),
  shownBy: (side) => idsOfGiven(side.lateEntries()),
};
