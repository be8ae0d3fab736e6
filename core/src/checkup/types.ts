import type { StepId } from "../record";
import type { SideKey, Stage } from "../programs";

/** What a check-up found of a step. `rusty`: it came, and not at the first. */
export type Found = "holds" | "rusty" | "hole" | "not-tested";

/** One step of a check-up, with all the order needs to know of it. */
export interface Test {
  step: StepId;
  /** Its sides, each with the chance that one ask comes clean, from the record: Beta(1,1) and the weights of the judge. */
  sides: readonly { side: SideKey; share: number }[];
  /** A second ask also after a clean first: it has not been held before, or a gate asks for it. */
  twice: boolean;
  /** It was steady before, so what rests on it may be asked first, and a clean one above settles it. */
  held: boolean;
  /** It stands behind a gate, or takes minutes: all it rests on has to come clean in the check-up itself, or be fresh in the record. */
  guarded: boolean;
  /** By need, by way: steps that have to be there. */
  needs: readonly (readonly (readonly string[])[])[];
  /** Steps it rests on whichever way. */
  under: readonly string[];
}

/** What was asked of a check-up: the stages so far, or just some steps. */
export type Scope = { stages: readonly Stage[] } | { steps: readonly string[] };

export interface CheckUpPlan {
  /** In the order in which they are asked. */
  tests: Test[];
  /** Steps that need no test, each with the step above it that came clean lately. */
  spared: { step: StepId; by: string }[];
  /** Steps a person holds: they are not asked. */
  heldBack: string[];
  /** Steps the program does not ask of a horse of his age. */
  tooYoung: string[];
  /** What is known of every other step before the first ask. */
  known: [step: StepId, found: Found][];
  /** Asks to be expected, from the record's shares, and the most there can be. */
  expected: number;
  most: number;
}
