import { Download, PencilLine } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { OWN_PROGRAM } from "@still-pine/contract/record";
import type { Program, ProgramFile } from "@still-pine/core/programs";
import { useProgramsQuery, usePutDraftMutation } from "../../api";
import { problemOf } from "../../parts/problem";
import { copyOf, fileOf } from "./copy";
import { saveProgram } from "./save-program";

const editLink = (id: string): string => `/programs/${encodeURIComponent(id)}/edit`;

/** Drafts of the yard, to go on with. */
export function Drafts() {
  const { data } = useProgramsQuery();
  if (!data || data.drafts.length === 0) return null;
  return (
    <section aria-label="Drafts" className="mb-5">
      <h2 className="mb-1 text-xl">Drafts</h2>
      <ul className="flex flex-wrap gap-2">
        {data.drafts.map(({ id, file }) => (
          <li key={id}>
            <Link className="button" to={editLink(id)}>
              <PencilLine size={18} aria-hidden="true" /> {file.name}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Makes a program one's own: a copy of one that ships, or the next version of one that is one's own already; and hands it out. */
export function MakeOwn({ program }: { program: Program }) {
  const { data } = useProgramsQuery();
  const [put] = usePutDraftMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  const navigate = useNavigate();
  const file = fileOf(program, data?.published ?? []);
  if (!file || !data) return null;
  const isOwn = program.id.startsWith(OWN_PROGRAM);
  const begin = async (next: ProgramFile): Promise<void> => {
    if (data.drafts.some(({ id }) => id === next.id)) {
      void navigate(editLink(next.id));
      return;
    }
    const result = await put({ id: next.id, version: 0, file: next });
    if (result.error) setTrouble(problemOf(result.error).detail);
    else void navigate(editLink(next.id));
  };
  return (
    <>
      {isOwn && (
        <button type="button" className="button button-main" onClick={() => void begin(file)}>
          <PencilLine size={18} aria-hidden="true" /> Change it
        </button>
      )}
      <button type="button" className="button" onClick={() => void begin(copyOf(program, file))}>
        <PencilLine size={18} aria-hidden="true" /> Make a copy of your own
      </button>
      <button type="button" className="button" onClick={() => saveProgram(file)}>
        <Download size={18} aria-hidden="true" /> As a file
      </button>
      {trouble && (
        <p role="alert" className="font-semibold text-clay">
          {trouble}
        </p>
      )}
    </>
  );
}
