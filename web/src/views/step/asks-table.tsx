import { Link } from "react-router";
import type { StepView } from "@still-pine/contract/http";
import type { Program } from "@still-pine/core/programs";
import { sideInWords, type CountedAsk } from "@still-pine/core/readiness";
import { askInWords } from "../../entries/entry-words";
import { weekdayOf } from "../../parts/days";

const WORTH_WORDS: Record<CountedAsk["worth"], string> = {
  clean: "clean",
  miss: "missed",
  neutral: "neutral: counts for nothing",
  practice: "below the standard, or with a tool: practice",
  lucky: "after a miss, not tested yet",
  "failed-lucky": "after a miss, failed its test",
  series: "from memory, at half",
};

interface AsksTableProps {
  view: StepView;
  name: string;
  program: Program;
}

/** The asks a verdict was made from, each with what it counted as and what it weighs now. */
export function AsksTable({ view: { asks, horse }, name, program }: AsksTableProps) {
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
            <caption className="sr-only">Asks of {name}, latest outing first</caption>
            <thead className="sticky top-0 bg-sheet">
              <tr className="border-b border-line">
                {["Day", "Side", "Answer", "Counts as", "Weighs lately"].map((title) => (
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
                  <td className="p-2">{askInWords(ask.event, program)}</td>
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
