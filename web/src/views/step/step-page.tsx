import { Check, X } from "lucide-react";
import { Link, useParams } from "react-router";
import type { StepView } from "@still-pine/contract/http";
import { loosePenStart, type Step } from "@still-pine/core/programs";
import {
  findingInWords,
  RULE_TITLES,
  sideInWords,
  stepName,
  STATUS_MEANS,
  type CountedAsk,
  type Finding,
} from "@still-pine/core/readiness";
import { useStepQuery } from "../../api";
import { Hoofprint, StatusWord } from "../../marks/hoofprint";
import { MOOD_WORDS, PHASE_WORDS } from "../../marks/feel-square";
import { askInWords } from "../../entries/entry-words";
import { weekdayOf } from "../../parts/days";
import { NoDataYet } from "../../parts/page-state";

/** One step of one horse: what it is, its word with every reason, what would open it, and the asks it rests on. */
export function StepPage() {
  const { horse = "", step: id = "" } = useParams();
  const { data, error, refetch } = useStepQuery({ horse, step: id });
  const step = loosePenStart.steps.find((one) => one.id === id);
  if (!data || !step) return <NoDataYet what="the step" error={error} retry={() => void refetch()} />;
  const { judgement } = data;
  return (
    <>
      <title>{`${step.name}, ${data.horse.name} · Still Pine`}</title>
      <p>
        <Link className="link" to={`/horses/${encodeURIComponent(horse)}`}>
          {data.horse.name}
        </Link>
      </p>
      <div className="mt-1 mb-5 flex items-center gap-5">
        <Hoofprint print={{ status: judgement.status, sides: judgement.sides }} name={step.name} size={72} />
        <div>
          <h1 className="text-3xl">{step.name}</h1>
          <p>
            <StatusWord status={judgement.status} className="text-lg" />{" "}
            <span className="text-faint">{STATUS_MEANS[judgement.status]}</span>
          </p>
          <p className="max-w-prose">{step.what}</p>
        </div>
      </div>
      <div className="grid items-start gap-6 lg:grid-cols-[1fr_22rem]">
        <div className="grid gap-6">
          <WhatWouldOpen view={data} />
          <Reasons view={data} />
          <Asks view={data} step={step} />
        </div>
        <aside className="grid gap-4">
          <Sides view={data} />
          <div className="card">
            <h2 className="mb-1 text-lg">Standard</h2>
            <p>{standardInWords(step)}</p>
            <p className="mt-1 text-sm text-faint">Still Pine's own judgement, not a norm of the trade.</p>
            {step.needs.length > 0 && (
              <p className="mt-2">
                Rests on{" "}
                {step.needs.map((need, index) => (
                  <span key={need.anyOf.join()}>
                    {index > 0 && ", "}
                    <Link className="link" to={`/horses/${encodeURIComponent(horse)}/steps/${need.anyOf[0]}`}>
                      {stepName(loosePenStart, need.anyOf[0] ?? "")}
                    </Link>
                  </span>
                ))}
                .
              </p>
            )}
          </div>
          <div className="rounded-xl border-2 border-resin p-4">
            <h2 className="mb-1 text-lg text-resin">Take care</h2>
            <p>{step.caution}</p>
          </div>
        </aside>
      </div>
    </>
  );
}

function standardInWords({ standard }: Step): string {
  const parts = [
    standard.phase === null ? null : `phase at most ${standard.phase} (${PHASE_WORDS[standard.phase]})`,
    `mood at most ${standard.mood} (${MOOD_WORDS[standard.mood]})`,
    standard.dose
      ? `${standard.dose.amount} ${standard.dose.unit}${standard.dose.at ? ` ${standard.dose.at}` : ""}`
      : null,
  ];
  const text = parts.filter(Boolean).join(", ");
  return `${text[0]?.toUpperCase()}${text.slice(1)}.`;
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
            {Math.round(one.sure * 100)} % sure · clean weight {one.weightClean.toFixed(1)}, missed{" "}
            {one.weightNot.toFixed(1)} · {one.days} {one.days === 1 ? "day" : "days"}
            {one.lastClean && ` · last clean ${weekdayOf(one.lastClean)}`}
          </p>
        </div>
      ))}
    </div>
  );
}

