import { useEffect, useRef, useState } from "react";
import { useBringInCsvMutation } from "../../api";
import { problemOf } from "../../parts/problem";
import { Modal } from "../../parts/modal";
import { ProblemNote } from "../../parts/page-state";

const RESULTS = { stored: "new", "already there": "there already", refused: "refused" } as const;

/** Weights and care from a spreadsheet: shown first, then brought in. */
export function BringInCsv() {
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState<string | null>(null);
  return (
    <>
      <p className="text-faint">
        Weights and care from a spreadsheet, as CSV with a first line of column names: <code>horse</code>,{" "}
        <code>day</code>, then <code>weight_kg</code>, <code>girth_cm</code>, <code>length_cm</code>, <code>means</code>
        , or <code>care</code>, <code>text</code>, <code>due_on</code>. The ledger's own CSV fits too.
      </p>
      <div>
        <button type="button" className="button" onClick={() => input.current?.click()}>
          Bring in a CSV
        </button>
        <input
          ref={input}
          type="file"
          accept=".csv,text/csv"
          aria-label="CSV file"
          className="hidden"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            void file?.text().then(setText);
            event.target.value = "";
          }}
        />
      </div>
      {text !== null && <CsvDialog text={text} onClose={() => setText(null)} />}
    </>
  );
}

function CsvDialog({ text, onClose }: { text: string; onClose: () => void }) {
  const [bring, { data, error, isLoading }] = useBringInCsvMutation();
  useEffect(() => void bring({ text, preview: true }), [bring, text]);
  return (
    <Modal
      open
      onOpenChange={(open) => !open && onClose()}
      title={data && !data.preview ? "It is in" : "What this CSV would bring"}
    >
      <div className="grid gap-3">
        {isLoading && <p role="status">Reading it …</p>}
        {error && <ProblemNote problem={problemOf(error)} />}
        {data && (
          <>
            <p role="status">
              {data.stored} new, {data.alreadyThere} there already, {data.refused.length} refused.
            </p>
            {data.refused.length > 0 && (
              <ul className="list-disc pl-5 text-clay">
                {data.refused.slice(0, 20).map((one) => (
                  <li key={`${one.path}${one.expected}`}>
                    {one.path}: expected {one.expected}, found {one.found}
                  </li>
                ))}
              </ul>
            )}
            <div className="max-h-72 overflow-auto" tabIndex={0} role="region" aria-label="Rows of the file">
              <table className="w-full text-left text-sm">
                <tbody>
                  {data.rows.map((row) => (
                    <tr key={row.line} className="border-b border-line/60">
                      <td className="py-1 pr-2 text-faint">line {row.line}</td>
                      <th scope="row" className="pr-2">
                        {row.horse}
                      </th>
                      <td className="pr-2">{row.text}</td>
                      <td>{RESULTS[row.result]}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </>
        )}
        <div className="flex flex-wrap gap-2">
          {data?.preview && (
            <button
              type="button"
              className="button button-main"
              disabled={isLoading || data.stored === 0}
              onClick={() => void bring({ text, preview: false })}
            >
              {data.stored === 0 ? "Nothing new in it" : "Bring it in"}
            </button>
          )}
          <button type="button" className="button" onClick={onClose}>
            {data && !data.preview ? "Done" : "Leave it"}
          </button>
        </div>
      </div>
    </Modal>
  );
}
