import { useState } from "react";
import { Link } from "react-router";
import type { HorseView, OutingSummary } from "@still-pine/contract/http";
import type { Program } from "@still-pine/core/programs";
import { useDiaryQuery } from "../../api";
import { timeIn, weekdayOf } from "../../parts/days";
import { outingInWords } from "./outing-words";

/** A horse's outings, the latest first; older ones a page at a time. */
export function Diary({ view, program }: { view: HorseView; program: Program }) {
  const [pages, setPages] = useState(1);
  const { outings, outingCount } = view;
  const size = outings.length;
  return (
    <section aria-label="Outings" className="card">
      <h2 className="mb-2 text-xl">Outings</h2>
      {outingCount === 0 && <p className="text-faint">None yet. Write up the first one.</p>}
      <ul className="divide-y divide-line">
        {outings.map((outing) => (
          <Line key={outing.id} outing={outing} view={view} program={program} />
        ))}
        {Array.from({ length: pages - 1 }, (_, page) => (
          <Older key={page} skip={size * (page + 1)} view={view} program={program} />
        ))}
      </ul>
      {outingCount > size * pages && (
        <button type="button" className="button mt-3 w-full" onClick={() => setPages(pages + 1)}>
          Older: {outingCount - size * pages} more
        </button>
      )}
    </section>
  );
}

function Older({ skip, view, program }: { skip: number; view: HorseView; program: Program }) {
  const { data } = useDiaryQuery({ horse: view.horse.id, skip });
  return data?.outings.map((outing) => <Line key={outing.id} outing={outing} view={view} program={program} />);
}

function Line({
  outing,
  view: { horse, yard },
  program,
}: {
  outing: OutingSummary;
  view: HorseView;
  program: Program;
}) {
  return (
    <li className="py-2">
      <Link
        className="link font-bold"
        to={`/horses/${encodeURIComponent(horse.id)}/outings/${encodeURIComponent(outing.id)}`}
      >
        {weekdayOf(outing.day)}, {timeIn(yard.timeZone, outing.startedAt)}
      </Link>
      <p className="text-sm text-faint">{outingInWords(outing, program)}</p>
    </li>
  );
}
