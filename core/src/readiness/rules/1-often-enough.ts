import { barOfStep } from "../bar";
import { percent } from "../percent";
import { round, type SideRule } from "./side-rule";

/**
 * Rule 1, earned: the long record makes us sure that at least the asked share of asks comes clean. A day's first ask weighs more in it than
 * its later ones: asks of one day hang together. Weights that sum to five are just enough for 0.80. Holds and outing steps: so many days,
 * no miss among the last ones; lost by several among those.
 */
export const oftenEnough: SideRule<"clean-share"> = {
  number: 1,
  code: "clean-share",
  title: "Often enough clean",
  says: (program, step) => {
    const { share, forgetBy, longPer, laterAsks, holdDays, holdMisses } = program.judge;
    if (step.kind !== "moment")
      return `Minutes, not moments: clean on ${holdDays} different days, and no miss among the last ${holdDays}. The word is lost with ${holdMisses} missed among those.`;
    return `Each ask that counts is clean or a miss. From an even start, Beta(1, 1), they make a judgement of the share that comes clean; we must be ${percent(barOfStep(program, step).sure)} sure that it is at least ${percent(share)}. A day's first ask weighs 1, each later one ${laterAsks}: asks of one day hang together. Later outings outweigh older ones slowly: to ${percent(forgetBy)} for every ${longPer} of weight. Remembered series count half.`;
  },
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
export const lately: SideRule<"lately"> = {
  number: 1,
  code: "lately",
  title: "Lately too",
  says: ({ judge }) =>
    `The last asks alone have to agree when the word is earned: ${percent(judge.latelySure)} sure. Every ask weighs 1 here, and pales to ${percent(judge.forgetBy)} for every ${judge.forgetPer} later ones. Under ${percent(judge.lostUnder)} the word is lost.`,
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
