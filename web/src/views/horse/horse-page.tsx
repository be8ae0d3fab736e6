import { Archive, Download, PencilLine } from "lucide-react";
import { Link, useParams } from "react-router";
import { loosePenStart } from "@still-pine/core/programs";
import { findingInWords, sideInWords, stepName, type Judgement } from "@still-pine/core/readiness";
import { useHorseQuery } from "../../api";
import { AddEntry } from "../../entries/add-entry";
import { Entries } from "../../entries/entry-item";
import { Hoofprint, StatusWord } from "../../marks/hoofprint";
import { dayInWords } from "../../parts/days";
import { AddMedia } from "../../media/add-media";
import { Gallery } from "../../media/gallery";
import { NoDataYet } from "../../parts/page-state";
import { Diary } from "./diary";

/** One horse: its steps with both sides, each with its word and its reasons, and its outings. */
export function HorsePage() {
  const { horse: id = "" } = useParams();
  const { data, error, refetch } = useHorseQuery(id);
  if (!data) return <NoDataYet what="the horse" error={error} retry={() => void refetch()} />;
  const { horse, judgements, yard } = data;
  return (
    <>
      <title>{`${horse.name} · Still Pine`}</title>
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-4xl">{horse.name}</h1>
          <p className="text-faint">
            {horse.sex}, {horse.age} ·{" "}
            {horse.lastOuting
              ? `${horse.workDays} work ${horse.workDays === 1 ? "day" : "days"} in ${horse.calendarDays} calendar days · last out ${dayInWords(horse.lastOuting, yard.today)}`
              : "no outing yet"}
            {!horse.inWork && " · out of work"}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <a className="button" href={`/api/horses/${encodeURIComponent(id)}/record`} download>
            <Download size={18} aria-hidden="true" /> Export
          </a>
          <a className="button" href={`/api/horses/${encodeURIComponent(id)}/archive`} download>
            <Archive size={18} aria-hidden="true" /> With photos
          </a>
          <Link className="button" to={`/write-up?horse=${encodeURIComponent(id)}`}>
            <PencilLine size={18} aria-hidden="true" /> Write up
          </Link>
        </div>
      </div>
      <div className="grid items-start gap-6 lg:grid-cols-[1fr_20rem]">
        <div className="grid gap-6">
          <section aria-label="Steps">
            <ol className="divide-y divide-line overflow-hidden rounded-xl border border-line bg-sheet">
              {judgements.map((judgement) => (
                <StepRow key={judgement.step} horse={id} judgement={judgement} />
              ))}
            </ol>
          </section>
          <section aria-label="Body and care">
            <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
              <h2 className="text-xl">Body, care and what is agreed</h2>
              <div className="flex flex-wrap gap-2">
                <AddEntry horse={id} outing={null} yard={yard} label="Write something of him" />
                <AddMedia horse={id} outing={null} />
              </div>
            </div>
            {data.entries.length === 0 ? (
              <p className="text-faint">Nothing yet. Weight, feet, teeth, cues and rests stand here.</p>
            ) : (
              <Entries horse={id} outing={null} entries={data.entries} yard={yard} label="Of the horse" />
            )}
          </section>
        </div>
        <div className="grid gap-4">
          <Diary view={data} />
          <Gallery horse={id} />
        </div>
      </div>
    </>
  );
}

/** Reasons said on the row; the step's own page has them all. */
const REASONS_SHOWN = 2;

function StepRow({ horse, judgement }: { horse: string; judgement: Judgement }) {
  const name = stepName(loosePenStart, judgement.step);
  const unmet = judgement.findings.filter((finding) => !finding.met && finding.code !== "both-sides");
  const print = { status: judgement.status, sides: judgement.sides };
  return (
    <li className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 p-3 sm:grid-cols-[auto_13rem_1fr]">
      <div className="row-span-2 sm:row-span-1">
        <Hoofprint print={print} name={name} size={40} />
      </div>
      <div>
        <h2 className="font-sans text-base font-bold">
          <Link className="hover:underline" to={`/horses/${encodeURIComponent(horse)}/steps/${judgement.step}`}>
            {name}
          </Link>
        </h2>
        <StatusWord status={judgement.status} />
        {judgement.sides.near && judgement.sides.off && judgement.sides.near.status !== judgement.sides.off.status && (
          <p className="flex flex-wrap gap-x-3 text-sm">
            {(["near", "off"] as const).map((side) => (
              <span key={side} className="whitespace-nowrap">
                {sideInWords(side)} <b>{judgement.sides[side]?.status}</b>
              </span>
            ))}
          </p>
        )}
      </div>
      <ul className="col-start-2 text-sm sm:col-start-auto">
        {judgement.status === "steady" && unmet.length === 0 && <li className="text-faint">Every rule is met.</li>}
        {unmet.slice(0, REASONS_SHOWN).map((finding) => (
          <li key={`${finding.code}${finding.side ?? ""}${JSON.stringify(finding.have)}`}>
            {findingInWords(finding, loosePenStart)}
          </li>
        ))}
        {unmet.length > REASONS_SHOWN && (
          <li>
            <Link className="link" to={`/horses/${encodeURIComponent(horse)}/steps/${judgement.step}`}>
              and {unmet.length - REASONS_SHOWN} more
            </Link>
          </li>
        )}
      </ul>
    </li>
  );
}
