import { useState } from "react";
import { MISHAPS, SEVERITIES, type MishapKind, type Severity } from "@still-pine/core/record";
import { Tick } from "../../parts/tick";
import { Field } from "../../parts/field";
import type { EventBody } from "@still-pine/core/record";

const SEVERITY_MEANS: Record<Severity, string> = {
  1: "a scare",
  2: "could have hurt",
  3: "hurt, or gear broken",
  4: "grave",
};

/** Something went wrong: what, how bad, whether anyone was hurt, what led to it. */
export function MishapForm({ onAdd }: { onAdd: (entry: EventBody) => void }) {
  const [kind, setKind] = useState<MishapKind>("bite");
  const [severity, setSeverity] = useState<Severity>(1);
  const [personHurt, setPersonHurt] = useState(false);
  const [after, setAfter] = useState("");
  const add = (): void => {
    const words = after.trim();
    onAdd({ type: "mishap", kind, severity, personHurt, ...(words ? { after: words } : {}) });
    setAfter("");
    setPersonHurt(false);
  };
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <Field id="mishap-kind" label="What happened">
        <select
          id="mishap-kind"
          className="field"
          value={kind}
          onChange={(event) => setKind(event.target.value as MishapKind)}
        >
          {MISHAPS.map((one) => (
            <option key={one} value={one}>
              {one.replaceAll("-", " ")}
            </option>
          ))}
        </select>
      </Field>
      <Field id="mishap-severity" label="How bad">
        <select
          id="mishap-severity"
          className="field"
          value={severity}
          onChange={(event) => setSeverity(Number(event.target.value) as Severity)}
        >
          {SEVERITIES.map((one) => (
            <option key={one} value={one}>
              {one} {SEVERITY_MEANS[one]}
            </option>
          ))}
        </select>
      </Field>
      <div className="sm:col-span-2">
        <Field id="mishap-after" label="What led to it">
          <input
            id="mishap-after"
            maxLength={2000}
            className="field"
            value={after}
            onChange={(event) => setAfter(event.target.value)}
          />
        </Field>
      </div>
      <Tick label="A person was hurt" checked={personHurt} onChange={setPersonHurt} />
      <button type="button" className="button" onClick={add}>
        Add the mishap
      </button>
      {(personHurt || severity >= 3) && (
        <p className="text-clay sm:col-span-2">
          See to the person first, then have the horse looked over by a vet. A sudden change for the worse is a body
          question before anything else.
        </p>
      )}
    </div>
  );
}
