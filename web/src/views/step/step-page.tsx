import { lazy, Suspense } from "react";
import { Link, useParams } from "react-router";
import type { StepView, YardView } from "@still-pine/contract/http";
import { findStep, isUnknown, nameIn, type Program, type Step } from "@still-pine/core/programs";
import { saidRung } from "@still-pine/core/evidence";
import { actionsToSay, sideInWords, STAGE_WORDS, STATUS_MEANS } from "@still-pine/core/readiness";
import { ProgramNotHere } from "../../entries/program-not-here";
import { useProgramFor } from "../../book/use-book";
import { useHorseQuery, useStepQuery, useYardQuery } from "../../api";
import { Entries } from "../../entries/entry-item";
import { Hoofprint, StatusWord } from "../../marks/hoofprint";
import { weekdayOf } from "../../parts/days";
import { NoDataYet } from "../../parts/page-state";
import { standsOnInWords } from "../../parts/trust-words";
import { AsksTable } from "./asks-table";
import { OtherPrograms } from "./other-programs";
import { Reasons } from "./reasons";
import { RestsOn } from "./rests-on";
import { StairOfStep } from "./stair";
import { StepActions } from "./step-actions";
import { StepCard } from "./step-card";
import { standardInWords } from "./standard";

const AsksChart = lazy(async () => ({ default: (await import("./asks-chart")).AsksChart }));

const RungsChart = lazy(async () => ({ default: (await import("./rungs-chart")).RungsChart }));

/** One step of one horse: what it is, its word with every reason, what would open it, and the asks it rests on. */
export function StepPage() {
  const programFor = useProgramFor();
  const { horse = "", step: id = "" } = useParams();
  const { data, error, refetch } = useStepQuery({ horse, step: id });
  const { data: yard } = useYardQuery();
  // A step nobody judges is none the server can tell of: it may be his program that is not here.
  const { data: his } = useHorseQuery(horse, { skip: !error });
  if (error && his && isUnknown(programFor(his.horse))) return <ProgramNotHere horse={his.horse} />;
  const program = data && programFor(data.horse);
  const step = program && findStep(program, id);
  if (!data || !yard || !step || !program)
    return <NoDataYet what="the step" error={error} retry={() => void refetch()} />;
  return <OneStep view={data} yard={yard} step={step} program={program} />;
}

interface OneStepProps {
  view: StepView;
  yard: YardView;
  step: Step;
  program: Program;
}

