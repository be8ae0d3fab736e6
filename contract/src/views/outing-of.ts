import {
  compareEvents,
  HEAD_FIELDS,
  measuredTimes,
  PROGRAM_FIELDS,
  type Outing,
  type RecordEvent,
  type OutingId,
} from "@still-pine/core/record";

/**
 * Between rows and the open record. In the database the head of an outing is made of `outing-start`, `head` and `outing-end`
 * events; a file may say it in the outing itself. Those made for such a file are known by their ids and left out again on export.
 */
export const startIdOf = (outingId: OutingId): string => `${outingId}:start`;
export const headIdOf = (outingId: OutingId): string => `${outingId}:head`;
export const endIdOf = (outingId: OutingId): string => `${outingId}:end`;
const HEAD_NAMES: ReadonlySet<string> = new Set([...HEAD_FIELDS, ...PROGRAM_FIELDS].map(({ name }) => name));

type Fields = Record<string, unknown>;

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
  // A start or end by a clock that was out stays an entry of its own, as it was said; the outing has the time it was.
  const isMoved = (event: RecordEvent | undefined): boolean => event !== undefined && atOf(event) !== event.at;
  const isStartKept = isMoved(start);
  const isEndKept = isMoved(end);
  return {
    ...(start?.id === startId && !isStartKept
      ? said
      : Object.fromEntries(Object.entries(said).filter(([name]) => HEAD_NAMES.has(name)))),
    ...(head ? fieldsOf(head) : {}),
    id,
    startedAt,
    endedAt: Date.parse(lastAt) < Date.parse(startedAt) ? startedAt : lastAt,
    events: ordered.filter(
      ({ id: own }) => (own !== startId || isStartKept) && (own !== endId || isEndKept) && own !== headId,
    ),
  };
}

function fieldsOf(event: RecordEvent): Fields {
  const { id: _id, at: _at, type: _type, recordedAt: _recordedAt, ...fields } = event as RecordEvent & Fields;
  return fields;
}
