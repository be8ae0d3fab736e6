import { z } from "zod";
import { PRECISIONS, SEXES } from "@still-pine/core/record";
import { daySchema, idSchema, labelSchema, timeZoneSchema } from "../record/events";

/** Bodies the server takes. Single events are read by `parseEvent`, so that a bad one does not stop the good ones. */

const nameSchema = labelSchema.refine((name) => name.trim() !== "", { error: "a name" });

export const horseFieldsSchema = z.object({
  name: nameSchema,
  foaled: daySchema,
  foaledPrecision: z.literal(PRECISIONS),
  sex: z.literal(SEXES),
});
export type HorseFields = z.infer<typeof horseFieldsSchema>;

export const newHorseSchema = horseFieldsSchema.extend({ id: idSchema });
export type NewHorse = z.infer<typeof newHorseSchema>;

export const UNIT_SYSTEMS = ["metric", "imperial"] as const;
export const DIALECTS = ["american", "british"] as const;
export type Dialect = (typeof DIALECTS)[number];

export const yardFieldsSchema = z.object({
  name: nameSchema,
  timeZone: timeZoneSchema,
  units: z.literal(UNIT_SYSTEMS).describe("What a measure without a unit is read in; heights are in hands in both."),
  words: z.literal(DIALECTS),
});
export type YardFields = z.infer<typeof yardFieldsSchema>;

export const labelFieldsSchema = z.object({ label: nameSchema });

/** Events a batch may carry. */
export const BATCH_MOST = 500;

export const batchSchema = z.object({
  events: z
    .array(z.object({ horse: idSchema, outing: idSchema.nullable(), event: z.looseObject({ id: idSchema }) }))
    .min(1)
    .max(BATCH_MOST, { error: `at most ${BATCH_MOST} events in one batch` }),
});
export type Batch = z.infer<typeof batchSchema>;

/** Ids of photos and clips also name their files. */
export const mediaIdSchema = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,64}$/, { error: "an id of at most 64 letters, digits, - and _" });

/** What may narrow the ledger down; all of them hold together. */
export const ledgerFilterSchema = z.object({
  horse: idSchema.optional(),
  from: daySchema.optional().describe("First day."),
  to: daySchema.optional().describe("Last day."),
  step: idSchema.optional(),
  side: z.literal(["near", "off", "none"]).optional(),
  kind: idSchema.optional().describe("A type of event, or `outing`."),
  handler: labelSchema.optional(),
  place: labelSchema.optional(),
});
export type LedgerFilter = z.infer<typeof ledgerFilterSchema>;

const LEDGER_PAGE_MOST = 500;

export const ledgerQuerySchema = ledgerFilterSchema.extend({
  day: daySchema.optional().describe("Begin at this day and pass over `skip` rows of it."),
  skip: z.coerce.number().int().min(0).max(1_000_000).optional(),
  after: z.string().max(500).optional().describe("`next` of the page before; takes the place of `day` and `skip`."),
  limit: z.coerce.number().int().min(1).max(LEDGER_PAGE_MOST).optional(),
});
export type LedgerQuery = z.infer<typeof ledgerQuerySchema>;

export const previewSchema = z.object({
  preview: z.literal("1").optional().describe("Only says what would happen; nothing is stored."),
  conflicts: z
    .literal("leave")
    .optional()
    .describe("Brings in what is new although some is there already with other content, which stays as it is."),
});
export type Preview = z.infer<typeof previewSchema>;

export const mediaQuerySchema = z.object({ outing: idSchema.optional() });

export const diaryQuerySchema = z.object({ skip: z.coerce.number().int().min(0).max(1_000_000).optional() });
/** Outings a page of a horse's diary has. */
export const DIARY_PAGE = 60;

/** A pairing code as somebody typed it. */
const codeSchema = z.string().trim().min(4).max(40);

/** A device asks to be let in. */
export const pairBodySchema = z.object({
  code: codeSchema,
  name: nameSchema.describe("What the phone is called in the list."),
  recorder: idSchema.describe("What the device calls itself in the events it records."),
});

/** What a new code lets somebody do: everything, or writing down one outing. */
export const codeBodySchema = z.discriminatedUnion("rights", [
  z.object({ rights: z.literal("all") }),
  z.object({ rights: z.literal("write"), outing: idSchema }),
]);

export const deviceFieldsSchema = z.object({
  name: nameSchema,
  isIn: z.boolean().describe("False shuts it out for good; it can be paired again."),
});
export type DeviceFields = z.infer<typeof deviceFieldsSchema>;

const PHRASE_LEAST = 8;
const phraseSchema = z
  .string()
  .min(PHRASE_LEAST, { error: `at least ${PHRASE_LEAST} characters` })
  .max(200);

/** A new pass phrase for the laptop, or none any more. */
export const passPhraseSchema = z.object({ phrase: phraseSchema.nullable(), current: z.string().max(200).optional() });

export const unlockSchema = z.object({ phrase: z.string().max(200) });

const PLAN_EXERCISES_MOST = 30;

/** What an outing set out with, for whoever joins it. */
export const outingPlanSchema = z.object({
  horse: idSchema,
  exercises: z
    .array(
      z.looseObject({
        step: idSchema,
        line: z.looseObject({ count: z.int().min(1).max(50), worth: z.literal(["clean", "tried"]) }),
        isNew: z.boolean(),
        sticky: z.literal(["near", "off"]).nullable(),
        last: z.record(z.string().max(20), z.looseObject({})),
      }),
    )
    .max(PLAN_EXERCISES_MOST),
  known: z.array(idSchema).max(PLAN_EXERCISES_MOST),
  caps: z.object({ workingMinutes: z.number().min(0).max(600), inHandMinutes: z.number().min(0).max(600) }),
});
export type OutingPlanBody = z.infer<typeof outingPlanSchema>;

/** Where a live stream goes on: after this event, by the order of coming in. */
export const liveQuerySchema = z.object({
  after: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER).default(0),
});

const OUTBOX_MOST = 200_000;

/** Entries that waited on a device, as a file. */
export const outboxFileSchema = z.object({
  format: z.literal("still-pine/outbox"),
  version: z.literal(1),
  yard: z.string().nullable(),
  device: idSchema,
  writtenAt: z.string(),
  events: z
    .array(
      z.object({
        horse: idSchema,
        outing: idSchema.nullable(),
        event: z.looseObject({ id: idSchema, at: z.string(), type: z.string() }),
        refused: z.string().optional().describe("Why the server did not take it."),
      }),
    )
    .max(OUTBOX_MOST),
});
export type OutboxFile = z.infer<typeof outboxFileSchema>;
