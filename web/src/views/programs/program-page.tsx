import { Columns3, DoorClosed } from "lucide-react";
import { Link, useParams } from "react-router";
import {
  nameIn,
  type Dialect,
  type Gate,
  type Program,
  type SchoolTexts,
  type Step,
  NEWEST_EDITION,
} from "@still-pine/core/programs";
import { facetsOf, roadOf } from "@still-pine/core/programs/facets";
import { schoolTextsOf } from "@still-pine/core/programs/school-texts";
import { STAGE_WORDS } from "@still-pine/core/readiness";
import { useBook } from "../../book/use-book";
import { useStringQuery } from "../../api";
import { needInWords } from "../../parts/need-words";
import { compareLink } from "./links";
import { MakeOwn } from "./own-programs";

/** One program as a page to read: what it holds to, its first outing, its weeks, its settings in sentences, its road with the gates. */
export function ProgramPage() {
  const book = useBook();
  const { program: id = "" } = useParams();
  const { data } = useStringQuery();
  const program = book.known(id);
  // The yard's own come with the string.
  if (!program && !data) return <p role="status">Fetching the program …</p>;
  if (!program)
    return (
      <>
        <h1 className="mb-2 text-3xl">No such program</h1>
        <p className="mb-4">This yard has no program of that name.</p>
        <Link className="button" to="/programs">
          To the programs
        </Link>
      </>
    );
  const words = data?.yard.words ?? "american";
  const texts = schoolTextsOf(program.id) ?? data?.yard.programs?.findLast((file) => file.id === program.id)?.texts;
  const horses = data?.horses.filter((horse) => horse.program.id === program.id) ?? [];
  return (
    <>
      <title>{`${program.name} · Still Pine`}</title>
      <p>
        <Link className="link" to="/programs">
          Programs
        </Link>
      </p>
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <div className="max-w-3xl">
          <h1 className="text-4xl">{program.name}</h1>
          <p className="mt-1 text-lg">{program.about}</p>
          {program.catalogue < NEWEST_EDITION && (
            <p className="mt-1 text-faint">
              It names the steps of a former edition of the catalogue. The newer one is offered in its draft.
            </p>
          )}
          {horses.length > 0 && (
            <p className="mt-1 text-faint">
              Here by it:{" "}
              {horses.map(({ id: horse, name }, index) => (
                <span key={horse}>
                  {index > 0 && ", "}
                  <Link className="link" to={`/horses/${encodeURIComponent(horse)}`}>
                    {name}
                  </Link>
                </span>
              ))}
            </p>
          )}
        </div>
        <div className="flex flex-wrap gap-2">
          <Link className="button" to={compareLink([program.id])}>
            <Columns3 size={18} aria-hidden="true" /> Compare
          </Link>
          <MakeOwn program={program} />
        </div>
      </div>
      {texts && <Holds texts={texts} />}
      <div className="mt-6 grid items-start gap-6 lg:grid-cols-2">
        {texts && <FirstOuting texts={texts} />}
        {texts && <Weeks texts={texts} />}
      </div>
      <Settings program={program} />
      <Road program={program} words={words} />
    </>
  );
}

function Holds({ texts }: { texts: SchoolTexts }) {
  const parts: [string, string][] = [
    ["For which horse", texts.forWhom],
    ["What it holds to", texts.holdsTo],
    ["Why", texts.why],
    ["What is said against it", texts.critics],
  ];
  return (
    <div className="grid gap-x-8 gap-y-4 border-y border-line py-5 md:grid-cols-2">
      {parts.map(([title, text]) => (
        <section key={title} aria-label={title}>
          <h2 className="text-xl">{title}</h2>
          <p className="mt-1 max-w-prose">{text}</p>
        </section>
      ))}
    </div>
  );
}

