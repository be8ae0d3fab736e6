import type {
  After,
  Answer,
  Fault,
  Kept,
  MishapKind,
  Mood,
  Phase,
  Precision,
  Setting,
  Severity,
  Sex,
  Side,
  Sign,
  Tool,
} from "./vocabulary";

/** Carried by every event. Instants are ISO 8601 with an offset or Z. */
export interface EventHead {
  id: string;
  at: string;
  /** Version of the event's shape; absent means 1. */
  v?: number;
  by?: string;
  device?: string;
  /** Counts up on one device; keeps that device's own order. */
  seq?: number;
  /** When it was written down, where that was later than `at`: a write-up from memory. */
  recordedAt?: string;
}

export interface AskEvent extends EventHead {
  type: "ask";
  step: string;
  side?: Side;
  phase?: Phase;
  answer: Answer;
  mood?: Mood;
  /** Dose asked for and dose got, in the step's own unit; absent means the step's standard dose. */
  asked?: number;
  dose?: number;
  after?: After;
  /** A leg, or a zone of the hide. */
  part?: string;
  setting?: Setting;
  tool?: Tool;
  fault?: Fault;
  waitSeconds?: number;
  kept?: Kept;
  helps?: number;
}

/** Several asks remembered as one entry. */
export interface SeriesEvent extends EventHead {
  type: "series";
  step: string;
  side?: Side;
  /** A leg, where the step is asked leg by leg. */
  part?: string;
  count: number;
  clean: number;
  first: Answer;
  worst: Answer;
  /** The usual ones of the series. */
  phase?: Phase;
  mood?: Mood;
}

export interface SignEvent extends EventHead {
  type: "sign";
  sign: Sign;
}

export interface MishapEvent extends EventHead {
  type: "mishap";
  kind: MishapKind;
  severity: Severity;
  personHurt: boolean;
  /** What led to it, in words. */
  after?: string;
}

export interface NoteEvent extends EventHead {
  type: "note";
  text: string;
}

/** Voids an earlier event, or changes fields of it. The earlier event stays in the record. */
export interface CorrectionEvent extends EventHead {
  type: "correction";
  replaces: string;
  void?: boolean;
  with?: Record<string, unknown>;
}

/** A device's clock, measured: so many seconds are added to the times it gave. */
export interface ClockSkewEvent extends EventHead {
  type: "clock-skew";
  of: string;
  behindSeconds: number;
}

/** Any other type. Kept and handed on; the judge does not read it. */
export interface UnknownEvent extends EventHead {
  type: string;
  [field: string]: unknown;
}

export type KnownEvent = AskEvent | SeriesEvent | SignEvent | MishapEvent | NoteEvent | CorrectionEvent;
export type RecordEvent = KnownEvent | UnknownEvent;

export function isAsk(event: RecordEvent): event is AskEvent {
  return event.type === "ask";
}
export function isSeries(event: RecordEvent): event is SeriesEvent {
  return event.type === "series";
}
export function isSign(event: RecordEvent): event is SignEvent {
  return event.type === "sign";
}
export function isCorrection(event: RecordEvent): event is CorrectionEvent {
  return event.type === "correction";
}

/** What is said of a whole outing. */
export interface OutingHead {
  startedAt: string;
  endedAt: string;
  place?: string;
  handler?: string;
  helper?: string;
  /** Gear, weather, footing, how he was caught and in what state; names as in the contract. */
  [field: string]: unknown;
}

export interface Outing extends OutingHead {
  id: string;
  events: RecordEvent[];
}

export interface Horse {
  id: string;
  name: string;
  /** Calendar day, `YYYY-MM-DD`; only as exact as `foaledPrecision` says. */
  foaled: string;
  foaledPrecision: Precision;
  sex: Sex;
}

/** One horse's whole record, as it travels in a file. */
export interface HorseRecord {
  yard: { timeZone: string };
  horse: Horse;
  program: { id: string };
  horseEvents: RecordEvent[];
  outings: Outing[];
}
