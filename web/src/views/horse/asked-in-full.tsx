import { useState } from "react";
import { Link } from "react-router";
import type { HorseView } from "@still-pine/contract/http";
import { findStep, inDialect, nameIn, type Dialect, type Program, type Step } from "@still-pine/core/programs";
import type { HorseId } from "@still-pine/core/record";
import { ChangesNote } from "../../parts/changes-note";
import { plain } from "../../parts/choice-words";
import { weekdayOf } from "../../parts/days";
import { ProblemNote } from "../../parts/page-state";
import { problemOf } from "../../parts/problem";
import { useLadderTexts } from "../../parts/use-ladder-texts";
import { useRecord } from "../../writing/use-record";

type Former = HorseView["formerAsks"][number];

const SHOWN = 5;

interface AskedInFullProps {
  view: HorseView;
  program: Program;
}

/**
 * Asks of a time in which nobody could say how much was asked count for the smallest there is. Here a person says, step by step, that they
 * were asked in full; each can be taken back.
 */
export function AskedInFull({ view: { horse, yard, formerAsks }, program }: AskedInFullProps) {
  const { record, correct, ...sending } = useRecord();
  const [said, setSaid] = useState<{ step: Step; event: string } | null>(null);
  if (formerAsks.length === 0 && !said) return null;
  const of = { horse: horse.id, outing: null };
  const say = async (step: Step): Promise<void> => {
    const recorded = await record({ ...of, body: { type: "in-full", step: step.id } });
    if (recorded?.ids[0] !== undefined) setSaid({ step, event: recorded.ids[0] });
  };
  const list = (some: readonly Former[]) => (
    <ul className="divide-y divide-line rounded-xl border border-line bg-sheet">
      {some.map((former) => {
        const step = findStep(program, former.step);
        return (
          step && (
            <FormerStep
              key={step.id}
              former={former}
              step={step}
              horse={horse.id}
              words={yard.words}
              isBusy={sending.isLoading}
              onSay={() => void say(step)}
            />
          )
        );
      })}
    </ul>
  );
  return (
    <section aria-label="Asked in full?" id="asked-in-full">
      <h2 className="mb-1 text-xl">Asked in full?</h2>
      <p className="mb-2 text-sm">
        When these asks were written down nobody could say how much was asked. What is not said counts for the smallest
        there is, so their steps say less than you may have seen. Where you know that a step was asked as far as its
        standard, say so. It is your word, it stands in the record, and it can be taken back.
      </p>
      {sending.error && <ProblemNote problem={problemOf(sending.error)} />}
      {said && !sending.isLoading && (
        <div className="mb-2">
          <ChangesNote title={`${nameIn(said.step, yard.words)}: asked in full`} changes={sending.changes ?? []}>
            <button
              type="button"
              className="button button-small"
              onClick={() => void correct(of, said.event, { void: true }).then(() => setSaid(null))}
            >
              Take it back
            </button>
          </ChangesNote>
        </div>
      )}
      {formerAsks.length > 0 && list(formerAsks.slice(0, SHOWN))}
      {formerAsks.length > SHOWN && (
        <details className="mt-1">
          <summary className="min-h-11 cursor-pointer py-2 text-sm text-pine">
            and {formerAsks.length - SHOWN} more {formerAsks.length === SHOWN + 1 ? "step" : "steps"}
          </summary>
          {list(formerAsks.slice(SHOWN))}
        </details>
      )}
    </section>
  );
}

interface FormerStepProps {
  former: Former;
  step: Step;
  horse: HorseId;
  words: Dialect;
  isBusy: boolean;
  onSay: () => void;
}

function FormerStep({ former: { asks, from, to, rung }, step, horse, words, isBusy, onSay }: FormerStepProps) {
  const { rungs: texts } = useLadderTexts(step.id);
  const days = from === to ? weekdayOf(from) : `${weekdayOf(from)} to ${weekdayOf(to)}`;
  const name = nameIn(step, words);
  const whole = [
    step.ladder.rungs.length > 1 ? inDialect(texts[rung] ?? plain(rung), words) : null,
    step.standard.withoutTool ? "with nothing in the hand" : null,
  ];
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 px-3 py-2">
      <div className="min-w-0">
        <p>
          <Link className="link font-bold" to={`/horses/${encodeURIComponent(horse)}/steps/${step.id}`}>
            {name}
          </Link>{" "}
          <span className="text-sm text-faint">
            {asks === 1 ? "1 ask" : `${asks} asks`}, {days}
          </span>
        </p>
        <p className="text-sm">In full is: {whole.filter(Boolean).join(", ")}.</p>
      </div>
      <button
        type="button"
        className="button button-small min-h-11"
        disabled={isBusy}
        aria-label={`${name} was asked in full`}
        onClick={onSay}
      >
        Asked in full
      </button>
    </li>
  );
}
