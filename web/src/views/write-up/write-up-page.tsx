import { useCallback, useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { StringView } from "@still-pine/contract/http";
import { loosePenStart } from "@still-pine/core/programs";
import type { VerdictChange } from "@still-pine/core/readiness";
import { useProgramFor } from "../../book/use-book";
import { useBriefQuery, useStringQuery } from "../../api";
import { problemOf } from "../../parts/problem";
import { StageTrail, StepTrail } from "../../marks/trail";
import { ChangesNote } from "../../parts/changes-note";
import { NoDataYet, ProblemNote } from "../../parts/page-state";
import { instantNow } from "../../outbox/device";
import type { EventBody } from "@still-pine/core/record";
import {
  dropDraft,
  emptyDraft,
  eventsOf,
  headErrors,
  isWorthKeeping,
  keepDraft,
  newEntry,
  readDraft,
  withHorse,
  withTimes,
  type Draft,
  type HeadErrors,
} from "../../writing/draft";
import { AsUsual } from "./as-usual";
import { EntryList } from "./entry-list";
import { EntryPad } from "./entry-pad";
import { readForm, type FormErrors } from "../../entries/form-values";
import { HeadFields, MORE_OF_HEAD } from "./head-fields";
import { useRecord } from "../../writing/use-record";

/** Writing up an outing afterwards: where, who and when; then the asks by one press each; then saved, and the verdicts answer. */
export function WriteUpPage() {
  const { data, error, refetch } = useStringQuery();
  if (!data) return <NoDataYet what="the string" error={error} retry={() => void refetch()} />;
  return <WriteUp string={data} />;
}

interface Saved {
  draft: Draft;
  changes: VerdictChange[];
  /** False where it waits on this device. */
  isSent: boolean;
}

function WriteUp({ string }: { string: StringView }) {
  const programFor = useProgramFor();
  const [parameters] = useSearchParams();
  const [draft, setDraft] = useState<Draft>(() => {
    const wanted = parameters.get("horse") ?? (string.horses.length === 1 ? (string.horses[0]?.id ?? "") : "");
    return readDraft(wanted) ?? emptyDraft(wanted, string.yard.today);
  });
  const [errors, setErrors] = useState<HeadErrors>({});
  const [moreErrors, setMoreErrors] = useState<FormErrors>({});
  const [saved, setSaved] = useState<Saved | null>(null);
  const { save: sendAll, ...sending } = useRecord();
  useEffect(() => (saved ? dropDraft(saved.draft.horse) : keepDraft(draft)), [draft, saved]);

  const takeBack = useCallback((): void => setDraft((now) => ({ ...now, entries: now.entries.slice(0, -1) })), []);
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      const isField = (event.target as HTMLElement | null)?.matches("input, textarea");
      if ((event.ctrlKey || event.metaKey) && event.key === "z" && !isField) {
        event.preventDefault();
        takeBack();
      }
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [takeBack]);

  const add = (body: EventBody): void => setDraft((now) => ({ ...now, entries: [...now.entries, newEntry(body)] }));

  const horse = string.horses.find((one) => one.id === draft.horse);
  const program = horse ? programFor(horse) : loosePenStart;
  const { currentData: planned, isError: hasNoPlan } = useBriefQuery(draft.horse, { skip: !horse });

  const save = async (): Promise<void> => {
    const now = instantNow();
    const note = draft.unsentNote.trim();
    const noted: Draft = note
      ? { ...draft, unsentNote: "", entries: [...draft.entries, newEntry({ type: "note", text: note })] }
      : draft;
    const found = headErrors(noted, string.yard.timeZone, now);
    const whole = Object.keys(found).length > 0 ? noted : withTimes(noted, string.yard.timeZone);
    setDraft(whole);
    setErrors(found);
    const more = readForm(MORE_OF_HEAD, draft.head, string.yard);
    setMoreErrors(more.ok ? {} : more.errors);
    const [first] = Object.keys(found);
    if (first) document.getElementById(first)?.focus();
    if (first || !more.ok) return;
    const events = eventsOf(whole, string.yard.timeZone, {
      ...more.fields,
      program: program.id,
      programVersion: program.version,
    });
    const done = await sendAll(events);
    if (!done) return;
    setSaved({ draft: whole, ...done });
    window.scrollTo({ top: 0 });
  };

  if (saved)
    return (
      <AfterSaving
        saved={saved}
        string={string}
        onAgain={() => {
          setSaved(null);
          setErrors({});
          setDraft(emptyDraft(saved.draft.horse, string.yard.today));
        }}
      />
    );

  return (
    <>
      <title>Write up · Still Pine</title>
      <div className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <h1 className="text-3xl">Write up an outing</h1>
        {horse && <StageTrail horse={horse.id} prints={horse.trail} program={programFor(horse)} size={24} />}
      </div>
      <div className="grid items-start gap-5 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="grid gap-5">
          <HeadFields
            draft={draft}
            errors={errors}
            string={string}
            moreErrors={moreErrors}
            onMore={(field, value) => setDraft((now) => ({ ...now, head: { ...now.head, [field]: value } }))}
            onChange={(field, value) =>
              setDraft(field === "horse" ? withHorse(draft, value) : { ...draft, [field]: value })
            }
          />
          {planned && draft.start === "" && draft.end === "" && (
            <AsUsual
              brief={planned.brief}
              timeZone={string.yard.timeZone}
              onTake={(part) => setDraft((now) => ({ ...now, ...part }))}
            />
          )}
          <EntryPad
            brief={planned?.brief ?? (horse && !hasNoPlan ? null : undefined)}
            yard={string.yard}
            draft={draft}
            program={program}
            key={draft.horse}
            horse={horse}
            onAdd={add}
            onNote={(text) => setDraft((now) => ({ ...now, unsentNote: text }))}
          />
        </div>
        <div className="grid gap-4 lg:sticky lg:top-4">
          <EntryList
            entries={draft.entries}
            program={program}
            onRemove={(id) => setDraft((now) => ({ ...now, entries: now.entries.filter((one) => one.id !== id) }))}
            onTakeBack={takeBack}
          />
          {sending.error && <ProblemNote problem={problemOf(sending.error)} />}
          {Object.keys(errors).length + Object.keys(moreErrors).length > 0 && (
            <p role="alert" className="font-semibold text-clay">
              Something is missing above: {[...Object.values(errors), ...Object.values(moreErrors)].join(" ")}
            </p>
          )}
          <button
            type="button"
            className="button button-main min-h-13 text-lg"
            disabled={sending.isLoading}
            onClick={() => void save()}
          >
            {sending.isLoading ? "Saving …" : "Save the outing"}
          </button>
          {isWorthKeeping(draft) && (
            <p className="text-sm text-faint">Kept in this browser until it is saved; a reload loses nothing.</p>
          )}
        </div>
      </div>
    </>
  );
}

