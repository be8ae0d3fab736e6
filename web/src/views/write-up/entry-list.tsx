import { Undo2, X } from "lucide-react";
import type { Program } from "@still-pine/core/programs";
import type { Entry } from "../../writing/draft";
import { entryInWords } from "../../entries/entry-words";

interface EntryListProps {
  entries: readonly Entry[];
  program: Program;
  onRemove: (id: string) => void;
  onTakeBack: () => void;
}

/** What has been entered so far, the latest on top. */
export function EntryList({ entries, program, onRemove, onTakeBack }: EntryListProps) {
  const last = entries.at(-1);
  return (
    <section aria-label="Entered so far" className="card">
      <div className="mb-2 flex items-center justify-between gap-2">
        <h2 className="text-xl">{entries.length === 0 ? "Nothing entered yet" : `${entries.length} entered`}</h2>
        <button type="button" className="button button-small" disabled={!last} onClick={onTakeBack}>
          <Undo2 size={16} aria-hidden="true" /> Undo
        </button>
      </div>
      <p aria-live="polite" className="sr-only">
        {last ? `${entries.length}: ${entryInWords(last, program)}` : ""}
      </p>
      <ol reversed className="max-h-80 overflow-y-auto">
        {entries.toReversed().map((entry) => {
          const words = entryInWords(entry, program);
          return (
            <li key={entry.id} className="flex items-center justify-between gap-2 border-b border-line/60 py-1 text-sm">
              {words}
              <button
                type="button"
                className="flex size-8 shrink-0 cursor-pointer items-center justify-center rounded hover:text-clay"
                aria-label={`Remove: ${words}`}
                onClick={() => onRemove(entry.id)}
              >
                <X size={16} aria-hidden="true" />
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
