import type { StepId } from "../record";
import type { Program, SideKey } from "../programs";
import type { Base, ShutGate, UpTo } from "../readiness/types";
import type { Found, Test } from "../checkup/types";
import type { Mood, Phase } from "../record/vocabulary";

/** What counts as enough of one exercise today: so many answers of that worth, on every side. */
export interface FinishLine {
  count: number;
  /** `tried`: a first hint is enough, for something new. */
  worth: "clean" | "tried";
  /** Heaviest phase that counts today, where it is not the standard's. */
  phase?: Phase;
  /** Id of the rung that counts today, where it is below the standard's. */
  rung?: string;
  /** Dose that counts today, in the step's unit, where it is not the standard's. */
  dose?: number;
}

/** How one side of a step was the last time: its answers, and their usual feel. */
export interface LastTime {
  asks: number;
  clean: number;
  phase: Phase | null;
  mood: Mood;
}

/** One exercise of an outing, as planned. */
export interface Exercise {
  step: StepId;
  line: FinishLine;
  /** The first or second outing in which he meets it. */
  isNew: boolean;
  /** The side that needs more, where one does. */
  sticky: "near" | "off" | null;
  /** The side to begin on, where the program says so. */
  begin?: "near" | "off";
  /** Id of the rung each side begins on; the smallest where none is named. */
  from?: Partial<Record<SideKey, string>>;
  /** Sides on which the standard was asked before today: a miss of less is one of it too. */
  asked?: readonly SideKey[];
  /** What it rests on: it waits until what does not stand by itself is good today, and goes back behind what is missed today. */
  after?: readonly Base[];
  last: Partial<Record<SideKey, LastTime>>;
}

/** Minutes for a horse of this age: with the feet working, and in hand altogether. */
export interface Caps {
  workingMinutes: number;
  inHandMinutes: number;
}

/** What an outing sets out with; its events say the rest. */
export interface OutingPlan {
  program: Program;
  startedAt: string;
  exercises: readonly Exercise[];
  /** Steps he knows: to check cold, and to end on. */
  known: readonly string[];
  /** As far as which rung a step may be worked today, where a gate within its ladder is shut. */
  upTo?: readonly UpTo[];
  /** What shut gates hold back today: it may be worked against the gate, with a reason, never in silence. */
  shut?: readonly ShutGate[];
  caps: Caps;
  /** Where the outing is a check-up: its tests in their order, and what was known before. */
  checkUp?: CheckUpCourse;
}

export interface CheckUpCourse {
  tests: readonly Test[];
  known: readonly (readonly [step: StepId, found: Found])[];
}

/** Weakest first: of several the last one that applies is said. */
export const VERBS = ["go-on", "stay", "go-back", "leave", "finish"] as const;
export type Verb = (typeof VERBS)[number];

export const REASONS = {
  finish: [
    "person-hurt",
    "mishap",
    "shut-down",
    "easy-done",
    "tired",
    "frights",
    "cap",
    "falling",
    "enough",
    "check-done",
  ],
  leave: [
    "opens",
    "line",
    "line-side",
    "gate",
    "better",
    "best",
    "spurts",
    "check-holds",
    "check-hole",
    "check-side",
    "check-off",
  ],
  "go-back": [
    "past-gate",
    "behind-gate",
    "base-first",
    "over",
    "two-tight",
    "bolt",
    "fright",
    "scare",
    "two-against",
    "rising",
    "too-much",
    "end-good",
  ],
  stay: [
    "fright-now",
    "reacts",
    "not-quiet",
    "close",
    "stuck",
    "tried",
    "missed",
    "dull",
    "heavy",
    "lighter",
    "lucky",
    "two-increases",
    "anticipates",
    "calm-first",
    "after-over",
    "new",
    "check-again",
    "check-twice",
  ],
  "go-on": ["other-side", "start", "clean", "check-start"],
} as const satisfies Record<Verb, readonly string[]>;
export type Reason = (typeof REASONS)[Verb][number];

/** The coach's word, with its one reason and the entries that reason rests on. */
export interface Advice {
  verb: Verb;
  reason: Reason;
  /** Ids of entries, earliest first. */
  evidence: readonly string[];
  /** The side to go to, where the reason names one. */
  side?: SideKey;
  /** The step to go to, where the reason names one. */
  step?: StepId;
  /** Id of the rung of the exercise's ladder to go to, where less or more of it is next. */
  rung?: string;
  /** Id of the gate the reason names. */
  gate?: string;
  /** A number the reason names: minutes, answers. */
  have?: number;
  need?: number;
}
