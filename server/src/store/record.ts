import { HEAD_FIELDS, PROGRAM_FIELDS } from "@still-pine/contract/record";
import {
  compareEvents,
  effectiveTimes,
  isClockSkew,
  withMeasuredTimes,
  type Horse,
  type HorseRecord,
  type Outing,
  type RecordEvent,
} from "@still-pine/core/record";
import type { StoredEvent } from "./events";
import type { StoredHorse } from "./horses";
import { withLabels, type Labels } from "./labels";
import type { Yard } from "./yard";

/**
 * Between rows and the open record. In the database the head of an outing is made of `outing-start`, `head` and `outing-end`
 * events; a file may say it in the outing itself. Those made for such a file are known by their ids and left out again on export.
 */
const startIdOf = (outingId: string): string => `${outingId}:start`;
const headIdOf = (outingId: string): string => `${outingId}:head`;
const endIdOf = (outingId: string): string => `${outingId}:end`;
const HEAD_NAMES: ReadonlySet<string> = new Set([...HEAD_FIELDS, ...PROGRAM_FIELDS].map(({ name }) => name));

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
export function toRecordHead(yard: Yard, horse: StoredHorse): Omit<HorseRecord, "horseEvents" | "outings"> {
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
  };
}

/** One outing from its events, in any order. */
export function toOuting(id: string, events: readonly RecordEvent[]): Outing {
  const ordered = events.toSorted(compareEvents);
  const startId = startIdOf(id);
  const headId = headIdOf(id);
  const endId = endIdOf(id);
  let start: RecordEvent | undefined;
  let end: RecordEvent | undefined;
  let head: RecordEvent | undefined;
  for (const event of ordered)
    if (event.type === "outing-start") start = event;
    else if (event.type === "outing-end") end = event;
    else if (event.id === headId) head = event;
  const atOf = measuredTimes(ordered);
  const first = start ?? ordered[0];
  const last = end ?? ordered.at(-1);
  const startedAt = first ? atOf(first) : "";
  const lastAt = last ? atOf(last) : startedAt;
  const said = start ? fieldsOf(start) : {};
  return {
    ...(start?.id === startId
      ? said
      : Object.fromEntries(Object.entries(said).filter(([name]) => HEAD_NAMES.has(name)))),
    ...(head ? fieldsOf(head) : {}),
    id,
    startedAt,
    endedAt: Date.parse(lastAt) < Date.parse(startedAt) ? startedAt : lastAt,
    events: ordered.filter(({ id: own }) => own !== startId && own !== endId && own !== headId),
  };
}

/** When an event was, by its device's clock set right where that was measured. */
function measuredTimes(events: readonly RecordEvent[]): (event: RecordEvent) => string {
  if (!events.some(isClockSkew)) return ({ at }) => at;
  const timeOf = effectiveTimes(events);
  return (event) => withMeasuredTimes([...events.filter(isClockSkew), event], timeOf).at(-1)?.at ?? event.at;
}

function fieldsOf(event: RecordEvent): Fields {
  const { id: _id, at: _at, type: _type, recordedAt: _recordedAt, ...fields } = event as RecordEvent & Fields;
  return fields;
}

/** The events a record is made of, heads of outings included, still with labels. */
export function toEvents(record: HorseRecord): { outing: string | null; event: RecordEvent }[] {
  const ofHorse = record.horseEvents.map((event) => ({ outing: null, event }));
  const ofOutings = record.outings.flatMap(({ events, ...outing }) => {
    const { id, startedAt, endedAt, ...head } = outing;
    const start = events.find((event) => event.type === "outing-start") as Fields | undefined;
    const made: RecordEvent[] = [];
    if (!start) made.push({ ...head, id: startIdOf(id), at: startedAt, type: "outing-start" });
    else {
      // What the file says of the outing and its own start does not.
      const unsaid = Object.entries(head).filter(([field]) => start[field] === undefined);
      if (unsaid.length > 0)
        made.push({ ...Object.fromEntries(unsaid), id: headIdOf(id), at: startedAt, type: "head" });
    }
    if (!events.some((event) => event.type === "outing-end"))
      made.push({ id: endIdOf(id), at: endedAt, type: "outing-end" });
    return [...made, ...events].map((event) => ({ outing: id, event }));
  });
  return [...ofHorse, ...ofOutings];
}

/** What of a record this version has no field for, to be handed on with the next export. */
export function extraOf(record: HorseRecord): Fields {
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
