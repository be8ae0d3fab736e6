import { useState } from "react";
import type { YardView } from "@still-pine/contract/http";
import { findStep, phaseWordsOf, sidesOf, type Dialect, type Program } from "@still-pine/core/programs";
import { sideOfAsk } from "@still-pine/core/evidence";
import { isAsk, type AskEvent, type RecordEvent, eventTypeOf, versionOf } from "@still-pine/core/record";
import { EntryForm } from "../../entries/entry-form";
import { FeelSquare } from "../../marks/feel-square";
import { Tick } from "../../parts/tick";
import { clockOf, withPlace } from "../../pen/words";
import { sideFields } from "@still-pine/core/programs";

import { AnswerChoice, HowChoice, SideChoice } from "../write-up/choices";

interface EntryEditorProps {
  event: RecordEvent;
  startedAt: number;
  program: Program;
  yard: YardView;
  /** The device it was recorded on, where it has a name. */
  by: string | undefined;
  /** Ids of all asks of its exercise and side, where it is an ask. */
  alike: readonly string[];
  onCorrect: (change: Record<string, unknown>) => void;
  onCorrectAll: (ids: readonly string[], change: Record<string, unknown>) => void;
  onDrop: () => void;
}

/** The chosen entry: fixed by one press, or dropped. */
export function EntryEditor({ event, startedAt, program, yard, by, onDrop, ...editing }: EntryEditorProps) {
  const { onCorrect } = editing;
  const type = eventTypeOf(event.type);
  return (
    <section aria-label="The chosen entry" className="card">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <p className="text-lg">
          <b>{clockOf((Date.parse(event.at) - startedAt) / 1000)}</b> {withPlace(event, program, yard.words)}
          {by !== undefined && <span className="text-base text-faint"> · on {by}</span>}
        </p>
        <button type="button" className="button" onClick={onDrop}>
          Drop it
        </button>
      </div>
      {isAsk(event) ? (
        <AskEditor key={event.id} ask={event} program={program} words={yard.words} {...editing} />
      ) : (
        type?.byHand && (
          <EntryForm
            key={`${event.id} ${JSON.stringify(event)}`}
            type={type}
            before={{ ...event }}
            program={program}
            yard={yard}
            button="Save"
            onSave={(changed) => Object.keys(changed).length > 0 && onCorrect(changed)}
          />
        )
      )}
    </section>
  );
}

/** The version of an ask's shape that knows rungs. */
const RUNGS_SINCE = versionOf({ type: "ask", rung: "" });

function AskEditor({
  ask,
  program,
  words,
  alike,
  onCorrect,
  onCorrectAll,
}: { ask: AskEvent; program: Program; words: Dialect } & Pick<
  EntryEditorProps,
  "alike" | "onCorrect" | "onCorrectAll"
>) {
  const [ofAll, setOfAll] = useState(false);
  const step = findStep(program, ask.step);
  if (!step) return null;
  const sides = sidesOf(step);
  const { phase, mood } = ask;
  const counts = new Map(mood === undefined ? [] : [[phase === undefined ? `${mood}` : `${phase} ${mood}`, 1]]);
  return (
    <div className="grid gap-3">
      {sides.length > 1 && (
        <SideChoice sides={sides} value={sideOfAsk(ask, step)} onChange={(side) => onCorrect(sideFields(side))} />
      )}
      <AnswerChoice legend="Answer" value={ask.answer} onChange={(answer) => onCorrect({ answer })} />
      <FeelSquare
        standard={step.standard}
        phaseWords={phaseWordsOf(program)}
        counts={counts}
        label="Fix the feel"
        onPress={(feel) => onCorrect({ ...feel })}
      />
      <HowChoice
        step={step}
        words={words}
        isFormer={(ask.v ?? 1) < RUNGS_SINCE}
        said={(ask.v ?? 1) < RUNGS_SINCE ? { ...ask, rung: undefined } : ask}
        onChange={(changed) => {
          const change = "rung" in changed ? { ...changed, v: RUNGS_SINCE } : changed;
          // What spoiled one of them did not spoil the others.
          if (ofAll && !("fault" in changed)) onCorrectAll(alike, change);
          else onCorrect(change);
        }}
      />
      {alike.length > 1 && (
        <Tick
          label={`Say rung and feet of all ${alike.length} asks of this exercise and side`}
          checked={ofAll}
          onChange={setOfAll}
        />
      )}
    </div>
  );
}
