import { Upload } from "lucide-react";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { v7 as newId } from "uuid";
import { OWN_PROGRAM, parseProgram, problemInWords } from "@still-pine/contract/record";
import type { ProgramFile } from "@still-pine/core/programs";
import { usePutDraftMutation } from "../../api";
import { problemOf } from "../../parts/problem";

/** A program's file is larger than a page and smaller than this. */
const FILE_MOST = 500_000;

/** Takes a program in from a file: read and checked first, then a draft of this yard. */
export function BringInProgram({ taken }: { taken: ReadonlySet<string> }) {
  const input = useRef<HTMLInputElement>(null);
  const [problems, setProblems] = useState<readonly string[]>([]);
  const [put] = usePutDraftMutation();
  const navigate = useNavigate();
  const read = async (chosen: File): Promise<void> => {
    setProblems([]);
    if (chosen.size > FILE_MOST) {
      setProblems([`The file is larger than ${FILE_MOST / 1000} kB: that is no program.`]);
      return;
    }
    let json: unknown;
    try {
      json = JSON.parse(await chosen.text());
    } catch (cause) {
      setProblems([`The file is not JSON: ${(cause as Error).message}`]);
      return;
    }
    const parsed = parseProgram(json);
    if (!parsed.ok) {
      setProblems(parsed.problems.map(problemInWords));
      return;
    }
    const isOwn = parsed.file.id.startsWith(OWN_PROGRAM) && !taken.has(parsed.file.id);
    const file: ProgramFile = isOwn ? parsed.file : { ...parsed.file, id: `${OWN_PROGRAM}${newId()}` };
    const road = file.road ?? parsed.program.steps.map(({ id }) => id);
    const result = await put({ id: file.id, version: 0, file: { ...file, road } });
    if (result.data) void navigate(`/programs/${encodeURIComponent(file.id)}/edit`);
    else setProblems([problemOf(result.error).detail]);
  };
  return (
    <>
      <button type="button" className="button" onClick={() => input.current?.click()}>
        <Upload size={18} aria-hidden="true" /> Bring in a program
      </button>
      <input
        ref={input}
        type="file"
        accept="application/json,.json"
        className="sr-only"
        aria-label="Program file"
        tabIndex={-1}
        onChange={(event) => {
          const [chosen] = event.target.files ?? [];
          if (chosen) void read(chosen);
          event.target.value = "";
        }}
      />
      {problems.length > 0 && (
        <div role="alert" className="w-full rounded-xl border-2 border-clay bg-sheet p-3">
          <p className="font-bold text-clay">That file cannot be read as a program.</p>
          <ul className="list-disc pl-5">
            {problems.map((problem) => (
              <li key={problem}>{problem}</li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
