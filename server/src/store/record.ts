import { dayIn, type Horse, type HorseRecord, type Outing, type RecordEvent } from "@still-pine/core/record";
import { compareEvents } from "@still-pine/core/record";
import type { Labels } from "./labels";
import type { StoredEvent } from "./events";
import type { StoredHorse } from "./horses";
import type { Yard } from "./yard";

/**
 * Between rows and the open record. In the database the head of an outing is made of `outing-start` and `outing-end` events; a
 * file may leave those out. The ones made for such a file are known by their ids and are left out again on export.
 */
const startIdOf = (outingId: string): string => `${outingId}:start`;
const endIdOf = (outingId: string): string => `${outingId}:end`;

interface HeadEvent extends Record<string, unknown> {
  id: string;
  at: string;
  type: string;
  place?: string;
  handler?: string;
}

/** Rows to a record: people and places by label, outings with their heads. */
export function toRecord(yard: Yard, horse: StoredHorse, stored: readonly StoredEvent[], labels: Labels): HorseRecord {
  const horseEvents: RecordEvent[] = [];
  const byOuting = new Map<string, RecordEvent[]>();
  for (const { outingId, event } of stored) {
    const named = withLabels(event, labels);
    if (outingId === null) horseEvents.push(named);
    else {
      const list = byOuting.get(outingId);
      if (list) list.push(named);
      else byOuting.set(outingId, [named]);
    }
  }
  const {
    horse: horseExtra,
    program: programExtra,
    yard: yardExtra,
    ...recordExtra
  } = horse.extra as Record<string, object>;
  const own: Horse = {
    id: horse.id,
    name: horse.name,
    foaled: horse.foaled,
    foaledPrecision: horse.foaledPrecision,
    sex: horse.sex,
  };
  return {
    ...recordExtra,
    yard: { ...yardExtra, timeZone: yard.timeZone },
    horse: { ...horseExtra, ...own },
    program: { ...programExtra, id: horse.programId },
    horseEvents,
    outings: [...byOuting].map(([id, events]) => toOuting(id, events)),
  };
}

function toOuting(id: string, events: RecordEvent[]): Outing {
  const ordered = events.toSorted(compareEvents);
  const starts = ordered.filter((event) => event.type === "outing-start") as HeadEvent[];
  const ends = ordered.filter((event) => event.type === "outing-end") as HeadEvent[];
  const start = starts.at(-1);
  const first = ordered[0]?.at ?? "";
  const startedAt = start?.at ?? first;
  const lastAt = ends.at(-1)?.at ?? ordered.at(-1)?.at ?? startedAt;
  const isMade = (event: RecordEvent): boolean => event.id === startIdOf(id) || event.id === endIdOf(id);
  const {
    id: _id,
    at: _at,
    type: _type,
    place,
    handler,
    recordedAt: _recordedAt,
    ...extra
  } = start ?? ({} as HeadEvent);
  return {
    ...(start && isMade(start as RecordEvent) ? extra : {}),
    id,
    startedAt,
    endedAt: Date.parse(lastAt) < Date.parse(startedAt) ? startedAt : lastAt,
    ...(place === undefined ? {} : { place }),
    ...(handler === undefined ? {} : { handler }),
    events: ordered.filter((event) => !isMade(event)),
  };
}

function withLabels(event: RecordEvent, labels: Labels): RecordEvent {
  if (event.type !== "outing-start") return event;
  const { place, handler, ...rest } = event as HeadEvent;
  return {
    ...rest,
    ...(place === undefined ? {} : { place: labels.place.get(place) ?? place }),
    ...(handler === undefined ? {} : { handler: labels.person.get(handler) ?? handler }),
  };
}

/** The events a record is made of, heads of outings included, still with labels. */
export function toEvents(record: HorseRecord): { outing: string | null; event: RecordEvent }[] {
  const ofHorse = record.horseEvents.map((event) => ({ outing: null, event }));
  const ofOutings = record.outings.flatMap(({ events, ...outing }) => {
    const { id, startedAt, endedAt, ...head } = outing;
    const has = (type: string): boolean => events.some((event) => event.type === type);
    const made: RecordEvent[] = [
      ...(has("outing-start") ? [] : [{ ...head, id: startIdOf(id), at: startedAt, type: "outing-start" }]),
      ...(has("outing-end") ? [] : [{ id: endIdOf(id), at: endedAt, type: "outing-end" }]),
    ];
    return [...made, ...events].map((event) => ({ outing: id, event }));
  });
  return [...ofHorse, ...ofOutings];
}

/** What of a record this version has no field for, to be handed on with the next export. */
export function extraOf(record: HorseRecord): Record<string, unknown> {
  const {
    yard,
    horse,
    program,
    horseEvents: _events,
    outings: _outings,
    format: _format,
    version: _version,
    ...rest
  } = record as HorseRecord & { format?: string; version?: number };
  const { timeZone: _zone, ...yardExtra } = yard;
  const { id: _id, name: _name, foaled: _foaled, foaledPrecision: _precision, sex: _sex, ...horseExtra } = horse;
  const { id: _program, ...programExtra } = program;
  const parts = { yard: yardExtra, horse: horseExtra, program: programExtra };
  return { ...rest, ...Object.fromEntries(Object.entries(parts).filter(([, part]) => Object.keys(part).length > 0)) };
}

/** Days on which a horse was worked, first to last. */
export function workDays(record: HorseRecord): string[] {
  return [...new Set(record.outings.map((outing) => dayIn(record.yard.timeZone, outing.startedAt)))].toSorted();
}
