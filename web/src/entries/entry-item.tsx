import { type EventOf, eventTypeOf, type Field, type HorseId, type OutingId } from "@still-pine/core/record";
import { useState } from "react";
import type { EntryView, YardView } from "@still-pine/contract/http";
import type { Program } from "@still-pine/core/programs";
import type { VerdictChange } from "@still-pine/core/readiness";
import { linkTo } from "../ask";
import { problemOf } from "../parts/problem";
import { ChangesNote } from "../parts/changes-note";
import { timeIn, weekdayOf, dayOf } from "../parts/days";
import { Modal } from "../parts/modal";
import { ProblemNote } from "../parts/page-state";
import { EntryForm } from "./entry-form";
import { changesInWords, entryInWords } from "./entry-words";
import { useRecord, type Change } from "../writing/use-record";

/** When something was; any entry can have been given the wrong time. */
export const WHEN: Field = { name: "at", label: "When", needed: true, says: "", is: { kind: "instant" } };

interface EntriesProps {
  horse: HorseId;
  /** Null for what is said of the horse itself. */
  outing: OutingId | null;
  entries: readonly EntryView[];
  /** Whose steps and words are meant: the horse's. */
  program: Program;
  yard: YardView;
  label: string;
  /** Names of the devices that recorded, by what they call themselves. */
  recorders?: Record<string, string>;
}

/** Entries with every correction of them; each can be corrected, struck out, and what was done to it undone. */
export function Entries({ horse, outing, entries, program, yard, label, recorders = {} }: EntriesProps) {
  const { correct: send, ...sending } = useRecord();
  const [corrected, setCorrected] = useState<EntryView | null>(null);
  const [done, setDone] = useState<{ id: string; changes: VerdictChange[] } | null>(null);

  const correct = async (replaces: string, change: Change): Promise<boolean> => {
    const recorded = await send({ horse, outing }, replaces, change);
    if (!recorded) return false;
    setDone({ id: recorded.ids[0] ?? "", changes: recorded.changes });
    return true;
  };
  const type = corrected && eventTypeOf(corrected.event.type);

  return (
    <>
      {sending.error && <ProblemNote problem={problemOf(sending.error)} />}
      {done && !sending.isLoading && (
        <div className="mb-4">
          <ChangesNote title="Corrected" changes={done.changes}>
            <button
              type="button"
              className="button button-small"
              onClick={() => void correct(done.id, { void: true }).then(() => setDone(null))}
            >
              Undo the correction
            </button>
          </ChangesNote>
        </div>
      )}
      <ol className="divide-y divide-line rounded-xl border border-line bg-sheet" aria-label={label}>
        {entries.map((entry) => (
          <Entry
            key={entry.event.id}
            entry={entry}
            program={program}
            yard={yard}
            withDay={outing === null}
            by={recorders[entry.event.device ?? ""]}
            onCorrect={() => setCorrected(entry)}
            onStrike={() => void correct(entry.event.id, { void: true })}
            onUndo={(id) => void correct(id, { void: true })}
          />
        ))}
      </ol>
      {corrected && type && (
        <Modal open onOpenChange={(open) => !open && setCorrected(null)} title="Correct the entry">
          <EntryForm
            type={type}
            more={[WHEN]}
            before={{ ...corrected.current }}
            program={program}
            yard={yard}
            button="Save the correction"
            isBusy={sending.isLoading}
            onSave={(changed) => {
              if (Object.keys(changed).length === 0) setCorrected(null);
              else void correct(corrected.event.id, { with: changed }).then((ok) => ok && setCorrected(null));
            }}
          >
            <p className="text-sm text-faint">What was written before stays in the history.</p>
          </EntryForm>
        </Modal>
      )}
    </>
  );
}

/** Clocks of two devices are never quite the same. */
const A_MOMENT_MS = 60_000;

interface EntryProps {
  entry: EntryView;
  program: Program;
  yard: YardView;
  withDay: boolean;
  /** The device it was recorded on, where it has a name. */
  by: string | undefined;
  onCorrect: () => void;
  onStrike: () => void;
  onUndo: (correction: string) => void;
}

function Entry({ entry, program, yard, withDay, by, onCorrect, onStrike, onUndo }: EntryProps) {
  const { event, current, voided, corrections } = entry;
  const say = (one: EntryView["event"]): string => entryInWords(one, program, yard.units);
  const words = say(current);
  const known = eventTypeOf(event.type);
  const [openedAt] = useState(Date.now);
  return (
    <li className="grid grid-cols-[4rem_1fr] gap-x-3 gap-y-1 p-3 sm:grid-cols-[4.5rem_1fr_auto]">
      <span className="text-sm text-faint">
        {withDay ? weekdayOf(dayOf(yard.timeZone, current.at)) : timeIn(yard.timeZone, current.at)}
      </span>
      <div className="min-w-0 break-words">
        <p className={voided ? "line-through" : undefined}>
          {words}
          {voided && <span className="sr-only"> (struck out)</span>}
          {by !== undefined && <span className="text-sm text-faint"> · on {by}</span>}
        </p>
        {Date.parse(current.at) > openedAt + A_MOMENT_MS && (
          <p className="text-sm text-resin">That time has not come yet: the clock it was written with may be wrong.</p>
        )}
        {current.type === "media" && <MediaLink event={current} />}
        {corrections.length > 0 && (
          <ul aria-label="Corrections" className="mt-1 border-l-2 border-resin pl-3 text-sm">
            <li className="text-faint">first written: {say(event)}</li>
            {corrections.map(({ event: correction, undone }) => (
              <li key={correction.id} className={undone ? "text-faint line-through" : undefined}>
                {changesInWords(
                  correction,
                  corrections.some((one) => one.event.id === correction.replaces),
                )}
                , {weekdayOf(dayOf(yard.timeZone, correction.at))} {timeIn(yard.timeZone, correction.at)}
                {!undone && (
                  <button
                    type="button"
                    className="link ml-2 cursor-pointer"
                    aria-label={`Undo: ${changesInWords(correction, false)}`}
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
        {!voided && known && (
          <button type="button" className="button button-small" aria-label={`Correct: ${words}`} onClick={onCorrect}>
            Correct
          </button>
        )}
        {!voided && (
          <button type="button" className="button button-small" aria-label={`Strike out: ${words}`} onClick={onStrike}>
            Strike out
          </button>
        )}
      </div>
    </li>
  );
}

function MediaLink({ event: { media } }: { event: EventOf<"media"> }) {
  return (
    <a
      className="link text-sm"
      href={linkTo<"mediaContent">("/media/{media}", { media })}
      target="_blank"
      rel="noreferrer"
    >
      Open it
    </a>
  );
}
