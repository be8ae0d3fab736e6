import type { HorseId } from "@still-pine/core/record";
import { clsx } from "clsx";
import { Link } from "react-router";
import type { CheckUpResult, Found } from "@still-pine/core/checkup";
import { findStep, type Dialect, type Program, type Stage } from "@still-pine/core/programs";
import { sideInWords, STAGE_WORDS, stepName } from "@still-pine/core/readiness";
import { dayInWords } from "../../parts/days";
import { FoundMark, FOUND_WORDS } from "./found-mark";

interface ResultProps {
  result: CheckUpResult;
  former: CheckUpResult | null;
  program: Program;
  words: Dialect;
  horse: HorseId;
  today: string;
}

const ORDER: readonly Found[] = ["holds", "rusty", "hole", "not-tested"];

/** The whole road in one look, what to mend in order, and what is another than the last time. */
export function Result({ result, former, program, words, horse, today }: ResultProps) {
  const name = (id: string): string => stepName(program, id, words);
  const byStage = new Map<Stage, CheckUpResult["found"][number][]>();
  const places = new Map(program.steps.map(({ id }, at) => [id, at]));
  for (const one of result.found.toSorted((a, b) => (places.get(a.step) ?? 0) - (places.get(b.step) ?? 0))) {
    const stage = findStep(program, one.step)?.stage;
    if (stage) byStage.set(stage, [...(byStage.get(stage) ?? []), one]);
  }
  const before = new Map(former?.found.map(({ step, found }) => [step, found]));
  const changed = result.found.filter(({ step, found }) => before.has(step) && before.get(step) !== found);
  const link = (id: string): string => `/horses/${encodeURIComponent(horse)}/steps/${id}`;
  return (
    <section aria-label="What the check-up found" className="card">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2 className="text-2xl">What it found, {dayInWords(result.day, today)}</h2>
        <p className="text-sm text-faint">
          {result.asks} asks{result.expected !== null && `, about ${Math.round(result.expected)} expected`} ·{" "}
          <Link
            className="link"
            to={`/horses/${encodeURIComponent(horse)}/outings/${encodeURIComponent(result.outing)}/review`}
          >
            the outing
          </Link>
        </p>
      </div>
      <ul className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
        {ORDER.map((one) => (
          <li key={one} className="flex items-center gap-1.5">
            <FoundMark found={one} /> {FOUND_WORDS[one]}:{" "}
            <b>{result.found.filter(({ found }) => found === one).length}</b>
          </li>
        ))}
      </ul>
      <div className="mt-4 grid gap-3">
        {[...byStage].map(([stage, found]) => (
          <div key={stage} className="grid gap-1 sm:grid-cols-[11rem_1fr]">
            <h3 className="font-bold">{STAGE_WORDS[stage]}</h3>
            <ul className="flex flex-wrap gap-1.5">
              {found.map((one) => (
                <li key={one.step}>
                  <Link
                    to={link(one.step)}
                    className={clsx(
                      "flex min-h-8 items-center gap-1.5 rounded-lg border px-2 py-0.5 text-[15px] no-underline hover:underline",
                      LOOK[one.found],
                    )}
                  >
                    <FoundMark found={one.found} />
                    <span>
                      {name(one.step)}
                      <span className="sr-only">: {FOUND_WORDS[one.found]}</span>
                      {sidesInWords(one)}
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </div>
        ))}
      </div>
      <div className="mt-4 grid gap-4 md:grid-cols-2">
        <section aria-label="To mend, in this order">
          <h3 className="text-lg font-bold">To mend, in this order</h3>
          {result.mend.length === 0 ? (
            <p>Nothing that was tested.</p>
          ) : (
            <ol className="list-decimal pl-6">
              {result.mend.map((id) => (
                <li key={id}>
                  <Link className="link" to={link(id)}>
                    {name(id)}
                  </Link>
                </li>
              ))}
            </ol>
          )}
        </section>
        {former && (
          <section aria-label="Against the last one">
            <h3 className="text-lg font-bold">Against the last one, {dayInWords(former.day, today)}</h3>
            {changed.length === 0 ? (
              <p>The same.</p>
            ) : (
              <ul>
                {changed.map(({ step, found }) => (
                  <li key={step}>
                    {name(step)}: {FOUND_WORDS[before.get(step) ?? "not-tested"].toLowerCase()} →{" "}
                    <b>{FOUND_WORDS[found].toLowerCase()}</b>
                  </li>
                ))}
              </ul>
            )}
          </section>
        )}
      </div>
    </section>
  );
}

const LOOK: Record<Found, string> = {
  holds: "border-pine bg-moss text-ink",
  rusty: "border-resin bg-sheet text-ink",
  hole: "border-2 border-clay bg-sheet font-semibold text-ink",
  "not-tested": "border-dashed border-line text-faint",
};

/** The sides by name where one of them is what brought the step down. */
function sidesInWords({ found, sides }: CheckUpResult["found"][number]): string {
  const named = Object.entries(sides).filter(([side, one]) => side !== "none" && one === found);
  return (found === "hole" || found === "rusty") && named.length > 0
    ? ` (${named.map(([side]) => sideInWords(side as "near").replace(" side", "")).join(", ")})`
    : "";
}
