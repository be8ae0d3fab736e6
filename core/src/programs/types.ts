import type { StepId } from "../record";
import {
  HEADGEARS,
  type Care,
  type Fault,
  type Mood,
  type Phase,
  type Setting,
  type Tool,
  type Zone,
} from "../record/vocabulary";

export { HEADGEARS };

/** Stages of the road, in their order: first handling, halter and lead, getting used to things, and so on to early schooling. */
export const STAGES = [
  "first-handling",
  "halter",
  "getting-used",
  "feet",
  "line",
  "bit",
  "saddle",
  "long-reins",
  "riding",
  "schooling",
] as const;
export type Stage = (typeof STAGES)[number];

/** What a step's side means: the flank worked from, the way he bends, the way he travels, fore and hind of each side, or nothing. */
export const SIDE_KINDS = ["handler", "bend", "travel", "leg", "none"] as const;
export type SideKind = (typeof SIDE_KINDS)[number];

/** What ends the pressure: the feet move, the feet stop, he gives, or he looks. */
export const ENDS = ["move", "stop", "give", "look"] as const;
export type Ends = (typeof ENDS)[number];

/** How a step is judged: by single asks, by holding for minutes, or by whole outings. */
export const STEP_KINDS = ["moment", "hold", "outing"] as const;
export type StepKind = (typeof STEP_KINDS)[number];

export const DOSE_UNITS = ["seconds", "minutes", "steps", "metres", "degrees", "laps", "strides", "rung"] as const;
export type DoseUnit = (typeof DOSE_UNITS)[number];

/** Where else a step must have come clean once a side: a second place, a second person, standing and moving. */
export const ELSEWHERES = ["place", "person", "settings", "stretch"] as const;
export type Elsewhere = (typeof ELSEWHERES)[number];

export interface Dose {
  amount: number;
  unit: DoseUnit;
  /** What the amount is measured at, in words, where it matters: "at 1 m". */
  at?: string;
  /** The amount is the most, not the least: "within 1 m". */
  atMost?: boolean;
}

export interface Standard {
  /** Heaviest phase that is still clean; null where pressure is not part of the step. */
  phase: Phase | null;
  mood: Mood;
  dose: Dose | null;
  /** An ask that used a tool is practice: it has to be there without one. */
  withoutTool?: boolean;
  /** Seconds from the cue to the first right movement; what takes longer is late. Absent: nobody asks. */
  within?: number;
  /** A late answer is not clean. Absent: it is said, and spoils nothing. */
  lateSpoils?: boolean;
}

/** A step that another rests on; perhaps only as far as one rung, or shown in one setting, gait or at some places of the hide. */
export interface NeedRef {
  step: StepId;
  setting?: Setting;
  /** The id of a rung of its ladder; or, for a step whose dose is counted in rungs, how many of them. */
  rung?: number | string;
  parts?: readonly Zone[];
  gait?: "canter";
}

/** One line of what a step rests on: any one of the ways serves, and a way is all the steps it names. */
export interface Need {
  anyOf: readonly (readonly NeedRef[])[];
}

/**
 * What the rules have to know of a step besides its standard; a yard's own step may have them too.
 *
 * - `weight`: the first weight on his back; the age for riding counts for it and for all that rests on it
 * - `onto-him`: somebody gets onto him
 * - `canter-line`, `canter-ridden`: canter on the line, and ridden, which wait for an age
 * - `mount-place`, `lined-up`: where he is mounted, and that he brings himself to it
 * - `first-ridden`, `bridled`: the first ride, and that he wears the bridle it may be ridden in
 * - `bit-carried`, `bit-asks`: he carries the bit, and the bit asks something of him some weeks later
 * - `led`: he is led
 * - `long-reins`, `girthed`: long reins, and the first thing about his girth
 * - `flexion`: he bends his neck to one side, which schools do much, little or not at all
 * - `stop-bend`, `stop-line`, `stop-reins`: all of one kind are a stop on the ground
 */
