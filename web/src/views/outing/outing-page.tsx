import { bodyFrom, eventTypeOf, HEAD_FIELDS } from "@still-pine/core/record";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { OutingView, YardView } from "@still-pine/contract/http";
import { stepName } from "@still-pine/core/readiness";
import { useBook, useProgramFor } from "../../book/use-book";
import { useOutingQuery, useYardQuery } from "../../api";
import { problemOf } from "../../parts/problem";
import { AddEntry } from "../../entries/add-entry";
import { inDialect } from "../../parts/choice-words";
import { Entries } from "../../entries/entry-item";
import { EntryForm } from "../../entries/entry-form";
import { valueInWords } from "../../entries/entry-words";
import { StatusWord } from "../../marks/hoofprint";
import { AddMedia } from "../../entries/add-media";
import { timeIn, weekdayOf } from "../../parts/days";
import { Modal } from "../../parts/modal";
import { NoDataYet, ProblemNote } from "../../parts/page-state";
import { outingInWords } from "../horse/outing-words";
import { useRecord } from "../../writing/use-record";

/** One outing as it was recorded: its head, its entries, and every correction of them with what stood there before. */
export function OutingPage() {
  const programFor = useProgramFor();
  const { horse = "", outing = "" } = useParams();
  const { data, error, refetch } = useOutingQuery({ horse, outing });
  const { data: yard } = useYardQuery();
  if (!data || !yard) return <NoDataYet what="the outing" error={error} retry={() => void refetch()} />;
  const program = programFor(data.horse);
  return (
    <>
      <title>{`${data.horse.name}, ${weekdayOf(data.outing.day)} · Still Pine`}</title>
      <p>
        <Link className="link" to={`/horses/${encodeURIComponent(horse)}`}>
          {data.horse.name}
        </Link>
      </p>
      <div className="mb-4 flex flex-wrap items-start justify-between gap-3">
        <div>
          <h1 className="mt-1 text-3xl">
            {weekdayOf(data.outing.day)}, {timeIn(yard.timeZone, data.outing.startedAt)}–
            {timeIn(yard.timeZone, data.outing.endedAt)}
          </h1>
          <p className="text-faint">
            {outingInWords(data.outing, program)}
            {data.outing.handler && ` · with ${data.outing.handler}`}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <AddEntry
            horse={horse}
            outing={{ id: outing, at: data.outing.endedAt }}
            program={program}
            yard={yard}
            label="Add an entry"
          />
          <AddMedia horse={horse} outing={{ id: outing, at: data.outing.endedAt }} />
        </div>
      </div>
      <Head view={data} yard={yard} />
      <Verdicts view={data} yard={yard} />
      <Entries
        horse={horse}
        outing={outing}
        entries={data.entries}
        program={program}
        yard={yard}
        label="Entries"
        recorders={data.recorders}
      />
    </>
  );
}

/** Words of the steps asked in it: as they stood after it, by the program it was worked under, and today. */
function Verdicts({ view: { verdicts, program, horse }, yard }: { view: OutingView; yard: YardView }) {
  const book = useBook();
  const programFor = useProgramFor();
  if (verdicts.length === 0) return null;
  const now = programFor(horse);
  const under =
    program === null
      ? "It is not written down which program it was worked under; judged as today's would."
      : program.version === now.version
        ? `Worked under ${now.name}, version ${program.version}, as today.`
        : `Worked under ${book.find(program.id, program.version).name}, version ${program.version}; today version ${now.version} judges.`;
  return (
    <section aria-label="Verdicts then and now" className="card mb-4 max-w-3xl">
      <h2 className="text-lg">Then and now</h2>
      <p className="mb-1 text-sm text-faint">{under}</p>
      <table className="text-left text-sm">
        <thead>
          <tr className="text-xs text-faint">
            {["Step", "After this outing", "Today"].map((title) => (
              <th key={title} scope="col" className="py-0.5 pr-6">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {verdicts.map(({ step, before, now: today }) => (
            <tr key={step}>
              <th scope="row" className="pr-6 font-normal">
                <Link className="link" to={`/horses/${encodeURIComponent(horse.id)}/steps/${step}`}>
                  {stepName(now, step, yard.words)}
                </Link>
              </th>
              <td className="pr-6">{before ? <StatusWord status={before} /> : "not judged"}</td>
              <td>{today ? <StatusWord status={today} /> : "not judged"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** What is said of the outing as a whole, and saying it anew. */
function Head({ view, yard }: { view: OutingView; yard: YardView }) {
  const programFor = useProgramFor();
  const [open, setOpen] = useState(false);
  const { record, ...sending } = useRecord();
  const program = programFor(view.horse);
  const type = eventTypeOf("head");
  const typed = (view.head["typed"] ?? {}) as Record<string, unknown>;
  const said = HEAD_FIELDS.filter(({ name }) => view.head[name] !== undefined);
  const save = async (fields: Record<string, unknown>): Promise<void> => {
    const told = Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== null));
    if (Object.keys(told).length === 0) {
      setOpen(false);
      return;
    }
    const body = bodyFrom({ type: "head" }, told);
    if (await record({ horse: view.horse.id, outing: view.outing.id, body })) setOpen(false);
  };
  return (
    <section aria-label="The outing" className="card mb-4 flex flex-wrap items-start justify-between gap-3 py-3">
      <dl className="flex flex-wrap gap-x-5 gap-y-1 text-sm">
        {said.map((field) => (
          <div key={field.name}>
            <dt className="inline text-faint">{inDialect(field.label, yard.words)} </dt>
            <dd className="inline font-semibold">
              {valueInWords(field, view.head[field.name], typed[field.name], program, yard.units)}
            </dd>
          </div>
        ))}
      </dl>
      <button type="button" className="button button-small" onClick={() => setOpen(true)}>
        Say it anew
      </button>
      {open && type && (
        <Modal open onOpenChange={setOpen} title="The outing as a whole">
          {sending.error && <ProblemNote problem={problemOf(sending.error)} />}
          <EntryForm
            type={type}
            before={view.head}
            program={program}
            yard={yard}
            button="Save"
            isBusy={sending.isLoading}
            onSave={(fields) => void save(fields)}
          >
            <p className="text-sm text-faint">
              What is changed here stands among the entries and can be struck out; what was said first stays.
            </p>
          </EntryForm>
        </Modal>
      )}
    </section>
  );
}
