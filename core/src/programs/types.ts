import type { Mood, Phase } from "../record/vocabulary";

/** What a step's side means: the flank worked from, the way he bends, the way he travels, or nothing. */
export type SideKind = "handler" | "bend" | "travel" | "leg" | "none";
/** What ends the pressure: the feet move, the feet stop, he gives, or he looks. */
export type Ends = "move" | "stop" | "give" | "look";

export interface Dose {
  amount: number;
  unit: "seconds" | "steps" | "metres" | "degrees";
  /** What the amount is measured at, in words, where it matters: "at 1 m". */
  at?: string;
}

export interface Standard {
  /** Heaviest phase that is still clean; null where pressure is not part of the step. */
  phase: Phase | null;
  mood: Mood;
  dose: Dose | null;
}

/** One line of what a step rests on. Any one of the steps named serves. */
export interface Need {
  anyOf: string[];
}

export interface Step {
  id: string;
  name: string;
  what: string;
  /** Shown before this step is asked, where a person can be hurt. */
  caution: string;
  side: SideKind;
  ends: Ends;
  standard: Standard;
  needs: Need[];
}

/** Numbers of the judge. Still Pine's own judgement, adjustable; not norms. */
export interface JudgeNumbers {
  /** The share of asks that must come clean. */
  share: number;
  /** How sure the record must make us of that share. */
  sure: number;
  /** An ask's weight falls to `forgetBy` for each `forgetPer` later asks in later outings. */
  forgetBy: number;
  forgetPer: number;
  /** What one ask of a remembered series counts. */
  seriesWeight: number;
  /** Different days a side must have been asked on. */
  days: number;
  /** A cold check is due after this many days for each day it was shown clean, at most `freshAtMost`. */
  freshPerDay: number;
  freshAtMost: number;
}

export interface Program {
  id: string;
  version: number;
  name: string;
  about: string;
  judge: JudgeNumbers;
  /** In catalogue order: a step never stands before one it rests on. */
  steps: Step[];
}
