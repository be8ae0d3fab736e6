import { Download, Redo2, Undo2 } from "lucide-react";
import { lazy, Suspense, useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { problemInWords, programShapeProblems } from "@still-pine/contract/record";
import {
  buildProgram,
  guardOf,
  problemsOf,
  unsafePartsOf,
  type Program,
  toEdition,
  type ProgramFile,
} from "@still-pine/core/programs";
import { programProblemInWords } from "@still-pine/core/programs/problem-words";
import { useDropDraftMutation, useYardQuery } from "../../../api";
import { NoDataYet } from "../../../parts/page-state";
import { saveProgram } from "../save-program";
import { NewEdition } from "./new-edition";
import { Publish } from "./publish";
import { RoadEditor } from "./road-editor";
import { ReadEditor } from "./read-editor";
import { SettingsEditor } from "./settings-editor";
import { useDraft } from "./use-draft";

const RoadGraph = lazy(async () => ({ default: (await import("./road-graph")).RoadGraph }));

/** Writing a program of one's own: its road, needs and standards, its settings; checked at every change. */
export function EditPage() {
  const { program: id = "" } = useParams();
  const draft = useDraft(id);
  const { data: yard } = useYardQuery();
  if (draft.isMissing)
    return (
      <>
        <h1 className="mb-2 text-3xl">No such draft</h1>
        <p className="mb-4">It was published or dropped.</p>
        <Link className="button" to="/programs">
          To the programs
        </Link>
      </>
    );
  if (!draft.file || !yard)
    return <NoDataYet what="the draft" error={draft.error} retry={() => void draft.refetch()} />;
  return <Editor draft={draft} file={draft.file} words={yard.words} />;
}

interface EditorProps {
  draft: ReturnType<typeof useDraft>;
  file: ProgramFile;
  words: "american" | "british";
}

function Editor({ draft, file, words }: EditorProps) {
  const { change, undo, redo } = draft;
  const [chosen, setChosen] = useState<string | null>(null);
  const [shown, setShown] = useState<"list" | "graph">("list");
  const [drop] = useDropDraftMutation();
  const navigate = useNavigate();
  const program = useMemo((): Program => buildProgram(file), [file]);
  const problems = useMemo(() => {
    const inGraph = [...problemsOf(program), ...unsafePartsOf(program, guardOf(program))];
    const said = inGraph.map((one) => programProblemInWords(one, program, words));
    // What is wrong with its shape has no place on the road: a name that is empty, a number out of range.
    return inGraph.length > 0 ? [...new Set(said)] : programShapeProblems({ ...file, version: 1 }).map(problemInWords);
  }, [file, program, words]);
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement | null)?.closest("input, textarea")) return;
      if (event.key === "z" && !event.shiftKey) undo();
      else if (event.key === "y" || (event.key.toLowerCase() === "z" && event.shiftKey)) redo();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [undo, redo]);
  const away = async (): Promise<void> => {
    const result = await drop({ id: file.id, version: draft.storedVersion() });
    if (!result.error) void navigate("/programs");
  };
  return (
    <>
      <title>{`${file.name}, draft · Still Pine`}</title>
      <p>
        <Link className="link" to="/programs">
          Programs
        </Link>
      </p>
      <h1 className="sr-only">Draft: {file.name}</h1>
      <div className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <label className="grid min-w-0 flex-1 basis-80 gap-1 text-sm">
          Name
          <input
            className="field text-xl"
            maxLength={120}
            value={file.name}
            onChange={(event) => change((now) => ({ ...now, name: event.target.value }))}
          />
        </label>
        <div className="flex flex-wrap gap-2">
          <button type="button" className="button" disabled={!draft.canUndo} onClick={undo}>
            <Undo2 size={18} aria-hidden="true" /> Take back
          </button>
          <button type="button" className="button" disabled={!draft.canRedo} onClick={redo}>
            <Redo2 size={18} aria-hidden="true" /> Again
          </button>
          <button type="button" className="button" onClick={() => saveProgram(file)}>
            <Download size={18} aria-hidden="true" /> As a file
          </button>
          <button type="button" className="button" onClick={() => void away()}>
            Drop the draft
          </button>
          <Publish
            file={file}
            isSound={problems.length === 0}
            storedVersion={draft.storedVersion}
            isSaved={draft.saving === "saved"}
          />
        </div>
      </div>
      <p role="status" aria-label="Saving" className="mb-3 text-sm text-faint">
        {draft.saving === "saved"
          ? "Draft, kept at the yard."
          : draft.saving === "saving"
            ? "Keeping it …"
            : `Not kept: ${draft.saving.trouble}`}
      </p>
      <NewEdition file={file} program={program} words={words} onTake={() => change((now) => toEdition(now))} />
      <section
        aria-label="What is wrong"
        aria-live="polite"
        className={
          problems.length > 0
            ? "sticky top-2 z-20 mb-4 max-h-40 overflow-y-auto rounded-xl border-2 border-clay bg-sheet p-4 shadow-md"
            : "mb-4 rounded-xl border border-pine bg-moss p-3"
        }
      >
        {problems.length === 0 ? (
          <p>Sound: nothing in a circle, nothing out of reach, every gate with its safety steps.</p>
        ) : (
          <>
            <p className="font-bold">Not to be published as it is:</p>
            <ul className="list-disc pl-5">
              {problems.map((problem) => (
                <li key={problem}>{problem}</li>
              ))}
            </ul>
          </>
        )}
      </section>
      <label className="mb-4 grid gap-1 text-sm">
        In a sentence or two
        <textarea
          className="field"
          rows={2}
          maxLength={2000}
          value={file.about}
          onChange={(event) => change((now) => ({ ...now, about: event.target.value }))}
        />
      </label>
      <ReadEditor texts={file.texts} onChange={(texts) => change((now) => ({ ...now, texts }))} />
      <div className="grid items-start gap-6 lg:grid-cols-[1fr_22rem]">
        <div className="min-w-0">
          <div role="group" aria-label="Shown as" className="mb-3 flex gap-2">
            {(["list", "graph"] as const).map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={shown === one}
                onClick={() => setShown(one)}
                className="chip aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
              >
                {one === "list" ? "As a list" : "As a graph"}
              </button>
            ))}
          </div>
          {shown === "list" ? (
            <RoadEditor
              file={file}
              program={program}
              words={words}
              chosen={chosen}
              onChoose={setChosen}
              onChange={change}
            />
          ) : (
            <Suspense fallback={<p role="status">Fetching the graph …</p>}>
              <RoadGraph program={program} words={words} chosen={chosen} onChoose={setChosen} onChange={change} />
            </Suspense>
          )}
        </div>
        <SettingsEditor file={file} program={program} onChange={change} />
      </div>
    </>
  );
}
