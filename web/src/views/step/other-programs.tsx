import type { HorseId } from "@still-pine/core/record";
import { Link } from "react-router";
import { findStep, type Dialect, type Program, type Step } from "@still-pine/core/programs";
import { stepName } from "@still-pine/core/readiness";
import { useBook } from "../../book/use-book";
import { compareLink, programLink } from "../programs/links";
import { standardInWords } from "./standard";

interface OtherProgramsProps {
  horse: HorseId;
  step: Step;
  program: Program;
  words: Dialect;
}

const restsOn = (step: Step, program: Program, words: Dialect): string =>
  step.needs
    .map(({ anyOf }) =>
      anyOf
        .map((way) => way.map((ref) => stepName(program, ref.step, words).toLowerCase()).join(" with "))
        .join(" or "),
    )
    .join(", ") || "nothing";

/** Programs that think otherwise of this step: they leave it out, put it beside their road, rest it on something else, or ask for another standard. */
export function OtherPrograms({ horse, step, program, words }: OtherProgramsProps) {
  const book = useBook();
  const here = restsOn(step, program, words);
  const others = book.all.flatMap((other) => {
    if (other.id === program.id) return [];
    const there = findStep(other, step.id);
    if (!there) return [{ other, says: "not on its road" }];
    const isBeside = other.optional.includes(step.id);
    const needs = restsOn(there, other, words);
    const standard = standardInWords(there.standard, there, other);
    const says = [
      isBeside !== program.optional.includes(step.id) ? (isBeside ? "beside its road" : "on its road") : null,
      needs === here ? null : `rests on ${needs}`,
      standard === standardInWords(step.standard, step, other) ? null : standard,
    ].filter(Boolean);
    return says.length > 0 ? [{ other, says: says.join("; ") }] : [];
  });
  if (others.length === 0) return null;
  return (
    <section aria-label="Other programs on it" className="card">
      <h2 className="text-lg">Other programs think otherwise</h2>
      <ul className="mt-1 grid gap-1.5 text-sm">
        {others.map(({ other, says }) => (
          <li key={other.id}>
            <Link className="link font-bold" to={programLink(other.id)}>
              {other.name}
            </Link>
            : {says}
          </li>
        ))}
      </ul>
      <Link className="link mt-2 inline-block text-sm" to={compareLink([program.id], horse)}>
        Why: side by side, on him
      </Link>
    </section>
  );
}
