import { clsx } from "clsx";
import { X } from "lucide-react";
import { findStep, nameIn, phaseWordsOf } from "@still-pine/core/programs";
import type { Brief, Proposed } from "@still-pine/core/planning";
import { shutBefore } from "@still-pine/core/outing";
import { findingInWords } from "@still-pine/core/readiness/words";
import { PHASES, type Phase, type StepId } from "@still-pine/core/record";
import { Less, More } from "../../parts/stepper";
import { waitsInWords } from "../../parts/trust-words";
import { upToInWords } from "../../parts/up-to-words";
import { lineInWords, whyInWords, type Naming } from "./brief-words";
import { withLine, type CardDraft } from "./card-draft";

interface ExercisesProps {
  card: CardDraft;
  brief: Brief;
  gate: string | null;
  naming: Naming;
  onChange: (card: CardDraft) => void;
}

const COUNT_MOST = 20;

/** What to check cold, and the steps at the edge, each with what counts as enough today. */
export function Exercises({ card, brief, gate, naming, onChange }: ExercisesProps) {
  const proposed = new Map([...brief.checkCold, ...brief.edge].map((one) => [one.step, one]));
  const cold = card.exercises.filter(({ isCold }) => isCold);
  const edge = card.exercises.filter(({ isCold }) => !isCold);
  const { program, words } = naming;
  const add = (step: StepId): void => {
    if (card.exercises.some((one) => one.step === step) || !findStep(program, step)) return;
    // What a shut gate keeps from him is no line to reach today.
    const upTo = brief.upTo.find((one) => one.step === step);
    const line = { count: 3, worth: "clean" as const, ...(upTo ? { rung: upTo.rung } : {}) };
    const fresh = { step, line, isNew: false, sticky: null, last: {}, isCold: false };
    onChange({ ...card, exercises: [...card.exercises, fresh] });
  };
  const list = (exercises: CardDraft["exercises"]) =>
    exercises.map((one) => (
      <Row
        key={one.step}
        exercise={one}
        why={proposed.get(one.step)}
        gate={gate}
        upTo={brief.upTo}
        shut={shutBefore(brief, one.step)?.why ?? null}
        naming={naming}
        card={card}
        onChange={onChange}
      />
    ));
  return (
    <section aria-label="Today" className="card">
      <h2 className="text-xl">Check cold</h2>
      {cold.length === 0 ? (
        <p className="text-faint">Nothing of his is steady yet, or all of it is fresh.</p>
      ) : (
        <ul aria-label="Check cold">{list(cold)}</ul>
      )}
      <h2 className="mt-3 text-xl">At the edge</h2>
      <p className="text-sm text-faint">
        What counts as enough today, said before the start. What stands in behind another piece may be tried once that
        is good today: {program.judge.enoughAsks} clean ones running, on every side.
      </p>
      {edge.length === 0 ? (
        <p className="text-faint">No step is open to him; choose one, or let him be.</p>
      ) : (
        <ul aria-label="At the edge">{list(edge)}</ul>
      )}
      <label className="mt-2 block font-semibold" htmlFor="add-step">
        Another step
      </label>
      <select id="add-step" className="field" value="" onChange={(event) => add(event.target.value)}>
        <option value="">choose …</option>
        {program.steps.map((step) => (
          <option key={step.id} value={step.id}>
            {nameIn(step, words)}
            {shutBefore(brief, step.id) && " (its gate is shut)"}
          </option>
        ))}
      </select>
    </section>
  );
}

interface RowProps {
  exercise: CardDraft["exercises"][number];
  why: Proposed | undefined;
  gate: string | null;
  upTo: Brief["upTo"];
  /** Why a gate before it is shut; null where none is. */
  shut: Brief["shut"][number]["why"] | null;
  naming: Naming;
  card: CardDraft;
  onChange: (card: CardDraft) => void;
}

function Row({ exercise, why, gate, upTo, shut, naming, card, onChange }: RowProps) {
  const { step: id, line } = exercise;
  const step = findStep(naming.program, id);
  if (!step) return null;
  const name = nameIn(step, naming.words);
  const phaseWords = phaseWordsOf(naming.program);
  const said = why ? whyInWords(why, gate, naming, upTo) : upToInWords(upTo, id, naming.program, naming.words);
  const waits = waitsInWords(exercise.after, naming.program, naming.words);
  const count = (by: number): void =>
    onChange(withLine(card, id, { count: Math.min(COUNT_MOST, Math.max(1, line.count + by)) }));
  return (
    <li
      className={clsx(
        "border-b border-line/60 py-2",
        waits !== null && "border-l-3 border-l-pine/40 pl-3",
        shut && "border-l-3 border-l-resin pl-3",
      )}
    >
      <div className="flex items-center justify-between gap-2">
        <div>
          <b>{name}</b>
          {shut && (
            <span className="block text-sm font-semibold text-resin">
              {findingInWords(shut, naming.program)} In the pen it wants a reason.
            </span>
          )}
          {waits !== null && <span className="block text-sm font-semibold text-pine">{waits}</span>}
          {said && <span className="block text-sm text-faint">{said}</span>}
        </div>
        <button
          type="button"
          className="flex size-11 shrink-0 cursor-pointer items-center justify-center rounded hover:text-clay"
          aria-label={`Not today: ${name}`}
          onClick={() => onChange({ ...card, exercises: card.exercises.filter((one) => one.step !== id) })}
        >
          <X size={18} aria-hidden="true" />
        </button>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <span className="flex items-center gap-2">
          <Less label={`Fewer: ${name}`} onClick={() => count(-1)} />
          <span aria-live="polite">{lineInWords(line, step, naming.program)}</span>
          <More label={`More: ${name}`} onClick={() => count(1)} />
        </span>
        {!exercise.isCold && step.standard.phase !== null && (
          <select
            className="field w-auto"
            aria-label={`At most, for ${name}`}
            value={line.phase ?? ""}
            onChange={(event) => {
              const { phase: _before, ...rest } = line;
              const chosen = event.target.value;
              const next = chosen === "" ? rest : { ...rest, phase: Number(chosen) as Phase };
              onChange({
                ...card,
                exercises: card.exercises.map((one) => (one.step === id ? { ...one, line: next } : one)),
              });
            }}
          >
            <option value="">standard: {phaseWords[step.standard.phase]}</option>
            {PHASES.filter((phase) => phase !== step.standard.phase).map((phase) => (
              <option key={phase} value={phase}>
                at most {phaseWords[phase]}
              </option>
            ))}
          </select>
        )}
      </div>
    </li>
  );
}
