import type { StringHorse } from "@still-pine/contract/http";
import type { Program, Step } from "@still-pine/core/programs";
import type { Status } from "@still-pine/core/readiness/words";

const MOST = 12;
const THEN: readonly Status[] = ["slipped", "rusty", "begun", "coming", "steady"];

/** The steps that make sense for a horse now: where work is, what slipped or is rusty, what is on the way, and what he knows. */
export function stepsForNow(horse: StringHorse | undefined, program: Program): Step[] {
  if (!horse) return program.steps.slice(0, MOST);
  const wanted = [
    ...horse.edge.map(({ step }) => step),
    ...THEN.flatMap((word) =>
      // Of what he knows, the latest on the road says most.
      horse.trail
        .filter(({ status }) => status === word)
        .map(({ step }) => step)
        .toReversed(),
    ),
  ];
  // A horse at the beginning of his road has few: what comes next on it fills the rest.
  const rest = program.steps.filter((step) => !program.optional.includes(step.id)).map(({ id }) => id);
  const chosen = new Set([...new Set([...wanted, ...rest])].slice(0, MOST));
  return program.steps.filter((step) => chosen.has(step.id)).toSorted((a, b) => rankOf(horse, a) - rankOf(horse, b));
}

/** The edge first, in its own order; the rest in the order of the road. */
function rankOf(horse: StringHorse, step: Step): number {
  const at = horse.edge.findIndex((one) => one.step === step.id);
  return at === -1 ? horse.edge.length : at;
}
