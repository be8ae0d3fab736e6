import { ToggleGroup } from "radix-ui";
import { ANSWERS, type Answer } from "@still-pine/core/record";

const ANSWER_MEANS: Record<Answer, string> = {
  gave: "did what was asked",
  tried: "right idea, not all of it",
  neutral: "neither right nor wrong",
  none: "no answer",
  against: "leaned, braced, barged, pulled",
};

export function SideChoice({ value, onChange }: { value: "near" | "off"; onChange: (side: "near" | "off") => void }) {
  return (
    <div>
      <p id="side-label" className="mb-1 font-semibold">
        Side
      </p>
      <ToggleGroup.Root
        type="single"
        value={value}
        aria-labelledby="side-label"
        className="flex gap-2"
        onValueChange={(side) => side && onChange(side as "near" | "off")}
      >
        <ToggleGroup.Item value="near" className="chip">
          Near (left)
        </ToggleGroup.Item>
        <ToggleGroup.Item value="off" className="chip">
          Off (right)
        </ToggleGroup.Item>
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
