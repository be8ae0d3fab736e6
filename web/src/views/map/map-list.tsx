import type { StepId } from "@still-pine/core/record";
import { clsx } from "clsx";
import { Link } from "react-router";
import type { HorseView } from "@still-pine/contract/http";
import { nameIn, STAGES, type Program, type Step } from "@still-pine/core/programs";
import { STAGE_WORDS } from "@still-pine/core/readiness";
import { Hoofprint, StatusWord } from "../../marks/hoofprint";
import { printOf } from "../../marks/prints";
import { needInWords } from "../../parts/need-words";
import { litBy } from "./graph";

interface MapListProps {
  view: HorseView;
  program: Program;
  chosen: string | null;
  /** Steps begun on what is not steady itself. */
  onTrust: ReadonlySet<StepId>;
  onChoose: (step: StepId | null) => void;
}

/** The map as a list: every step with its word and what it rests on; those under a chosen step are marked. */
export function MapList({ view: { horse, yard }, program, chosen, onTrust, onChoose }: MapListProps) {
  const { under, above } = litBy(program, chosen);
  const restsOn = (step: Step): string =>
    step.needs.map((need) => needInWords(need, program, yard.words).toLowerCase()).join("; ");
  return (
    <div className="grid gap-5">
      {STAGES.map((stage) => (
        <section key={stage} aria-label={STAGE_WORDS[stage]}>
          <h2 className="mb-1 text-lg">{STAGE_WORDS[stage]}</h2>
          <ul className="divide-y divide-line rounded-xl border border-line bg-sheet">
            {program.steps
              .filter((step) => step.stage === stage)
              .map((step) => (
                <li
                  key={step.id}
                  className={clsx(
                    "grid grid-cols-[auto_1fr_auto] items-center gap-x-3 p-2",
                    step.id === chosen && "bg-moss",
                    under.has(step.id) && "border-l-4 border-l-pine",
                    above.has(step.id) && "border-l-4 border-l-resin",
                  )}
                >
                  <Hoofprint print={printOf(horse.trail, step)} name={nameIn(step, yard.words)} size={28} />
                  <div className="min-w-0">
                    <p className="flex flex-wrap items-baseline gap-x-3">
                      <Link className="link font-bold" to={`/horses/${encodeURIComponent(horse.id)}/steps/${step.id}`}>
                        {nameIn(step, yard.words)}
                      </Link>
                      <StatusWord status={printOf(horse.trail, step).status} className="text-sm" />
                      {onTrust.has(step.id) && <span className="text-xs text-resin">begun on trust</span>}
                      {under.has(step.id) && <span className="text-xs">lies under the chosen step</span>}
                      {above.has(step.id) && <span className="text-xs">rests on the chosen step</span>}
                    </p>
                    <p className="text-xs text-faint">
                      {step.needs.length === 0 ? "Rests on nothing: the beginning." : `Rests on ${restsOn(step)}.`}
                    </p>
                  </div>
                  <button
                    type="button"
                    className="button button-small min-h-11"
                    aria-pressed={step.id === chosen}
                    aria-label={`${step.id === chosen ? "Let go" : "Choose"} ${nameIn(step, yard.words)}`}
                    onClick={() => onChoose(step.id === chosen ? null : step.id)}
                  >
                    {step.id === chosen ? "Let go" : "Choose"}
                  </button>
                </li>
              ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
