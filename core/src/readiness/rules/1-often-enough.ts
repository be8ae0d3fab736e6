import { round, type SideRule } from "./side-rule";

/**
 * Rule 1, earned: the long record makes us sure that at least the asked share of asks comes clean. A day's first ask weighs more in it than
 * its later ones: asks of one day hang together. Weights that sum to five are just enough for 0.80. Holds and outing steps: so many days,
 * no miss among the last ones; lost by several among those.
 */
export const oftenEnough: SideRule = {
  code: "clean-share",
  isEarned: (side, { holdDays }, { sure }) =>
    side.step.kind === "moment"
      ? side.memories.isSureEnough(sure, "long")
      : side.fresh.cleanDays >= holdDays && side.lastMisses() === 0,
  isLost: (side, { holdMisses }) => side.step.kind !== "moment" && side.lastMisses() >= holdMisses,
  measure: (side, { holdDays, holdMisses }, { sure }, holds) =>
    side.step.kind === "moment"
      ? { have: round(side.memories.sure("long")), need: sure }
      : {
          have: { days: side.fresh.cleanDays, missed: side.lastMisses() },
          need: { days: holdDays, missed: holds ? holdMisses - 1 : 0 },
        },
  shownBy: (side) => [...side.carriedBy()],
};

/** Rule 1, lately: what the last asks alone say has to agree when the word is earned, and takes it when it speaks plainly against it. */
export const lately: SideRule = {
  code: "lately",
  applies: ({ step }) => step.kind === "moment",
  isEarned: (side, { latelySure }) => side.memories.isSureEnough(latelySure, "lately"),
  isLost: (side, { lostUnder }) => !side.memories.isSureEnough(lostUnder, "lately"),
  measure: (side, { latelySure, lostUnder }, _bar, holds) => ({
    have: round(side.memories.sure("lately")),
    need: holds ? lostUnder : latelySure,
  }),
  // What speaks against it; what speaks for it the long record has shown.
  shownBy: (side) => side.lateEntries().flatMap(({ not, event }) => (not > 0 ? [event.id] : [])),
};
