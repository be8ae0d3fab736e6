import { useState } from "react";
import { isSaidWhy, shutBefore } from "@still-pine/core/outing";
import { findingInWords, stepName } from "@still-pine/core/readiness/words";
import { sayWhy } from "../../pen/moves";
import { usePen, useSession } from "./pen-context";

/** What is often the reason, one press each. */
const REASONS = [
  "He knows it from elsewhere; it is not on record.",
  "Somebody with more experience is here and leads.",
  "It had to be done today.",
] as const;

const REASON_MOST = 2000;

/** Where the exercise in hand lies behind a shut gate: what that asks for, and why it is worked all the same. */
export function BehindGate({ onDone }: { onDone: () => void }) {
  const session = useSession();
  const step = usePen((_, { here }) => here.step);
  const gate = shutBefore(session.plan, step);
  const isSaid = usePen(({ state }) => gate !== null && isSaidWhy(state, gate.gate));
  const [own, setOwn] = useState("");
  if (!gate) return null;
  const { program } = session.plan;
  const keep = (reason: string): void => {
    sayWhy(session, gate.gate, reason);
    onDone();
  };
  return (
    <section aria-label="Behind a shut gate" className="mt-3 grid gap-1.5 rounded-xl border-3 border-resin p-2">
      <h3 className="text-xl text-resin">{stepName(program, step)} lies behind a shut gate</h3>
      <p className="text-lg">{findingInWords(gate.why, program)}</p>
      <p className="text-lg">
        {isSaid
          ? "It stands in the record as worked against the gate, with the reason."
          : "What is asked here is kept, as worked against the gate. Still Pine advises against it. Leave it, or say why:"}
      </p>
      {!isSaid && (
        <>
          <button
            type="button"
            className="pen-button border-pine bg-pine text-xl text-on-pine"
            onClick={() => {
              session.rest();
              onDone();
            }}
          >
            Leave it
          </button>
          {REASONS.map((reason) => (
            <button
              key={reason}
              type="button"
              className="pen-button border-resin px-3 text-left text-lg leading-tight"
              onClick={() => keep(reason)}
            >
              {reason}
            </button>
          ))}
          <form
            className="flex gap-1.5"
            onSubmit={(event) => {
              event.preventDefault();
              if (own.trim() !== "") keep(own.trim());
            }}
          >
            <input
              className="field min-h-16 flex-1 text-lg"
              aria-label="Another reason"
              placeholder="another reason"
              maxLength={REASON_MOST}
              value={own}
              onChange={(event) => setOwn(event.target.value)}
            />
            <button type="submit" className="pen-button border-resin px-3 text-lg" disabled={own.trim() === ""}>
              Keep it
            </button>
          </form>
        </>
      )}
    </section>
  );
}
