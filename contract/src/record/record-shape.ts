import { z } from "zod";
import type { NamedProgram } from "@still-pine/core/programs";
import { HEAD_FIELDS, PROGRAM_FIELDS, PRECISIONS, SEXES } from "@still-pine/core/record";
import { anyEventSchema, daySchema, headShape, idSchema, instantSchema, labelSchema, timeZoneSchema } from "./events";
import { OWN_PROGRAMS_MOST, programSchema } from "./program";

/** The shape of a horse record, as a schema and for other people's programs. */

export const RECORD_FORMAT = "still-pine/horse-record";
const RECORD_VERSION = 1;
/** A record file may be this large; larger ones are refused before they are read. */
export const RECORD_MOST_BYTES = 256 * 1024 * 1024;
/** So many problems of one file are named; more would not be read. */
export const PROBLEMS_SHOWN = 20;

const horseSchema = z.looseObject({
  id: idSchema,
  name: labelSchema,
  foaled: daySchema.describe("Only as exact as foaledPrecision says."),
  foaledPrecision: z.literal(PRECISIONS),
  sex: z.literal(SEXES),
});

const outingHead = {
  id: idSchema,
  startedAt: instantSchema,
  endedAt: instantSchema,
  ...headShape([...HEAD_FIELDS, ...PROGRAM_FIELDS]),
};

const recordOf = <Event extends z.ZodType, Own extends z.ZodType>(event: Event, own: Own) =>
  z.looseObject({
    format: z.literal(RECORD_FORMAT),
    version: z.literal(RECORD_VERSION),
    yard: z.looseObject({ timeZone: timeZoneSchema }),
    horse: horseSchema,
    program: z.looseObject({
      id: idSchema,
      version: z
        .unknown()
        .optional()
        .describe(
          "The version he was put on, a whole number: he goes by its edition of the catalogue. The newest where none is said.",
        ),
    }),
    programs: z
      .array(own)
      .max(OWN_PROGRAMS_MOST)
      .optional()
      .describe("Programs of the yard's own that the record goes by, every version."),
    horseEvents: z.array(event),
    outings: z.array(z.looseObject({ ...outingHead, events: z.array(event) })),
  });

/** The program a record names; a version that is none is passed over. */
export const namedIn = ({ program: { id, version } }: { program: { id: string; version?: unknown } }): NamedProgram =>
  typeof version === "number" && Number.isInteger(version) && version >= 1 && version <= VERSION_MOST
    ? { id, version }
    : { id };
const VERSION_MOST = 10_000;

/** Events and programs are read one by one afterwards, so that each problem names its own place. */
export const shell = recordOf(z.unknown(), z.unknown());

/** The file as a JSON Schema (draft 2020-12), for other people's programs. */
export function recordJsonSchema(): object {
  return z.toJSONSchema(recordOf(anyEventSchema(), programSchema), {
    io: "input",
    unrepresentable: "any",
    reused: "ref",
  });
}

export const outingShell = z.looseObject({ ...outingHead, events: z.array(z.unknown()) });
