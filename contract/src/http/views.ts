import type { CorrectionEvent, Day, Horse, RecordEvent } from "@still-pine/core/record";
import type { CountedAsk, Judgement, SideKey, Status, VerdictChange } from "@still-pine/core/readiness";
import type { InputProblem, InputWarning } from "../record/problems";

/** What the server answers with. */

export interface YardView {
  name: string;
  timeZone: string;
  today: Day;
  places: string[];
  people: string[];
}

/** One hoofprint of a trail. */
export interface PrintView {
  step: string;
  status: Status;
  sides: Partial<Record<SideKey, { status: Status; sure: number }>>;
}

export interface WaitsOn {
  step: string;
  status: Status;
  text: string;
}

export interface StringHorse extends Horse {
  version: number;
  /** The age in words; a span where the foaling date is not known to the day. */
  age: string;
  inWork: boolean;
  workDays: number;
  calendarDays: number;
  lastOuting: Day | null;
  trail: PrintView[];
  waitsOn: WaitsOn | null;
}

export interface StringView {
  yard: YardView;
  horses: StringHorse[];
}

export interface OutingSummary {
  id: string;
  day: Day;
  startedAt: string;
  endedAt: string;
  place: string | null;
  handler: string | null;
  asks: number;
  steps: string[];
  mishaps: number;
}

export interface HorseView {
  yard: YardView;
  horse: StringHorse;
  judgements: Judgement[];
  outings: OutingSummary[];
}

export interface StepView {
  horse: StringHorse;
  judgement: Judgement;
  asks: CountedAsk[];
}

/** One entry of an outing with everything that was ever said about it. */
export interface EntryView {
  event: RecordEvent;
  /** As it counts now. */
  current: RecordEvent;
  voided: boolean;
  /** All corrections of it and of those, in order, those that were undone too. */
  corrections: { event: CorrectionEvent; undone: boolean }[];
}

export interface OutingView {
  horse: StringHorse;
  outing: OutingSummary;
  entries: EntryView[];
}

export interface EventResult {
  id: string;
  result: "stored" | "already there" | "refused";
  why?: InputProblem[];
}

export interface BatchResult {
  results: EventResult[];
  /** What the stored events changed, in words, by horse. */
  changes: { horse: string; changes: VerdictChange[] }[];
}

export interface ImportResult {
  horse: string;
  isNew: boolean;
  stored: number;
  alreadyThere: number;
  warnings: InputWarning[];
}

/** RFC 9457. */
export interface Problem {
  type: string;
  title: string;
  status: number;
  detail: string;
  errors?: InputProblem[];
  [extension: string]: unknown;
}
