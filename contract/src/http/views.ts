import { z } from "zod";
import { shapedAs } from "./shaped";
import type { CorrectionEvent, RecordEvent } from "@still-pine/core/record";
import { PRECISIONS, SEXES } from "@still-pine/core/record";
import type { DayEstimates } from "@still-pine/core/evidence";
import { NEXT_REASONS, type CountedAsk, type VerdictChange, type WordAnew } from "@still-pine/core/readiness";
import type { Brief } from "@still-pine/core/planning";
import type { ProgramFile, Ladder, Standard } from "@still-pine/core/programs";
import { bySide, count, day, sideKeys, status, text } from "./basics";
import { UNIT_SYSTEMS, DIALECTS } from "./bodies";
import {
  baseSchema,
  findingSchema,
  gateSchema,
  gateShutSchema,
  judgementSchema,
  shutSchema,
  upToSchema,
  whatNextSchema,
} from "./judged";

/** What the server answers with, as schemas: the types, OpenAPI and the tests are made from them. */

export { count, day, status, text, whatNextSchema };
export const event = shapedAs<RecordEvent>()(z.looseObject({ id: text, at: text, type: text }));
const correction = shapedAs<CorrectionEvent>()(
  z.looseObject({
    id: text,
    at: text,
    type: text,
    replaces: text,
  }),
);

export const inputProblemSchema = z.object({ path: text, expected: text, found: text });
export const inputWarningSchema = z.object({
  code: z.literal([
    "unknown-program",
    "other-content",
    "comes-along",
    "unknown-step",
    "unknown-type",
    "stray-correction",
    "side-ignored",
    "part-missing",
    "clock-suspect",
    "other-time-zone",
  ]),
  event: text.optional(),
  text,
});

export const ownProgramsSchema = shapedAs<readonly ProgramFile[]>()(
  z.array(z.looseObject({ id: text, version: count, name: text })),
)
  .optional()
  .describe("The yard's own programs, every version, as they are written down.");

export const yardViewSchema = z.object({
  name: text,
  timeZone: text,
  units: z.literal(UNIT_SYSTEMS),
  words: z.literal(DIALECTS),
  version: count,
  today: day,
  places: z.array(text),
  people: z.array(text),
  programs: ownProgramsSchema,
});
export type YardView = z.infer<typeof yardViewSchema>;

export const labelViewSchema = z.object({ id: text, label: text, version: count });
export type LabelView = z.infer<typeof labelViewSchema>;

/** One hoofprint of a trail. */
const printViewSchema = z.object({
  step: text,
  status,
  held: z.boolean().optional(),
  sides: bySide(z.object({ status, sure: z.number() })),
});
export type PrintView = z.infer<typeof printViewSchema>;

const waitsOnSchema = z.object({ step: text, status, text });
export const programRefSchema = z.object({ id: text, version: count });

export const stringHorseSchema = z.object({
  id: text,
  name: text,
  foaled: day,
  foaledPrecision: z.literal(PRECISIONS),
  sex: z.literal(SEXES),
  version: count,
  age: text.describe("In words; a span where the foaling date is not known to the day."),
  inWork: z.boolean(),
  workDays: count,
  calendarDays: count,
  lastOuting: day.nullable(),
  program: programRefSchema.describe("What judges him."),
  trail: z.array(printViewSchema).describe("Steps that were asked; all others of the program are untried."),
  steady: count,
  slipped: count,
  rusty: count,
  edge: z
    .array(z.object({ step: text, status, reason: z.literal(NEXT_REASONS) }))
    .describe("Where work is now, the most pressing first."),
  gate: z
    .object({ gate: text, have: count, of: count })
    .nullable()
    .describe("The next gate, and how much of what it asks for is steady."),
  waitsOn: waitsOnSchema.nullable(),
});
export type StringHorse = z.infer<typeof stringHorseSchema>;

export const stringViewSchema = z.object({ yard: yardViewSchema, horses: z.array(stringHorseSchema) });
export type StringView = z.infer<typeof stringViewSchema>;

const outingSummarySchema = z.object({
  id: text,
  day,
  startedAt: text,
  endedAt: text,
  place: text.nullable(),
  handler: text.nullable(),
  asks: count,
  steps: z.array(text),
  mishaps: count,
});
export type OutingSummary = z.infer<typeof outingSummarySchema>;

