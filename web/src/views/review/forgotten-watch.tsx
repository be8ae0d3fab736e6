import { useId, useState } from "react";
import { findStep, nameIn, phaseWordsOf, type Dialect } from "@still-pine/core/programs";
import { sideInWords } from "@still-pine/core/readiness/words";
import { is, type EventBody, type EventOf, type Mood, type Phase } from "@still-pine/core/record";
import { beginLine, bodyOfPress, rungReached, timeUnit, type AskDetails } from "@still-pine/core/recording";
import type { OutingState } from "@still-pine/core/outing";
import { FeelSquare } from "../../marks/feel-square";
import { Field } from "../../parts/field";
import { Tick } from "../../parts/tick";
import type { ReviewedOuting } from "../../writing/reviewed-outing";

interface ForgottenWatchesProps {
  reviewed: ReviewedOuting;
  words: Dialect;
  onAdd: (body: EventBody, at: string) => void;
  onStrike: (id: string) => void;
}

/** Watches that were started and never ended: how long it really was nobody knows but whoever stood there. */
export function ForgottenWatches({ reviewed, words, onAdd, onStrike }: ForgottenWatchesProps) {
  return reviewed.state.watches.map((watch) => (
    <ForgottenWatch
      key={watch.id}
      watch={watch}
      reviewed={reviewed}
      words={words}
      onAdd={onAdd}
      onStrike={() => onStrike(watch.id)}
    />
  ));
}

interface ForgottenWatchProps extends Omit<ForgottenWatchesProps, "onStrike"> {
  watch: OutingState["watches"][number];
  onStrike: () => void;
}

const MS = { seconds: 1000, minutes: 60_000 } as const;

function ForgottenWatch({ watch, reviewed, words, onAdd, onStrike }: ForgottenWatchProps) {
  const id = useId();
  const [typed, setTyped] = useState("");
  const [byHorse, setByHorse] = useState(false);
  const [error, setError] = useState<string>();
  const { program } = reviewed.plan;
  const step = findStep(program, watch.step);
  const unit = step ? timeUnit(step) : null;
  const started = reviewed.events.find(
    (event): event is EventOf<"watch"> => event.id === watch.id && is(event, "watch"),
  );
  if (!step || unit === null || !started) return null;
  const side = sideInWords(watch.side);
  const end = (feel: { phase?: Phase; mood: Mood }): void => {
    const amount = Number(typed.replace(",", "."));
    if (typed.trim() === "" || !(amount >= 0 && amount <= 600))
      return setError(`Say how many ${unit} it was, from 0 to 600.`);
    const line: AskDetails = { ...beginLine(step), ...lineOf(started) };
    const rung = byHorse ? line.rung : rungReached(step, line, amount);
    const to = watch.from + amount * MS[unit];
    const body = bodyOfPress(
      { press: "watch-end", watch: watch.id, from: watch.from, unit, answer: byHorse ? "none" : "gave", ...feel },
      { step: step.id, side: watch.side, more: { ...line, ...(rung === undefined ? {} : { rung }) } },
      to,
    );
    onAdd(body, new Date(to).toISOString());
  };
  return (
    <section aria-labelledby={`${id}-title`} className="card mb-4 grid gap-3 border-2 border-clay">
      <h2 id={`${id}-title`} className="text-xl">
        {nameIn(step, words)}
        {side ? `, ${side}` : ""}: the watch was started and never ended
      </h2>
      <Field id={`${id}-long`} label={`How long was it really (${unit})`} error={error}>
        <input
          id={`${id}-long`}
          className="field"
          inputMode="decimal"
          autoComplete="off"
          aria-describedby={`${id}-long-note`}
          aria-invalid={error !== undefined}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </Field>
      <Tick label="He ended it, not the person" checked={byHorse} onChange={setByHorse} />
      <FeelSquare
        standard={step.standard}
        phaseWords={phaseWordsOf(program)}
        label="How he was at its end"
        onPress={end}
      />
      <p>
        <button type="button" className="link" onClick={onStrike}>
          It was a mistake: strike the watch out
        </button>
      </p>
    </section>
  );
}

/** What the watch said of how it was asked. */
function lineOf({ rung, setting, tool, gait, ridden, restraint, stands, reach, manner, headgear }: EventOf<"watch">) {
  const said = { rung, setting, tool, gait, ridden, restraint, stands, reach, manner, headgear };
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
}
