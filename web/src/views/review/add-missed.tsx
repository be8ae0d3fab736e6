import { useState } from "react";
import {
  findStep,
  nameIn,
  phaseWordsOf,
  sidesOf,
  type Dialect,
  type Program,
  type SideKey,
} from "@still-pine/core/programs";
import type { Answer, BodyOf, EventBody, StepId } from "@still-pine/core/record";
import { FeelSquare } from "../../marks/feel-square";
import { clockOf } from "../../pen/words";
import { bodyOfPress } from "@still-pine/core/recording";
import { AnswerChoice, HowChoice, SideChoice, type HowChanged } from "../write-up/choices";
import type { ReviewedOuting } from "../../writing/reviewed-outing";

interface AddMissedProps {
  reviewed: ReviewedOuting;
  words: Dialect;
  onAdd: (body: EventBody, at: string) => void;
}

/** An ask that was not recorded: when, which step and side, and one press for its feel. */
export function AddMissed({ reviewed, words, onAdd }: AddMissedProps) {
  const { plan, state, endedAt } = reviewed;
  const start = Date.parse(plan.startedAt);
  // The last second may be a part of one: what is put to the end comes after all that was recorded.
  const most = Math.max(1, Math.ceil((endedAt - start) / 1000));
  const [seconds, setSeconds] = useState(most);
  const worked = Object.keys(state.exercises);
  const [stepId, setStep] = useState(worked[0] ?? plan.program.steps[0]?.id ?? "");
  const [wanted, setSide] = useState<SideKey>("near");
  const [answer, setAnswer] = useState<Answer>("gave");
  const [line, setLine] = useState<HowChanged & { step: StepId }>({ step: stepId });
  const step = findStep(plan.program, stepId);
  const how = saidOf(line.step === stepId ? line : {});
  const sides = step ? sidesOf(step) : [];
  const side = sides.includes(wanted) ? wanted : (sides[0] ?? "none");
  return (
    <details className="card">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold text-pine">Add an ask that was missed</summary>
      <div className="grid gap-3">
        <label className="font-semibold">
          When: {clockOf(seconds)} into the outing
          <input
            type="range"
            min={0}
            max={most}
            value={Math.min(seconds, most)}
            className="block min-h-11 w-full accent-pine"
            onChange={(event) => setSeconds(Number(event.target.value))}
          />
        </label>
        <StepSelect program={plan.program} first={worked} words={words} value={stepId} onChange={setStep} />
        {sides.length > 1 && <SideChoice sides={sides} value={side} onChange={setSide} />}
        <AnswerChoice legend="Its answer" value={answer} onChange={setAnswer} />
        {step && (
          <HowChoice
            step={step}
            words={words}
            said={how}
            onChange={(changed) => setLine({ step: stepId, ...how, ...changed })}
          />
        )}
        {step && (
          <FeelSquare
            standard={step.standard}
            phaseWords={phaseWordsOf(plan.program)}
            label="Add the ask"
            onPress={(feel) => {
              const at = Math.min(endedAt, start + seconds * 1000);
              onAdd(
                bodyOfPress({ press: "ask", answer, ...feel }, { step: stepId, side, more: saidOf(how) }, at),
                new Date(at).toISOString(),
              );
              setAnswer("gave");
            }}
          />
        )}
      </div>
    </details>
  );
}

/** What was chosen; what is not is unsaid. */
function saidOf({ rung, setting, fault }: HowChanged): Partial<Pick<BodyOf<"ask">, "rung" | "setting" | "fault">> {
  return { ...(rung ? { rung } : {}), ...(setting ? { setting } : {}), ...(fault ? { fault } : {}) };
}

interface StepSelectProps {
  program: Program;
  /** Offered first. */
  first: readonly string[];
  words: Dialect;
  value: string;
  onChange: (step: StepId) => void;
}

function StepSelect({ program, first, words, value, onChange }: StepSelectProps) {
  const rest = program.steps.filter((step) => !first.includes(step.id));
  const known = first.flatMap((id) => findStep(program, id) ?? []);
  return (
    <label className="font-semibold">
      Step
      <select className="field font-normal" value={value} onChange={(event) => onChange(event.target.value)}>
        {[...known, ...rest].map((step) => (
          <option key={step.id} value={step.id}>
            {nameIn(step, words)}
          </option>
        ))}
      </select>
    </label>
  );
}
