import { Plus } from "lucide-react";
import { lazy, Suspense, useCallback, useState } from "react";
import { v7 as newId } from "uuid";
import { Link } from "react-router";
import type { StringHorse, StringView } from "@still-pine/contract/http";
import { loosePenStart } from "@still-pine/core/programs";
import { stepName } from "@still-pine/core/readiness/words";
import { problemOf, useSendEventsMutation, useStringQuery } from "../../api";
import { StatusWord } from "../../marks/hoofprint";
import { Trail } from "../../marks/trail";
import { dayInWords } from "../../parts/days";
import { NoDataYet, ProblemNote } from "../../parts/page-state";
import { useSingleKeys } from "../../shell/keys";
import { BringIn } from "./bring-in";
import { HorseMenu } from "./horse-menu";

const HorseForm = lazy(async () => ({ default: (await import("./horse-form")).HorseForm }));

/** Who is in work, where each one is on the trail, and what each waits on. */
export function StringPage() {
  const { data, error, refetch } = useStringQuery();
  const [edited, setEdited] = useState<StringHorse | "new" | null>(null);
  useSingleKeys(useCallback((key) => key === "n" && setEdited("new"), []));

  return (
    <>
      <title>String · Still Pine</title>
      <div className="mb-4 flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-3xl">{data?.yard.name ?? "String"}</h1>
        <div className="flex flex-wrap gap-2">
          <BringIn />
          <button type="button" className="button" onClick={() => setEdited("new")}>
            <Plus size={18} aria-hidden="true" /> New horse
          </button>
        </div>
      </div>
      {data ? (
        <Horses view={data} onEdit={setEdited} />
      ) : (
        <NoDataYet what="the string" error={error} retry={() => void refetch()} />
      )}
      {edited && (
        <Suspense>
          <HorseForm
            horse={edited === "new" ? null : edited}
            today={data?.yard.today ?? ""}
            onClose={() => setEdited(null)}
          />
        </Suspense>
      )}
    </>
  );
}

function Horses({ view, onEdit }: { view: StringView; onEdit: (horse: StringHorse) => void }) {
  const inWork = view.horses.filter((horse) => horse.inWork);
  const resting = view.horses.filter((horse) => !horse.inWork);
  if (view.horses.length === 0)
    return (
      <div className="card max-w-xl">
        <h2 className="mb-2 text-xl">No horse yet</h2>
        <p>Add the first one with “New horse”, or bring in the record it comes with. Then write up its first outing.</p>
      </div>
    );
  return (
    <>
      <ul className="grid gap-3" aria-label="Horses in work">
        {inWork.map((horse) => (
          <HorseRow key={horse.id} horse={horse} today={view.yard.today} onEdit={onEdit} />
        ))}
      </ul>
      {resting.length > 0 && (
        <section className="mt-8" aria-label="Out of work">
          <h2 className="mb-3 text-xl">Out of work</h2>
          <ul className="grid gap-2">
            {resting.map((horse) => (
              <Resting key={horse.id} horse={horse} />
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function HorseRow({
  horse,
  today,
  onEdit,
}: {
  horse: StringHorse;
  today: string;
  onEdit: (horse: StringHorse) => void;
}) {
  const { waitsOn } = horse;
  const link = `/horses/${encodeURIComponent(horse.id)}`;
  return (
    <li className="card grid grid-cols-[1fr_auto] items-center gap-x-6 gap-y-3 py-3 lg:grid-cols-[11rem_9rem_minmax(21rem,auto)_1fr_auto]">
      <div>
        <h2 className="text-2xl">
          <Link to={link} className="hover:underline">
            {horse.name}
          </Link>
        </h2>
        <p className="text-faint">
          {horse.sex}, {horse.age}
        </p>
      </div>
      <dl className="order-3 col-span-2 flex flex-wrap gap-x-4 text-sm lg:order-none lg:col-span-1 lg:block">
        {horse.lastOuting ? (
          <>
            <div>
              <dt className="sr-only">Work days</dt>
              <dd>
                <b>{horse.workDays}</b> {horse.workDays === 1 ? "work day" : "work days"}
              </dd>
            </div>
            <div>
              <dt className="sr-only">Calendar days</dt>
              <dd>
                in {horse.calendarDays} calendar {horse.calendarDays === 1 ? "day" : "days"}
              </dd>
            </div>
            <div>
              <dt className="inline">last out </dt>
              <dd className="inline font-bold">{dayInWords(horse.lastOuting, today)}</dd>
            </div>
          </>
        ) : (
          <div>
            <dt className="sr-only">Outings</dt>
            <dd>no outing yet</dd>
          </div>
        )}
      </dl>
      <div className="order-4 col-span-2 lg:order-none lg:col-span-1">
        <Trail horse={horse.id} prints={horse.trail} />
      </div>
      <p className="order-5 col-span-2 max-w-prose text-sm lg:order-none lg:col-span-1">
        {waitsOn ? (
          <>
            <span className="flex flex-wrap items-baseline gap-x-2">
              <Link to={`${link}/steps/${waitsOn.step}`} className="link text-base font-bold">
                {stepName(loosePenStart, waitsOn.step)}
              </Link>
              <StatusWord status={waitsOn.status} />
            </span>
            <span className="line-clamp-3">{waitsOn.text}</span>
          </>
        ) : (
          "Every step is steady."
        )}
      </p>
      <div className="order-2 justify-self-end lg:order-none">
        <HorseMenu horse={horse} onEdit={() => onEdit(horse)} />
      </div>
    </li>
  );
}

function Resting({ horse }: { horse: StringHorse }) {
  const [send, { isLoading, error }] = useSendEventsMutation();
  const back = (): void => {
    const event = { id: newId(), at: new Date().toISOString(), type: "return" };
    void send({ events: [{ horse: horse.id, outing: null, event }] });
  };
  return (
    <li className="card flex flex-wrap items-center justify-between gap-3 py-2">
      <Link className="link font-serif text-lg" to={`/horses/${encodeURIComponent(horse.id)}`}>
        {horse.name}
      </Link>
      <span className="text-faint">
        {horse.sex}, {horse.age}
      </span>
      <button type="button" className="button" onClick={back} disabled={isLoading}>
        Back in work
      </button>
      {error && <ProblemNote problem={problemOf(error)} />}
    </li>
  );
}
