import { round, type SideRule } from "./side-rule";

/** Rule 3: what he does on one day he may not do on the next. */
export const differentDays: SideRule = {
  code: "different-days",
  isEarned: (side, _numbers, { days }) => side.days >= days,
  measure: (side, _numbers, { days }) => ({ have: side.days, need: days }),
  shownBy: (side) => [...side.carriedBy()],
};

/** Rule 3: the first ask of an outing shows what stayed. One that is missed is a wobble; several running take the word. */
export const coldAsks: SideRule = {
  code: "cold-asks",
  isEarned: ({ colds }, numbers) => colds.length > 0 && colds.slice(-numbers.colds).every((cold) => cold.clean),
  isLost: ({ colds }, { coldsLost }) =>
    colds.length >= coldsLost && colds.slice(-coldsLost).every((cold) => !cold.clean),
  measure: ({ colds }, numbers, _bar, holds) => {
    const last = colds.slice(-(holds ? numbers.coldsLost : numbers.colds));
    return { have: last.filter((cold) => cold.clean).length, need: holds ? 1 : Math.max(1, last.length) };
  },
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
