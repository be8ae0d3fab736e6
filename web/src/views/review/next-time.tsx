import { useState } from "react";
import type { YardView } from "@still-pine/contract/http";
import { type Program } from "@still-pine/core/programs";
import { proposeNextTime } from "@still-pine/core/outing";
import { type EventBody, is, type StepId } from "@still-pine/core/record";
import { stepName } from "@still-pine/core/readiness/words";
import { type ReviewedOuting } from "../../writing/reviewed-outing";

interface NextTimeProps {
  reviewed: ReviewedOuting;
  yard: YardView;
  onSave: (fields: EventBody) => void;
}

const NEXT_MOST = 6;

/** What to start with next: proposed from this outing, and what the next card opens with. */
export function NextTime({ reviewed: { plan, state, events }, yard, onSave }: NextTimeProps) {
  const said = events.findLast((event) => is(event, "next-time"));
  const before = said?.steps ?? null;
  // What a person chose or typed stays, whatever is mended above; until then the proposal follows the outing.
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const steps = chosen ?? before ?? proposeNextTime(state, plan);
  const text = typed ?? said?.text ?? "";
  const { program } = plan;
  const toggle = (step: StepId): void =>
    setChosen(steps.includes(step) ? steps.filter((one) => one !== step) : [...steps, step].slice(0, NEXT_MOST));
  const offered = [...new Set([...steps, ...Object.keys(state.exercises)])];
  return (
    <section aria-label="Next time" className="card">
      <h2 className="mb-1 text-xl">Next time, start with</h2>
      <div role="group" aria-label="Steps" className="mb-2 flex flex-wrap gap-2">
        {offered.map((step) => (
          <button
            key={step}
            type="button"
            aria-pressed={steps.includes(step)}
            className="chip aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
            onClick={() => toggle(step)}
          >
            {stepName(program, step, yard.words)}
          </button>
        ))}
        <OtherStep program={program} yard={yard} offered={offered} onAdd={toggle} />
      </div>
      <label className="mb-1 block font-semibold" htmlFor="next-text">
        In words
      </label>
      <input
        id="next-text"
        className="field mb-2"
        maxLength={2000}
        value={text}
        onChange={(event) => setTyped(event.target.value)}
      />
      <button
        type="button"
        className="button"
        disabled={steps.length === 0 && text.trim() === ""}
        onClick={() => onSave({ type: "next-time", steps, ...(text.trim() ? { text: text.trim() } : {}) })}
      >
        {said ? "Change it" : "Keep it for the next card"}
      </button>
      {said && <span className="ml-3 text-faint">It stands on the next card.</span>}
    </section>
  );
}

interface OtherStepProps {
  program: Program;
  yard: YardView;
  offered: readonly string[];
  onAdd: (step: StepId) => void;
}

function OtherStep({ program, yard, offered, onAdd }: OtherStepProps) {
  return (
    <select
      aria-label="Another step for next time"
      className="field w-auto"
      value=""
      onChange={(event) => event.target.value && onAdd(event.target.value)}
    >
      <option value="">another …</option>
      {program.steps
        .filter(({ id }) => !offered.includes(id))
        .map((step) => (
          <option key={step.id} value={step.id}>
            {stepName(program, step.id, yard.words)}
          </option>
        ))}
    </select>
  );
}
