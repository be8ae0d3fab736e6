import type { StepId } from "@still-pine/core/record";
import { Fence } from "lucide-react";
import { useState } from "react";
import type { Dialect } from "@still-pine/core/programs";
import type { ShutGate } from "@still-pine/core/readiness";
import { findingInWords, gateName, stepName } from "@still-pine/core/readiness/words";
import { goAgainst } from "../../pen/moves";
import type { PenSession } from "../../pen/session";
import { usePen, useSession } from "./pen-context";
import { Panel } from "./panels";

/** The shut gate that holds a step back in this outing, of several the last before it on the road; null where none does. */
export const gateBefore = ({ plan }: PenSession, step: StepId): ShutGate | null =>
  plan.shut?.findLast(({ steps }) => steps.includes(step)) ?? null;

/** Whether why a step is worked against a shut gate is still to be said. */
export const wantsReason = (session: PenSession, step: StepId): boolean =>
  gateBefore(session, step) !== null && session.read().state.against[step] === undefined;

/** Over the pad, while the exercise in hand lies behind a shut gate: which one, and whether it was said why. */
export function AgainstBar({ words, onOpen }: { words: Dialect; onOpen: () => void }) {
  const session = useSession();
  const step = usePen((_, { here }) => here.step);
  const isSaid = usePen(({ state }) => state.against[step] !== undefined);
  const gate = gateBefore(session, step);
  if (!gate) return null;
  const name = gateName(session.plan.program, gate.gate, words);
  return (
    <button
      type="button"
      onClick={onOpen}
      className="mt-1 flex min-h-14 w-full items-center gap-2 rounded-xl border-3 border-resin bg-sheet px-2.5 text-left text-[16px] leading-tight font-semibold text-resin"
    >
      <Fence size={24} className="shrink-0" aria-hidden="true" />
      {isSaid ? `Worked against the gate: ${name} is shut.` : `${name} is shut. Leave this, or say why you work it.`}
    </button>
  );
}

/** What is often the reason, one press each. */
const REASONS = [
  "He knows it from elsewhere; it is not on record.",
  "Somebody with more experience is here and leads.",
  "It had to be done today.",
] as const;

const REASON_MOST = 2000;

/** Why the gate is shut, and the one way past it: to say why. */
export function AgainstPanel({ words, onClose }: { words: Dialect; onClose: () => void }) {
  const session = useSession();
  const step = usePen((_, { here }) => here.step);
  const [own, setOwn] = useState("");
  const gate = gateBefore(session, step);
  if (!gate) return null;
  const { program } = session.plan;
  const keep = (reason: string): void => {
    goAgainst(session, gate.gate, reason);
    onClose();
  };
  return (
    <Panel title={`${stepName(program, step, words)}: behind a shut gate`} onClose={onClose}>
      <p className="text-xl">{findingInWords(gate.why, program)}</p>
      <p className="mt-2 mb-3 text-lg">
        What you press is kept, whatever you do. Worked all the same, it stands in the record as done against the gate,
        with your reason, and the review and the next card say so. Still Pine advises against it.
      </p>
      <div className="grid gap-1.5">
        <button
          type="button"
          className="pen-button border-pine bg-pine text-xl text-on-pine"
          onClick={() => {
            session.rest();
            onClose();
          }}
        >
          Leave it
        </button>
        <p className="mt-2 text-lg font-semibold">Or say why it is worked:</p>
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
      </div>
    </Panel>
  );
}