export const STEP_MARKS = [
  "weight",
  "onto-him",
  "canter-line",
  "canter-ridden",
  "mount-place",
  "lined-up",
  "first-ridden",
  "bridled",
  "bit-carried",
  "bit-asks",
  "led",
  "long-reins",
  "girthed",
  "flexion",
  "stop-bend",
  "stop-line",
  "stop-reins",
] as const;
export type StepMark = (typeof STEP_MARKS)[number];

/** What a gate is to the rules: the one of the first ride, and those at which the stop is shown on the ground. */
export const GATE_ROLES = ["first-ride", "stop-shown"] as const;
export type GateRole = (typeof GATE_ROLES)[number];

/** What else the asks of a step say, besides rung and side, because it means something there. */
export const CHIPS = ["setting", "gait", "part", "tool", "manner", "stands", "reach", "restraint", "headgear"] as const;
export type Chip = (typeof CHIPS)[number];

/** One rung of a step's ladder. Its id is never given to another. */
export interface Rung {
  id: string;
  /** How much it is in the step's unit, where it can be measured, and at what. */
  dose?: number;
  at?: string;
}

/** How a step grows, from the smallest that can be asked; one of its rungs is the standard. */
export interface Ladder {
  rungs: readonly Rung[];
  /** Place of the standard among the rungs. */
  standard: number;
  /** What is in the hand where an ask does not say; null where it is nothing. */
  tool: Tool | null;
  /** Place of the step's own standard, where it is judged only as far as another rung. */
  own?: number;
  /** Asks of the former shape up to this instant, in ms, were made as far as the step's own standard: somebody said so. */
  inFullUntil?: number;
}

/** What a person reads of a ladder, and what spoils an answer. */
export interface LadderTexts {
  /** Each rung in words, by its id. */
  rungs: Readonly<Record<string, string>>;
  /** What spoils it, the most usual first. */
  faults: readonly Fault[];
}

export interface Step {
  id: StepId;
  stage: Stage;
  name: string;
  /** The name in a yard that uses British words, where it is another one. */
  british?: string;
  side: SideKind;
  ends: Ends;
  kind: StepKind;
  standard: Standard;
  needs: readonly Need[];
  /** What it rests on guards a person: that has to be steady before this is begun; good for today is not enough. */
  guarded: boolean;
  elsewhere: readonly Elsewhere[];
  /** Stillness is the answer here, and may hide fear: a sign of ease has to be seen. */
  still: boolean;
  /** Nothing rests on it, and nothing needs to. */
  end: boolean;
  /** Rungs of its ladder, from the first, where its dose is a rung. */
  rungs: readonly string[];
  ladder: Ladder;
  /** People it takes. */
  people: number;
  marks: readonly StepMark[];
}

/** What a person reads of a step. */
export interface StepTexts {
  synonyms: readonly string[];
  what: string;
  /** Usual faults of the handler. */
  faults: string;
  /** Odd but normal now, so that nobody over-corrects. */
  odd: string;
  caution: string;
  /** What the handler practises first without this horse. */
  drill: string;
  /** What it is worth later. */
  later: string;
  gear: readonly string[];
}

/** What a person reads of a school: for which horse, what it holds to and why, what is said against it, and how it goes. */
export interface SchoolTexts {
  forWhom: string;
  holdsTo: string;
  why: string;
  critics: string;
  firstOuting: readonly { minutes: number; what: string }[];
  weeks: readonly { weeks: string; what: string }[];
}

/** What somebody does behind a gate, the least dangerous first: handles him, ties or holds or harnesses him with force, sits on him. */
export const GATE_KINDS = ["handling", "force", "rider"] as const;
export type GateKind = (typeof GATE_KINDS)[number];

