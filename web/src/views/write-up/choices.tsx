import { ToggleGroup } from "radix-ui";
import { ANSWERS, type Answer } from "@still-pine/core/record";
import type { SideKey } from "@still-pine/core/programs";
import { sideInWords } from "@still-pine/core/readiness/words";

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
