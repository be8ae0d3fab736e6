import { round, type SideRule } from "./side-rule";

/** Rule 3: what he does on one day he may not do on the next. */
export const differentDays: SideRule = {
  code: "different-days",
  isEarned: (side, _numbers, { days }) => side.days >= days,
  measure: (side, _numbers, { days }) => ({ have: side.days, need: days }),
  shownBy: (side) => [...side.carriedBy()],
};

/** Rule 3: the first ask of an outing shows what stayed. One that is missed is a wobble; all of the last ones take the word. */
export const coldAsks: SideRule = {
  code: "cold-asks",
  isEarned: ({ colds }) => colds.length > 0 && colds.every((cold) => cold.clean),
  isLost: ({ colds }, numbers) => colds.length >= numbers.colds && colds.every((cold) => !cold.clean),
  measure: ({ colds }, _numbers, _bar, holds) => ({
    have: colds.filter((cold) => cold.clean).length,
    need: holds ? 1 : Math.max(1, colds.length),
  }),
  shownBy: ({ colds }) => colds.map((cold) => cold.id),
};

/** Rule 3 before somebody sits on him: the first asks of the days are a record of their own. */
export const firstAsks: SideRule = {
  code: "first-asks",
  applies: (_side, { firsts }) => firsts !== null,
  isEarned: (side, _numbers, { firsts }) => side.memories.isSureEnough(firsts?.sure ?? 0, "firsts"),
  isLost: (side, _numbers, { firsts }) => !side.memories.isSureEnough(firsts?.lost ?? 0, "firsts"),
  measure: (side, _numbers, { firsts }, holds) => ({
    have: round(side.memories.sure("firsts")),
    need: (holds ? firsts?.lost : firsts?.sure) ?? null,
  }),
  shownBy: (side) => side.entries.flatMap(({ cold, event }) => (cold ? [event.id] : [])),
};