/** A moment where someone can get hurt or a body harmed. */
export interface Gate {
  id: string;
  name: string;
  british?: string;
  /** How strict the judge is with its steps. */
  kind: GateKind;
  roles: readonly GateRole[];
  /** The steps it stands before; it is behind the horse once they are steady. */
  before: readonly string[];
  /** Or the care it stands before; behind him once that was given after its steps were steady. */
  beforeCare?: Care;
  needs: readonly Need[];
  /** Asked besides, where what it stands before is ridden. */
  ridden?: { before: readonly string[]; needs: readonly Need[] };
}

/** Numbers of the judge. Still Pine's own judgement, adjustable; not norms. Each rule of docs/judge.md names its own. */
export interface JudgeNumbers {
  /** Rule 1: the share of asks that must come clean. */
  share: number;
  /** Rule 1: how sure the long record must make us of that share. Weights that sum to five are just enough for 0.80: 1 − 0.75⁶ = 0.822. */
  sure: number;
  /** Rule 1 for the steps of a gate of force or of a rider, and for those of a handling gate. */
  gateSure: number;
  handlingSure: number;
  /** Rule 1: how sure the last asks alone must make us when the word is earned. */
  latelySure: number;
  /** Rule 1: under so much of what the last asks say the word is lost. */
  lostUnder: number;
  /** Rule 1: an ask's weight falls to `forgetBy` for each `forgetPer` of later weight in later outings; in the long record for each `longPer`. */
  forgetBy: number;
  forgetPer: number;
  longPer: number;
  /** Rule 1: in the long record a day's first ask of a side weighs 1, and each later one so much: asks of one day hang together. */
  laterAsks: number;
  /** Rule 1: what one ask of a remembered series counts. */
  seriesWeight: number;
  /** Rule 1 for holds and outing steps: clean on so many days, and no miss in the last so many; lost by so many misses among those. */
  holdDays: number;
  holdMisses: number;
  /** Rule 3: different days a side must have been asked on; those of the steps of a handling gate, of a gate of force, of a rider's. */
  days: number;
  handlingDays: number;
  gateDays: number;
  riderDays: number;
  /** Rule 3: so many of the last cold asks must be clean; so many missed running, and the word is lost. */
  colds: number;
  coldsLost: number;
  /**
   * Rule 3 for the steps of a rider's gate: the first asks of the days alone, their weight falling to `firstBy` with each day. How sure they
   * must make us when the word is earned, and under what it is lost.
   */
  firstBy: number;
  firstSure: number;
  firstLost: number;
  /**
   * Enough for today: so many of the last asks of a side running clean; `enoughAfterMany` where more than `enoughMany` were asked in that
   * outing; or its last outing ended so, at most `enoughDays` ago. So many links of a chain may stand on that.
   */
  enoughAsks: number;
  enoughMany: number;
  enoughAfterMany: number;
  enoughDays: number;
  trustLinks: number;
  /** Before a gate: a key ask that was missed today is mended by so many clean ones, and so many of them may be. */
  mendAsks: number;
  mendedMost: number;
  /** Rules 4 and 5: how many outings back they look; the word is lost where so many of those were not quiet. */
  recent: number;
  tightLost: number;
  /** Rule 6: so many places and people, where they are asked for. */
  places: number;
  people: number;
  /** Rule 7: a cold check is due after this many days for each day it was shown clean, at most `freshAtMost`; for a gate's steps after `gateFresh`. */
  freshPerDay: number;
  freshAtMost: number;
  gateFresh: number;
  /**
   * After so many days without an outing it was a break: a horse that was ridden is then ridden again only after one outing on the ground for
   * each `groundPer` days away, `groundMost` at the most, and with all that the first ride asks for clean cold.
   */
  breakDays: number;
  groundPer: number;
  groundMost: number;
  /** A check that falls due within so many days is named beforehand. */
  soonDays: number;
  /** A gap between the sides is named from this difference in the share of clean asks, with so many asks on each. */
  gapAtLeast: number;
  gapAsks: number;
  /** A corner of the feel square is named from so many answers in it in the last outings, and this share of them. */
  cornerAtLeast: number;
  cornerShare: number;
  /** Force creep is named when the mean phase rose in each of so many outings running, by so much in all. */
  creepOutings: number;
  creepRise: number;
  /** He anticipates from so many offers within the last outings. */
  offersAtLeast: number;
}

