import type { HorseId } from "@still-pine/core/record";
import { Link } from "react-router";
import type { PrintView } from "@still-pine/contract/http";
import { isUnknown, nameIn, type Dialect, type Program } from "@still-pine/core/programs";
import { Hoofprint } from "./hoofprint";
import { printOf, stagePrints } from "./prints";

interface TrailProps {
  horse: HorseId;
  prints: readonly PrintView[];
  program: Program;
  size?: number;
}

/** Below this a print is too small to be pressed by itself. */
const LEAST_LINK_PX = 24;

/** A horse's trail by stage, ten prints at most: each a way to that stage on his page, where it is large enough to be pressed. */
export function StageTrail({ horse, prints, program, size = 26 }: TrailProps) {
  if (isUnknown(program)) return null;
  return (
    <ol aria-label="Trail by stage" className="flex items-center">
      {stagePrints(prints, program).map(({ stage, print, words, steady }, index) => {
        const drawn = (
          <Hoofprint
            print={steady > 0 ? print : { ...print, sides: untouched(print) }}
            name={stage}
            label={words}
            size={size}
          />
        );
        return (
          <li key={stage} className={index % 2 ? "pt-1" : "pb-1"} title={words}>
            {size < LEAST_LINK_PX ? (
              drawn
            ) : (
              <Link to={`/horses/${encodeURIComponent(horse)}#${stage}`} className="block rounded px-px">
                {drawn}
              </Link>
            )}
          </li>
        );
      })}
    </ol>
  );
}

/** A stage with nothing steady yet fills no further than its beginning. */
const untouched = ({ sides }: PrintView): PrintView["sides"] =>
  Object.fromEntries(Object.entries(sides).map(([side, one]) => [side, { ...one, sure: 0 }]));

/** Prints of a few steps in a row, each a way to its step. */
export function StepTrail({
  horse,
  prints,
  program,
  steps,
  words,
  size = 30,
}: TrailProps & { steps: readonly string[]; words: Dialect }) {
  return (
    <ol aria-label="Trail" className="flex flex-wrap items-center">
      {program.steps
        .filter(({ id }) => steps.includes(id))
        .map((step, index) => (
          <li key={step.id} className={index % 2 ? "mt-2" : "mb-2"}>
            <Link
              to={`/horses/${encodeURIComponent(horse)}/steps/${step.id}`}
              className="block rounded px-0.5 py-1"
              title={nameIn(step, words)}
            >
              <Hoofprint print={printOf(prints, step)} name={nameIn(step, words)} size={size} />
            </Link>
          </li>
        ))}
    </ol>
  );
}
