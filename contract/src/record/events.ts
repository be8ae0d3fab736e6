import { z } from "zod";
import { AFTERS, ANSWERS, MISHAPS, MOODS, PHASES, SEVERITIES, SIDES, SIGNS } from "@still-pine/core/record";

/** Shapes of single events, one schema a type. Objects are loose: a field nobody knows is kept and handed on. */

const text = (most: number) => z.string().min(1).max(most);
export const idSchema = text(200);
export const instantSchema = z.iso.datetime({ offset: true });
export const labelSchema = text(120);

const head = {
  id: idSchema.describe("Unique within the yard; UUIDv7 where Still Pine made it."),
  at: instantSchema.describe("When it happened, ISO 8601 with Z or an offset."),
  v: z.int().min(1).max(1000).optional().describe("Version of the event's shape; 1 when absent."),
  by: idSchema.optional().describe("Who recorded it."),
  device: idSchema.optional().describe("The device it was recorded on."),
  seq: z.int().min(0).max(Number.MAX_SAFE_INTEGER).optional().describe("Counts up on one device."),
  recordedAt: instantSchema.optional().describe("When it was written down, where that was later than `at`."),
};
const step = text(80).describe("Step id of the program.");
const side = z.literal(SIDES).optional().describe("near or off; none or absent for a step without sides.");
const phase = z
  .literal(PHASES)
  .optional()
  .describe("What it took: 0 a thought … 4 firm. Absent where the step has no phase.");
const mood = z.literal(MOODS).optional().describe("0 loose … 4 over. Needed with `gave`.");
const answer = z.literal(ANSWERS);
const dose = z.number().min(0).max(100_000).optional();

const askSchema = z
  .looseObject({
    ...head,
    type: z.literal("ask"),
    step,
    side,
    phase,
    answer,
    mood,
    asked: dose.describe("Dose asked for, in the step's unit; the step's standard dose when absent."),
    dose: dose.describe("Dose got, in the step's unit; the step's standard dose when absent."),
    after: z.literal(AFTERS).optional().describe("What followed the release."),
  })
  .describe("One cue and its answer.");

const seriesSchema = z
  .looseObject({
    ...head,
    type: z.literal("series"),
    step,
    side,
    count: z.int().min(1).max(500).describe("How many asks."),
    clean: z.int().min(0).max(500).describe("How many of them were clean; at most count."),
    first: answer.describe("The first one's answer."),
    worst: answer.describe("The worst one's answer."),
    phase,
    mood,
  })
  .describe("Several asks remembered as one entry; phase and mood are the usual ones.");

const signSchema = z
  .looseObject({ ...head, type: z.literal("sign"), sign: z.literal(SIGNS) })
  .describe("A sign of ease or of strain.");

const mishapSchema = z
  .looseObject({
    ...head,
    type: z.literal("mishap"),
    kind: z.literal(MISHAPS),
    severity: z.literal(SEVERITIES).describe("1 a scare … 4 grave."),
    personHurt: z.boolean(),
    after: z.string().max(2000).optional().describe("What led to it."),
  })
  .describe("Something went wrong.");

const noteSchema = z.looseObject({ ...head, type: z.literal("note"), text: text(10_000) }).describe("Words.");

const correctionSchema = z
  .looseObject({
    ...head,
    type: z.literal("correction"),
    replaces: idSchema.describe("Id of the event it corrects; may be a correction."),
    void: z.literal(true).optional().describe("true: the event does not count."),
    with: z.record(z.string(), z.unknown()).optional().describe("Changed fields of the event."),
  })
  .refine((correction) => (correction.void === undefined) !== (correction.with === undefined), {
    error: "expected either void: true or with: {changed fields}",
  })
  .describe("Voids or changes an earlier event, which stays in the record.");

const outingHead = { place: labelSchema.optional(), handler: labelSchema.optional() };
const outingStartSchema = z
  .looseObject({ ...head, type: z.literal("outing-start"), ...outingHead })
  .describe("An outing began. A file may leave it out: the outing's own head says the same.");
const outingEndSchema = z
  .looseObject({ ...head, type: z.literal("outing-end") })
  .describe("An outing ended. A file may leave it out: the outing's own head says the same.");

const restSchema = z
  .looseObject({ ...head, type: z.literal("rest"), reason: z.string().max(2000).optional() })
  .describe("A horse event: taken out of work.");
const returnSchema = z.looseObject({ ...head, type: z.literal("return") }).describe("A horse event: back in work.");

/** An event of a type this version does not know: kept, exported again, ignored by the judge. */
export const unknownEventSchema = z
  .looseObject({ ...head, type: text(80) })
  .describe("Any other type: kept and handed on, ignored by the judge.");

export const EVENT_SCHEMAS = {
  ask: askSchema,
  series: seriesSchema,
  sign: signSchema,
  mishap: mishapSchema,
  note: noteSchema,
  correction: correctionSchema,
  "outing-start": outingStartSchema,
  "outing-end": outingEndSchema,
  rest: restSchema,
  return: returnSchema,
} as const;
export type KnownType = keyof typeof EVENT_SCHEMAS;

export function isKnownType(type: unknown): type is KnownType {
  return typeof type === "string" && Object.hasOwn(EVENT_SCHEMAS, type);
}
