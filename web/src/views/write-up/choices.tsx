import { useId } from "react";
import { ToggleGroup } from "radix-ui";
import { ANSWERS, SETTINGS, type Answer, type AskEvent } from "@still-pine/core/record";
import { inDialect, type Dialect, type SideKey, type Step } from "@still-pine/core/programs";
import { chipsOf } from "@still-pine/core/programs/chips";
import { FAULT_WORDS } from "@still-pine/core/programs/fault-words";
import { sideInWords } from "@still-pine/core/readiness/words";
import { plain } from "../../parts/choice-words";
import { useLadderTexts } from "../../parts/use-ladder-texts";

const ANSWER_MEANS: Record<Answer, string> = {
  gave: "did what was asked",
  tried: "right idea, not all of it",
  neutral: "neither right nor wrong",
  none: "no answer",
  against: "leaned, braced, barged, pulled",
};

const SIDE_LABELS: Partial<Record<SideKey, string>> = { near: "Near (left)", off: "Off (right)" };

/** Which side, or which leg, of those a step is asked on. */
export function SideChoice({
  sides,
  value,
  onChange,
}: {
  sides: readonly SideKey[];
  /** Null: it does not say which. */
  value: SideKey | null;
  onChange: (side: SideKey) => void;
}) {
  return (
    <div>
      <p id="side-label" className="mb-1 font-semibold">
        {sides.length > 2 ? "Leg" : "Side"}
      </p>
      <ToggleGroup.Root
        type="single"
        value={value ?? ""}
        aria-labelledby="side-label"
        className="flex flex-wrap gap-2"
        onValueChange={(side) => side && onChange(side as SideKey)}
      >
        {sides.map((side) => (
          <ToggleGroup.Item key={side} value={side} className="chip">
            {SIDE_LABELS[side] ?? sideInWords(side)}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}

export function AnswerChoice({
  legend,
  value,
  onChange,
}: {
  legend: string;
  value: Answer;
  onChange: (answer: Answer) => void;
}) {
  const id = `answer-${legend.toLowerCase().replaceAll(" ", "-")}`;
  return (
    <div>
      <p id={id} className="mb-1 font-semibold">
        {legend} <span className="font-normal text-faint">{ANSWER_MEANS[value]}</span>
      </p>
      <ToggleGroup.Root
        type="single"
        value={value}
        aria-labelledby={id}
        className="flex flex-wrap gap-2"
        onValueChange={(answer) => answer && onChange(answer as Answer)}
      >
        {ANSWERS.map((one) => (
          <ToggleGroup.Item key={one} value={one} className="chip">
            {one}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}

type How = Pick<AskEvent, "rung" | "setting" | "fault">;
/** What was chosen; null takes it back. */
export type HowChanged = { [Name in keyof How]?: How[Name] | null };

/** How it was asked and what spoiled it, as far as it means something for the step; what is not chosen is unsaid. */
export function HowChoice({
  step,
  words,
  said,
  isOfOneAsk = true,
  isFormer = false,
  onChange,
}: {
  step: Step;
  words: Dialect;
  said: How;
  /** Of a series nobody says what spoiled one of it. */
  isOfOneAsk?: boolean;
  /** It was recorded when nobody could say its rung. */
  isFormer?: boolean;
  onChange: (changed: HowChanged) => void;
}) {
  const { rungs, standard } = step.ladder;
  const { rungs: rungWords, faults } = useLadderTexts(step.id);
  const spoken = (text: string): string => inDialect(text, words);
  return (
    <>
      {rungs.length > 1 && (
        <OneOf
          legend="Rung"
          unsaid={isFormer ? undefined : "not said: counts as the smallest"}
          options={rungs.map(({ id }, place) => [
            id,
            `${spoken(rungWords[id] ?? plain(id))}${place === standard ? " · standard" : ""}`,
          ])}
          value={said.rung}
          onChange={(rung) => onChange({ rung })}
        />
      )}
      {chipsOf(step).includes("setting") && (
        <OneOf
          legend="Feet"
          unsaid={isFormer ? undefined : "not said: counts as standing"}
          options={SETTINGS.map((one) => [one, one])}
          value={said.setting}
          onChange={(setting) => onChange({ setting })}
        />
      )}
      {isOfOneAsk && faults.length > 0 && (
        <OneOf
          legend="Spoiled by"
          options={faults.map((one) => [one, spoken(FAULT_WORDS[one])])}
          value={said.fault}
          onChange={(fault) => onChange({ fault })}
        />
      )}
    </>
  );
}

function OneOf<Value extends string>({
  legend,
  unsaid = "not said",
  options,
  value,
  onChange,
}: {
  legend: string;
  /** What it means that nothing is chosen. */
  unsaid?: string | undefined;
  options: readonly (readonly [Value, string])[];
  value: Value | undefined;
  onChange: (value: Value | null) => void;
}) {
  const id = useId();
  return (
    <div>
      <p id={id} className="mb-1 font-semibold">
        {legend} {value === undefined && <span className="font-normal text-faint">{unsaid}</span>}
      </p>
      <ToggleGroup.Root
        type="single"
        value={value ?? ""}
        aria-labelledby={id}
        className="flex flex-wrap gap-2"
        onValueChange={(chosen) => onChange(options.find(([one]) => one === chosen)?.[0] ?? null)}
      >
        {options.map(([one, label]) => (
          <ToggleGroup.Item key={one} value={one} className="chip">
            {label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