/** One entry with everything that was ever said about it. */
const entryViewSchema = z.object({
  event,
  current: event.describe("As it counts now."),
  voided: z.boolean(),
  corrections: z
    .array(z.object({ event: correction, undone: z.boolean() }))
    .describe("All corrections of it and of those, in order, those that were undone too."),
});
export type EntryView = z.infer<typeof entryViewSchema>;

export const horseViewSchema = z.object({
  yard: yardViewSchema,
  horse: stringHorseSchema,
  judgements: z.array(judgementSchema),
  gates: z.array(gateSchema),
  next: whatNextSchema,
  formerAsks: z
    .array(z.object({ step: text, rung: text, asks: count, from: day, to: day }))
    .describe(
      "Asks that could not say their rung and count for the smallest, by step; each may be said to have been in full.",
    ),
  outings: z.array(outingSummarySchema).describe("The latest ones; the diary has all."),
  outingCount: count,
  entries: z.array(entryViewSchema).describe("What is said of the horse itself, the latest first."),
});
export type HorseView = z.infer<typeof horseViewSchema>;

export const diarySchema = z.object({ outings: z.array(outingSummarySchema), total: count });
export type Diary = z.infer<typeof diarySchema>;

export const feelViewSchema = z.object({
  outings: z
    .array(z.object({ id: text, day }))
    .describe("The latest ones in which an answer was given, the earliest first."),
  answers: z
    .array(z.object({ outing: count, step: text, phase: count.nullable(), mood: count, count }))
    .describe("Answers given, by the outing's place in the list, step, phase and mood."),
});
export type FeelView = z.infer<typeof feelViewSchema>;

const countedAskSchema = shapedAs<CountedAsk>()(
  z.object({
    event,
    side: z.literal(sideKeys),
    outing: text,
    day,
    worth: z.literal(["clean", "miss", "neutral", "practice", "lucky", "failed-lucky", "series"]),
    cold: z.boolean(),
    clean: z.number(),
    not: z.number(),
  }),
);

export const stepViewSchema = z.object({
  horse: stringHorseSchema,
  judgement: judgementSchema,
  standard: shapedAs<Standard>()(
    z
      .object({
        phase: count.nullable(),
        mood: count,
        dose: z.looseObject({ amount: z.number(), unit: text }).nullable(),
        withoutTool: z.boolean().optional(),
        within: z.number().optional(),
        lateSpoils: z.boolean().optional(),
      })
      .describe("The standard he is judged by: the program's, with his own laid over it."),
  ),
  ladder: shapedAs<Ladder>()(
    z
      .object({
        rungs: z.array(z.object({ id: text, dose: z.number().optional(), at: text.optional() })),
        standard: count,
        tool: text.nullable(),
        own: count.optional(),
        inFullUntil: z.number().optional(),
      })
      .describe("The ladder he is judged by, with his own standard and what was said of his asks laid over it."),
  ),
  asks: z.array(countedAskSchema),
  said: z.array(entryViewSchema).describe("Standards adjusted, overrides and holds that stand and bear on this step."),
});
export type StepView = z.infer<typeof stepViewSchema>;

export const verdictChangeSchema = shapedAs<VerdictChange>()(
  z.object({
    step: text,
    side: z.literal(sideKeys).optional(),
    from: status,
    to: status,
    better: z.boolean(),
    text,
  }),
);

export const outingViewSchema = z.object({
  horse: stringHorseSchema,
  outing: outingSummarySchema,
  head: z.record(text, z.unknown()).describe("What stands of the outing as a whole."),
  program: programRefSchema.nullable().describe("What it was worked under, where that was written down."),
  verdicts: z
    .array(z.object({ step: text, before: status.nullable(), now: status.nullable() }))
    .describe("Words of the steps asked in it: after it, as its own program judged, and today."),
  changes: z
    .array(z.object({ change: verdictChangeSchema, why: z.array(text) }))
    .describe(
      "What the judge saw anew by this outing: from the word before it to the word after, with what is still missing.",
    ),
  entries: z.array(entryViewSchema),
  pairs: z
    .array(z.tuple([text, text]))
    .describe("Asks that two devices both saw: the one that counts, and the one left out."),
  recorders: z.record(text, text).describe("Names of devices, by what they call themselves in the entries."),
});
export type OutingView = z.infer<typeof outingViewSchema>;

