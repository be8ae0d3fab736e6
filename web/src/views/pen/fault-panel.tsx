import { useState } from "react";
import { inDialect, type Dialect } from "@still-pine/core/programs";
import { FAULT_WORDS } from "@still-pine/core/programs/fault-words";
import type { AskEvent } from "@still-pine/core/record";
import { useLadderTexts } from "../../parts/use-ladder-texts";
import { lastAsk } from "../../pen/moves";
import { shortly } from "../../pen/words";
import { Panel } from "./panels";
import { usePen, useSession } from "./pen-context";

interface FaultPanelProps {
  words: Dialect;
  onClose: () => void;
}

/** What was wrong with the last ask, or what it was for: one press here says it, and once more takes it back. */
export function FaultPanel({ words, onClose }: FaultPanelProps) {
  const last = usePen((_, session) => lastAsk(session));
  return (
    <Panel title="What was wrong?" onClose={onClose}>
      {last ? (
        <OfAsk key={last.id} ask={last} words={words} onClose={onClose} />
      ) : (
        <p className="text-lg">Press the ask on the pad first; then say here what was wrong with it.</p>
      )}
    </Panel>
  );
}

type Said = Partial<Record<"fault" | "after" | "purpose" | "answer" | "helps", string | number | null>>;

function OfAsk({ ask, words, onClose }: { ask: AskEvent; words: Dialect; onClose: () => void }) {
  const session = useSession();
  const { faults } = useLadderTexts(ask.step);
  const [helps, setHelps] = useState(ask.helps ?? 0);
  const say = (said: Said) => (): void => {
    session.correct(ask.id, { with: said });
    onClose();
  };
  /** Says it, or takes it back where it was said. */
  const turn = (name: "fault" | "after" | "purpose", value: string, label: string) => (
    <button
      key={value}
      type="button"
      aria-pressed={ask[name] === value}
      onClick={say({ [name]: ask[name] === value ? null : value })}
      className="pen-button text-lg leading-tight aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper"
    >
      {label}
    </button>
  );
  return (
    <>
      <p className="mb-2 text-lg">{shortly(ask, session.plan.program)}</p>
      <div role="group" aria-label="What spoiled it" className="mb-3 grid grid-cols-2 gap-1.5 sm:grid-cols-3">
        {faults.map((fault) => turn("fault", fault, inDialect(FAULT_WORDS[fault], words)))}
        {turn("after", "bolted", "bolted after the release")}
      </div>
      <div role="group" aria-label="What it was for" className="mb-3 grid grid-cols-2 gap-1.5 sm:grid-cols-3">
        <button type="button" onClick={say({ answer: "neutral" })} className="pen-button text-lg leading-tight">
          mine, does not count
        </button>
        {turn("purpose", "reminder", "a reminder")}
        {turn("purpose", "probe", "a probe: may I yet?")}
      </div>
      <div role="group" aria-label="Bumps or taps it took" className="grid grid-cols-[2fr_1fr] gap-1.5">
        <button type="button" onClick={() => setHelps(helps + 1)} className="pen-button text-xl">
          <span className="leading-tight">One more bump or tap: {helps}</span>
        </button>
        <button
          type="button"
          disabled={helps === (ask.helps ?? 0)}
          onClick={say({ helps })}
          className="pen-button text-lg disabled:text-faint"
        >
          keep {helps}
        </button>
      </div>
    </>
  );
}
