import { compareEvents, type HorseRecord, type RecordEvent } from "@still-pine/core/record";

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

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

function ordered(value: unknown): Json {
  if (Array.isArray(value)) return value.map(ordered);
  if (typeof value !== "object" || value === null) return value as Json;
  const entries = Object.entries(value).filter(([, field]) => field !== undefined);
  return Object.fromEntries(
    entries.toSorted(([a], [b]) => compareKeys(a, b)).map(([key, field]) => [key, ordered(field)]),
  );
}

/** One text for one value, whatever the order of its keys. */
export function canonical(value: unknown): string {
  return JSON.stringify(ordered(value));
}

/** A record as the bytes of its file: outings by start, events by their order, keys in a fixed order, one event a line. */
export function recordToText(record: HorseRecord): string {
  const outings = record.outings
    .toSorted((a, b) => Date.parse(a.startedAt) - Date.parse(b.startedAt) || (a.id < b.id ? -1 : 1))
    .map((outing) => ({ ...outing, events: outing.events.toSorted(compareEvents) }));
  const {
    format: _format,
    version: _version,
    horseEvents,
    outings: _outings,
    ...rest
  } = record as HorseRecord & {
    format?: string;
    version?: number;
  };
  const lines = (events: readonly RecordEvent[], indent: string): string =>
    events.length === 0
      ? "[]"
      : `[\n${events.map((event) => `${indent}  ${canonical(event)}`).join(",\n")}\n${indent}]`;
  const outingText = outings.map(({ events, ...head }) => {
    const fields = canonical(head).slice(1, -1);
    return `    {${fields},"events":${lines(events, "    ")}}`;
  });
  const headText = canonical({ format: "still-pine/horse-record", version: 1, ...rest }).slice(1, -1);
  return [
    `{${headText},`,
    `  "horseEvents":${lines(horseEvents.toSorted(compareEvents), "  ")},`,
    `  "outings":${outingText.length === 0 ? "[]" : `[\n${outingText.join(",\n")}\n  ]`}`,
    "}",
    "",
  ].join("\n");
}
