import { z } from "zod";
import { NEXT_REASONS, type GateJudgement, type Judgement, type WhatNext } from "@still-pine/core/readiness";
import { bySide, count, day, sideKeys, status, text } from "./basics";
import { shapedAs } from "./shaped";

/** What the judge answers: verdicts, gates, and what is next. */

export const findingSchema = z.object({
  code: text,
  met: z.boolean(),
  side: z.literal(sideKeys).optional(),
  have: z.unknown(),
  need: z.unknown(),
  keeps: z.literal(true).optional(),
  evidence: z.array(text),
});

export const gateShutSchema = findingSchema.extend({
  code: z.literal("gate-shut"),
  have: z.object({
    lacks: z.array(text),
    ground: count.optional().describe("Outings on the ground that are due first, after a break."),
    again: z.literal(true).optional().describe("It was behind him and lies ahead again, after a break."),
  }),
  need: text,
});

export const shutSchema = z
  .array(z.object({ gate: text, why: gateShutSchema, steps: z.array(text) }))
  .describe("What shut gates hold back today, and why they are shut.");

export const judgementSchema = shapedAs<Judgement>()(
  z.object({
    step: text,
    status,
    held: z.boolean(),
    lastAsked: day.nullable(),
    goodToday: z
      .literal(true)
      .optional()
      .describe("Every side is good for today: what rests on it may be tried. Said only where it is so."),
    standsOn: z
      .array(z.object({ step: text, status, good: z.boolean().describe("Good today.") }))
      .optional()
      .describe("Where it is begun and not steady: what it rests on that is not steady either."),
    sides: bySide(
      z.object({
        status,
        weightClean: z.number(),
        weightNot: z.number(),
        longClean: z.number(),
        longNot: z.number(),
        sure: z.number(),
        lately: z.number(),
        days: count,
        lastClean: day.nullable(),
        outings: count,
        standardAsked: text.nullable(),
      }),
    ),
    findings: z.array(findingSchema),
    toOpen: z.array(
      z.object({
        code: text,
        side: z.literal(sideKeys).optional(),
        count: z.number().optional(),
        outings: z.number().optional(),
        step: text.optional(),
        what: text.optional(),
        text,
      }),
    ),
  }),
);

export const gateSchema = shapedAs<GateJudgement>()(
  z.object({
    gate: text,
    behind: z.boolean(),
    met: z.boolean().describe("Every step it asks for is steady. Body, care and the day itself come on top."),
    needs: z.array(z.object({ anyOf: z.array(text), met: z.boolean(), status })),
  }),
);

export const baseSchema = z.object({
  step: text,
  rung: z.union([text, z.number()]).optional().describe("As far as which rung it is needed, where not all of it is."),
  stands: z.boolean().describe("By itself: steady, or a person lets go on from it. Else it has to be good today."),
  waits: z
    .array(z.literal(sideKeys))
    .describe("Sides of which one clean first ask makes it good today: their last outing ended so."),
});
const nextStepSchema = z.object({
  step: text,
  status,
  reason: z.literal(NEXT_REASONS),
  gate: text.optional(),
  days: z.int().optional(),
  months: count.optional(),
  onTrust: z.array(text).optional().describe("What it rests on and that is good today, and not steady yet."),
  after: z.array(baseSchema).optional().describe("What it rests on."),
});
export const upToSchema = z
  .array(z.object({ step: text, rung: text, gate: text }))
  .describe(
    "Steps of which only the smaller rungs may be worked, as far as the one named: a shut gate stands before the next.",
  );
export const whatNextSchema = shapedAs<WhatNext>()(
  z.object({
    work: z.array(nextStepSchema),
    follow: z
      .array(nextStepSchema)
      .describe("What may be begun, or gone on with, once what it rests on is good today."),
    checkCold: z.array(nextStepSchema),
    gate: text.nullable(),
    upTo: upToSchema,
    breakDays: count.nullable().describe("Days of a break that is not over: not all has come clean cold since."),
    shut: shutSchema,
  }),
);
