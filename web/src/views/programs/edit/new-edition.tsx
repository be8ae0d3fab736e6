import { BookUp2 } from "lucide-react";
import {
  buildProgram,
  findStep,
  formerOf,
  nameIn,
  NEWEST_EDITION,
  toEdition,
  type Dialect,
  type Program,
  type ProgramFile,
} from "@still-pine/core/programs";
import { WhatBecame } from "../what-became";

interface NewEditionProps {
  file: ProgramFile;
  program: Program;
  words: Dialect;
  onTake: () => void;
}

/** Offers the newest edition of the catalogue to a program that names the steps of a former one, and says what it would change in it. */
export function NewEdition({ file, program, words, onTake }: NewEditionProps) {
  if (program.catalogue >= NEWEST_EDITION || file.steps) return null;
  const to = buildProgram(toEdition(file));
  const fresh = to.steps.filter(({ id }) => !findStep(program, id) && !findStep(program, formerOf(id) ?? ""));
  return (
    <section aria-label="A newer edition of the catalogue" className="mb-4 rounded-xl border border-resin bg-sheet p-4">
      <p className="font-bold">The catalogue of steps has a newer edition.</p>
      <p>This program names the steps of the former one, and goes on by them until you take the newer one here.</p>
      <dl className="my-2 grid gap-1">
        <WhatBecame from={program} to={to} words={words} />
        {fresh.length > 0 && (
          <div>
            <dt className="font-bold">New on the road: {fresh.length}</dt>
            <dd className="text-sm text-faint">{fresh.map((step) => nameIn(step, words)).join(", ")}</dd>
          </div>
        )}
      </dl>
      <button type="button" className="button" onClick={onTake}>
        <BookUp2 size={18} aria-hidden="true" /> Take the newer edition
      </button>
      <p className="mt-1 text-sm text-faint">
        It is a change of the draft like any other: you can take it back, and no horse goes by it before it is
        published.
      </p>
    </section>
  );
}
