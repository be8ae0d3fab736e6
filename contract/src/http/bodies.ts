import { z } from "zod";
import { PRECISIONS, SEXES } from "@still-pine/core/record";
import { idSchema, labelSchema } from "../record/events";

/** Bodies the server takes. Single events are read by `parseEvent`, so that a bad one does not stop the good ones. */

export const horseFieldsSchema = z.object({
  name: labelSchema.refine((name) => name.trim() !== "", { error: "a name" }),
  foaled: z.iso.date(),
  foaledPrecision: z.literal(PRECISIONS),
  sex: z.literal(SEXES),
});
export type HorseFields = z.infer<typeof horseFieldsSchema>;

export const newHorseSchema = horseFieldsSchema.extend({ id: idSchema });
export type NewHorse = z.infer<typeof newHorseSchema>;

/** Events a batch may carry. */
export const BATCH_MOST = 500;

export const batchSchema = z.object({
  events: z
    .array(z.object({ horse: idSchema, outing: idSchema.nullable(), event: z.looseObject({ id: idSchema }) }))
    .min(1)
    .max(BATCH_MOST, { error: `at most ${BATCH_MOST} events in one batch` }),
});
export type Batch = z.infer<typeof batchSchema>;
