import { Plus } from "lucide-react";
import { lazy, Suspense, useCallback, useState } from "react";
import { Link } from "react-router";
import type { StringHorse, StringView } from "@still-pine/contract/http";
import { useStringQuery, useWordsAnewQuery } from "../../api";
import { problemOf } from "../../parts/problem";
import { useProgramFor } from "../../book/use-book";
import { NoDataYet, ProblemNote } from "../../parts/page-state";
import { useAddress } from "../../parts/use-address";
import { useIsWide } from "../../parts/use-is-wide";
import { useSingleKeys } from "../../shell/keys";
import { BringIn } from "./bring-in";
import { HorseCards } from "./horse-cards";
import { HorseTable } from "./horse-table";
import { filterHorses, isShown, isSort, SHOWN, sortHorses, SORTS } from "./order";
import { useRecord } from "../../writing/use-record";

const HorseForm = lazy(async () => ({ default: (await import("./horse-form")).HorseForm }));
const WordsAnew = lazy(async () => ({ default: (await import("./words-anew")).WordsAnew }));

/** Who is in work, where each one is on the trail, where work is now, and what each waits on. */
export function StringPage() {
  // Others write up too, and the day turns: what is known is shown at once, then what is so now.
  const { data, error, refetch } = useStringQuery(undefined, {
    refetchOnMountOrArgChange: true,
    refetchOnFocus: true,
    refetchOnReconnect: true,
  });
  const { data: anew } = useWordsAnewQuery();
  const [edited, setEdited] = useState<StringHorse | "new" | null>(null);
  useSingleKeys(useCallback((key) => key === "n" && setEdited("new"), []));

  return (
    <>
      <title>String · Still Pine</title>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-x-4 gap-y-2">
        <h1 className="text-2xl">{data?.yard.name ?? "String"}</h1>
        {data && data.horses.length > 1 && <Order />}
        <div className="flex flex-wrap gap-2">
          <BringIn />
          <button type="button" className="button" onClick={() => setEdited("new")}>
            <Plus size={18} aria-hidden="true" /> New horse
          </button>
        </div>
      </div>
      {data && anew && anew.length > 0 && (
        <Suspense>
          <WordsAnew horses={anew} words={data.yard.words} />
        </Suspense>
      )}
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

/** Sorting, filtering and finding, kept in the address. */
function useOrder() {
  const [parameters, change] = useAddress();
  const sort = parameters.get("sort");
  const shown = parameters.get("show");
  const set = (name: string, value: string, usual: string): void => change({ [name]: value === usual ? null : value });
  return {
    sort: isSort(sort) ? sort : ("attention" as const),
    shown: isShown(shown) ? shown : ("all" as const),
    find: parameters.get("find") ?? "",
    set,
  };
}

function Order() {
  const { sort, shown, find, set } = useOrder();
  return (
    <form
      role="search"
      className="flex flex-1 flex-wrap items-center gap-2"
      onSubmit={(event) => event.preventDefault()}
    >
      <input
        type="search"
        aria-label="Find a horse, a step or a word"
        placeholder="find a horse or a step"
        className="field w-48 flex-1 sm:max-w-60"
        value={find}
        onChange={(event) => set("find", event.target.value, "")}
      />
      <select
        aria-label="Sorted by"
        className="field w-auto"
        value={sort}
        onChange={(event) => set("sort", event.target.value, "attention")}
      >
        {Object.entries(SORTS).map(([value, label]) => (
          <option key={value} value={value}>
            by {label}
          </option>
        ))}
      </select>
      <select
        aria-label="Shown"
        className="field w-auto"
        value={shown}
        onChange={(event) => set("show", event.target.value, "all")}
      >
        {Object.entries(SHOWN).map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
    </form>
  );
}

function Horses({ view, onEdit }: { view: StringView; onEdit: (horse: StringHorse) => void }) {
  const programFor = useProgramFor();
  const { sort, shown, find } = useOrder();
  const isWide = useIsWide();
  const inWork = view.horses.filter((horse) => horse.inWork);
  const resting = view.horses.filter((horse) => !horse.inWork);
  if (view.horses.length === 0)
    return (
      <div className="card max-w-xl">
        <h2 className="mb-2 text-xl">No horse yet</h2>
        <p>Add the first one with “New horse”, or bring in the record it comes with. Then write up its first outing.</p>
      </div>
    );
  const horses = sortHorses(filterHorses(inWork, { shown, find, today: view.yard.today }, programFor), sort);
  const List = isWide ? HorseTable : HorseCards;
  return (
    <>
      {horses.length > 0 ? (
        <List horses={horses} yard={view.yard} onEdit={onEdit} />
      ) : (
        <p className="card max-w-xl">
          {inWork.length === 0 ? "No horse is in work." : "No horse in work is like that. Look for less, or show all."}
        </p>
      )}
      <p className="sr-only" aria-live="polite">
        {horses.length} of {inWork.length} horses shown
      </p>
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

function Resting({ horse }: { horse: StringHorse }) {
  const { record, isLoading, error } = useRecord();
  const back = (): void => void record({ horse: horse.id, outing: null, body: { type: "return" } });
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
