import { Link } from "react-router";
import type { HorseView } from "@still-pine/contract/http";
import type { Program } from "@still-pine/core/programs";
import { findingInWords, openSummary, reasonInWords, stepName, type NextStep } from "@still-pine/core/readiness";
import { Hoofprint, StatusWord } from "../../marks/hoofprint";
import { waitsInWords } from "../../parts/trust-words";
import { upToInWords } from "../../parts/up-to-words";

const WORK_SHOWN = 6;
const CHECKS_SHOWN = 8;

/** What is next, each with its reason and the least that would make it steady; and what to check cold. */
export function NextList({ view, program }: { view: HorseView; program: Program }) {
  // A page kept by a former build says nothing of what may follow.
  const { work, checkCold, follow = [], shut = [] } = view.next;
  const again = shut.filter(({ why }) => why.have.again);
  return (
    <section aria-label="What is next" className="grid gap-4 xl:grid-cols-[1fr_15rem]">
      <div>
        <h2 className="mb-2 text-xl">What is next</h2>
        {again.map(({ gate, why }) => (
          <p key={gate} className="mb-2 max-w-prose font-semibold text-resin">
            {findingInWords(why, program)} Until then nobody sits on him.
          </p>
        ))}
        {work.length === 0 ? (
          <p className="text-faint">
            {checkCold.some(({ reason }) => reason !== "soon")
              ? "Nothing new before the cold checks: what rests on a rusty step waits for it."
              : "Every step of this road is steady."}
          </p>
        ) : (
          <ol className="divide-y divide-line overflow-hidden rounded-xl border border-line bg-sheet">
            {work.slice(0, WORK_SHOWN).map((next) => (
              <Next key={next.step} next={next} view={view} program={program} />
            ))}
          </ol>
        )}
        {work.length > WORK_SHOWN && (
          <details className="mt-1 text-sm">
            <summary className="min-h-9 cursor-pointer py-1 text-pine">
              and {work.length - WORK_SHOWN} more that could be begun
            </summary>
            <ul className="flex flex-wrap gap-x-4">
              {work.slice(WORK_SHOWN).map((next) => (
                <li key={next.step}>
                  <StepLink next={next} view={view} program={program} />
                  <SaidUpTo next={next} view={view} program={program} />
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
      <div className="xl:row-span-2">
        <h2 className="mb-2 text-xl">Check cold</h2>
        {checkCold.length === 0 ? (
          <p className="text-sm text-faint">Nothing waits for a check this week.</p>
        ) : (
          <ul className="card grid gap-1 py-2 text-sm">
            {checkCold.slice(0, CHECKS_SHOWN).map((next) => (
              <li key={next.step}>
                <StepLink next={next} view={view} program={program} />{" "}
                <span className="text-faint">{reasonInWords(next, program)}</span>
              </li>
            ))}
            {checkCold.length > CHECKS_SHOWN && (
              <li className="text-faint">and {checkCold.length - CHECKS_SHOWN} more</li>
            )}
          </ul>
        )}
      </div>
      {follow.length > 0 && (
        <details className="text-sm">
          <summary className="min-h-9 cursor-pointer py-1 text-pine">
            and {follow.length} more that may follow, as each piece is good for today
          </summary>
          <ul>
            {follow.map((next) => (
              <li key={next.step}>
                <StepLink next={next} view={view} program={program} />{" "}
                <span className="text-faint">{waitsInWords(next.after, program, view.yard.words)}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

interface NextProps {
  next: NextStep;
  view: HorseView;
  program: Program;
}

function StepLink({ next, view, program }: NextProps) {
  return (
    <Link className="link font-bold" to={`/horses/${encodeURIComponent(view.horse.id)}/steps/${next.step}`}>
      {stepName(program, next.step, view.yard.words)}
    </Link>
  );
}

/** That only its smaller rungs may be worked, where it is so. */
function SaidUpTo({ next: { step }, view: { next, yard }, program }: NextProps) {
  const upTo = upToInWords(next.upTo, step, program, yard.words);
  return upTo && <span className="text-faint"> ({upTo})</span>;
}

function Next({ next, view, program }: NextProps) {
  const judgement = view.judgements.find((one) => one.step === next.step);
  if (!judgement) return null;
  const { words } = view.yard;
  const upTo = upToInWords(view.next.upTo, next.step, program, words);
  return (
    <li className="grid grid-cols-[auto_1fr] gap-x-3 p-2.5">
      <Hoofprint print={judgement} name={stepName(program, next.step, words)} size={34} />
      <div className="min-w-0">
        <p className="flex flex-wrap items-baseline gap-x-3">
          <StepLink next={next} view={view} program={program} />
          <StatusWord status={next.status} className="text-sm" />
          <span className="text-sm text-faint">
            {upTo === null
              ? reasonInWords(next, program)
              : next.reason === "smaller"
                ? upTo
                : `${reasonInWords(next, program)}; ${upTo}`}
          </span>
        </p>
        {next.onTrust && (
          <p className="text-sm text-resin">
            On trust: {next.onTrust.map((id) => stepName(program, id, words)).join(", ")} good today, not yet steady.
          </p>
        )}
        <p className="text-sm">{openSummary(judgement.toOpen, program)}</p>
      </div>
    </li>
  );
}
