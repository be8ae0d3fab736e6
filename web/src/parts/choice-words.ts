export { inDialect } from "@still-pine/core/programs";
import { phaseWordsOf, type Program } from "@still-pine/core/programs";
import { MOOD_WORDS } from "../marks/feel-square";

/** How big a fright was. */
export const FRIGHT_WORDS = { 1: "a flinch", 2: "a step", 3: "a jump", 4: "away" } as const;

/** A word of the vocabulary as it is spoken: "walked-off" is "walked off". */
export const plain = (word: string): string => word.replaceAll("-", " ");

/** Words beside the numbers of a scale, by field. */
const SCALES: Record<string, Record<number, string>> = {
  mood: MOOD_WORDS,
  severity: { 1: "a scare", 2: "could have hurt", 3: "hurt, or gear broken", 4: "grave" },
  size: FRIGHT_WORDS,
};

const OWN_WORDS: Record<string, string> = {
  near: "near (left)",
  off: "off (right)",
  fore: "fore leg",
  hind: "hind leg",
  "until-quiet": "held until he was quiet",
  "gone-at-the-fright": "gone at the fright",
  faced: "faced by him",
  "saddle-fit": "saddle fit",
  "two-metres": "two metres off",
  "ropes-end": "at the rope's end",
  "ten-metres": "ten metres off",
};

/** One value of a choice as a form names it; a phase in the program's words. */
export function choiceInWords(field: string, value: string | number, program: Program): string {
  const scale = field === "phase" ? phaseWordsOf(program) : SCALES[field];
  if (scale && typeof value === "number") return `${value} ${scale[value as 0] ?? ""}`.trim();
  return OWN_WORDS[value] ?? plain(String(value));
}

/** Gear that is offered while one types. */
export const GEAR = [
  "rope halter",
  "web halter",
  "lead rope",
  "14 ft rope",
  "22 ft line",
  "catching rope",
  "stick",
  "flag",
  "saddle pad",
  "blanket",
  "roller",
  "saddle",
  "snaffle",
  "long lines",
  "helmet",
  "trailer",
];