function OneStep({ view, yard, step, program }: OneStepProps) {
  const { judgement, horse } = view;
  const name = nameIn(step, yard.words);
  const judged = { ...step, standard: view.standard, ladder: view.ladder };
  const link = `/horses/${encodeURIComponent(horse.id)}`;
  return (
    <>
      <title>{`${name}, ${horse.name} · Still Pine`}</title>
      <p className="flex flex-wrap gap-x-4">
        <Link className="link" to={link}>
          {horse.name}
        </Link>
        <Link className="link" to={`${link}/map?step=${step.id}`}>
          On the map
        </Link>
      </p>
      <div className="mt-1 mb-5 flex flex-wrap items-center justify-between gap-4">
        <div className="flex items-center gap-5">
          <Hoofprint print={judgement} name={name} size={72} />
          <div>
            <p className="text-sm text-faint">{STAGE_WORDS[step.stage]}</p>
            <h1 className="text-3xl">{name}</h1>
            <p>
              <StatusWord status={judgement.status} className="text-lg" />{" "}
              <span className="text-faint">{STATUS_MEANS[judgement.status]}</span>
              {judgement.held && <b className="ml-3 text-resin">Held</b>}
            </p>
            {judgement.goodToday && (
              <p className="font-semibold text-pine">Good today: the last asks came clean and quiet on every side.</p>
            )}
            {judgement.standsOn && (
              <p className="text-resin">
                Begun on trust.{" "}
                {judgement.standsOn.map((one) => `${standsOnInWords(one, program, yard.words)}.`).join(" ")}
              </p>
            )}
          </div>
        </div>
        <StepActions horse={horse.id} step={step} program={program} yard={yard} />
      </div>
      <div className="grid items-start gap-6 lg:grid-cols-[1fr_22rem]">
        <div className="grid gap-6">
          <WhatWouldOpen view={view} />
          <Reasons view={view} step={step} program={program} />
          <StairOfStep view={view} step={judged} program={program} words={yard.words} />
          {step.ladder.rungs.length > 1 && view.asks.some(({ event }) => saidRung(event, judged) !== null) && (
            <Suspense>
              <RungsChart view={view} step={judged} words={yard.words} />
            </Suspense>
          )}
          {view.asks.length > 0 && (
            <Suspense>
              <AsksChart view={view} />
            </Suspense>
          )}
          <AsksTable view={view} name={name} program={program} />
        </div>
        <aside className="grid gap-4">
          <Sides view={view} />
          <StepCard step={step} edition={program.catalogue} words={yard.words} />
          <div className="card">
            <h2 className="mb-1 text-lg">Standard</h2>
            <p>{standardInWords(view.standard ?? step.standard, step, program)}</p>
            <p className="mt-1 text-sm text-faint">
              {view.standard &&
              standardInWords(view.standard, step, program) !== standardInWords(step.standard, step, program)
                ? `His own; the program's is: ${standardInWords(step.standard, step, program)}`
                : "Still Pine's own judgement, not a norm of the trade."}
            </p>
            <RestsOn horse={horse} step={step} program={program} words={yard.words} />
          </div>
          <OtherPrograms horse={horse.id} step={step} program={program} words={yard.words} />
          <StepSaid view={view} program={program} yard={yard} />
        </aside>
      </div>
    </>
  );
}

/** Standards adjusted, overrides and holds, each with a way to change or strike it out. */
function StepSaid({ view, program, yard }: { view: StepView; program: Program; yard: YardView }) {
  if (view.said.length === 0) return null;
  return (
    <section aria-label="Said of this step">
      <h2 className="mb-2 text-lg">Said of this step</h2>
      <Entries
        horse={view.horse.id}
        outing={null}
        entries={view.said}
        program={program}
        yard={yard}
        label="Said of this step"
      />
    </section>
  );
}

function Sides({ view: { judgement } }: { view: StepView }) {
  return (
    <div className="card grid gap-3">
      {Object.entries(judgement.sides).map(([side, one]) => (
        <div key={side}>
          <p className="flex items-baseline justify-between gap-2">
            <b>{sideInWords(side as "near") || "This step"}</b> <StatusWord status={one.status} />
          </p>
          <p className="text-sm text-faint">
            {one.status === "untried"
              ? "never asked"
              : `${Math.round(one.sure * 100)} % sure by the long record (clean ${one.longClean.toFixed(1)}, missed ${one.longNot.toFixed(1)}), ${Math.round(one.lately * 100)} % by the last asks · ${one.days} ${one.days === 1 ? "day" : "days"}${one.lastClean ? ` · last clean ${weekdayOf(one.lastClean)}` : ""}`}
          </p>
        </div>
      ))}
    </div>
  );
}

function WhatWouldOpen({ view: { judgement, horse } }: { view: StepView }) {
  if (judgement.toOpen.length === 0) return null;
  return (
    <section aria-label="What would open it" className="rounded-xl border-2 border-pine bg-sheet p-4">
      <h2 className="mb-2 text-xl">The least that would make it steady</h2>
      <ul className="list-disc pl-5">
        {actionsToSay(judgement.toOpen).map((action) => (
          <li key={action.text}>
            {action.step ? (
              <Link className="link" to={`/horses/${encodeURIComponent(horse.id)}/steps/${action.step}`}>
                {action.text}
              </Link>
            ) : (
              action.text
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