function FirstOuting({ texts: { firstOuting } }: { texts: SchoolTexts }) {
  const all = firstOuting.reduce((sum, { minutes }) => sum + minutes, 0);
  return (
    <section aria-label="The first outing" className="card">
      <h2 className="mb-3 text-xl">The first outing, {all} minutes</h2>
      <ol className="grid gap-2">
        {firstOuting.map(({ minutes, what }) => (
          <li key={what} className="grid grid-cols-[3.5rem_1fr] gap-3">
            <span className="text-right">
              <b>{minutes}</b> min
            </span>
            <span>
              <span
                className="mb-1 block h-1.5 rounded-full bg-pine"
                style={{ width: `${(100 * minutes) / Math.max(...firstOuting.map((one) => one.minutes))}%` }}
                aria-hidden="true"
              />
              {what}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Weeks({ texts: { weeks } }: { texts: SchoolTexts }) {
  return (
    <section aria-label="Weeks at a glance" className="card">
      <h2 className="mb-1 text-xl">Weeks at a glance</h2>
      <p className="mb-3 text-sm text-faint">
        As it may go; no norm. He goes on when he is ready, and takes as long as he takes.
      </p>
      <table className="w-full">
        <tbody>
          {weeks.map((one) => (
            <tr key={one.weeks} className="border-t border-line/60">
              <th scope="row" className="py-1.5 pr-4 text-left align-top font-bold whitespace-nowrap">
                {one.weeks}
              </th>
              <td className="py-1.5">{one.what}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Settings({ program }: { program: Program }) {
  return (
    <section aria-label="How it goes about it" className="mt-8">
      <h2 className="mb-3 text-2xl">How it goes about it</h2>
      <dl className="grid gap-x-8 gap-y-3 md:grid-cols-2 xl:grid-cols-3">
        {facetsOf(program).map(({ id, question, says, because }) => (
          <div key={id} className="border-t border-line pt-2">
            <dt className="text-sm text-faint">{question}</dt>
            <dd>{says}</dd>
            {because && <dd className="text-sm text-faint">{because}</dd>}
          </div>
        ))}
      </dl>
    </section>
  );
}

function Road({ program, words }: { program: Program; words: Dialect }) {
  const gateBefore = (step: Step): Gate | undefined => {
    const gate = program.gates.find(({ before }) => before.includes(step.id));
    const first = gate && program.steps.find(({ id }) => gate.before.includes(id));
    return first === step ? gate : undefined;
  };
  return (
    <section aria-label="The road" className="mt-8">
      <h2 className="mb-1 text-2xl">The road</h2>
      <p className="mb-3 text-faint">
        {program.steps.length} steps in their order. A gate stands where somebody can get hurt: what it asks for can be
        moved, never dropped.
      </p>
      <ol className="grid gap-4">
        {roadOf(program).map(({ stage, steps }) => (
          <li key={steps[0]?.id} className="grid gap-2 border-t border-line pt-2 sm:grid-cols-[11rem_1fr]">
            <h3 className="font-bold">{STAGE_WORDS[stage]}</h3>
            <ul className="flex flex-wrap gap-2">
              {steps.map((step) => {
                const gate = gateBefore(step);
                const isBeside = program.optional.includes(step.id);
                return (
                  <li key={step.id} className="contents">
                    {gate && <GateMark gate={gate} program={program} words={words} />}
                    <span
                      className={
                        isBeside
                          ? "rounded-full border border-dashed border-line px-3 py-1 text-faint"
                          : "rounded-full border border-line bg-sheet px-3 py-1"
                      }
                    >
                      {nameIn(step, words)}
                      {isBeside && <span className="text-sm"> · beside</span>}
                    </span>
                  </li>
                );
              })}
            </ul>
          </li>
        ))}
      </ol>
    </section>
  );
}

interface GateMarkProps {
  gate: Gate;
  words: Dialect;
  program: Program;
}

function GateMark({ gate, program, words }: GateMarkProps) {
  const asks = gate.needs.map((need) => needInWords(need, program, words));
  return (
    <div className="basis-full rounded-lg border-l-4 border-resin bg-moss px-3 py-1.5 text-sm">
      <b className="inline-flex items-center gap-1.5">
        <DoorClosed size={16} aria-hidden="true" /> {nameIn(gate, words)}
      </b>{" "}
      asks for {asks.join(", ").toLowerCase()}.
    </div>
  );
}
