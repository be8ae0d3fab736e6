import { z } from "zod";
import { count, day, event, inputProblemSchema, inputWarningSchema, text, verdictChangeSchema } from "./views";

/** What sending, bringing in and the ledger answer with. */

const eventResultSchema = z.object({
  id: text,
  result: z.literal(["stored", "already there", "refused"]),
  why: z.array(inputProblemSchema).optional(),
  warning: z
    .literal("clock-suspect")
    .optional()
    .describe("Its time is later than now: kept, but that clock may be wrong."),
});
export type EventResult = z.infer<typeof eventResultSchema>;

export const batchResultSchema = z.object({
  results: z.array(eventResultSchema),
  changes: z
    .array(z.object({ horse: text, changes: z.array(verdictChangeSchema) }))
    .describe("What the stored events changed, in words, by horse."),
});
export type BatchResult = z.infer<typeof batchResultSchema>;

/** Something that is there already with other content; of an entry both are given. */
const conflictSchema = inputProblemSchema.extend({
  there: event.optional(),
  file: event.optional().describe("As the file has it."),
});
export type Conflict = z.infer<typeof conflictSchema>;

/** What happened to one horse's record that came in, or would happen. */
const importedHorseSchema = z.object({
  horse: text,
  name: text,
  isNew: z.boolean(),
  stored: count,
  alreadyThere: count,
  outings: count.describe("Outings that were not there before."),
  media: count.describe("Photos and clips that were not there before."),
  conflicts: z.array(conflictSchema).describe("There already with other content; these stay as they are."),
});
export type ImportedHorse = z.infer<typeof importedHorseSchema>;

export const importResultSchema = z.object({
  preview: z.boolean(),
  horses: z.array(importedHorseSchema),
  warnings: z.array(inputWarningSchema),
  aside: z
    .array(inputProblemSchema.extend({ file: text, entry: z.unknown().optional() }))
    .describe("What of an archive could not be read, as it stood there; the rest comes in. The first 10,000."),
});
export type ImportResult = z.infer<typeof importResultSchema>;

export const csvResultSchema = z.object({
  preview: z.boolean(),
  stored: count,
  alreadyThere: count,
  rows: z
    .array(z.object({ line: count, horse: text, text, result: eventResultSchema.shape.result }))
    .describe("The first 200 rows."),
  refused: z.array(inputProblemSchema),
});
export type CsvResult = z.infer<typeof csvResultSchema>;

export const mediaViewSchema = z.object({
  id: text,
  outing: text.nullable(),
  contentType: text,
  byteCount: count,
  storedAt: text,
  hasThumbnail: z.boolean(),
});
export type MediaView = z.infer<typeof mediaViewSchema>;

const ledgerRowSchema = z.object({
  id: text,
  kind: text.describe("A type of event, or `outing`."),
  day,
  at: text,
  horse: text,
  outing: text.nullable(),
  place: text.nullable(),
  handler: text.nullable(),
  minutes: count,
  voided: z.boolean(),
  corrected: z.boolean(),
  event: event.nullable().describe("As it counts now; none for an outing."),
});
export type LedgerRowView = z.infer<typeof ledgerRowSchema>;

export const ledgerPageSchema = z.object({ rows: z.array(ledgerRowSchema), next: text.nullable() });
export type LedgerPage = z.infer<typeof ledgerPageSchema>;

export const ledgerSumsSchema = z.object({
  rows: count,
  outings: count,
  minutes: count,
  asks: count,
  sides: z.object({ near: count, off: count, none: count }).describe("Asks by side."),
  days: z.array(z.tuple([day, count])).describe("Rows a day, latest first."),
});
export type LedgerSums = z.infer<typeof ledgerSumsSchema>;
