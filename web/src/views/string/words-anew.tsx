import { Link } from "react-router";
import type { HorseAnewView } from "@still-pine/contract/http";
import type { Finding } from "@still-pine/core/readiness";
import { findingInWords, RULES, STATUS_WORDS, stepName } from "@still-pine/core/readiness";
import type { Dialect } from "@still-pine/core/programs";
import { useReadWordsAnewMutation } from "../../api";
import { useProgramFor } from "../../book/use-book";
import { problemOf } from "../../parts/problem";
import { ProblemNote } from "../../parts/page-state";
import { listInWords } from "../../parts/trust-words";

const count = (words: number): string => `${words} ${words === 1 ? "word" : "words"}`;

/** Said once after an update: which words the same record gives otherwise now, and by which rule. */
export function WordsAnew({ horses, words: dialect }: { horses: readonly HorseAnewView[]; words: Dialect }) {
  const programFor = useProgramFor();
  const [markRead, { error, isLoading }] = useReadWordsAnewMutation();
  return (
    <section aria-labelledby="words-anew" className="mb-4 max-w-4xl rounded-xl border-2 border-pine bg-sheet p-4">
      <h2 id="words-anew" className="mb-1 text-xl">
        Some words are judged anew
      </h2>
      <p className="max-w-prose">
        Still Pine was updated, and its judge has changed. Nothing in the record has: the same asks now give other
        words. Other now: {listInWords(horses.map(({ name, words }) => `${count(words.length)} of ${name}`))}.
      </p>
      <details className="my-2">
        <summary className="link flex min-h-11 cursor-pointer items-center">Which ones, and by which rule</summary>
        <ul className="mt-2 grid gap-4">
          {horses.map((horse) => {
            const program = programFor(horse);
            return (
              <li key={horse.id}>
                <h3 className="font-serif text-lg">{horse.name}</h3>
                <ul className="grid gap-2">
                  {horse.words.map(({ step, from, to, why }) => (
                    <li key={step}>
                      <Link
                        className="link inline-flex min-h-11 items-center"
                        to={`/horses/${encodeURIComponent(horse.id)}/steps/${encodeURIComponent(step)}`}
                      >
                        {stepName(program, step, dialect)}
                      </Link>{" "}
                      was {STATUS_WORDS[from].toLowerCase()} and is <b>{STATUS_WORDS[to].toLowerCase()}</b> now.
                      {why && <Why finding={why as Finding} program={program} />}
                    </li>
                  ))}
                </ul>
              </li>
            );
          })}
        </ul>
        <p className="mt-3 max-w-prose text-faint">Each name opens its step, with every rule and the asks behind it.</p>
      </details>
      <button type="button" className="button" disabled={isLoading} onClick={() => void markRead()}>
        I have read it
      </button>
      {error && <ProblemNote problem={problemOf(error)} />}
    </section>
  );
}

function Why({ finding, program }: { finding: Finding; program: Parameters<typeof findingInWords>[1] }) {
  return (
    <span className="block text-faint">
      {RULES[finding.code].title}: {findingInWords(finding, program)}
    </span>
  );
}
