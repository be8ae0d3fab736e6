import type { HorseId } from "@still-pine/core/record";
import { clsx } from "clsx";
import type { ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import type { UnderView } from "@still-pine/contract/http";
import { findStep, nameIn, type Dialect, type Need, type Program } from "@still-pine/core/programs";
import { differencesOf } from "@still-pine/core/programs/facets";
import { reasonInWords, stepName } from "@still-pine/core/readiness";
import { useBook } from "../../book/use-book";
import { useStringQuery, useUnderQuery } from "../../api";
import { needInWords } from "../../parts/need-words";
import { problemOf } from "../../parts/problem";
import { HorseChoice } from "../../parts/horse-choice";
import { MoveHorse } from "./move-horse";
import { programLink } from "./links";

const COMPARED_MOST = 3;
const NEXT_SHOWN = 3;

/** Two or three programs side by side: where they part and why, and what each would say is next for one horse. */
export function ComparePage() {
  const [query, setQuery] = useSearchParams();
  const book = useBook();
  const { data } = useStringQuery();
  const horse = query.get("horse") ?? "";
  const named = (query.get("with") ?? "").split(",").filter(Boolean);
  const wanted = named.filter((id) => book.has(id));
  const { all } = book;
  const other = all.find(({ id }) => !wanted.includes(id));
  const ids = wanted.length > 1 || !other ? wanted.slice(0, COMPARED_MOST) : [...wanted, other.id];
  const programs = ids.flatMap((id) => book.known(id) ?? []);
  const words = data?.yard.words ?? "american";
  // The yard's own come with the string.
  if (!data && wanted.length < named.length) return <p role="status">Fetching the programs …</p>;
  const show = (next: readonly string[], forHorse = horse): void =>
    setQuery({ with: next.join(","), ...(forHorse ? { horse: forHorse } : {}) }, { replace: true });
  return (
    <>
      <title>Programs side by side · Still Pine</title>
      <p>
        <Link className="link" to="/programs">
          Programs
        </Link>
      </p>
      <h1 className="mb-4 text-3xl">Side by side</h1>
      <div className="mb-5 flex flex-wrap gap-3">
        {programs.map((program, index) => (
          <label key={program.id} className="grid gap-1 text-sm">
            {["First", "Second", "Third"][index]}
            <select
              className="field w-60 max-w-full"
              value={program.id}
              onChange={(event) => show(ids.map((id, at) => (at === index ? event.target.value : id)))}
            >
              {all
                .filter(({ id }) => id === program.id || !ids.includes(id))
                .map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
            </select>
          </label>
        ))}
        {programs.length < COMPARED_MOST && (
          <label className="grid gap-1 text-sm">
            Third
            <select className="field w-60 max-w-full" value="" onChange={(event) => show([...ids, event.target.value])}>
              <option value="">none</option>
              {all
                .filter(({ id }) => !ids.includes(id))
                .map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
            </select>
          </label>
        )}
        <HorseChoice
          label="On this horse"
          horses={data?.horses}
          value={horse}
          none="none"
          onChange={(id) => show(ids, id)}
        />
      </div>
      {horse && <OnThisHorse horse={horse} programs={programs} words={words} />}
      <Parting programs={programs} />
      <Roads programs={programs} words={words} />
    </>
  );
}

interface Compared {
  programs: readonly Program[];
  words: Dialect;
}

/** A table with a column for each program; it scrolls by itself where the page is narrow. */
function SideBySide({
  programs,
  label,
  children,
}: {
  programs: readonly Program[];
  label: string;
  children: ReactNode;
}) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label={label}>
      <table className="w-full min-w-[42rem] table-fixed border-collapse">
        <thead>
          <tr>
            <th scope="col" className="w-44 py-2 text-left text-sm font-normal text-faint">
              Question
            </th>
            {programs.map(({ id, name }) => (
              <th key={id} scope="col" className="px-3 py-2 text-left font-serif text-lg font-normal">
                <Link className="link" to={programLink(id)}>
                  {name}
                </Link>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </table>
    </div>
  );
}

function Line({ head, children }: { head: string; children: ReactNode }) {
  return (
    <tr className="border-t border-line align-top">
      <th scope="row" className="py-1.5 pr-3 text-left font-bold">
        {head}
      </th>
      {children}
    </tr>
  );
}

function Parting({ programs }: { programs: readonly Program[] }) {
  const differences = differencesOf(programs);
  return (
    <section aria-label="Where they part" className="off-screen mt-6">
      <h2 className="mb-2 text-2xl">Where they part</h2>
      <SideBySide programs={programs} label="Where they part, table">
        {differences.map(({ id, question, answers }) => (
          <Line key={id} head={question}>
            {answers.map(({ says, because }, index) => (
              <td key={programs[index]?.id} className="px-3 py-2">
                {says}
                {because && <span className="block text-sm text-faint">{because}</span>}
              </td>
            ))}
          </Line>
        ))}
      </SideBySide>
    </section>
  );
}

const needsInWords = (needs: readonly Need[], program: Program, words: Dialect): string =>
  needs.map((need) => needInWords(need, program, words).toLowerCase()).join(", ");

/** The steps on which roads differ: resting on something else, beside the road in one of them, or not on all of them. */
function Roads({ programs, words }: Compared) {
  const order = [...new Set(programs.flatMap(({ steps }) => steps.map(({ id }) => id)))];
  const onAll = order.filter((id) => programs.every((program) => findStep(program, id)));
  const rows = onAll.flatMap((id) => {
    const cells = programs.map((program) => ({
      needs: needsInWords(findStep(program, id)?.needs ?? [], program, words),
      isBeside: program.optional.includes(id),
      at: program.steps.findIndex((one) => one.id === id),
    }));
    const [first] = cells;
    const isSame = cells.every(({ needs, isBeside }) => needs === first?.needs && isBeside === first?.isBeside);
    return isSame ? [] : [{ id, cells }];
  });
  const nameOf = (id: string): string => {
    const step = programs.flatMap((program) => findStep(program, id) ?? [])[0];
    return step ? nameIn(step, words) : id;
  };
  return (
    <section aria-label="The same road, otherwise" className="off-screen mt-8">
      <h2 className="mb-1 text-2xl">The same road, otherwise</h2>
      <p className="mb-2 text-faint">
        {onAll.length - rows.length} steps rest on the same in all of them; these do not. The number is the step's place
        on the road.
      </p>
      <SideBySide programs={programs} label="Steps that differ, table">
        {rows.map(({ id, cells }) => (
          <Line key={id} head={nameOf(id)}>
            {cells.map(({ needs, isBeside, at }, index) => (
              <td key={programs[index]?.id} className="px-3 py-1.5">
                <span className="mr-2 inline-block min-w-6 text-right text-sm text-faint">{at + 1}</span>
                {needs ? `on ${needs}` : "on nothing"}
                {isBeside && <span className="text-sm text-faint"> · beside the road</span>}
              </td>
            ))}
          </Line>
        ))}
        <Line head="Not on its road">
          {programs.map((program) => (
            <td key={program.id} className="px-3 py-1.5 text-sm">
              {order
                .filter((id) => !findStep(program, id))
                .map(nameOf)
                .join(", ") || "all of them are"}
            </td>
          ))}
        </Line>
      </SideBySide>
    </section>
  );
}

function OnThisHorse({ horse, programs, words }: Compared & { horse: HorseId }) {
  const { data, error } = useUnderQuery({ horse, programs: programs.map(({ id }) => id) });
  if (error)
    return (
      <p role="alert" className="rounded-xl border-2 border-resin p-4">
        {problemOf(error).detail} What each program would say of a horse is worked out by the laptop.
      </p>
    );
  if (!data) return <p role="status">Reading his record under each of them …</p>;
  return (
    <section aria-label={`On ${data.horse.name}`}>
      <h2 className="mb-2 text-2xl">On {data.horse.name}: next would be …</h2>
      <ul className="grid gap-4 lg:grid-cols-3">
        {data.programs.map((one) => (
          <Under key={one.program.id} view={data} one={one} words={words} />
        ))}
      </ul>
    </section>
  );
}

interface UnderProps {
  view: UnderView;
  one: UnderView["programs"][number];
  words: Dialect;
}

function Under({ view: { horse }, one, words }: UnderProps) {
  const program = useBook().known(one.program.id);
  if (!program) return null;
  const isHis = horse.program.id === program.id && horse.program.version === one.program.version;
  return (
    <li className={clsx("card flex flex-col gap-2", isHis && "border-2 border-pine")}>
      <h3 className="font-serif text-xl">{program.name}</h3>
      <p className="text-sm text-faint">
        {one.steady} of {one.of} steps steady{isHis && " · he goes by this one"}
        {!isHis && horse.program.id === program.id && ` · he goes by version ${horse.program.version} of it`}
      </p>
      <ol className="grid list-decimal gap-1 pl-5">
        {one.next.work.slice(0, NEXT_SHOWN).map((next) => (
          <li key={next.step}>
            <b>{stepName(program, next.step, words)}</b>
            <span className="block text-sm text-faint">{reasonInWords(next, program)}</span>
          </li>
        ))}
      </ol>
      {one.next.work.length === 0 && <p>Nothing: every step of this road is steady.</p>}
      {!isHis && <MoveHorse horse={horse} program={program} move={one.move} held={one.held} words={words} />}
    </li>
  );
}
