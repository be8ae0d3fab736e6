import type { AskDetails } from "@still-pine/core/recording";
import type { Advice, OutingState } from "@still-pine/core/outing";
import type { Answer, Mood, Phase, RecordEvent } from "@still-pine/core/record";

/** Where the feel pad was pressed. */
export interface Cell {
  phase?: Phase;
  mood: Mood;
}

/** How the last entry is kept: on its way, on the device, or in this page alone because the device has no room. */
export type Keeping = "writing" | "kept" | "page-only";

export interface Snapshot {
  state: OutingState;
  advice: Advice;
  /** The answer the next press will carry. */
  armed: Answer;
  /** The last entry, as it stands. */
  last: RecordEvent | null;
  keeping: Keeping;
  /** Entries that only this page holds. */
  pageOnly: number;
  dwellFrom: number | null;
  /** What every ask of the exercise at hand says. */
  line: AskDetails;
  isOver: boolean;
  /** What another device recorded last. */
  fromOther: RecordEvent | null;
  /** Whoever began the outing has ended it; what is still written down here counts too. */
  isEndedElsewhere: boolean;
}

/** What a session tells of. */
export interface Hooks {
  /** Entries were written to the device. */
  onWritten?: (events: readonly RecordEvent[]) => void;
  /** An entry lies on the device, or does not. */
  onKept: (event: RecordEvent, keeping: Keeping) => void;
  /** The coach's verb is another one. */
  onVerb: (advice: Advice) => void;
}

/** What a person records, and can take back. */
const ENTRIES = new Set([
  "ask",
  "sign",
  "startle",
  "offer",
  "dwell",
  "watch",
  "gait",
  "frame",
  "mishap",
  "tired",
  "enough",
  "note",
  "media",
]);

/** Whether it is something a person recorded. */
export const isEntry = (event: RecordEvent): boolean => ENTRIES.has(event.type);
