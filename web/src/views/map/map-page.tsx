import type { StepId } from "@still-pine/core/record";
import { List, Map as MapIcon } from "lucide-react";
import { useCallback } from "react";
import { Link, useParams } from "react-router";
import { findStep, isUnknown, nameIn } from "@still-pine/core/programs";
import { openSummary, type Judgement } from "@still-pine/core/readiness";
import { ProgramNotHere } from "../../entries/program-not-here";
import { useProgramFor } from "../../book/use-book";
import { useHorseQuery } from "../../api";
import { Hoofprint, StatusWord } from "../../marks/hoofprint";
import { printOf } from "../../marks/prints";
import { NoDataYet } from "../../parts/page-state";
import { standsOnInWords } from "../../parts/trust-words";
import { useAddress } from "../../parts/use-address";
import { useIsWide } from "../../parts/use-is-wide";
import { MapList } from "./map-list";
import { StepMap } from "./step-map";

const known = new WeakMap<readonly Judgement[], ReadonlySet<StepId>>();

/** Steps begun on what is not steady; the same set for the same verdicts, so that nothing is drawn anew. */
function onTrustIn(judgements: readonly Judgement[]): ReadonlySet<StepId> {
  let steps = known.get(judgements);
  if (!steps) known.set(judgements, (steps = new Set(judgements.flatMap((one) => (one.standsOn ? [one.step] : [])))));
  return steps;
}

/** The steps of the program and what each rests on, with this horse's prints on them; the same as a list. */
export function MapPage() {
  const programFor = useProgramFor();
  const { horse: id = "" } = useParams();
  const { data, error, refetch } = useHorseQuery(id);
  const [parameters, change] = useAddress();
  const isWide = useIsWide();
  const chosen = parameters.get("step");
  const as = parameters.get("as") ?? (isWide ? "map" : "list");
  const set = useCallback((name: string, value: string | null): void => change({ [name]: value }), [change]);
  const choose = useCallback((step: StepId | null): void => set("step", step), [set]);
  if (!data) return <NoDataYet what="the horse" error={error} retry={() => void refetch()} />;
  const program = programFor(data.horse);
  const { horse, yard } = data;
  if (isUnknown(program)) return <ProgramNotHere horse={horse} />;
  const onTrust = onTrustIn(data.judgements);
  const step = chosen === null ? undefined : findStep(program, chosen);
  const judgement = step && data.judgements.find((one) => one.step === step.id);
  return (
    <>
      <title>{`Map of the steps, ${horse.name} · Still Pine`}</title>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-2xl">
          <Link className="hover:underline" to={`/horses/${encodeURIComponent(id)}`}>
            {horse.name}
          </Link>
          : map of the steps
        </h1>
        <button type="button" className="button" onClick={() => set("as", as === "map" ? "list" : "map")}>
          {as === "map" ? <List size={18} aria-hidden="true" /> : <MapIcon size={18} aria-hidden="true" />}
          {as === "map" ? "As a list" : "As a map"}
        </button>
      </div>
      <div aria-live="polite" className="mb-3 min-h-14">
        {step && judgement ? (
          <div className="card flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
            <Hoofprint print={printOf(horse.trail, step)} name={nameIn(step, yard.words)} size={30} />
            <Link className="link text-lg font-bold" to={`/horses/${encodeURIComponent(id)}/steps/${step.id}`}>
              {nameIn(step, yard.words)}
            </Link>
            <StatusWord status={judgement.status} />
            <span className="line-clamp-2 min-w-0 flex-1 text-sm">
              {judgement.standsOn &&
                `Begun on trust. ${judgement.standsOn.map((one) => `${standsOnInWords(one, program, yard.words)}.`).join(" ")} `}
              {openSummary(judgement.toOpen, program) || "Steady: nothing is missing."}
            </span>
            <button type="button" className="button button-small" onClick={() => choose(null)}>
              Let go
            </button>
          </div>
        ) : (
          <p className="py-3 text-sm text-faint">
            Choose a step to see all it rests on.{" "}
            {as === "map" &&
              `${onTrust.size > 0 ? "A broken edge: begun on trust. " : ""}Drag to move, wheel or + and − for size; with the keyboard the arrows walk from step to step, Enter chooses.`}
          </p>
        )}
      </div>
      {as === "map" ? (
        <StepMap
          program={program}
          trail={horse.trail}
          words={yard.words}
          chosen={step?.id ?? null}
          at={data.next.work[0]?.step}
          onTrust={onTrust}
          onChoose={choose}
        />
      ) : (
        <MapList view={data} program={program} chosen={step?.id ?? null} onTrust={onTrust} onChoose={choose} />
      )}
    </>
  );
}
