import { useEffect } from "react";
import { Link } from "react-router";
import type { Conflict, ImportedHorse, ImportResult } from "@still-pine/contract/http";
import { loosePenStart } from "@still-pine/core/programs";
import { problemInWords } from "@still-pine/contract/record";
import { useBringInMutation } from "../../api";
import { problemOf } from "../../parts/problem";
import { entryInWords } from "../../entries/entry-words";
import { Modal } from "../../parts/modal";
import { ProblemNote } from "../../parts/page-state";
import { saveFile } from "../../parts/save-file";

const HORSES_SHOWN = 30;
const CONFLICTS_SHOWN = 10;

/** What a file would bring, shown before it happens: what is new, what is there already, what is in conflict. */
export function BringInDialog({ file, onClose }: { file: File; onClose: () => void }) {
  const isArchive = file.name.toLowerCase().endsWith(".zip");
  const [look, looking] = useBringInMutation();
  const [bring, bringing] = useBringInMutation();
  useEffect(() => void look({ file, isArchive, how: { preview: "1" } }), [look, file, isArchive]);
  const preview = looking.data;
  const done = bringing.data;
  const error = bringing.error ?? looking.error;
  const conflicts = preview?.horses.flatMap((horse) => horse.conflicts) ?? [];
  const isNothingNew =
    preview !== undefined &&
    preview.horses.every((horse) => !horse.isNew && horse.stored + horse.media === 0) &&
    !preview.warnings.some(({ code }) => code === "comes-along");
  return (
    <Modal open onOpenChange={(open) => !open && onClose()} title={done ? "It is in" : "What this file would bring"}>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
        <p className="break-all text-faint">{file.name}</p>
        {looking.isLoading && <p role="status">Reading it …</p>}
        {error && <ProblemNote problem={problemOf(error)} />}
        {(done ?? preview) && <Horses result={done ?? (preview as ImportResult)} isDone={done !== undefined} />}
        {!done && conflicts.length > 0 && (
          <section aria-label="In conflict" className="rounded-xl border-2 border-resin p-3">
            <h3 className="font-bold text-resin">
              {conflicts.length} in conflict: here already with other content. What is here stays as it is.
            </h3>
            <ul className="mt-1 list-disc pl-5 text-sm">
              {conflicts.slice(0, CONFLICTS_SHOWN).map((conflict) => (
                <li key={conflict.path} className="break-words">
                  <ConflictInWords conflict={conflict} />
                </li>
              ))}
            </ul>
            {conflicts.length > CONFLICTS_SHOWN && (
              <p className="text-sm">and {conflicts.length - CONFLICTS_SHOWN} more</p>
            )}
          </section>
        )}
        {(done ?? preview) && (
          <Aside file={file.name} aside={(done ?? (preview as ImportResult)).aside} isDone={done !== undefined} />
        )}
        {(done ?? preview)?.warnings.slice(0, CONFLICTS_SHOWN).map((warning) => (
          <p key={`${warning.text}${warning.event ?? ""}`} className="text-sm text-resin first-letter:uppercase">
            {warning.text}
          </p>
        ))}
        <div className="flex flex-wrap gap-2">
          {!done && preview && (
            <button
              type="button"
              className="button button-main"
              disabled={bringing.isLoading || isNothingNew}
              onClick={() => void bring({ file, isArchive, how: conflicts.length > 0 ? { conflicts: "leave" } : {} })}
            >
              {isNothingNew
                ? "Nothing new in it"
                : bringing.isLoading
                  ? "Bringing it in …"
                  : conflicts.length > 0
                    ? "Bring in what is new"
                    : "Bring it in"}
            </button>
          )}
          <button type="button" className="button" onClick={onClose}>
            {done ? "Done" : "Leave it"}
          </button>
        </div>
      </div>
    </Modal>
  );
}

/** What of an archive could not be read: named, and given back as a file, so that nothing of it is lost. */
function Aside({ file, aside, isDone }: { file: string; aside: ImportResult["aside"]; isDone: boolean }) {
  if (aside.length === 0) return null;
  const save = (): void => saveFile({ from: file, aside }, `${file.replace(/\.[^.]*$/, "")}-set-aside.json`);
  return (
    <section aria-label="Set aside" className="rounded-xl border-2 border-resin p-3">
      <h3 className="font-bold text-resin">
        {aside.length === 1 ? "One thing" : `${aside.length} things`} in it could not be read.{" "}
        {isDone ? "The rest came in." : "The rest can come in all the same."}
      </h3>
      <ul className="mt-1 list-disc pl-5 text-sm">
        {aside.slice(0, CONFLICTS_SHOWN).map((one, index) => (
          <li key={index} className="break-words">
            <code>{one.file}</code>: {problemInWords(one)}
          </li>
        ))}
      </ul>
      {aside.length > CONFLICTS_SHOWN && <p className="text-sm">and {aside.length - CONFLICTS_SHOWN} more</p>}
      <button type="button" className="button mt-2" onClick={save}>
        Save what was set aside
      </button>
    </section>
  );
}

function Horses({ result: { horses }, isDone }: { result: ImportResult; isDone: boolean }) {
  return (
    <div role="status" className="overflow-x-auto" tabIndex={0}>
      <table className="w-full text-left">
        <caption className="sr-only">Horses of the file</caption>
        <thead>
          <tr className="border-b border-line text-sm text-faint">
            <th scope="col" className="py-1 pr-3">
              Horse
            </th>
            {["Outings new", "Entries new", "There already", "Photos new"].map((title) => (
              <th key={title} scope="col" className="px-2 py-1 text-right">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {horses.slice(0, HORSES_SHOWN).map((horse) => (
            <tr key={horse.horse} className="border-b border-line/60">
              <th scope="row" className="min-w-32 py-1 pr-3 font-semibold">
                {isDone ? (
                  <Link className="link" to={`/horses/${encodeURIComponent(horse.horse)}`}>
                    {horse.name}
                  </Link>
                ) : (
                  horse.name
                )}{" "}
                <span className="font-normal text-faint">{whichHorse(horse, isDone)}</span>
              </th>
              <td className="px-2 py-1 text-right">{horse.outings}</td>
              <td className="px-2 py-1 text-right">{horse.stored}</td>
              <td className="px-2 py-1 text-right">{horse.alreadyThere}</td>
              <td className="px-2 py-1 text-right">{horse.media}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {horses.length > HORSES_SHOWN && <p className="text-sm">and {horses.length - HORSES_SHOWN} more horses</p>}
      {horses.length === 0 && <p>No horse in it.</p>}
    </div>
  );
}

/** An entry as it is here and as the file has it; a field of the horse by its two values. */
function ConflictInWords({ conflict: { path, expected, found, there, file } }: { conflict: Conflict }) {
  if (!there || !file)
    return (
      <>
        <code>{path}</code>: here {expected}, in the file {found}
      </>
    );
  return (
    <>
      {file.at.slice(0, 10)}, here: <b>{entryInWords(there, loosePenStart)}</b>; in the file:{" "}
      <b>{entryInWords(file, loosePenStart)}</b>
    </>
  );
}

function whichHorse({ isNew }: ImportedHorse, isDone: boolean): string {
  if (isNew) return isDone ? "came in" : "a new horse";
  return isDone ? "was joined" : "joins the one that is here";
}
