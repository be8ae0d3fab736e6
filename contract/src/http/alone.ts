import { z } from "zod";
import { PRECISIONS, SEXES } from "@still-pine/core/record";
import type { HorseFold } from "@still-pine/core/readiness";
import { shapedAs } from "./shaped";
import { idSchema } from "../record/events";
import { troubleViewSchema } from "./troubles";
import { DIALECTS, UNIT_SYSTEMS } from "./bodies";
import { count, day, diarySchema, event, ownProgramsSchema, text } from "./views";

/** A phone that is alone: what it keeps of the yard, and what waits on it as a file. */

const labelsOf = z.array(z.tuple([text, text])).describe("Ids and labels.");

export const packViewSchema = z.object({
  yard: z.object({
    id: text,
    name: text,
    timeZone: text,
    units: z.literal(UNIT_SYSTEMS),
    words: z.literal(DIALECTS),
    version: count,
    programs: ownProgramsSchema,
  }),
  place: labelsOf,
  person: labelsOf,
  horses: z
    .array(z.object({ id: text, mark: text }))
    .describe("Every horse of the string; the mark is another one when there is something new of him."),
  troubles: z.array(troubleViewSchema).optional().describe("Those the yard has added; absent where it has none."),
});
export type PackView = z.infer<typeof packViewSchema>;

export const horsePackSchema = z.object({
  mark: text,
  row: z.object({
    id: text,
    name: text,
    foaled: day,
    foaledPrecision: z.literal(PRECISIONS),
    sex: z.literal(SEXES),
    programId: text,
    version: count,
  }),
  fold: shapedAs<HorseFold>()(z.looseObject({ judge: text })).describe(
    "What was gathered of him before his latest outing.",
  ),
  ofHorse: z
    .array(event)
    .describe("What is said of the horse itself, with every correction of it; people and places by id."),
  outings: z
    .array(z.object({ id: text, events: z.array(event) }))
    .describe("The last ones, in order, with every correction of theirs."),
  diary: diarySchema,
});
export type HorsePack = z.infer<typeof horsePackSchema>;

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