/** The steps that were asked in it. */
const stepsOf = ({ entries }: Draft): string[] =>
  entries.flatMap((entry) => (entry.type === "ask" || entry.type === "series" ? String(entry["step"]) : []));

function AfterSaving({
  saved: { draft, changes, isSent },
  string,
  onAgain,
}: {
  saved: Saved;
  string: StringView;
  onAgain: () => void;
}) {
  const programFor = useProgramFor();
  const { record, changes: undone, ...sending } = useRecord();
  const horse = string.horses.find((one) => one.id === draft.horse);
  const undo = (): Promise<unknown> =>
    record(
      ...draft.entries.map(({ id }) => ({
        horse: draft.horse,
        outing: draft.outing,
        body: { type: "correction", replaces: id, void: true } as const,
      })),
    );
  return (
    <>
      <title>Saved · Still Pine</title>
      <h1 className="mb-4 text-3xl">{horse?.name}: saved</h1>
      <div className="grid max-w-3xl gap-4">
        {horse && (
          <StepTrail
            horse={horse.id}
            prints={horse.trail}
            program={programFor(horse)}
            steps={stepsOf(draft)}
            words={string.yard.words}
            size={44}
          />
        )}
        {undone ? (
          <ChangesNote title="Undone: every entry is struck out" changes={undone} />
        ) : isSent ? (
          <ChangesNote title="What changed" changes={changes} />
        ) : (
          <p role="status" className="rounded-xl border-2 border-resin bg-sheet p-4 text-lg">
            Kept on this device. It is sent as soon as the laptop answers; until then the horse's page here judges by it
            already.
          </p>
        )}
        {sending.error && <ProblemNote problem={problemOf(sending.error)} />}
        <div className="flex flex-wrap gap-2">
          <Link className="button button-main" to={`/horses/${encodeURIComponent(draft.horse)}`}>
            To {horse?.name}
          </Link>
          <Link
            className="button"
            to={`/horses/${encodeURIComponent(draft.horse)}/outings/${encodeURIComponent(draft.outing)}`}
          >
            The outing
          </Link>
          <button type="button" className="button" onClick={onAgain}>
            Another outing
          </button>
          {!undone && draft.entries.length > 0 && (
            <button type="button" className="button" disabled={sending.isLoading} onClick={() => void undo()}>
              Undo
            </button>
          )}
        </div>
      </div>
    </>
  );
}
