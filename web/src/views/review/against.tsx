import type { YardView } from "@still-pine/contract/http";
import { is, orderEvents, standingEvents } from "@still-pine/core/record";
import { gateName, stepName } from "@still-pine/core/readiness/words";
import { useMemo } from "react";
import type { ReviewedOuting } from "../../writing/reviewed-outing";

/** What was worked in the outing though a gate before it was shut, and why; nothing where nothing was. */
export function Against({
  reviewed: { plan, events },
  yard,
}: {
  reviewed: ReviewedOuting;
  yard: Pick<YardView, "words">;
}) {
  const against = useMemo(
    () => standingEvents(orderEvents(events)).events.filter((event) => is(event, "against-gate")),
    [events],
  );
  const said = new Set(against.flatMap(({ gate, reason }) => (reason === undefined ? [] : [gate])));
  if (against.length === 0) return null;
  return (
    <section aria-label="Against a gate" className="card border-2 border-resin">
      <h2 className="mb-2 text-xl text-resin">Against a gate</h2>
      <ul className="grid gap-1">
        {against.map(({ id, step, gate, reason }) => (
          <li key={id}>
            <b>{stepName(plan.program, step, yard.words)}</b>, though {gateName(plan.program, gate, yard.words)} is shut
            {reason === undefined ? (said.has(gate) ? "." : ". Nobody said why yet.") : `: “${reason}”`}
          </li>
        ))}
      </ul>
      <p className="mt-2 text-faint">
        What he answered counts as ever. The gate stays shut until it has what it asks for.
      </p>
    </section>
  );
}
