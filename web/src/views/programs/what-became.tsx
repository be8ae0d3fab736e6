import { findStep, heirsOf, nameIn, stepsFor, type Dialect, type Program } from "@still-pine/core/programs";

interface WhatBecameProps {
  from: Program;
  to: Program;
  words: Dialect;
}

/** Steps of one edition of the catalogue that another one has as several; nothing where all are the same. */
export function WhatBecame({ from, to, words }: WhatBecameProps) {
  const parted = from.steps.filter(({ id }) => !findStep(to, id) && heirsOf(id).length > 1);
  return parted.map((step) => {
    const names = stepsFor(to, step.id).map((heir) => nameIn(heir, words));
    return names.length === 0 ? null : (
      <div key={step.id}>
        <dt className="font-bold">
          {nameIn(step, words)}: now {names.length} steps
        </dt>
        <dd className="text-sm text-faint">
          {names.join(" and ")}. What was recorded of it counts for each of them, and so do holds and standards.
        </dd>
      </div>
    );
  });
}
