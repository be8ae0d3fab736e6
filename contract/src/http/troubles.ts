import { z } from "zod";
import { idSchema } from "../record/events";
import { count, text } from "./views";

/** Troubles a yard has added: what is seen, who looks at the body, and the steps that lie under it. */

const sentence = z.string().trim().min(1).max(300);

export const troubleFieldsSchema = z.object({
  name: z.string().trim().min(1).max(120),
  seen: z.array(z.string().trim().min(1).max(120)).max(20),
  body: z
    .array(z.object({ look: sentence, who: z.literal(["vet", "dentist", "farrier", "saddle fitter", "you"]) }))
    .min(1)
    .max(10)
    .describe("The body first, always: at least one look at it."),
  steps: z
    .array(z.object({ step: idSchema, why: sentence }))
    .min(1)
    .max(20),
});
export type TroubleFields = z.infer<typeof troubleFieldsSchema>;

export const troubleViewSchema = troubleFieldsSchema.extend({ id: text, version: count });
export type TroubleView = z.infer<typeof troubleViewSchema>;
