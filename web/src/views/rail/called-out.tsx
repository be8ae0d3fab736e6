import { useState } from "react";
import { findStep, phaseWordsOf } from "@still-pine/core/programs";
import { MOODS, PHASES, type Mood, type Phase } from "@still-pine/core/record";
import { MOOD_WORDS } from "../../marks/feel-square";
import type { Cell } from "../../pen/snapshot";
import { usePen, useSession } from "../pen/pen-context";

/**
 * What is called out is tapped in the order it is called: the side above, how light, how he felt. The last of them records the
 * ask; the lightness stays for the next one, as it is called out only when it changes.
 */
export function CalledOut({ onPress }: { onPress: (cell: Cell) => void }) {
  const session = useSession();
  const stepId = usePen((_, { here }) => here.step);
  const standard = findStep(session.plan.program, stepId)?.standard;
  const hasPhase = !standard || standard.phase !== null;
  const phaseWords = phaseWordsOf(session.plan.program);
  const [phase, setPhase] = useState<Phase>(standard?.phase ?? 1);
  const record = (mood: Mood): void => onPress(hasPhase ? { phase, mood } : { mood });
  return (
    <div className="flex flex-1 flex-col gap-1.5">
      {hasPhase && (
        <div role="group" aria-label="How light" className="grid flex-1 grid-cols-5 gap-1.5">
          {PHASES.toReversed().map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={one === phase}
              onClick={() => setPhase(one)}
              className="pen-button min-h-20 px-0 text-[16px] tracking-tight aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
            >
              {phaseWords[one]}
            </button>
          ))}
        </div>
      )}
      <div role="group" aria-label="How he felt: records the ask" className="grid flex-1 grid-cols-5 gap-1.5">
        {MOODS.toReversed().map((mood) => (
          <button
            key={mood}
            type="button"
            onClick={() => record(mood)}
            className="pen-button min-h-24 border-pine bg-moss px-0 text-[16px] tracking-tight"
          >
            {MOOD_WORDS[mood]}
          </button>
        ))}
      </div>
    </div>
  );
}