/** What the coach in the pen goes by, where schools differ. */
export interface CoachSettings {
  /** After so many seconds on one thing a quiet sign says to change; null where the school stays with one ask. */
  spurtSeconds: number | null;
  /** An exercise comes back so often in an outing; null without such a number. */
  spurtsMost: number | null;
  /** What to do with an ask that gets no answer while he is quiet. */
  stuck: "angle" | "smaller" | "wait" | "more" | "aim";
  /** What to do while he is frightened. */
  fright: "keep-on" | "keep-hand" | "when-still" | "smaller" | "touch-stays" | "again";
  /** Whether a first try is built on in the outing of the first or second meeting. */
  firstDay: "no-more" | "build";
  /** Whether standing with him grows within an outing. */
  standing: "grows" | "stays";
  /** The sticky side gets so many asks for each of the other. */
  stickyShare: number;
  /** So many asks more on one side before the other is missed. */
  spareAsks: number;
  /** A card has so many pieces besides its cold checks, and so many of them quite new to him. */
  pieces: number;
  newPieces: number;
}

export const PRESSURES = ["phases", "rhythm", "nearness", "none", "gentle", "scale", "tap"] as const;
export const REWARDS = ["rest", "rub", "leave", "mark-food", "scratch", "walk-break"] as const;
export const LEADS = ["behind", "shoulder", "beside"] as const;
export const BEGINS = ["sticky", "soft", "by-turns"] as const;
export const FIRST_MOUNTS = ["fence", "leg-up", "block"] as const;
export const FIRST_RIDES_IN = ["halter", "snaffle"] as const;

/** How a school goes about things, where schools differ. `null` where its road does not come so far. */
export interface Ways {
  /** How pressure grows, and the words for its phases. */
  pressure: (typeof PRESSURES)[number];
  /** The heaviest phase it uses at all. */
  pressureMost: Phase;
  /** What tells him that it was right. */
  reward: (typeof REWARDS)[number];
  /** Where the person goes when leading. */
  lead: (typeof LEADS)[number] | null;
  headgear: (typeof HEADGEARS)[number];
  /** The side an exercise begins on. */
  begin: (typeof BEGINS)[number];
  /** How a person comes up the first time. */
  firstMount: (typeof FIRST_MOUNTS)[number] | null;
  firstRidesIn: (typeof FIRST_RIDES_IN)[number] | null;
  /** Two eyes on the person before an ask. */
  twoEyes: boolean;
  /** Quarters towards the person are never let stand, or are not minded. */
  quarters: "never" | "not-minded";
  /** Weeks he carries the bit before it asks anything of him. */
  contactWeeks: number | null;
  /** Months of age before canter on the line, and before somebody sits on him. */
  canterMonths: number | null;
  ridingMonths: number | null;
}

/** A program as something names it; perhaps in one of its versions. */
export interface NamedProgram {
  id: string;
  version?: number | undefined;
}

export interface Program {
  id: string;
  version: number;
  /** The edition of the catalogue it goes by. */
  catalogue: number;
  name: string;
  about: string;
  judge: JudgeNumbers;
  coach: CoachSettings;
  ways: Ways;
  /** In the order of the road. */
  steps: readonly Step[];
  gates: readonly Gate[];
  /** The steps of this program's stop. */
  stop: readonly string[];
  /** Steps that stand beside this program's road: worth having, and nobody waits for them. */
  optional: readonly string[];
  /** Steps of the yard's other programs, to name what a horse did under them. */
  elsewhere?: readonly Step[];
  /** It was named, and is not here: nothing is judged or proposed by it. */
  isUnknown?: true;
}
