import type { StringHorse } from "@still-pine/contract/http";
import type { Program } from "@still-pine/core/programs";
import { problemOf } from "../parts/problem";
import { ProblemNote } from "../parts/page-state";
import { useRecord } from "../writing/use-record";
import { useBook } from "../book/use-book";

/** Says that a horse goes by a program that is not here, what that means, and lets another one be chosen by one press. */
export function ProgramNotHere({ horse }: { horse: Pick<StringHorse, "id" | "name" | "program"> }) {
  const { all } = useBook();
  const { record, isLoading, error } = useRecord();
  const choose = ({ id: program, version: programVersion }: Program): void =>
    void record({ horse: horse.id, outing: null, body: { type: "program", program, programVersion } });
  return (
    <section aria-label="Program not here" className="mb-4 rounded-xl border-2 border-clay bg-sheet p-4">
      <p>
        <b>
          {horse.name} goes by the program {horse.program.id}, and it is not here.
        </b>{" "}
        Nothing is judged or proposed until it is brought in, or he goes by another one. What is recorded meanwhile is
        kept, and judged then.
      </p>
      <p className="mt-3 mb-1 font-semibold">He goes from now on by</p>
      <div className="flex flex-wrap gap-2">
        {all.map((program) => (
          <button
            key={program.id}
            type="button"
            className="button"
            disabled={isLoading}
            onClick={() => choose(program)}
          >
            {program.name}
          </button>
        ))}
      </div>
      {error && <ProblemNote problem={problemOf(error)} />}
    </section>
  );
}
