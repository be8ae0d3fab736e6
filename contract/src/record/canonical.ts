import { compareEvents, type HorseRecord, type Outing, type RecordEvent } from "@still-pine/core/record";

/** Keys in the order a person reads them; any other follows by name. */
const KEY_ORDER = [
  "format",
  "version",
  "yard",
  "horse",
  "program",
  "horseEvents",
  "outings",
  "id",
  "at",
  "startedAt",
  "endedAt",
  "place",
  "handler",
  "name",
  "foaled",
  "foaledPrecision",
  "sex",
  "timeZone",
  "type",
  "step",
  "side",
  "phase",
  "answer",
  "mood",
  "asked",
  "dose",
  "after",
  "count",
  "clean",
  "first",
  "worst",
  "sign",
  "kind",
  "severity",
  "personHurt",
  "text",
  "replaces",
  "void",
  "with",
  "v",
  "by",
  "device",
  "seq",
  "recordedAt",
  "events",
];
const rank = new Map(KEY_ORDER.map((key, index) => [key, index]));

function compareKeys(a: string, b: string): number {
  return (rank.get(a) ?? KEY_ORDER.length) - (rank.get(b) ?? KEY_ORDER.length) || (a < b ? -1 : 1);
}

/** Objects of one shape have their keys put in order once. Records have a few dozen shapes; a stranger's file may have any number. */
const shapes = new Map<string, string[]>();
const SHAPES_MOST = 2000;
const JOINT = "\u0000";

function orderedKeys(value: object): string[] {
  const keys = Object.keys(value);
  const shape = keys.join(JOINT);
  const known = shapes.get(shape);
  // No kept shape has a key with the joint in it, so shapes that read the same and are as long are the same.
  if (known?.length === keys.length) return known;
  const sorted = keys.toSorted(compareKeys);
  if (keys.some((key) => key.includes(JOINT))) return sorted;
  if (shapes.size >= SHAPES_MOST) shapes.clear();
  shapes.set(shape, sorted);
  return sorted;
}

function ordered(value: unknown): unknown {
  if (typeof value !== "object" || value === null) return value;
  if (Array.isArray(value)) return value.map(ordered);
  const result: Record<string, unknown> = {};
  for (const key of orderedKeys(value)) {
    const field = ordered((value as Record<string, unknown>)[key]);
    if (key === "__proto__") Object.defineProperty(result, key, { value: field, enumerable: true });
    else result[key] = field;
  }
  return result;
}

/** One text for one value, whatever the order of its keys. */
export function canonical(value: unknown): string {
  return JSON.stringify(ordered(value)) ?? "null";
}

/** A record as the bytes of its file: outings by start, events by their order, keys in a fixed order, one event a line. */
export function recordToText(record: HorseRecord): string {
  const outings = record.outings
    .toSorted((a, b) => Date.parse(a.startedAt) - Date.parse(b.startedAt) || (a.id < b.id ? -1 : 1))
    .map((outing, index) => outingToText(outing, index));
  return `${recordOpening(record, record.horseEvents)}${outings.join("")}${recordClosing(outings.length)}`;
}

/** The text of a record before its outings, for one who writes them out one by one. */
export function recordOpening(record: object, horseEvents: readonly RecordEvent[]): string {
  const {
    format: _format,
    version: _version,
    horseEvents: _events,
    outings: _outings,
    ...rest
  } = record as Record<string, unknown>;
  const head = canonical({ format: "still-pine/horse-record", version: 1, ...rest }).slice(1, -1);
  return `{${head},\n  "horseEvents":${linesOf(horseEvents, "  ")},\n  "outings":[`;
}

/** The text of one outing. @param index its place among those of the file */
export function outingToText({ events, ...head }: Outing, index: number): string {
  return `${index === 0 ? "" : ","}\n    {${canonical(head).slice(1, -1)},"events":${linesOf(events, "    ")}}`;
}

/** The text after the outings. */
export const recordClosing = (outings: number): string => `${outings === 0 ? "" : "\n  "}]\n}\n`;

const linesOf = (events: readonly RecordEvent[], indent: string): string =>
  events.length === 0
    ? "[]"
    : `[\n${inOrder(events)
        .map((event) => `${indent}  ${canonical(event)}`)
        .join(",\n")}\n${indent}]`;

/** Most lists are in order already; to see that is quicker than to sort them. */
function inOrder(events: readonly RecordEvent[]): readonly RecordEvent[] {
  const isSorted = events.every((event, index) => {
    const before = events[index - 1];
    return before === undefined || compareEvents(before, event) <= 0;
  });
  return isSorted ? events : events.toSorted(compareEvents);
}
