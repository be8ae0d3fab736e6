import { z } from "zod";
import type { ProgramFile } from "@still-pine/core/programs";
import { shapedAs } from "./shaped";
import { idSchema } from "../record/events";
import { DIALECTS } from "./bodies";
import { event, count, programRefSchema, text } from "./views";

/** Two on one outing: what it set out with, which run, and what whoever joins is told. */

const PLAN_EXERCISES_MOST = 30;
const CHECK_UP_STEPS_MOST = 300;

const found = z.literal(["holds", "rusty", "hole", "not-tested"]);
const stepIds = z.array(idSchema).max(CHECK_UP_STEPS_MOST);
/** A check-up's course, so that whoever joins has the same next test. */
const checkUpCourse = z.object({
  tests: z
    .array(
      z.object({
        step: idSchema,
        sides: z.array(z.object({ side: z.string().max(20), share: z.number().min(0).max(1) })).max(4),
        twice: z.boolean(),
        held: z.boolean(),
        guarded: z.boolean(),
        needs: z.array(z.array(stepIds).max(20)).max(50),
        under: stepIds,
      }),
    )
    .max(CHECK_UP_STEPS_MOST),
  known: z.array(z.tuple([idSchema, found])).max(CHECK_UP_STEPS_MOST),
  spared: stepIds,
  expected: z.number().min(0).max(10_000),
});

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
  upTo: z
    .array(z.looseObject({ step: idSchema, rung: idSchema, gate: idSchema }))
    .max(PLAN_EXERCISES_MOST)
    .optional()
    .describe("As far as which rung a step may be worked, where a gate within its ladder is shut."),
  shut: z
    .array(z.looseObject({ gate: idSchema, why: z.looseObject({}), steps: stepIds }))
    .max(PLAN_EXERCISES_MOST)
    .optional()
    .describe("What shut gates hold back that day, and why they are shut."),
  checkUp: checkUpCourse
    .optional()
    .describe("Where it is a check-up: its tests in their order, and what was known before."),
});
export type OutingPlanBody = z.infer<typeof outingPlanSchema>;

/** Where a live stream goes on: after this event, by the order of coming in. */
export const liveQuerySchema = z.object({
  after: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER).default(0),
});

export const runningViewSchema = z.array(
  z.object({
    outing: text,
    horse: text,
    horseName: text,
    startedAt: text,
    place: text.nullable(),
    handler: text.nullable(),
  }),
);
export type RunningView = z.infer<typeof runningViewSchema>;

export const railViewSchema = z.object({
  outing: text,
  horse: text,
  horseName: text,
  timeZone: text,
  words: z.literal(DIALECTS),
  program: programRefSchema,
  programFile: shapedAs<ProgramFile>()(z.looseObject({ id: text }))
    .optional()
    .describe("A program of the yard's own, in that version."),
  startedAt: text,
  isOver: z.boolean(),
  plan: z
    .looseObject({ exercises: z.array(z.looseObject({ step: text })), known: z.array(text) })
    .nullable()
    .describe("What the outing set out with, as whoever began it said."),
  events: z.array(event),
  arrival: count.describe("The last of these events, by the order of coming in; the live stream goes on after it."),
});
export type RailView = z.infer<typeof railViewSchema>;
