import { barOfStep, isGateStep } from "../bar";
import { percent } from "../percent";
import { round, type SideRule } from "./side-rule";

/** Rule 3: what he does on one day he may not do on the next. */
export const differentDays: SideRule<"different-days"> = {
  number: 3,
  code: "different-days",
  title: "On different days",
  says: (program, step) =>
    `Asked on at least ${barOfStep(program, step).days} different days${isGateStep(program, step) ? ", because a gate rests on it" : ""}.`,
  isEarned: (side, _numbers, { days }) => side.days >= days,
  measure: (side, _numbers, { days }) => ({ have: side.days, need: days }),
  shownBy: (side) => [...side.carriedBy()],
};

/** Rule 3: the first ask of an outing shows what stayed. One that is missed is a wobble; several running take the word. */
export const coldAsks: SideRule<"cold-asks"> = {
  number: 3,
  code: "cold-asks",
  title: "Cold asks",
  says: ({ judge }) =>
    `The first ask of an outing shows what stayed. The last ${judge.colds} of them must be clean when the word is earned; the only one, where there was only one. The word is lost with ${judge.coldsLost} missed running.`,
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
export const firstAsks: SideRule<"first-asks"> = {
  number: 3,
  code: "first-asks",
  title: "First asks of the days",
  says: ({ judge }) =>
    `Before somebody sits on him the first asks of the days are a record of their own: ${percent(judge.firstSure)} sure, which four clean ones are from nothing. Each pales to ${percent(judge.firstBy)} with a day; under ${percent(judge.firstLost)} the word is lost.`,
  applies: (_side, { firsts }) => firsts !== null,
  isEarned: (side, _numbers, { firsts }) => side.memories.isSureEnough(firsts?.sure ?? 0, "firsts"),
  isLost: (side, _numbers, { firsts }) => !side.memories.isSureEnough(firsts?.lost ?? 0, "firsts"),
  measure: (side, _numbers, { firsts }, holds) => ({
    have: round(side.memories.sure("firsts")),
    need: (holds ? firsts?.lost : firsts?.sure) ?? null,
  }),
  shownBy: (side) => side.entries.flatMap(({ cold, event }) => (cold ? [event.id] : [])),
};
