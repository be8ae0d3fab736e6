import { useState } from "react";
import type { LabelView } from "@still-pine/contract/http";
import { useLabelsQuery, useRelabelMutation } from "../../api";
import { problemOf } from "../../parts/problem";
import { ConflictChooser } from "../../parts/conflict-chooser";
import { ProblemNote } from "../../parts/page-state";

/** Places or people by label. A new label shows everywhere in the record at once; the record itself is not touched. */
export function LabelList({ kind, title }: { kind: "places" | "people"; title: string }) {
  const { data = [] } = useLabelsQuery(kind);
  return (
    <section aria-label={title} className="card">
      <h2 className="mb-2 text-xl">{title}</h2>
      {data.length === 0 && <p className="text-faint">None yet: they come with the outings.</p>}
      <ul className="divide-y divide-line">
        {data.map((row) => (
          <LabelRow key={row.id} kind={kind} row={row} />
        ))}
      </ul>
      {kind === "people" && data.length > 0 && (
        <p className="mt-2 text-sm text-faint">A person is made nameless by a label that names nobody, such as “A”.</p>
      )}
    </section>
  );
}

function LabelRow({ kind, row }: { kind: "places" | "people"; row: LabelView }) {
  const [label, setLabel] = useState<string | null>(null);
  // As it was opened.
  const [seen, setSeen] = useState(row);
  const [relabel, { error, isLoading }] = useRelabelMutation();
  const problem = error ? problemOf(error) : null;
  const current = problem?.["current"] as { label: string; version: number } | undefined;
  const save = async (text: string, version: number): Promise<void> => {
    const result = await relabel({ kind, id: row.id, version, label: text });
    if (!result.error) setLabel(null);
  };
  if (label === null)
    return (
      <li className="flex items-center justify-between gap-3 py-1.5">
        <span className="min-w-0 break-words">{row.label}</span>
        <button
          type="button"
          className="button button-small"
          aria-label={`Rename ${row.label}`}
          onClick={() => {
            setSeen(row);
            setLabel(row.label);
          }}
        >
          Rename
        </button>
      </li>
    );
  return (
    <li className="py-2">
      <form
        className="flex flex-wrap gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void save(label, seen.version);
        }}
      >
        <input
          className="field min-w-40 flex-1"
          aria-label={`New label of ${row.label}`}
          maxLength={120}
          value={label}
          onChange={(event) => setLabel(event.target.value)}
        />
        <button type="submit" className="button button-main" disabled={isLoading || !label.trim()}>
          Save
        </button>
        <button type="button" className="button" onClick={() => setLabel(null)}>
          Leave it
        </button>
      </form>
      {problem && (
        <ProblemNote problem={problem}>
          {current && (
            <ConflictChooser
              key={current.version}
              labels={{ label: "Label" }}
              opened={{ label: seen.label }}
              current={current}
              yours={{ label }}
              onChoose={(chosen) => void save(String(chosen["label"]), current.version)}
            />
          )}
        </ProblemNote>
      )}
    </li>
  );
}