const sideKey = z.literal(sideKeys);
const proposedSchema = z.looseObject({
  step: text,
  line: z.object({
    count,
    worth: z.literal(["clean", "tried"]),
    phase: count.optional(),
    rung: text.optional(),
    dose: z.number().optional(),
  }),
  isNew: z.boolean(),
  sticky: z.literal(["near", "off"]).nullable(),
  begin: z.literal(["near", "off"]).optional(),
  from: bySide(text).optional().describe("Id of the rung each side begins on; the smallest where none is named."),
  asked: z.array(z.literal(sideKeys)).optional().describe("Sides on which the standard was asked before today."),
  last: bySide(z.object({ asks: count, clean: count, phase: count.nullable(), mood: count })),
  after: z
    .array(baseSchema)
    .optional()
    .describe("What it rests on, and waits for where that does not stand by itself."),
  why: z.literal([...NEXT_REASONS, "again", "cold"]),
  days: count,
  outings: count,
});
/** What a kind of thing needs beside its kind differs; the code that makes them says it. */
const kinds = z.array(z.looseObject({ kind: text }));
const briefSchema = shapedAs<Brief>()(
  z.object({
    workDay: count.describe("Which day of work this outing is."),
    calendarDay: count.describe("Which calendar day since the first."),
    last: z
      .object({
        id: text,
        day,
        daysAgo: count,
        minutes: z.number(),
        place: text.nullable(),
        handler: text.nullable(),
        caught: text.nullable(),
        caughtSeconds: z.number().nullable(),
        unended: z.boolean().describe("Closed by itself."),
        lastAsk: z.looseObject({ step: text, answer: text }).nullable(),
        weak: z.array(z.object({ step: text, side: sideKey, good: count, asks: count })),
        worries: kinds,
        helped: kinds,
        notes: z.array(text),
      })
      .nullable(),
    nextTime: z
      .object({
        steps: z.array(text),
        text: text.nullable(),
        heldBack: z
          .array(z.object({ step: text, why: gateShutSchema.nullable(), months: count.optional() }))
          .describe("Of those, what is not on the card: a gate is shut, or the program waits for an age."),
      })
      .nullable(),
    oldHabits: kinds.describe("After a break: what may come back."),
    breakDays: count.nullable(),
    heldBack: z
      .array(proposedSchema)
      .describe("What the last review chose and is not on the card, as it would stand there."),
    checkCold: z.array(proposedSchema),
    edge: z.array(proposedSchema),
    upTo: upToSchema,
    shut: shutSchema,
    caps: z.object({
      name: text,
      workingMinutes: count,
      inHandMinutes: count,
      look: text.optional().describe("What is to be looked at in a horse of that age."),
      earlier: z
        .object({ working: count, inHand: count })
        .optional()
        .describe("Minutes of earlier outings of the day: the caps are what is left."),
    }),
    usualMinutes: z.number().nullable(),
  }),
);

export const briefViewSchema = z.object({ yard: yardViewSchema, horse: stringHorseSchema, brief: briefSchema });
export type BriefView = z.infer<typeof briefViewSchema>;

export const newVersionSchema = z.object({ id: text, version: count });

/** RFC 9457. */
export const problemSchema = z.looseObject({
  type: text,
  title: text,
  status: z.int(),
  detail: text,
  errors: z.array(inputProblemSchema).optional(),
});
export type Problem = z.infer<typeof problemSchema>;

const dayEstimateSchema = z
  .object({
    value: z.number(),
    range: z
      .tuple([z.number(), z.number()])
      .nullable()
      .describe("Holds the true value about 95 times of 100; null where there are too few horses to say."),
    from: count.describe("Pairs of days, or days, it was made from."),
  })
  .nullable()
  .describe("Null where there is too little.");
export const dayEstimatesSchema = shapedAs<DayEstimates>()(
  z.object({
    horses: count,
    together: dayEstimateSchema.describe("How far asks of one side on one day hang together, from 0 to 1."),
    firstWorse: dayEstimateSchema.describe("Share of clean first asks less than of those after them."),
  }),
);

/** A horse with the words an update found otherwise. */
export const horseAnewSchema = z.object({
  id: text,
  name: text,
  program: programRefSchema,
  words: z.array(
    shapedAs<WordAnew>()(z.object({ step: text, from: status, to: status, why: findingSchema.nullable() })),
  ),
});
export type HorseAnewView = z.infer<typeof horseAnewSchema>;
