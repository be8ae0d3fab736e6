import { z } from "zod";
import { shapedAs } from "./shaped";
import type { ProgramFile } from "@still-pine/core/programs";
import { count, programRefSchema, status, stringHorseSchema, text, whatNextSchema } from "./views";

/** A yard's own programs: drafts, and what a version that is published changes for each horse. */

const DRAFT_MOST = 500_000;

/** A draft may be unsound, so it is only asked to be a program at all; its id is that of the address. */
export const draftSchema = z.object({
  file: z
    .looseObject({ name: z.string().min(1).max(120) })
    .refine((file) => JSON.stringify(file).length <= DRAFT_MOST, { error: "a program of at most 500,000 signs" }),
});

const fileSchema = shapedAs<ProgramFile>()(z.looseObject({ id: text, version: count, name: text }));

export const draftViewSchema = z.object({
  id: text,
  version: count.describe("Of the draft, for If-Match; not of the program."),
  file: z.looseObject({ id: text, name: text }),
});
export type DraftView = z.infer<typeof draftViewSchema>;

export const programsViewSchema = z.object({
  published: z.array(fileSchema).describe("The yard's own, every version, the earlier first."),
  drafts: z.array(draftViewSchema),
});
export type ProgramsView = z.infer<typeof programsViewSchema>;

export const programChangesSchema = z.object({
  horses: z.array(
    z.object({
      horse: text,
      name: text,
      changes: z.array(text).describe("Words of his steps that would be others, as sentences."),
      next: text.nullable().describe("What would be next, where that is another step."),
    }),
  ),
});
export type ProgramChanges = z.infer<typeof programChangesSchema>;

export const publishedSchema = z.object({ id: text, version: count });

const heldStepsSchema = z.array(z.object({ step: text, status }));
/** What a horse's record is worth under other programs. */
export const underViewSchema = z.object({
  horse: stringHorseSchema,
  programs: z.array(
    z.object({
      program: programRefSchema,
      next: whatNextSchema,
      held: z.array(text).describe("What he holds now and would take along."),
      steady: count,
      of: count,
      move: z
        .object({
          counts: z.array(text),
          asksMore: heldStepsSchema,
          gaps: heldStepsSchema,
          fresh: z.array(text),
          leaves: z.array(text),
        })
        .describe(
          "Against the program that judges him now: what counts there, what asks for more, what is a gap, what is new.",
        ),
    }),
  ),
});
export type UnderView = z.infer<typeof underViewSchema>;
