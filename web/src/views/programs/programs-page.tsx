import { Columns3 } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Program } from "@still-pine/core/programs";
import { schoolTextsOf } from "@still-pine/core/programs/school-texts";
import type { StringHorse } from "@still-pine/contract/http";
import { useBook } from "../../book/use-book";
import { useStringQuery } from "../../api";
import { BringInProgram } from "./bring-in-program";
import { compareLink, programLink } from "./links";
import { Drafts } from "./own-programs";

/** So many stand side by side. */
const COMPARED_MOST = 3;

/** The schools, each with the horse it is for and who goes by it here; two or three can be laid side by side. */
export function ProgramsPage() {
  const book = useBook();
  const { data } = useStringQuery();
  const navigate = useNavigate();
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const toggle = (id: string): void =>
    setChosen((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id].slice(-COMPARED_MOST)));
  return (
    <>
      <title>Programs · Still Pine</title>
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-4xl">Programs</h1>
          <p className="max-w-2xl text-faint">
            Several ways over one set of steps and one record. They disagree, with reasons; each horse goes by one of
            them, and may change.
          </p>
        </div>
        <BringInProgram taken={new Set(book.all.map(({ id }) => id))} />
        <button
          type="button"
          className="button button-main"
          disabled={chosen.length < 2}
          onClick={() => void navigate(compareLink(chosen))}
        >
          <Columns3 size={18} aria-hidden="true" />
          {chosen.length < 2 ? "Choose two or three to compare" : `Compare these ${chosen.length}`}
        </button>
      </div>
      <Drafts />
      <ul className="grid gap-4 md:grid-cols-2">
        {book.all.map((program) => (
          <ProgramCard
            key={program.id}
            program={program}
            horses={data?.horses.filter((horse) => horse.program.id === program.id) ?? []}
            isChosen={chosen.includes(program.id)}
            onToggle={() => toggle(program.id)}
          />
        ))}
      </ul>
    </>
  );
}

interface ProgramCardProps {
  program: Program;
  horses: readonly StringHorse[];
  isChosen: boolean;
  onToggle: () => void;
}

function ProgramCard({ program, horses, isChosen, onToggle }: ProgramCardProps) {
  const texts = schoolTextsOf(program.id);
  return (
    <li className="card flex flex-col gap-2">
      <div className="flex items-start justify-between gap-3">
        <h2 className="text-2xl">
          <Link className="link" to={programLink(program.id)}>
            {program.name}
          </Link>
        </h2>
        <button
          type="button"
          aria-pressed={isChosen}
          aria-label={`Compare ${program.name}`}
          onClick={onToggle}
          className="chip shrink-0 aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
        >
          Compare
        </button>
      </div>
      <p>{program.about}</p>
      {texts && <p className="text-faint">{texts.forWhom}</p>}
      <p className="mt-auto text-sm text-faint">
        {program.steps.length} steps, {program.gates.length} gates
        {horses.length > 0 && (
          <>
            {" · "}
            <b className="text-ink">{horses.map(({ name }) => name).join(", ")}</b>
          </>
        )}
      </p>
    </li>
  );
}
