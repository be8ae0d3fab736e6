import { Link } from "react-router";
import type { StringHorse } from "@still-pine/contract/http";
import { refsOf, type Dialect, type Program, type Step } from "@still-pine/core/programs";
import { stepName } from "@still-pine/core/readiness";
import { StatusMark } from "../../marks/hoofprint";
import { howFar } from "../../parts/need-words";

interface RestsOnProps {
  horse: StringHorse;
  step: Step;
  program: Program;
  words: Dialect;
}

/** What a step rests on, and what rests on it, each with this horse's word. */
export function RestsOn({ horse, step, program, words }: RestsOnProps) {
  const above = program.steps.filter((one) => refsOf(one.needs).some((ref) => ref.step === step.id));
  const status = (id: string) => horse.trail.find((print) => print.step === id)?.status ?? "untried";
  const name = (id: string) => (
    <Link
      className="link inline-flex min-h-6 items-center gap-1"
      to={`/horses/${encodeURIComponent(horse.id)}/steps/${id}`}
    >
      <StatusMark status={status(id)} />
      {stepName(program, id, words)}
    </Link>
  );
  return (
    <>
      {step.needs.length > 0 && (
        <div className="mt-3">
          <h3 className="font-bold">Rests on</h3>
          <p className="text-sm text-faint">
            {step.guarded
              ? "It guards a person: all of this has to be steady before it is begun."
              : "Good for today is enough to try it; steady is asked before it is called steady itself."}
          </p>
          <ul>
            {step.needs.map((need) => (
              <li key={JSON.stringify(need)}>
                {need.anyOf.map((way, index) => (
                  <span key={JSON.stringify(way)}>
                    {index > 0 && " or "}
                    {way.map((ref, at) => (
                      <span key={ref.step}>
                        {at > 0 && " with "}
                        {name(ref.step)}
                        {howFar(ref, program, words)}
                      </span>
                    ))}
                  </span>
                ))}
              </li>
            ))}
          </ul>
        </div>
      )}
      {above.length > 0 && (
        <div className="mt-3">
          <h3 className="font-bold">On it rest</h3>
          <ul className="flex flex-wrap gap-x-3">
            {above.map(({ id }) => (
              <li key={id}>{name(id)}</li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
