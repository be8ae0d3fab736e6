import { useState } from "react";
import { useSetPassPhraseMutation } from "../../api";
import { problemOf } from "../../parts/problem";
import { ProblemNote } from "../../parts/page-state";
import { TextField } from "../../parts/text-field";

/** What opens this laptop's Still Pine, where a yard wants that. */
export function PassPhrase({ isSet }: { isSet: boolean }) {
  const [set, { error, isLoading, isSuccess }] = useSetPassPhraseMutation();
  const [current, setCurrent] = useState("");
  const [phrase, setPhrase] = useState("");
  const save = async (wanted: string | null): Promise<void> => {
    const result = await set({ phrase: wanted, ...(isSet ? { current } : {}) });
    if ("error" in result && result.error) return;
    setCurrent("");
    setPhrase("");
  };
  return (
    <section aria-label="Pass phrase" className="card grid gap-3">
      <h2 className="text-xl">Pass phrase of this laptop</h2>
      <p className="text-faint">
        {isSet
          ? "Whoever opens Still Pine on this laptop types it once in each browser."
          : "Whoever sits at this laptop may do everything. Where others use it too, set a pass phrase."}
      </p>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void save(phrase);
        }}
      >
        {isSet && (
          <TextField
            id="phrase-now"
            label="The present one"
            type="password"
            autoComplete="current-password"
            maxLength={200}
            value={current}
            onChange={setCurrent}
          />
        )}
        <TextField
          id="phrase-new"
          label="A new one, at least eight characters"
          type="password"
          autoComplete="new-password"
          maxLength={200}
          value={phrase}
          onChange={setPhrase}
        />
        <div className="flex flex-wrap gap-2">
          <button type="submit" className="button" disabled={isLoading || phrase.length < 8}>
            {isSet ? "Change it" : "Set it"}
          </button>
          {isSet && (
            <button
              type="button"
              className="button"
              disabled={isLoading || current === ""}
              onClick={() => void save(null)}
            >
              Do without
            </button>
          )}
        </div>
      </form>
      {isSuccess && <p role="status">Done.</p>}
      {error && <ProblemNote problem={problemOf(error)} />}
    </section>
  );
}
