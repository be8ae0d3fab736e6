import type { Mood, Phase } from "../record/vocabulary";
import type {
  CoachSettings,
  Dose,
  Elsewhere,
  Ends,
  Gate,
  JudgeNumbers,
  Need,
  NeedRef,
  Program,
  SideKind,
  Stage,
  Step,
  StepKind,
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
  needs: NeedFile[];
  elsewhere?: Elsewhere[];
  still?: boolean;
  end?: boolean;
  rungs?: string[];
  people?: number;
}

export interface GateFile extends Omit<Gate, "needs" | "ridden"> {
  steps: NeedFile[];
  ridden?: NeedFile[];
  riddenBefore?: string[];
}

/** A program as it is written down. */
export interface ProgramFile {
  id: string;
  version: number;
  name: string;
  about: string;
  stop: string[];
  optional?: string[];
  judge?: Partial<JudgeNumbers>;
  coach?: Partial<CoachSettings>;
  /** Needs of single steps, in place of the catalogue's. */
  needs?: Record<string, NeedFile[]>;
  /** Needs every step of a stage has besides its own. */
  stageNeeds?: Partial<Record<Stage, NeedFile[]>>;
  /** In place of the catalogue's. */
  steps?: StepFile[];
  gates?: GateFile[];
}

/** Still Pine's own judgement, adjustable by each program. */
export const DEFAULT_NUMBERS: JudgeNumbers = {
  share: 0.75,
  sure: 0.8,
  gateSure: 0.9,
  forgetBy: 0.8,
  forgetPer: 3,
  seriesWeight: 0.5,
  holdDays: 3,
  days: 2,
  gateDays: 3,
  colds: 2,
  recent: 2,
  places: 2,
  people: 2,
  freshPerDay: 30,
  freshAtMost: 180,
  gateFresh: 14,
  soonDays: 7,
  gapAtLeast: 0.25,
  gapAsks: 3,
  cornerAtLeast: 3,
  cornerShare: 0.5,
  creepOutings: 3,
  creepRise: 0.75,
  offersAtLeast: 3,
};

/** What most schools do: a minute and a half on one thing, keep on through a fright until he is still, no building on a first day. */
export const DEFAULT_COACH: CoachSettings = {
  spurtSeconds: 90,
  spurtsMost: 3,
  stuck: "angle",
  fright: "keep-on",
  firstDay: "no-more",
  stickyShare: 1.5,
};

/** Makes a program of what is written down and a catalogue. Says nothing of whether it is sound: `problemsOf` does. */
export function buildProgram(
  file: ProgramFile,
  catalogue: { steps: readonly StepFile[]; gates: readonly GateFile[] },
): Program {
  const { stop, optional = [], needs = {}, stageNeeds = {} } = file;
  const read = (list: readonly NeedFile[]): Need[] => list.flatMap((need) => readNeed(need, stop));
  return {
    id: file.id,
    version: file.version,
    name: file.name,
    about: file.about,
    judge: { ...DEFAULT_NUMBERS, ...file.judge },
    coach: { ...DEFAULT_COACH, ...file.coach },
    stop,
    optional,
    steps: (file.steps ?? catalogue.steps).map((step) =>
      readStep(step, read([...(needs[step.id] ?? step.needs), ...(stageNeeds[step.stage] ?? [])])),
    ),
    gates: (file.gates ?? catalogue.gates).map(({ steps, ridden, riddenBefore, ...gate }): Gate => ({
      ...gate,
      needs: read(steps),
      ...(ridden ? { ridden: { before: riddenBefore ?? [], needs: read(ridden) } } : {}),
    })),
  };
}

function readStep(file: StepFile, needs: Need[]): Step {
  const { phase, mood, dose, withoutTool, british } = file;
  return {
    id: file.id,
    stage: file.stage,
    name: file.name,
    ...(british ? { british } : {}),
    side: file.side,
    ends: file.ends,
    kind: file.kind ?? "moment",
    standard: { phase, mood, dose: dose ?? null, ...(withoutTool ? { withoutTool } : {}) },
    needs,
    elsewhere: file.elsewhere ?? [],
    still: file.still ?? false,
    end: file.end ?? false,
    rungs: file.rungs ?? [],
    people: file.people ?? 1,
  };
}

const readRef = (ref: RefFile): NeedRef => (typeof ref === "string" ? { step: ref } : ref);

function readNeed(need: NeedFile, stop: readonly string[]): Need[] {
  if (need === STOP) return stop.map((step) => ({ anyOf: [[{ step }]] }));
  if (!Array.isArray(need)) return [{ anyOf: [[readRef(need)]] }];
  return [
    {
      anyOf: need.map((way) => (typeof way === "object" && "all" in way ? way.all.map(readRef) : [readRef(way)])),
    },
  ];
}
