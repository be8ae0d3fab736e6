import { z } from "zod";
import {
  EARLIEST_YEAR,
  EVENT_TYPES,
  eventTypeOf,
  isTimeZone,
  LATEST_YEAR,
  type EventType,
  type Field,
  type FieldIs,
} from "@still-pine/core/record";

/** Shapes of single events, made from their catalogue. Objects are loose: a field nobody knows is kept and handed on. */

const text = (most: number) => z.string().min(1).max(most);

/** PostgreSQL's text holds no NUL, UTF-8 no half of a surrogate pair. */
const isStorable = (value: string): boolean => !value.includes("\0") && !/\p{Cs}/u.test(value);
const storable = (most: number) => text(most).refine(isStorable, { error: "text without NUL or half a character" });
export const idSchema = storable(200);
export const instantSchema = z.iso.datetime({ offset: true }).refine(
  (at) => {
    const year = new Date(at).getUTCFullYear();
    return year >= EARLIEST_YEAR && year <= LATEST_YEAR;
  },
  { error: `an instant between the years ${EARLIEST_YEAR} and ${LATEST_YEAR}` },
);
export const labelSchema = storable(120);
/** A calendar day a database can hold and a person can mean. */
export const daySchema = z.iso
  .date()
  .refine((day) => Number(day.slice(0, 4)) >= EARLIEST_YEAR && Number(day.slice(0, 4)) <= LATEST_YEAR, {
    error: `a day between the years ${EARLIEST_YEAR} and ${LATEST_YEAR}`,
  });
export const timeZoneSchema = z
  .string()
  .max(64)
  .refine(isTimeZone, { error: "a time zone such as Europe/Dublin" })
  .describe("IANA name of the yard's time zone; days are counted in it.");

const TYPED_MOST = 40;
const VERSION_MOST = 1000;

const head = {
  id: idSchema.describe("Unique within the yard; UUIDv7 where Still Pine made it."),
  at: instantSchema.describe("When it happened, ISO 8601 with Z or an offset."),
  v: z.int().min(1).max(VERSION_MOST).optional().describe("Version of the event's shape; 1 when absent."),
  by: idSchema.optional().describe("Who recorded it."),
  device: idSchema.optional().describe("The device it was recorded on."),
  seq: z.int().min(0).max(Number.MAX_SAFE_INTEGER).optional().describe("Counts up on one device."),
  recordedAt: instantSchema.optional().describe("When it was written down, where that was later than `at`."),
};

function schemaOfField(is: FieldIs): z.ZodType {
  switch (is.kind) {
    case "choice":
      return z.literal(is.values as [string, ...string[]]);
    case "whole":
      return z.int().min(is.least).max(is.most);
    case "number":
    case "measure":
      return z.number().min(is.least).max(is.most);
    case "text":
      return text(is.most);
    case "texts":
      return z.array(text(is.each)).max(is.most);
    case "label":
      return labelSchema;
    case "yes-no":
      return z.boolean();
    case "day":
      return daySchema;
    case "instant":
      return instantSchema;
    case "step":
    case "rung":
      return storable(80);
    case "id":
      return idSchema;
    case "true":
      return z.literal(true);
    case "fields":
      return z.record(z.string(), z.unknown());
    default:
      return is satisfies never;
  }
}

/** One field as a schema; `needed` decides whether it may be absent. */
function shapeOf(fields: readonly Field[]): Record<string, z.ZodType> {
  const shape = Object.fromEntries(
    fields.map((field) => {
      const schema = schemaOfField(field.is);
      const described = field.says ? schema.describe(field.says) : schema;
      return [field.name, field.needed ? described : described.optional()];
    }),
  );
  return fields.some((field) => field.is.kind === "measure")
    ? {
        ...shape,
        typed: z
          .record(z.string(), text(TYPED_MOST))
          .optional()
          .describe("Measures as they were typed, by field: { heightCm: 15.2 hands }."),
      }
    : shape;
}

/** @param version of the shape: a field that came later is one that nobody knows in it */
function buildSchema({ type, says, fields }: EventType, version: number): z.ZodType<object> {
  const known = fields.filter(({ since = 1 }) => since <= version);
  const latest = latestOf(fields);
  const ofVersion =
    latest === 1
      ? {}
      : version > 1
        ? { v: z.int().min(version).max(VERSION_MOST) }
        : { v: z.int().min(1).max(1).optional() };
  const schema = z.looseObject({ ...head, ...ofVersion, type: z.literal(type), ...shapeOf(known) }).describe(says);
  return type === "correction"
    ? schema.refine((one) => (one["void"] === undefined) !== (one["with"] === undefined), {
        error: "expected either void: true or with: {changed fields}",
      })
    : schema;
}

/** An event of a type this version does not know: kept, exported again, ignored by the judge. */
const unknownEventSchema = z
  .looseObject({ ...head, type: text(80) })
  .describe("Any other type: kept and handed on, ignored by the judge.");

const built = new Map<string, z.ZodType<object>>();

/** The schema of a type, made when it is first asked for; that of unknown events for any other. @param v version of the shape */
function schemaOfType(type: unknown, v: unknown): z.ZodType<object> {
  const known = eventTypeOf(type);
  if (!known) return unknownEventSchema;
  const version = typeof v === "number" && v >= 2 ? latestOf(known.fields) : 1;
  const name = `${known.type} ${version}`;
  let schema = built.get(name);
  if (!schema) built.set(name, (schema = buildSchema(known, version)));
  return schema;
}

/** The latest version of a type's shape. */
const latestOf = (fields: readonly Field[]): number => Math.max(1, ...fields.map(({ since = 1 }) => since));

/** How often each type has been read; from so many on its schema is worth compiling. A dozen events are read sooner without. */
const COMPILED_FROM = 100;
const timesRead = new Map<string, number>();

/** Reads an event's shape by its type; what is wrong with it is in the error. */
export function readShape(input: unknown): z.ZodSafeParseResult<object> {
  const { type, v } = typeof input === "object" && input !== null ? (input as { type?: unknown; v?: unknown }) : {};
  const key = eventTypeOf(type)?.type ?? "";
  const times = (timesRead.get(key) ?? 0) + 1;
  timesRead.set(key, times);
  return schemaOfType(type, v).safeParse(input, { jitless: times < COMPILED_FROM });
}

/** Every event there is, for the JSON Schema. */
export const anyEventSchema = (): z.ZodType =>
  z.union([
    ...EVENT_TYPES.flatMap(({ type, fields }) =>
      [...new Set([1, latestOf(fields)])].map((version) => schemaOfType(type, version)),
    ),
    unknownEventSchema,
  ]);

export const isKnownType = (type: unknown): boolean => eventTypeOf(type) !== undefined;

/** The fields of an outing's head in a file, besides its id and times. */
export const headShape = (fields: readonly Field[]): Record<string, z.ZodType> => shapeOf(fields);

/**
 * Whether a changed field could stand in any type of event, for a correction that came before what it corrects.
 *
 * @returns the fields that fit nowhere
 */
export function misfits(fields: Record<string, unknown>): string[] {
  return Object.entries(fields).flatMap(([name, value]) => {
    const known = EVENT_TYPES.flatMap(({ fields: own }) => own.filter((field) => field.name === name));
    const fits =
      known.length === 0 || value === null || known.some(({ is }) => schemaOfField(is).safeParse(value).success);
    return fits ? [] : [name];
  });
}
