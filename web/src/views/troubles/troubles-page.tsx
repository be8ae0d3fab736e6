import { ClipboardCheck, Search, Stethoscope } from "lucide-react";
import { useMemo } from "react";
import { Link } from "react-router";
import type { HorseView, TroubleView } from "@still-pine/contract/http";
import { loosePenStart, type Dialect, type Program } from "@still-pine/core/programs";
import { sideInWords, stepName } from "@still-pine/core/readiness";
import { BODY_FIRST, findTroubles, lookInto, TROUBLES, type Trouble } from "@still-pine/core/troubles";
import { useProgramFor } from "../../book/use-book";
import { useDropTroubleMutation, useHorseQuery, useStringQuery, useTroublesQuery } from "../../api";
import { StatusWord } from "../../marks/hoofprint";
import { dayInWords } from "../../parts/days";
import { HorseChoice } from "../../parts/horse-choice";
import { useAddress } from "../../parts/use-address";
import { AddTrouble } from "./add-trouble";

/** From what a person sees to where to look. It never says what is wrong. */
export function TroublesPage() {
  const programFor = useProgramFor();
  const [query, change] = useAddress();
  const { data: string } = useStringQuery();
  const horse = query.get("horse") ?? "";
  const typed = query.get("q") ?? "";
  const { data: own } = useTroublesQuery();
  const all = useMemo((): readonly Trouble[] => [...TROUBLES, ...(own ?? []).map(ofYard)], [own]);
  const chosen = all.find(({ id }) => id === query.get("trouble"));
  const { data } = useHorseQuery(horse, { skip: horse === "" });
  const found = useMemo(() => findTroubles(all, typed), [all, typed]);
  const [drop] = useDropTroubleMutation();
  const chosenOwn = own?.find(({ id }) => id === chosen?.id);
  const ofHorse = string?.horses.find(({ id }) => id === horse);
  const program = ofHorse ? programFor(ofHorse) : loosePenStart;
  return (
    <>
      <title>Where to look · Still Pine</title>
      <h1 className="mb-1 text-3xl">Where to look</h1>
      <p className="mb-4 max-w-3xl text-faint">
        Say what you see. It does not say what is wrong; it says where to look, the body first.
      </p>
      <div className="mb-5 flex flex-wrap gap-3">
        <label className="grid min-w-0 flex-1 basis-72 gap-1">
          What you see
          <span className="relative">
            <Search size={18} className="absolute top-3 left-3 text-faint" aria-hidden="true" />
            <input
              className="field pl-10"
              value={typed}
              maxLength={120}
              placeholder="pulls back when tied, bites, will not load …"
              onChange={(event) => change({ q: event.target.value, trouble: "" })}
            />
          </span>
        </label>
        <HorseChoice
          label="With which horse"
          horses={string?.horses}
          value={horse}
          none="any"
          onChange={(id) => change({ horse: id })}
        />
      </div>
      <div className="grid items-start gap-6 lg:grid-cols-[20rem_1fr]">
        <nav aria-label="Troubles">
          <p role="status" className="mb-1 text-sm text-faint">
            {found.length === 0 ? "Nothing like it in the table. Other words?" : `${found.length} in the table`}
          </p>
          <ul className="divide-y divide-line overflow-hidden rounded-xl border border-line bg-sheet empty:hidden">
            {found.map((one) => (
              <li key={one.id}>
                <button
                  type="button"
                  aria-pressed={one.id === chosen?.id}
                  onClick={() => change({ trouble: one.id })}
                  className="min-h-11 w-full cursor-pointer px-3 py-2 text-left hover:bg-moss aria-pressed:bg-pine aria-pressed:text-on-pine"
                >
                  {one.name}
                </button>
              </li>
            ))}
          </ul>
          <AddTrouble
            program={program}
            words={string?.yard.words ?? "american"}
            onAdded={(id) => change({ trouble: id, q: "" })}
          />
        </nav>
        {chosen ? (
          <div className="grid gap-3">
            <Where trouble={chosen} view={horse ? data : undefined} words={string?.yard.words ?? "american"} />
            {chosenOwn && (
              <button
                type="button"
                className="button justify-self-start"
                onClick={() => void drop({ id: chosenOwn.id, version: chosenOwn.version })}
              >
                Take it out of the table
              </button>
            )}
          </div>
        ) : (
          <p className="hidden text-faint lg:block">Choose what comes nearest to what you see.</p>
        )}
      </div>
    </>
  );
}

