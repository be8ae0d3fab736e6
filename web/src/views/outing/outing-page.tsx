import { useState } from "react";
import { Link, useParams } from "react-router";
import { v7 as newId } from "uuid";
import type { EntryView } from "@still-pine/contract/http";
import { loosePenStart } from "@still-pine/core/programs";
import { problemOf, useOutingQuery, useSendEventsMutation, useYardQuery } from "../../api";
import { timeIn, weekdayOf } from "../../parts/days";
import { NoDataYet, ProblemNote } from "../../parts/page-state";
import { ChangesNote } from "../../parts/changes-note";
import { nextHead } from "../../writing/device";
import { outingInWords } from "../horse/horse-page";
import { CorrectDialog } from "./correct-dialog";
import { changesInWords, entryInWords } from "./entry-words";

/** One outing as it was recorded: its entries, and every correction of them with what stood there before. */
export function OutingPage() {
  const { horse = "", outing = "" } = useParams();
  const { data, error, refetch } = useOutingQuery({ horse, outing });
  const { data: yard } = useYardQuery();
  const [send, sending] = useSendEventsMutation();
  const [corrected, setCorrected] = useState<EntryView | null>(null);
  const [last, setLast] = useState<string | null>(null);
  if (!data || !yard) return <NoDataYet what="the outing" error={error} retry={() => void refetch()} />;

  const correct = async (
    replaces: string,
    change: { void: true } | { with: Record<string, unknown> },
  ): Promise<boolean> => {
    const id = newId();
    const event = { ...nextHead(), id, at: new Date().toISOString(), type: "correction", replaces, ...change };
    const result = await send({ events: [{ horse, outing, event }] });
    if (result.error) return false;
    setLast(id);
    return true;
  };
  const changes = sending.data?.changes.flatMap((one) => one.changes) ?? [];

  return (
    <>
      <title>{`${data.horse.name}, ${weekdayOf(data.outing.day)} · Still Pine`}</title>
      <p>
        <Link className="link" to={`/horses/${encodeURIComponent(horse)}`}>
          {data.horse.name}
        </Link>
      </p>
      <h1 className="mt-1 text-3xl">
        {weekdayOf(data.outing.day)}, {timeIn(yard.timeZone, data.outing.startedAt)}–
        {timeIn(yard.timeZone, data.outing.endedAt)}
      </h1>
      <p className="mb-4 text-faint">
        {outingInWords(data.outing)}
        {data.outing.handler && ` · with ${data.outing.handler}`}
      </p>
      {sending.error && <ProblemNote problem={problemOf(sending.error)} />}
      {last && !sending.isLoading && (
        <div className="mb-4">
          <ChangesNote title="Corrected" changes={changes}>
            <button
              type="button"
              className="button button-small"
              onClick={() => void correct(last, { void: true }).then(() => setLast(null))}
            >
              Undo the correction
            </button>
          </ChangesNote>
        </div>
      )}
      <ol className="divide-y divide-line rounded-xl border border-line bg-sheet" aria-label="Entries">
        {data.entries.map((entry) => (
          <Entry
            key={entry.event.id}
            entry={entry}
            timeZone={yard.timeZone}
            onCorrect={() => setCorrected(entry)}
            onStrike={() => void correct(entry.event.id, { void: true })}
            onUndo={(id) => void correct(id, { void: true })}
          />
        ))}
      </ol>
      {corrected && (
        <CorrectDialog
          entry={corrected}
          program={loosePenStart}
          onClose={() => setCorrected(null)}
          onSave={async (changed) => (await correct(corrected.event.id, { with: changed })) && setCorrected(null)}
        />
      )}
    </>
  );
}

interface EntryProps {
  entry: EntryView;
  timeZone: string;
  onCorrect: () => void;
  onStrike: () => void;
  onUndo: (correction: string) => void;
}

function Entry({ entry, timeZone, onCorrect, onStrike, onUndo }: EntryProps) {
  const { event, current, voided, corrections } = entry;
  const words = entryInWords(current, loosePenStart);
  return (
    <li className="grid grid-cols-[3.5rem_1fr] gap-x-3 gap-y-1 p-3 sm:grid-cols-[3.5rem_1fr_auto]">
      <span className="text-sm text-faint">{timeIn(timeZone, event.at)}</span>
      <div>
        <p className={voided ? "line-through" : undefined}>
          {words}
          {voided && <span className="sr-only"> (struck out)</span>}
        </p>
        {corrections.length > 0 && (
          <ul aria-label="Corrections" className="mt-1 border-l-2 border-resin pl-3 text-sm">
            <li className="text-faint">first written: {entryInWords(event, loosePenStart)}</li>
            {corrections.map(({ event: correction, undone }) => (
              <li key={correction.id} className={undone ? "text-faint line-through" : undefined}>
                {changesInWords(
                  correction,
                  corrections.some((one) => one.event.id === correction.replaces),
                )}
                , {weekdayOf(correction.at.slice(0, 10))} {timeIn(timeZone, correction.at)}
                {!undone && (
                  <button
                    type="button"
                    className="link ml-2 min-h-6 cursor-pointer"
                    onClick={() => onUndo(correction.id)}
                  >
                    undo
                  </button>
                )}
              </li>
            ))}
          </ul>
        )}
      </div>
      <div className="col-start-2 flex items-start gap-2 sm:col-start-auto">
        {!voided && (
          <>
            <button type="button" className="button button-small" onClick={onCorrect} aria-label={`Correct: ${words}`}>
              Correct
            </button>
            <button
              type="button"
              className="button button-small"
              onClick={onStrike}
              aria-label={`Strike out: ${words}`}
            >
              Strike out
            </button>
          </>
        )}
      </div>
    </li>
  );
}
