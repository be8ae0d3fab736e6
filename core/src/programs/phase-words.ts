import type { Phase } from "../record/vocabulary";
import type { Program, Ways } from "./types";

export type PhaseWords = Readonly<Record<Phase, string>>;

/** What each phase is called, from a thought to the most there is; the scale is the same everywhere, what is done on it is not. */
const BY_PRESSURE: Record<Ways["pressure"], PhaseWords> = {
  phases: { 0: "thought", 1: "hint", 2: "ask", 3: "press", 4: "firm" },
  rhythm: { 0: "thought", 1: "stroke", 2: "rhythm", 3: "firmer", 4: "too firm" },
  nearness: { 0: "far off", 1: "coming", 2: "near", 3: "close", 4: "crowding" },
  none: { 0: "signal", 1: "hint", 2: "pushing", 3: "pressed", 4: "forced" },
  gentle: { 0: "thought", 1: "hint", 2: "feel", 3: "strong", 4: "hard" },
  scale: { 0: "cue", 1: "light", 2: "rise", 3: "tap", 4: "beyond" },
  tap: { 0: "voice", 1: "leg", 2: "again", 3: "tap", 4: "hard tap" },
};

/** The words of a program for the five phases of pressure. */
export const phaseWordsOf = ({ ways }: Pick<Program, "ways">): PhaseWords => BY_PRESSURE[ways.pressure];
