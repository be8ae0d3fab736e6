import { z } from "zod";
import { shapedAs } from "./shaped";
import type { CheckUpPlan, CheckUpResult } from "@still-pine/core/checkup";
import { STAGES } from "@still-pine/core/programs";
import { count, stringHorseSchema, text, yardViewSchema } from "./views";

/** A check-up: what is to be tested, and what the last ones found. */

const found = z.literal(["holds", "rusty", "hole", "not-tested"]);

const planSchema = shapedAs<CheckUpPlan>()(
  z.object({
    tests: z
      .array(
        z.object({
          step: text,
          sides: z.array(z.object({ side: text, share: z.number() })),
          twice: z.boolean(),
          held: z.boolean(),
          guarded: z.boolean(),
          needs: z.array(z.array(z.array(text))),
          under: z.array(text),
        }),
      )
      .describe("In the order in which they are asked."),
    spared: z.array(z.object({ step: text, by: text })).describe("No test needed: the step above came clean lately."),
    heldBack: z.array(text).describe("Held by a person: not asked."),
    tooYoung: z.array(text).describe("Not asked of a horse of his age by his program."),
    known: z.array(z.tuple([text, found])).describe("What is known of every other step before the first ask."),
    expected: z.number().describe("Asks expected, from the shares of the record."),
    most: count,
  }),
);

const resultSchema = shapedAs<CheckUpResult>()(
  z.object({
    outing: text,
    day: text,
    found: z.array(z.object({ step: text, found, sides: z.record(text, found), spared: z.boolean() })),
    mend: z.array(text),
    asks: count,
    expected: z.number().nullable(),
  }),
);

export const checkUpViewSchema = z.object({
  yard: yardViewSchema,
  horse: stringHorseSchema,
  stages: z.array(z.literal(STAGES)).describe("Stages of this horse's road, in their order."),
  upTo: z.literal(STAGES).nullable().describe("The last stage that is tested; null where just some steps are."),
  plan: planSchema,
  results: z.array(resultSchema).describe("What the last check-ups found, the latest first."),
});
export type CheckUpView = z.infer<typeof checkUpViewSchema>;