/** One the yard has added: no mishap leads to it. */
const ofYard = ({ id, name, seen, body, steps }: TroubleView): Trouble => ({
  id,
  name,
  seen,
  body,
  steps,
  mishaps: [],
});

interface WhereProps {
  trouble: Trouble;
  view: HorseView | undefined;
  words: Dialect;
}

function Where({ trouble, view, words }: WhereProps) {
  return (
    <article aria-label={trouble.name} className="grid gap-4">
      <h2 className="text-2xl">{trouble.name}</h2>
      <section aria-label="The body first" className="rounded-xl border-2 border-clay bg-sheet p-4">
        <h3 className="mb-1 flex items-center gap-2 text-lg font-bold">
          <Stethoscope size={20} aria-hidden="true" /> The body first
        </h3>
        <p>{BODY_FIRST}</p>
        <ul className="mt-2 grid gap-1">
          {trouble.body.map(({ look, who }) => (
            <li key={look}>
              {look} <b>{who === "you" ? "Look yourself." : `By the ${who}.`}</b>
            </li>
          ))}
        </ul>
        {trouble.note && <p className="mt-2 font-semibold text-clay">{trouble.note}</p>}
      </section>
      {view ? <Under trouble={trouble} view={view} words={words} /> : <UnderAny trouble={trouble} words={words} />}
    </article>
  );
}

function UnderAny({ trouble, words }: { trouble: Trouble; words: Dialect }) {
  return (
    <section aria-label="The steps under it" className="card">
      <h3 className="text-lg font-bold">Then the steps under it</h3>
      <ol className="mt-1 list-decimal pl-6">
        {trouble.steps.map(({ step, why }) => (
          <li key={step} className="py-1">
            <b>{stepName(loosePenStart, step, words)}</b>
            <span className="block text-sm text-faint">{why}</span>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-sm text-faint">Choose a horse, and they stand in the order of what it has shown.</p>
    </section>
  );
}

function Under({ trouble, view, words }: { trouble: Trouble; view: HorseView; words: Dialect }) {
  const programFor = useProgramFor();
  const program: Program = programFor(view.horse);
  const findings = lookInto(trouble, view.judgements, program);
  const onRoad = findings.filter((one) => one.onRoad).map(({ step }) => step);
  const link = `/horses/${encodeURIComponent(view.horse.id)}`;
  return (
    <section aria-label="The steps under it" className="card">
      <h3 className="text-lg font-bold">Then the steps under it, as {view.horse.name} has shown them</h3>
      <p className="text-sm text-faint">Untested before tested, the weakest first.</p>
      <ol className="mt-2 grid gap-2">
        {findings.map(({ step, why, status, side, sure, lastAsked, onRoad: isOnRoad }, index) => (
          <li key={step} className="grid grid-cols-[1.5rem_1fr] border-t border-line/60 pt-2">
            <b>{index + 1}</b>
            <div>
              <p className="flex flex-wrap items-baseline justify-between gap-x-3">
                <Link className="link font-bold" to={`${link}/steps/${step}`}>
                  {stepName(program, step, words)}
                </Link>
                <StatusWord status={status} />
              </p>
              <p>{why}</p>
              <p className="text-sm text-faint">
                {!isOnRoad
                  ? "Not on the road of his program: nothing of it is judged."
                  : status === "untried"
                    ? "Never asked here."
                    : [
                        sure === null
                          ? null
                          : `${Math.round(sure * 100)} % sure${side ? ` on the ${sideInWords(side)}` : ""}`,
                        lastAsked ? `last asked ${dayInWords(lastAsked, view.yard.today)}` : null,
                      ]
                        .filter(Boolean)
                        .join(" · ")}
              </p>
            </div>
          </li>
        ))}
      </ol>
      {onRoad.length > 0 && (
        <Link className="button button-main mt-3" to={`${link}/check-up?steps=${onRoad.join(",")}`}>
          <ClipboardCheck size={18} aria-hidden="true" /> A check-up of just these
        </Link>
      )}
    </section>
  );
}
