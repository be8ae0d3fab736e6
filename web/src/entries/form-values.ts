import type { EventType, Field } from "@still-pine/core/record";
import { measureInWords, parseMeasure, unitName, type UnitSystem } from "@still-pine/core/body";
import { parseEvent } from "@still-pine/contract/record";
import type { Program } from "@still-pine/core/programs";
import { dayOf, instantIn, timeIn } from "../parts/days";

/** What stands in the fields of a form, as typed. */
export type FormValues = Readonly<Record<string, string>>;
export type FormErrors = Record<string, string>;
type Fields = Record<string, unknown>;

/** How a yard reads and writes: its units and its clock. */
export interface Ways {
  units: UnitSystem;
  timeZone: string;
}

export type Read = { ok: true; fields: Fields } | { ok: false; errors: FormErrors };

/** What is typed in a form, as fields of an event; or what is wrong, by field. Measures keep what was typed beside the number. */
export function readForm(fields: readonly Field[], values: FormValues, ways: Ways): Read {
  const read: Fields = {};
  const typed: Record<string, string> = {};
  const errors: FormErrors = {};
  for (const field of fields) {
    const text = (values[field.name] ?? "").trim();
    if (text === "") {
      if (field.needed || field.neededNow) errors[field.name] = "Say this one.";
      continue;
    }
    const value = readValue(field, text, ways);
    if (value === null) errors[field.name] = expectedInWords(field, ways);
    else if (typeof value === "object" && "typed" in value) {
      read[field.name] = value.si;
      typed[field.name] = value.typed;
    } else read[field.name] = value;
  }
  if (Object.keys(errors).length > 0) return { ok: false, errors };
  return { ok: true, fields: Object.keys(typed).length > 0 ? { ...read, typed } : read };
}

type Value = string | number | boolean | string[] | { si: number; typed: string };

function readValue({ is }: Field, text: string, { units, timeZone }: Ways): Value | null {
  switch (is.kind) {
    case "choice":
      return is.values.find((value) => String(value) === text) ?? null;
    case "whole":
    case "number": {
      const value = Number(text.replace(",", "."));
      const fits = Number.isFinite(value) && value >= is.least && value <= is.most;
      return fits && (is.kind === "number" || Number.isInteger(value)) ? value : null;
    }
    case "measure": {
      const measure = parseMeasure(text, is.quantity, units);
      return measure && measure.si >= is.least && measure.si <= is.most ? measure : null;
    }
    case "texts": {
      const parts = text
        .split(",")
        .map((part) => part.trim())
        .filter(Boolean);
      return parts.length <= is.most && parts.every((part) => part.length <= is.each) ? parts : null;
    }
    case "yes-no":
      return text === "true";
    case "instant": {
      const [day = "", time = ""] = text.split("T");
      return instantIn(timeZone, day, time.slice(0, 5));
    }
    case "text":
      return text.length <= is.most ? text : null;
    default:
      return text;
  }
}

/** What a field takes, for one who typed something else. */
function expectedInWords({ is }: Field, { units }: Ways): string {
  switch (is.kind) {
    case "whole":
      return `A whole number from ${is.least} to ${is.most}.`;
    case "number":
      return `A number from ${is.least} to ${is.most}.`;
    case "measure": {
      const example =
        is.quantity === "height" ? "15.2 hands or 157 cm; a hand has four inches" : unitName(is.quantity, units);
      return `From ${measureInWords(is.least, is.quantity, units)} to ${measureInWords(is.most, is.quantity, units)}, in ${example}.`;
    }
    case "texts":
      return `At most ${is.most}, with commas between.`;
    case "text":
      return `At most ${is.most} letters.`;
    case "instant":
      return "A day and a time.";
    default:
      return "Choose one.";
  }
}

/** An event's fields as they stand in a form. A measure stands there as it was typed. */
export function toForm(fields: readonly Field[], event: Fields, { units, timeZone }: Ways): FormValues {
  const { typed: said } = event;
  const typed = (said ?? {}) as Record<string, string>;
  return Object.fromEntries(
    fields.flatMap(({ name, is }) => {
      const value = event[name];
      if (value === undefined || value === null) return [];
      if (is.kind === "measure") return [[name, typed[name] ?? measureInWords(Number(value), is.quantity, units)]];
      if (is.kind === "texts" && Array.isArray(value)) return [[name, value.join(", ")]];
      if (is.kind === "instant")
        return [[name, `${dayOf(timeZone, String(value))}T${timeIn(timeZone, String(value))}`]];
      return [[name, String(value)]];
    }),
  );
}

/**
 * What is changed from an event to what a form says: null where a field was emptied. What nobody touched stays as it is, to the
 * last digit, however it was shown.
 */
export function changesBetween(
  fields: readonly Field[],
  before: Fields,
  shown: FormValues,
  values: FormValues,
  after: Fields,
): Fields {
  const touched = fields.filter(({ name }) => (shown[name] ?? "").trim() !== (values[name] ?? "").trim());
  const { v = 1 } = before;
  const version = Math.max(1, ...touched.map(({ since = 1 }) => since));
  const changes: Fields = {
    ...Object.fromEntries(touched.map(({ name }) => [name, after[name] ?? null])),
    // What a former shape has no name for is said in the shape that has.
    ...(typeof v === "number" && version > v ? { v: version } : {}),
  };
  const measures = touched.filter(({ is }) => is.kind === "measure").map(({ name }) => name);
  if (measures.length === 0) return changes;
  const typed = { ...(before["typed"] as Fields | undefined) };
  for (const name of measures) {
    const now = (after["typed"] as Fields | undefined)?.[name];
    if (now === undefined) delete typed[name];
    else typed[name] = now;
  }
  return { ...changes, typed: Object.keys(typed).length > 0 ? typed : null };
}

/** What the whole says beyond its single fields: a series adds up, a `gave` has its mood. */
export function wholeErrors({ type }: EventType, fields: Fields, program: Program): FormErrors {
  const { problems } = parseEvent({ id: "new", at: "2026-01-01T00:00:00Z", type, ...fields }, [], program);
  return Object.fromEntries(
    (problems ?? []).map(({ path, expected }) => [path, `${expected.charAt(0).toUpperCase()}${expected.slice(1)}.`]),
  );
}
