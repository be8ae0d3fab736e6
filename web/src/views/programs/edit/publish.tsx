import { BookCheck } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { ProgramFile } from "@still-pine/core/programs";
import { useLazyProgramChangesQuery, usePublishProgramMutation } from "../../../api";
import { problemOf } from "../../../parts/problem";
import { Modal } from "../../../parts/modal";
import { programLink } from "../links";

interface PublishProps {
  file: ProgramFile;
  isSound: boolean;
  isSaved: boolean;
  storedVersion: () => number;
}

/** Shows what a new version changes for each horse in work, and then publishes it. */
export function Publish({ file, isSound, isSaved, storedVersion }: PublishProps) {
  const [open, setOpen] = useState(false);
  const [look, { data, error, isFetching }] = useLazyProgramChangesQuery();
  const [publish, publishing] = usePublishProgramMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  const navigate = useNavigate();
  const go = async (): Promise<void> => {
    const result = await publish({ id: file.id, version: storedVersion() });
    if (result.error) setTrouble(problemOf(result.error).detail);
    else void navigate(programLink(file.id));
  };
  return (
    <>
      <button
        type="button"
        className="button button-main"
        disabled={!isSound || !isSaved}
        onClick={() => {
          setOpen(true);
          void look(file.id);
        }}
      >
        <BookCheck size={18} aria-hidden="true" /> Publish …
      </button>
      {open && (
        <Modal open onOpenChange={setOpen} title={`Publish ${file.name}`}>
          <div className="grid gap-3">
            <p>
              A published version stays for good: outings are worked under it. What is wrong in it is made right by the
              next one.
            </p>
            {isFetching && <p role="status">Reading every horse's record under it …</p>}
            {error && <p role="alert">{problemOf(error).detail}</p>}
            {data && (
              <section aria-label="What it changes">
                <h3 className="font-bold">What it changes for horses in work</h3>
                {data.horses.length === 0 ? (
                  <p>Nothing: no horse goes by it yet, or their verdicts stay the same.</p>
                ) : (
                  <ul className="grid gap-2">
                    {data.horses.map(({ horse, name, changes, next }) => (
                      <li key={horse}>
                        <b>{name}</b>
                        <ul className="list-disc pl-5 text-sm">
                          {changes.map((text) => (
                            <li key={text}>{text}</li>
                          ))}
                          {next && <li>next would be: {next}</li>}
                        </ul>
                      </li>
                    ))}
                  </ul>
                )}
              </section>
            )}
            {trouble && (
              <p role="alert" className="font-semibold text-clay">
                {trouble}
              </p>
            )}
            <button
              type="button"
              className="button button-main"
              disabled={!data || publishing.isLoading}
              onClick={() => void go()}
            >
              Publish it
            </button>
          </div>
        </Modal>
      )}
    </>
  );
}
