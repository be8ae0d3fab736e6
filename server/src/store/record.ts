import { endIdOf, headIdOf, startIdOf, toOuting } from "@still-pine/contract/views";
import type { Horse, HorseRecord, Outing, RecordEvent, OutingId } from "@still-pine/core/record";
import type { StoredEvent } from "./events";
import { cameWith, type StoredHorse } from "./horses";
import type { RecordHead } from "@still-pine/contract/record";
import { withLabels, type Labels } from "./labels";
import type { Yard } from "./yard";

type Fields = Record<string, unknown>;

/** Rows to a record: outings with their heads, and with `labels` people and places by label. */
export function toRecord(yard: Yard, horse: StoredHorse, stored: readonly StoredEvent[], labels?: Labels): HorseRecord {
  const horseEvents: RecordEvent[] = [];
  const byOuting = new Map<string, RecordEvent[]>();
  for (const { outingId, event } of stored) {
    const named = labels ? withLabels(event, labels) : event;
    if (outingId === null) horseEvents.push(named);
    else {
      const list = byOuting.get(outingId);
      if (list) list.push(named);
      else byOuting.set(outingId, [named]);
    }
  }
  return {
    ...toRecordHead(yard, horse),
    horseEvents,
    outings: [...byOuting].map(([id, events]) => toOuting(id, events)),
  };
}

/** All of a record but its events. */
export function toRecordHead(yard: Yard, horse: StoredHorse): RecordHead {
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
    program: { ...programExtra, ...cameWith(horse) },
  };
}

/** An entry with the outing it belongs to; null where it is said of the horse itself. */
export interface FiledEvent {
  outing: OutingId | null;
  event: RecordEvent;
}

/** The entries an outing is made of, its head included, still with labels. */
export function toEvents({ events, ...outing }: Outing): FiledEvent[] {
  const { id, startedAt, endedAt, ...head } = outing;
  const start = events.find((event) => event.type === "outing-start") as Fields | undefined;
  const made: RecordEvent[] = [];
  if (!start) made.push({ ...head, id: startIdOf(id), at: startedAt, type: "outing-start" });
  else {
    // What the file says of the outing and its own start does not.
    const unsaid = Object.entries(head).filter(([field]) => start[field] === undefined);
    if (unsaid.length > 0) made.push({ ...Object.fromEntries(unsaid), id: headIdOf(id), at: startedAt, type: "head" });
  }
  if (!events.some((event) => event.type === "outing-end"))
    made.push({ id: endIdOf(id), at: endedAt, type: "outing-end" });
  return [...made, ...events].map((event) => ({ outing: id, event }));
}

/** What of a record this version has no field for, to be handed on with the next export. */
export function extraOf(record: RecordHead): Fields {
  const {
    yard,
    horse,
    program,
    format: _format,
    version: _version,
    ...rest
  } = record as RecordHead & { format?: string; version?: number };
  const { timeZone: _zone, ...yardExtra } = yard;
  const { id: _id, name: _name, foaled: _foaled, foaledPrecision: _precision, sex: _sex, ...horseExtra } = horse;
  const { id: _program, ...programExtra } = program;
  const parts = { yard: yardExtra, horse: horseExtra, program: programExtra };
  return { ...rest, ...Object.fromEntries(Object.entries(parts).filter(([, part]) => Object.keys(part).length > 0)) };
}
