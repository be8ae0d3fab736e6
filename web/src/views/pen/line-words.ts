import type { Chip } from "@still-pine/core/programs";

/** What a chip asks while it says nothing. */
export const CHIP_QUESTIONS: Record<Chip, string> = {
  setting: "standing or moving?",
  gait: "how does he go?",
  part: "where on him?",
  tool: "with what?",
  manner: "still or in a rhythm?",
  stands: "where do you stand?",
  reach: "how far off?",
  restraint: "loose or tied?",
  headgear: "what is on his head?",
};

const SHORT: Record<string, string> = {
  none: "nothing in hand",
  still: "held still",
  rhythm: "in a rhythm",
  beside: "you beside",
  front: "you in front",
  behind: "you behind",
  "at-him": "at him",
  "two-metres": "2 m off",
  "ropes-end": "rope's end",
  "ten-metres": "10 m off",
  rope: "on a rope",
};

/** What a chip says, as short as it fits on it. */
export function chipInWords(chip: Chip, value: string | undefined): string {
  if (value === undefined) return CHIP_QUESTIONS[chip];
  if (value === "rope" && chip !== "restraint") return "rope";
  return SHORT[value] ?? value.replaceAll("-", " ");
}
