import { useState } from "react";
import { v7 as newId } from "uuid";
import type { StringHorse } from "@still-pine/contract/http";
import type { Program } from "@still-pine/core/programs";
import { problemOf, useSendEventsMutation } from "../api";
import { useBook } from "./use-book";

const choice = (id: string, { id: program, version: programVersion }: Program) => ({
  id,
  at: new Date().toISOString(),
  type: "program",
  program,
  programVersion,
});

/** Says that a horse goes by a program that is not here, what that means, and lets another one be chosen by one press. */
export function ProgramNotHere({ horse }: { horse: Pick<StringHorse, "id" | "name" | "program"> }) {
  const { all } = useBook();
  const [send, sending] = useSendEventsMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  // Sent again without an answer it is the same entry.
  const [id] = useState(() => newId());
  const choose = async (program: Program): Promise<void> => {
    const result = await send({ events: [{ horse: horse.id, outing: null, event: choice(id, program) }] });
    setTrouble(result.error ? problemOf(result.error).detail : null);
  };
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
            disabled={sending.isLoading}
            onClick={() => void choose(program)}
          >
            {program.name}
          </button>
        ))}
      </div>
      {trouble && (
        <p role="alert" className="mt-2 font-semibold text-clay">
          {trouble}
        </p>
      )}
    </section>
  );
}
