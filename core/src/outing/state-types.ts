import { type SideKey } from "../programs";
import { type EventOf, type Mood, type Phase, type StepId } from "../record";
import { type Answer } from "./answers";
import type { Row } from "../evidence";
import type { FinishLine } from "./types";

/** What an outing has come to, entry by entry. */

/** A stretch of work on one step and side. Times in milliseconds since 1970. */
export interface Spurt {
  step: StepId;
  side: SideKey;
  from: number;
  to: number;
}

/** What stands between him and more of an exercise until he has been quiet again. */
export interface Scare {
  kind: "over" | "two-tight" | "bolt" | "fright" | "scare";
  /** Tight twice belongs to a side; a fright to the exercise. */
  side: SideKey | null;
  ids: readonly string[];
  /** Good answers in a row since. */
  calm: number;
}

/** What one side of an exercise has come to today. */
export interface SideTally {
  asks: number;
  /** Of those, asked for less than the standard, or with a tool where it has to come without: they count for nothing. */
  practice: number;
  good: number;
  /** The lightest and loosest answer that was quiet; smaller is better. */
  best: number | null;
  /** Ids of the last ones that are good. */
  goodIds: readonly string[];
  /** Right answers in a row on the rung that was asked last, by its place on the ladder. */
  onRung?: { rung: number; right: number };
  /** Answers by feel: at phase × 5 + mood, or at the mood alone for a step without phases. */
  feels: readonly number[];
}

export interface ExerciseState {
  step: StepId;
  /** Times it was taken up. */
  spurts: number;
  sides: Partial<Record<SideKey, SideTally>>;
  scare: Scare | null;
  /** It had a fright today, whatever came of it. */
  scared: readonly string[];
  offers: readonly string[];
}

interface Fright {
  id: string;
  /** When it was. */
  at: number;
  size: number;
  quiet: boolean;
}

/** A gait he went into, and whether nobody asked for it and he has not come back yet. */
export interface Going {
  id: string;
  gait: EventOf<"gait">["gait"];
  at: number;
  isUnasked: boolean;
}

/** Something that ends the outing, with the entries it rests on. */
export type EndCause = "person-hurt" | "mishap" | "shut-down" | "tired" | "enough";

/** The asks of one side of what a piece of the card rests on, today. */
export interface LinkRow extends Row {
  /** Whether the first of them came clean. */
  isFirstClean: boolean;
  /** Ids of the last ones. */
  ids: readonly string[];
}

/** An outing so far. Never changed in place: an earlier one can be gone back to. */
export interface OutingState {
  /** Latest moment of any entry. */
  at: number;
  step: StepId | null;
  side: SideKey;
  /** The running spurt; null while he rests. */
  spurt: { step: StepId; side: SideKey; from: number } | null;
  /** Ended ones, earliest first. */
  spurts: readonly Spurt[];
  /** Watches that run, earliest first: each of an exercise and side, since when. */
  watches: readonly (Omit<Spurt, "to"> & { id: string })[];
  /** The gait he goes in, since an entry said so; null where none did in this exercise. */
  going: Going | null;
  /** Milliseconds of ended spurts in which the feet worked. */
  workingMs: number;
  exercises: Readonly<Record<string, ExerciseState>>;
  lines: Readonly<Record<string, FinishLine>>;
  /** Answers of the running spurt, the last few. */
  tail: readonly Answer[];
  /** The last answer before this one was the best so far. */
  isBest: boolean;
  lucky: { id: string; phase: Phase | undefined } | null;
  /** Asks in a row that were tight. */
  tightRun: readonly string[];
  /** What happened last that wants quiet answers first, and how many came since. */
  unquiet: { ids: readonly string[]; calm: number } | null;
  firstMoods: readonly Mood[];
  lastMoods: readonly { id: string; mood: Mood }[];
  moods: number;
  fright: Fright | null;
  bigFrights: readonly string[];
  ends: Partial<Record<EndCause, readonly string[]>>;
  /** The good one to end on, given when it was time to end. */
  easyDone: string | null;
  asks: number;
  /** Sides of each step on which the standard was asked, today or before. */
  standardAsked: Readonly<Record<StepId, readonly SideKey[]>>;
  /** Steps that are worked against a shut gate, with the entry that says so, and whether it says why; what is said holds for all behind that gate. */
  against: Readonly<Record<StepId, { id: string; gate: string; isSaid: boolean }>>;
  /** Asks of what pieces of the card rest on, by step, rung and side. */
  rows: Readonly<Record<string, LinkRow>>;
}
