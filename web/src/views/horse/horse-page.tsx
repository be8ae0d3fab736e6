import { Archive, ClipboardCheck, DoorOpen, Download, Map as MapIcon, PencilLine, Stethoscope } from "lucide-react";
import { useEffect } from "react";
import { Link, useLocation, useParams } from "react-router";
import type { HorseView } from "@still-pine/contract/http";
import { isUnknown, STAGES, type Program } from "@still-pine/core/programs";
import { linkTo } from "../../ask";
import { ProgramNotHere } from "../../entries/program-not-here";
import { useBook, useProgramFor } from "../../book/use-book";
import { useHorseQuery } from "../../api";
import { AddEntry } from "../../entries/add-entry";
import { Entries } from "../../entries/entry-item";
import { AddMedia } from "../../entries/add-media";
import { Gallery } from "../../entries/gallery";
import { dayInWords } from "../../parts/days";
import { NoDataYet } from "../../parts/page-state";
import { useStages } from "../../parts/use-stages";
import { compareLink, programLink } from "../programs/links";
import { AskedInFull } from "./asked-in-full";
import { Diary } from "./diary";
import { FeelOverTime } from "./feel-over-time";
import { NextList } from "./next-list";
import { Road } from "./road";
import { SidesTable } from "./sides-table";

/** The page is drawn from above, part by part: who he is, the road in four, then one after another. */
const PARTS = { road: 5, next: 6, sides: 7, feel: 8, said: 9, all: 10 } as const;

/** One horse: its road from first handling to the saddle and beyond, where work is now, both sides, its feel over time, its outings. */
export function HorsePage() {
  const programFor = useProgramFor();
  const { horse: id = "" } = useParams();
  const { data, error, refetch } = useHorseQuery(id);
  const { hash } = useLocation();
  const part = useStages(data ? PARTS.all : 1);
  const isRoadThere = data !== undefined && part >= PARTS.road;
  useEffect(() => {
    if (isRoadThere && hash) document.getElementById(hash.slice(1))?.scrollIntoView({ block: "center" });
  }, [isRoadThere, hash]);
  if (!data) return <NoDataYet what="the horse" error={error} retry={() => void refetch()} />;
  const program = programFor(data.horse);
  const { yard } = data;
  return (
    <>
      <title>{`${data.horse.name} · Still Pine`}</title>
      <Heading view={data} id={id} />
      {isUnknown(program) ? (
        <ProgramNotHere horse={data.horse} />
      ) : (
        <Road
          view={data}
          program={program}
          stages={(STAGES.length * (Math.min(part, PARTS.road) - 1)) / (PARTS.road - 1)}
        />
      )}
      <div className="mt-6 grid items-start gap-6 lg:grid-cols-[1fr_21rem]">
        <div className="grid min-w-0 gap-6">
          {part >= PARTS.next && !isUnknown(program) && <NextList view={data} program={program} />}
          {part >= PARTS.sides && !isUnknown(program) && <AskedInFull view={data} program={program} />}
          {part >= PARTS.sides && !isUnknown(program) && <SidesTable view={data} program={program} />}
          {part >= PARTS.said && <Said view={data} program={program} />}
        </div>
        <div className="grid gap-4">
          {part >= PARTS.feel && <FeelOverTime horse={id} program={program} words={yard.words} />}
          {part >= PARTS.all && <Diary view={data} program={program} />}
          <Gallery horse={id} />
        </div>
      </div>
    </>
  );
}

/** What is said of the horse himself: body, care, what is agreed. */
function Said({ view, program }: { view: HorseView; program: Program }) {
  const { horse, entries, yard } = view;
  return (
    <section aria-label="Body and care">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-xl">Body, care and what is agreed</h2>
        <div className="flex flex-wrap gap-2">
          <AddEntry horse={horse.id} outing={null} program={program} yard={yard} label="Write something of him" />
          <AddMedia horse={horse.id} outing={null} />
        </div>
      </div>
      {entries.length === 0 ? (
        <p className="text-faint">Nothing yet. Weight, feet, teeth, cues and rests stand here.</p>
      ) : (
        <Entries horse={horse.id} outing={null} entries={entries} program={program} yard={yard} label="Of the horse" />
      )}
    </section>
  );
}

function Heading({ view: { horse, yard }, id }: { view: HorseView; id: string }) {
  const programFor = useProgramFor();
  const offered = useBook().offeredTo(horse.program);
  const part = encodeURIComponent(id);
  return (
    <div className="mb-4 flex flex-wrap items-end justify-between gap-3">
      <div>
        <h1 className="text-4xl">{horse.name}</h1>
        <p className="text-faint">
          {horse.sex}, {horse.age} ·{" "}
          {horse.lastOuting
            ? `${horse.workDays} work ${horse.workDays === 1 ? "day" : "days"} in ${horse.calendarDays} calendar days · last out ${dayInWords(horse.lastOuting, yard.today)}`
            : "no outing yet"}
          {!horse.inWork && " · out of work"}
        </p>
        <p className="text-faint">
          Goes by{" "}
          <Link className="link" to={programLink(horse.program.id)}>
            {programFor(horse).name}
          </Link>{" "}
          ·{" "}
          <Link className="link" to={compareLink([horse.program.id], horse.id)}>
            what others would say
          </Link>
          {offered && (
            <>
              {" · "}
              <Link className="link font-semibold" to={compareLink([horse.program.id], horse.id)}>
                version {offered.version} is offered: what it would change
              </Link>
            </>
          )}
        </p>
      </div>
      <div className="flex flex-wrap gap-2">
        <Link className="button button-main" to={`/horses/${part}/brief`}>
          <DoorOpen size={18} aria-hidden="true" /> Go out
        </Link>
        <Link className="button" to={`/horses/${part}/map`}>
          <MapIcon size={18} aria-hidden="true" /> Map of the steps
        </Link>
        <Link className="button" to={`/horses/${part}/check-up`}>
          <ClipboardCheck size={18} aria-hidden="true" /> Check-up
        </Link>
        <Link className="button" to={`/troubles?horse=${part}`}>
          <Stethoscope size={18} aria-hidden="true" /> Trouble?
        </Link>
        <a className="button" href={linkTo<"record">("/horses/{horse}/record", { horse: id })} download>
          <Download size={18} aria-hidden="true" /> Export
        </a>
        <a className="button" href={linkTo<"horseArchive">("/horses/{horse}/archive", { horse: id })} download>
          <Archive size={18} aria-hidden="true" /> With photos
        </a>
        <Link className="button" to={`/write-up?horse=${part}`}>
          <PencilLine size={18} aria-hidden="true" /> Write up
        </Link>
      </div>
    </div>
  );
}
