import type { DeviceId, EventId, HorseId, OutingId } from "./ids";
import type { Declared, EventType, SaidBy, SaidInHead } from "./declared";
import type { Precision, Sex } from "./vocabulary";

/** Carried by every event. Instants are ISO 8601 with an offset or Z. */
export interface EventHead {
  id: EventId;
  at: string;
  /** Version of the event's shape; absent means 1. */
  v?: number;
  by?: string;
  device?: DeviceId;
  /** Counts up on one device; keeps that device's own order. */
  seq?: number;
  /** When it was written down, where that was later than `at`: a write-up from memory. */
  recordedAt?: string;
}

/** What an event of a type says, besides its head. */
export type BodyOf<Type extends KnownType> = { type: Type } & SaidBy<Declared[Type]["fields"]> & Typed;
export type EventBody = { [Type in KnownType]: BodyOf<Type> }[KnownType];
export type EventOf<Type extends KnownType> = EventHead & BodyOf<Type>;

/** Types of events there are. */
export type KnownType = keyof Declared;

/** Measures as they were typed, by field: { heightCm: "15.2 hands" }. */
interface Typed {
  typed?: Record<string, string>;
}

export type AskEvent = EventOf<"ask">;
/** Several asks remembered as one entry. */
export type SeriesEvent = EventOf<"series">;
export type SignEvent = EventOf<"sign">;
export type MishapEvent = EventOf<"mishap">;
export type NoteEvent = EventOf<"note">;
/** Voids an earlier event, or changes fields of it. The earlier event stays in the record. */
export type CorrectionEvent = EventOf<"correction">;
/** A device's clock, measured: so many seconds are added to the times it gave. */
export type ClockSkewEvent = EventOf<"clock-skew">;

/** Any other type. Kept and handed on; the judge does not read it. */
export interface UnknownEvent extends EventHead {
  /** Stands for any name that is not declared; a literal, so that a comparison with a declared one tells the two apart. */
  type: "any other type";
  [field: string]: unknown;
}

export type KnownEvent = { [Type in KnownType]: EventOf<Type> }[KnownType];
export type RecordEvent = KnownEvent | UnknownEvent;

/** What was filled into the form of a type. */
export const bodyFrom = ({ type }: Pick<EventType, "type">, fields: object): EventBody =>
  ({ type, ...fields }) as EventBody;

/** A field of an entry by its name, as a form or a table asks for it. */
export const fieldOf = (event: RecordEvent | EventBody, name: string): unknown =>
  (event as { readonly [field: string]: unknown })[name];

/** Measures of an entry as they were typed, by field. */
export const typedOf = (event: RecordEvent | EventBody): Record<string, unknown> | undefined =>
  fieldOf(event, "typed") as Record<string, unknown> | undefined;

/** What came from elsewhere and was found to have the shape its type declares. */
export const asEvent = (read: object): RecordEvent => read as RecordEvent;

/** Whether an event is of a type; then its fields are known. */
export const is = <Type extends KnownType>(event: RecordEvent, type: Type): event is EventOf<Type> & RecordEvent =>
  event.type === type;

export const isAsk = (event: RecordEvent): event is AskEvent => event.type === "ask";
export const isSeries = (event: RecordEvent): event is SeriesEvent => event.type === "series";
export const isSign = (event: RecordEvent): event is SignEvent => event.type === "sign";
export const isCorrection = (event: RecordEvent): event is CorrectionEvent => event.type === "correction";

/** What is said of a whole outing. */
export type OutingHead = {
  startedAt: string;
  endedAt: string;
  /** What nobody knows is kept and handed on. */
  [field: string]: unknown;
} & SaidInHead;

export type Outing = OutingHead & {
  id: OutingId;
  events: RecordEvent[];
};

export interface Horse {
  id: HorseId;
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
  /** The program it goes by, and the version on whose edition of the catalogue; of the newest where none is said. */
  program: { id: string; version?: number };
  horseEvents: RecordEvent[];
  outings: Outing[];
}