function WhatWouldOpen({ view: { judgement } }: { view: StepView }) {
  if (judgement.toOpen.length === 0) return null;
  return (
    <section aria-label="What would open it" className="rounded-xl border-2 border-pine bg-sheet p-4">
      <h2 className="mb-2 text-xl">What would open it</h2>
      <ul className="list-disc pl-5">
        {judgement.toOpen.map((action) => (
          <li key={action.text}>{action.text}</li>
        ))}
      </ul>
    </section>
  );
}

function Reasons({ view: { judgement, asks, horse } }: { view: StepView }) {
  const byId = new Map(asks.map((ask) => [ask.event.id, ask]));
  const findings = judgement.findings.toSorted((a, b) => Number(a.met) - Number(b.met));
  if (findings.length === 0) return null;
  return (
    <section aria-label="Reasons">
      <h2 className="mb-2 text-xl">Reasons</h2>
      <ul className="divide-y divide-line rounded-xl border border-line bg-sheet">
        {findings.map((finding) => (
          <li key={`${finding.code}${finding.side ?? ""}${JSON.stringify(finding.have)}`} className="flex gap-3 p-3">
            {finding.met ? (
              <Check size={20} className="mt-0.5 shrink-0 text-pine" aria-label="Met" />
            ) : (
              <X size={20} className="mt-0.5 shrink-0 text-clay" aria-label="Not met" />
            )}
            <div>
              <p>
                <b>{RULE_TITLES[finding.code] ?? finding.code}.</b> {findingInWords(finding, loosePenStart)}
              </p>
              <Evidence finding={finding} byId={byId} horse={horse.id} />
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Evidence({ finding, byId, horse }: { finding: Finding; byId: Map<string, CountedAsk>; horse: string }) {
  const shown = finding.evidence.flatMap((id) => byId.get(id) ?? []);
  if (shown.length === 0) return null;
  return (
    <details className="mt-1 text-sm">
      <summary className="cursor-pointer text-pine">
        {shown.length === 1 ? "the ask it rests on" : `the ${shown.length} asks it rests on`}
      </summary>
      <ul className="mt-1">
        {shown.map((ask) => (
          <li key={ask.event.id}>
            <Link
              className="link"
              to={`/horses/${encodeURIComponent(horse)}/outings/${encodeURIComponent(ask.outing)}`}
            >
              {weekdayOf(ask.day)}
            </Link>{" "}
            {sideInWords(ask.side)} {askInWords(ask.event)}
          </li>
        ))}
      </ul>
    </details>
  );
}

const WORTH_WORDS: Record<CountedAsk["worth"], string> = {
  clean: "clean",
  miss: "missed",
  neutral: "neutral: counts for nothing",
  practice: "below the standard's dose: practice",
  lucky: "after a miss, not tested yet",
  "failed-lucky": "after a miss, failed its test",
  series: "from memory, at half",
};

function Asks({ view: { asks, horse }, step }: { view: StepView; step: Step }) {
  return (
    <section aria-label="Asks">
      <h2 className="mb-2 text-xl">The asks it rests on</h2>
      {asks.length === 0 ? (
        <p className="text-faint">Never asked.</p>
      ) : (
        <div
          className="max-h-[34rem] overflow-auto rounded-xl border border-line bg-sheet"
          tabIndex={0}
          role="region"
          aria-label="Table of asks"
        >
          <table className="w-full text-left text-sm">
            <caption className="sr-only">Asks of {step.name}, latest outing first</caption>
            <thead className="sticky top-0 bg-sheet">
              <tr className="border-b border-line">
                {["Day", "Side", "Answer", "Counts as", "Weighs now"].map((title) => (
                  <th key={title} scope="col" className="p-2 last:text-right">
                    {title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {asks.map((ask) => (
                <tr key={ask.event.id} className="border-b border-line/60">
                  <td className="p-2 whitespace-nowrap">
                    <Link
                      className="link"
                      to={`/horses/${encodeURIComponent(horse.id)}/outings/${encodeURIComponent(ask.outing)}`}
                    >
                      {weekdayOf(ask.day)}
                    </Link>
                  </td>
                  <td className="p-2">{sideInWords(ask.side) || "–"}</td>
                  <td className="p-2">{askInWords(ask.event)}</td>
                  <td className="p-2">
                    {WORTH_WORDS[ask.worth]}
                    {ask.cold && <b> · cold</b>}
                  </td>
                  <td className="p-2 text-right">{(ask.clean + ask.not).toFixed(2)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
