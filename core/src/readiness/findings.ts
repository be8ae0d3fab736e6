import type { Elsewhere, SideKey } from "../programs";
import type { Phase, StepId } from "../record";
import type { Status } from "./statuses";

/** Counts, probabilities and phases: what there is, and what is asked. */
interface Numbers {
  have: number;
  need: number;
}

/** Holds and outing steps are judged by days, and by misses among the last ones. */
interface Days {
  days: number;
  missed: number;
}

/** What a step rests on, and the word of what of it has come least far; null where it is no step at all. */
interface Rests {
  have: { step: StepId; status: Status; missing?: string[] } | null;
  need: { anyOf: string[]; status: "steady" | "good today" } | StepId;
}

/** What a person said. */
interface Word {
  have: string;
  need: null;
}

/** What a finding of each code holds, in the unit of its rule. */
interface Findings {
  "clean-share": { have: number; need: number } | { have: Days; need: Days };
  lately: Numbers;
  "both-sides": { have: Partial<Record<SideKey, Status>>; need: "each by itself" };
  "different-days": Numbers;
  "cold-asks": Numbers;
  "first-asks": { have: number; need: number | null };
  relaxed: Numbers;
  light: { have: Phase | null; need: Phase | null };
  elsewhere: { have: { what: Elsewhere; shown: string[] }; need: number };
  fresh: { have: number | null; need: number };
  "rests-on": Rests;
  "gate-shut": {
    /** Steps that are not steady, or not shown since a break; after a break the outings on the ground that are due. */
    have: { lacks: StepId[]; ground?: number; again?: true };
    need: string;
  };
  "force-creep": Numbers;
  reacts: Numbers;
  dull: Numbers;
  braced: Numbers;
  "shut-down": Numbers;
  "side-gap": Numbers;
  "not-proven-relaxed": Numbers;
  "cold-check-due": Numbers;
  "needs-slipped": Rests;
  wobble: { have: { missed: number; cold: number; tight: number }; need: 0 };
  lucky: Numbers;
  unsaid: Numbers;
  spoiled: Numbers;
  late: { have: number; need: number | null };
  anticipates: Numbers;
  overridden: Word;
  held: Word;
}

export type FindingCode = keyof Findings;

/** What a rule measured. */
export type MeasureOf<Code extends FindingCode> = Findings[Code];

/** One thing seen in the record, of one code. */
export type FindingOf<Code extends FindingCode> = Code extends FindingCode
  ? {
      code: Code;
      met: boolean;
      side?: SideKey;
      /** Of a rule, where the side has the word: `need` is what keeps it, not what earned it. */
      keeps?: true;
      /** Ids of the events that show it. */
      evidence: string[];
    } & Findings[Code]
  : never;

/**
 * One thing seen in the record. For a rule, `met` says whether it holds; anything else is listed only where it was seen, unmet. `have` and
 * `need` are in the rule's own unit: a probability for `clean-share` and `side-gap`, days, asks or outings as counts, a phase for `light`.
 */
export type Finding = FindingOf<FindingCode>;
