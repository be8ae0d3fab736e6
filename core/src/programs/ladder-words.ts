import type { StepId } from "../record";
import words from "./catalogue/ladder-words.json" with { type: "json" };
import type { LadderTexts } from "./types";

/** JSON has no literal types; a test holds it to the vocabulary. */
const TEXTS = words as unknown as Readonly<Record<string, Partial<LadderTexts>>>;
const NOTHING: LadderTexts = { rungs: {}, faults: [] };

/** What a person reads of a step's ladder; nothing of a step of somebody's own program. */
export const ladderTextsOf = (step: StepId): LadderTexts =>
  Object.hasOwn(TEXTS, step) ? { ...NOTHING, ...TEXTS[step] } : NOTHING;

/** A rung of a step of the catalogue in words, such as `30 seconds at 1 m`; its id where nobody knows it. */
export const rungInWords = (step: StepId, rung: string): string => ladderTextsOf(step).rungs[rung] ?? rung;
