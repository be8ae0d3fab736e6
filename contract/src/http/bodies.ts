import { z } from "zod";
import { PRECISIONS, SEXES } from "@still-pine/core/record";
import { STAGES } from "@still-pine/core/programs";
import { daySchema, idSchema, labelSchema, timeZoneSchema } from "../record/events";
import { BATCH_MOST } from "./limits";

/** Bodies the server takes. Single events are read by `parseEvent`, so that a bad one does not stop the good ones. */

export const nameSchema = labelSchema.refine((name) => name.trim() !== "", { error: "a name" });

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

const listed = (most: number) =>
  z
    .string()
    .max(20_000)
    .transform((text) => text.split(",").filter(Boolean))
    .pipe(z.array(idSchema).min(1).max(most))
    .optional();

/** What a check-up is to test: the stages up to one, or just some steps; what he has come through where nothing is said. */
export const checkUpQuerySchema = z.object({ upTo: z.literal(STAGES).optional(), steps: listed(300) });

/** Programs a horse is looked at under at once. */
const UNDER_MOST = 12;
/** Programs to look at a horse under, by their ids with commas between; all of them where none is named. */
export const underQuerySchema = z.object({ programs: listed(UNDER_MOST) });
