import type { Day, Setting, StepId } from "../record";
import type { Finding, FindingOf, FindingCode } from "./findings";
import type { Status } from "./statuses";
import type { SideKey } from "../programs";

export type { SideKey };
export type { Finding, FindingCode, FindingOf } from "./findings";
export { STATUSES, type Status } from "./statuses";

export interface SideJudgement {
  status: Status;
  /** Summed weights of clean asks and of misses, by what the last asks say. */
  weightClean: number;
  weightNot: number;
  /** The same by the long record. */
  longClean: number;
  longNot: number;
  /** Probability that at least the asked share comes clean, by the long record. */
  sure: number;
  /** The same by what the last asks say. */
  lately: number;
  /** Different days of the yard on which this side was asked and it counted. */
  days: number;
  lastClean: Day | null;
  /** Outings in which it was asked at all, practice too. */
  outings: number;
  /** When the standard, or more, was first asked of it. */
  standardAsked: string | null;
}

/** Asks of a step that could not say their rung, and say too little to count for its standard. */
export interface FormerAsks {
  asks: number;
  from: Day;
  to: Day;
}

/** The same with their step and the rung that is its standard. */
export interface FormerAsksOf extends FormerAsks {
  step: StepId;
  rung: string;
}

export interface OpenAction {
  code: FindingCode;
  side?: SideKey;
  count?: number;
  /** About how many quiet outings of three or four clean asks that is, where it takes more than one. */
  outings?: number;
  /** The step meant, where it is another one. */
  step?: StepId;
  /** What exactly: a place, a person, standing or moving, a rung, a place of the hide. */
  what?: string;
  text: string;
}

export interface Judgement {
  step: StepId;
  status: Status;
  held: boolean;
  sides: Partial<Record<SideKey, SideJudgement>>;
  findings: Finding[];
  /** The least that would make it steady; empty when it is. */
  toOpen: OpenAction[];
  /** The last day on which it was asked. */
  lastAsked: Day | null;
  /** Every side is good for today: what rests on it may be tried. Said only where it is so. */
  goodToday?: true;
  /** Where it is begun and not steady: what it rests on that is not steady either. Said only where there is any. */
  standsOn?: readonly OnTrust[];
}

/** What a step was begun on that is not steady itself. */
export interface OnTrust {
  step: StepId;
  status: Status;
  /** Whether it is good today. */
  good: boolean;
}

/** A gate as far as the record shows it: its steps. The body, the care and the day itself come on top. */
export interface GateJudgement {
  gate: string;
  /** What it stands before is steady already. */
  behind: boolean;
  /** Whether every step it asks for is steady. */
  met: boolean;
  needs: { anyOf: string[]; met: boolean; status: Status }[];
}

/** Why a step is named next, the most pressing first; the last two are of cold checks. */
export const NEXT_REASONS = [
  "slipped",
  "base",
  "gate",
  "longest",
  "untried",
  "smaller",
  "beside",
  "bit-weeks",
  "too-young",
  "held",
  "back",
  "rusty",
  "soon",
] as const;

/** What a step rests on, as far as a day needs it: the step, and the rung it is needed to where not all of it is. */
export interface Base {
  step: StepId;
  rung?: string | number;
  /** Whether it stands by itself: steady, or a person lets go on from it. Else it has to be good today. */
  stands: boolean;
  /** Sides of which one clean first ask makes it good today: their last outing ended so. */
  waits: readonly SideKey[];
}

/** One step to work on, or to check cold, and why. */
export interface NextStep {
  step: StepId;
  status: Status;
  reason: (typeof NEXT_REASONS)[number];
  /** The gate that needs it next, or that stands within its ladder. */
  gate?: string;
  /** Days since it was last asked, until its check is due, or until the bit has been carried long enough. */
  days?: number;
  /** Months of age this program waits for. */
  months?: number;
  /** What it rests on and stands on for today alone: good today, not yet steady. */
  onTrust?: readonly StepId[];
  /** What it rests on. */
  after?: readonly Base[];
}

/** As far as which rung a step may be worked: a gate that is not open stands before the next one. */
export interface UpTo {
  step: StepId;
  /** Id of the last rung before the gate. */
  rung: string;
  gate: string;
}

/** Steps on the far side of a shut gate, and why it is shut. */
export interface ShutGate {
  gate: string;
  why: FindingOf<"gate-shut">;
  steps: readonly StepId[];
}

export interface WhatNext {
  /** The edge: what rests on steady steps and is not steady itself, the most pressing first. */
  work: NextStep[];
  /** What may be begun, or gone on with, once what it rests on is good today, in the order of the road. */
  follow: NextStep[];
  /** Steps whose smaller rungs alone may be worked. */
  upTo: UpTo[];
  /**
   * Days of a break that is not over: he is away, or what he knew has not all come clean cold since he is back, in the order of the road from
   * the ground up. Null where there was none.
   */
  breakDays: number | null;
  /** What a shut gate holds back today: nothing that proposes names it, and who picks it by hand is told. */
  shut: ShutGate[];
  /** What is rusty or soon will be. */
  checkCold: NextStep[];
  /** The next gate on his road; null behind the last one. */
  gate: string | null;
}

/** The least clean work on one side after which it meets every rule but what it rests on. */
export interface LeastWork {
  /** Clean asks in all. */
  asks: number;
  /** Days they take, one outing at least on each. */
  days: number;
  /** Outings they take where each has three or four clean asks. */
  outings: number;
  /** They begin on another day than the last one worked, which is today. */
  later: boolean;
  /** Rules of 1, 3, 4 and 5 that are not met now. */
  missing: readonly FindingCode[];
  /** Further places and people it has to be shown with, settings, and whether a sign of ease has to be seen. */
  places: number;
  people: number;
  settings: readonly Setting[];
  stretch: boolean;
  ease: boolean;
}
