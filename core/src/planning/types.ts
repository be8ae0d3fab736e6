import type { Caps, Exercise } from "../outing";
import type { AskEvent, Day, Fault, Setting, Side, Sign, StepId } from "../record";
import type { FindingOf, NextStep, ShutGate, UpTo } from "../readiness";
import type { SideKey } from "../programs";

/** An exercise the brief proposes, and why. */
export interface Proposed extends Exercise {
  /** `again`: what the last outing said to start with. */
  why: NextStep["reason"] | "again" | "cold";
  /** Different days on which it was asked and it counted, its most asked side. */
  days: number;
  /** Outings in which it was asked at all. */
  outings: number;
}

export interface WeakSide {
  step: StepId;
  side: SideKey;
  good: number;
  asks: number;
}

/** Something that worried him, as often as it did. */
export type Worry =
  | { kind: "startle"; thing: string | null; size: number }
  | { kind: "mishap"; what: string; severity: number }
  | { kind: "against-gate"; step: StepId; gate: string; reason: string | null }
  | { kind: "tight"; step: StepId; side: SideKey; times: number; over: boolean };

/** What went before a good answer after a poor one, or a sign of ease. */
export type Help =
  | { kind: "ease"; step: StepId; sign: Sign }
  | { kind: "smaller" | "other-tool" | "came-back" | "waited"; step: StepId; side: SideKey }
  | { kind: "setting"; step: StepId; side: SideKey; setting: Setting };

/** A habit that was there before, and may come back after a break. */
export type OldHabit =
  | { kind: "fault"; step: StepId; fault: Fault; times: number }
  | { kind: "startle"; thing: string }
  | { kind: "caught"; how: string; seconds: number | null };

export interface LastOuting {
  id: string;
  day: Day;
  daysAgo: number;
  minutes: number;
  place: string | null;
  handler: string | null;
  caught: string | null;
  caughtSeconds: number | null;
  /** Nobody ended it: it was closed by itself. */
  unended: boolean;
  lastAsk: (Pick<AskEvent, "step" | "answer" | "phase" | "mood"> & { side?: Side }) | null;
  weak: WeakSide[];
  worries: Worry[];
  helped: Help[];
  notes: string[];
}

/** A step that is not proposed: a gate before it is shut, or the program waits for so many months of age. */
export interface HeldBack {
  step: StepId;
  why: FindingOf<"gate-shut"> | null;
  months?: number;
}

/** What to know before going in. Days are the yard's; minutes and seconds as named. */
export interface Brief {
  /** Which outing this one will be: the day of work, and the calendar day since the first. */
  workDay: number;
  calendarDay: number;
  last: LastOuting | null;
  /** What the last outing said of this one. */
  nextTime: {
    steps: string[];
    text: string | null;
    /** Of those, what is not on the card. */
    heldBack: HeldBack[];
  } | null;
  /** After a break only. */
  oldHabits: OldHabit[];
  breakDays: number | null;
  /** What the last review chose and is not on the card, as it would stand there: for who writes up that it was worked all the same. */
  heldBack: Proposed[];
  checkCold: Proposed[];
  edge: Proposed[];
  /** As far as which rung a step may be worked today, where a gate within its ladder is shut. */
  upTo: UpTo[];
  /** What shut gates hold back today. */
  shut: readonly ShutGate[];
  /** Minutes for his age; where he was out earlier today, what is left of them, and what that took. `look`: what is to be looked at. */
  caps: Caps & { name: string; look?: string; earlier?: { working: number; inHand: number } };
  /** How long outings of late were, in minutes; null before the first. */
  usualMinutes: number | null;
}
