import type { StepId } from "../record";
import type { MishapKind, Setting } from "../record/vocabulary";

/** What of the body is looked at, and by whom. */
export interface BodyLook {
  look: string;
  who: "vet" | "dentist" | "farrier" | "saddle fitter" | "you";
}

/** A step that lies under a trouble, and why it belongs there. */
export interface TroubleStep {
  step: StepId;
  why: string;
  /** Where it matters that he was standing or moving. */
  setting?: Setting;
}

/** Something a person sees. */
export interface Trouble {
  id: string;
  name: string;
  /** The same in everyday words. */
  seen: readonly string[];
  /** Before anything else. */
  body: readonly BodyLook[];
  /** In the order in which a horseman would look where nothing is known. */
  steps: readonly TroubleStep[];
  /** What not to do meanwhile. */
  note?: string;
  /** Mishaps after which the review leads here. */
  mishaps: readonly MishapKind[];
}

/** The whole body, before any trouble is taken for one of training. */
export const BODY_FIRST =
  "First the body: teeth, poll, back, saddle, girth skin, belly, feet, joints. A sudden change for the worse belongs to a vet, dentist, saddle fitter or farrier before it is a question of training.";
