import type { Mood, Phase } from "../record/vocabulary";
import type {
  CoachSettings,
  Dose,
  Elsewhere,
  Ends,
  Gate,
  GateKind,
  GateRole,
  JudgeNumbers,
  NeedRef,
  SchoolTexts,
  SideKind,
  Stage,
  StepKind,
  StepMark,
  Ways,
} from "./types";

/** The steps of a program's stop, wherever a need or a gate names them. */
export const STOP = "@stop";

/** A step by its id, `@stop`, or a step as far as one rung, setting, gait or some places of the hide. */
export type RefFile = string | NeedRef;
/** One step, or a list of which any serves; `all` makes several steps one way. */
export type NeedFile = RefFile | (RefFile | { all: RefFile[] })[];

/** A step as the catalogue writes it down: what is usual is left out. */
export interface StepFile {
  id: string;
  stage: Stage;
  name: string;
  british?: string;
  side: SideKind;
  ends: Ends;
  phase: Phase | null;
  mood: Mood;
  dose?: Dose;
  kind?: StepKind;
  withoutTool?: boolean;
  within?: number;
  lateSpoils?: boolean;
  /** Id of the rung that is its standard, in place of the ladder's own. */
  rung?: string;
  needs: NeedFile[];
  /** Whether what it rests on has to be steady before it is begun. Where nothing is said: so in a step of somebody's own, not in the catalogue's. */
  guarded?: boolean;
  elsewhere?: Elsewhere[];
  still?: boolean;
  end?: boolean;
  rungs?: string[];
  people?: number;
  marks?: StepMark[];
}

export interface GateFile extends Omit<Gate, "needs" | "ridden" | "roles" | "kind"> {
  /** Where nothing is said: the strictest. */
  kind?: GateKind;
  roles?: readonly GateRole[];
  steps: readonly NeedFile[];
  ridden?: NeedFile[];
  riddenBefore?: string[];
}

/** As far as a standard differs from the catalogue's; the dose in the step's own unit. */
export interface StandardFile {
  phase?: Phase;
  mood?: Mood;
  dose?: number;
  /** Seconds from the cue to the first right movement. */
  within?: number;
  lateSpoils?: boolean;
  /** Id of the rung that is the standard; where that is measured its dose is. */
  rung?: string;
}

/** A program as it is written down. */
export interface ProgramFile {
  id: string;
  version: number;
  /** The edition of the catalogue whose steps it names; the first where it names none. */
  catalogue?: number;
  name: string;
  about: string;
  stop: string[];
  optional?: string[];
  judge?: Partial<JudgeNumbers>;
  coach?: Partial<CoachSettings>;
  ways?: Partial<Ways>;
  /** The steps of its road in their order, where not all of the catalogue in that of the catalogue; gates and ways of a need that its road does not come by fall away. */
  road?: string[];
  /** Steps of this program's own, besides those of the catalogue; they stand on its road where it names them. */
  ownSteps?: StepFile[];
  /** Standards of single steps, in place of the catalogue's. */
  standards?: Record<string, StandardFile>;
  /** What a person reads of it. */
  texts?: SchoolTexts;
  /** Steps on which nothing rests in this program, though something does in others. */
  ends?: string[];
  /** Needs of single steps, in place of the catalogue's. */
  needs?: Record<string, NeedFile[]>;
  /** Needs every step of a stage has besides its own. */
  stageNeeds?: Partial<Record<Stage, NeedFile[]>>;
  /** In place of the catalogue's. */
  steps?: StepFile[];
  gates?: GateFile[];
}

/** Every step and gate there is in one edition. */
export interface Catalogue {
  steps: readonly StepFile[];
  gates: readonly GateFile[];
}
