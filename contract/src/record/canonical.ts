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

interface Member {
  key: string;
  /** `"key":`, as it is written. */
  written: string;
}

/** Objects of one shape have their keys put in order once. Records have a few dozen shapes; a stranger's file may have any number. */
const shapes = new Map<string, Member[]>();
const SHAPES_MOST = 2000;
const JOINT = "\u0000";

function membersOf(value: object): Member[] {
  const keys = Object.keys(value);
  const shape = keys.join(JOINT);
  const known = shapes.get(shape);
  // No kept shape has a key with the joint in it, so shapes that read the same and are as long are the same.
  if (known?.length === keys.length) return known;
  const members = keys.toSorted(compareKeys).map((key) => ({ key, written: `${JSON.stringify(key)}:` }));
  if (keys.some((key) => key.includes(JOINT))) return members;
  if (shapes.size >= SHAPES_MOST) shapes.clear();
  shapes.set(shape, members);
  return members;
}

/** Most texts are written as they stand between their quotes; these signs are not. */
// Control characters are what is looked for: JSON escapes them.
// oxlint-disable-next-line no-control-regex
const HAS_TO_BE_ESCAPED = /["\\\u0000-\u001f\ud800-\udfff]/;

/** One text for one value, whatever the order of its keys; each part of it the text JSON.stringify gives. */
export function canonical(value: unknown): string {
  if (typeof value === "string") return HAS_TO_BE_ESCAPED.test(value) ? JSON.stringify(value) : `"${value}"`;
  if (typeof value !== "object" || value === null) return JSON.stringify(value) ?? "null";
  if (Array.isArray(value)) return `[${value.map(canonical).join(",")}]`;
  let text = "{";
  for (const { key, written } of membersOf(value)) {
    const field = (value as Record<string, unknown>)[key];
    if (field !== undefined) text += (text.length > 1 ? "," : "") + written + canonical(field);
  }
  return `${text}}`;
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
