import type { Day, Side } from "../record";

export type Status = "untried" | "begun" | "coming" | "slipped" | "rusty" | "steady";

/** Weakest first; a step's word is that of its weaker side. */
export const STATUSES: readonly Status[] = ["untried", "begun", "coming", "slipped", "rusty", "steady"];

export type FindingCode =
  | "clean-share"
  | "both-sides"
  | "different-days"
  | "cold-asks"
  | "relaxed"
  | "light"
  | "elsewhere"
  | "fresh"
  | "rests-on"
  | "force-creep"
  | "reacts"
  | "dull"
  | "braced"
  | "shut-down"
  | "side-gap"
  | "not-proven-relaxed"
  | "cold-check-due"
  | "needs-slipped"
  | "lucky"
  | "anticipates"
  | "overridden"
  | "held";

export type FindingValue = number | string | null | { [key: string]: FindingValue | string[] };

/**
 * One thing seen in the record. For a rule, `met` says whether it holds; anything else is listed only where it was seen,
 * unmet. `have` and `need` are in the rule's own unit: a probability for `clean-share` and `side-gap`, days, asks or
 * outings as counts, a phase for `light`.
 */
export interface Finding {
  code: FindingCode;
  met: boolean;
  side?: SideKey;
  have: FindingValue;
  need: FindingValue;
  /** Ids of the events that show it. */
  evidence: string[];
}

export type SideKey = Side | "near-fore" | "near-hind" | "off-fore" | "off-hind";

export interface SideJudgement {
  status: Status;
  /** Summed weights of clean asks and of misses. */
  weightClean: number;
  weightNot: number;
  /** Probability that at least the asked share comes clean. */
  sure: number;
  /** Different days of the yard on which this side was asked. */
  days: number;
  lastClean: Day | null;
}

export interface OpenAction {
  code: FindingCode;
  side?: SideKey;
  count?: number;
  /** The step meant, where it is another one. */
  step?: string;
  text: string;
}

export interface Judgement {
  step: string;
  status: Status;
  held: boolean;
  sides: Partial<Record<SideKey, SideJudgement>>;
  findings: Finding[];
  /** The least that would make it steady; empty when it is. */
  toOpen: OpenAction[];
}
