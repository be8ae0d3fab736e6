import { z } from "zod";
import {
  BEGINS,
  buildProgram,
  DOSE_UNITS,
  ELSEWHERES,
  ENDS,
  FIRST_MOUNTS,
  FIRST_RIDES_IN,
  GATE_KINDS,
  GATE_ROLES,
  HEADGEARS,
  LEADS,
  PRESSURES,
  problemsOf,
  rungsNotThere,
  REWARDS,
  guardOf,
  NEWEST_EDITION,
  unsafePartsOf,
  SIDE_KINDS,
  STAGES,
  STEP_KINDS,
  STEP_MARKS,
  type JudgeNumbers,
  type Program,
  type ProgramFile,
} from "@still-pine/core/programs";
import { CARES, MOODS, PHASES, SETTINGS, ZONES } from "@still-pine/core/record";
import { idSchema } from "./events";
import { isTooDeep, LEVELS_MOST, pathInWords, problemsFrom, shown, type InputProblem } from "./problems";

/** Programs and catalogues as files: the same shape as those that ship. */

/** Ids of a yard's own programs begin so: none of them can be taken for one that ships. */
export const OWN_PROGRAM = "own-";
/** So many versions of own programs may travel with a record or an archive: one a day for years. */
export const OWN_PROGRAMS_MOST = 1000;

const refSchema = z.union([
  idSchema,
  z.strictObject({
    step: idSchema,
    setting: z.literal(SETTINGS).optional(),
    rung: z.union([z.int().min(1).max(100), idSchema]).optional(),
    parts: z.array(z.literal(ZONES)).min(1).optional(),
    gait: z.literal("canter").optional(),
  }),
]);
const needSchema = z.union([
  refSchema,
  z.array(z.union([refSchema, z.strictObject({ all: z.array(refSchema).min(1) })])).min(1),
]);
const nameSchema = z.string().min(1).max(120);

const withinSchema = z
  .number()
  .min(0.5)
  .max(60)
  .optional()
  .describe("Seconds from the cue to the first right movement; what takes longer is late.");

const stepSchema = z.strictObject({
  id: idSchema,
  stage: z.literal(STAGES),
  name: nameSchema,
  british: nameSchema.optional(),
  side: z.literal(SIDE_KINDS),
  ends: z.literal(ENDS),
  phase: z.literal(PHASES).nullable(),
  mood: z.literal(MOODS),
  dose: z
    .strictObject({
      amount: z.number().gt(0).max(100_000),
      unit: z.literal(DOSE_UNITS),
      at: z.string().min(1).max(60).optional(),
      atMost: z.boolean().optional(),
    })
    .optional(),
  kind: z.literal(STEP_KINDS).optional(),
  withoutTool: z.boolean().optional(),
  within: withinSchema,
  lateSpoils: z.boolean().optional(),
  needs: z.array(needSchema),
  guarded: z
    .boolean()
    .optional()
    .describe(
      "Whether what it rests on has to be steady before it is begun. Where nothing is said: so in a step of somebody's own, not in the catalogue's.",
    ),
  elsewhere: z.array(z.literal(ELSEWHERES)).optional(),
  still: z.boolean().optional(),
  end: z.boolean().optional(),
  rungs: z.array(nameSchema).optional(),
  people: z.int().min(1).max(5).optional(),
  marks: z.array(z.literal(STEP_MARKS)).optional().describe("What the rules have to know of it besides."),
});

const gateSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  british: nameSchema.optional(),
  kind: z
    .literal(GATE_KINDS)
    .optional()
    .describe(
      "How strict the judge is with its steps; where nothing is said, as with a rider's. A gate of the catalogue keeps its own.",
    ),
  roles: z.array(z.literal(GATE_ROLES)).optional(),
  before: z.array(idSchema),
  beforeCare: z.literal(CARES).optional(),
  steps: z.array(needSchema).min(1),
  ridden: z.array(needSchema).optional(),
  riddenBefore: z.array(idSchema).optional(),
});

const share = z.number().gt(0).lt(1);
const from1to = (most: number): z.ZodNumber => z.number().min(1).max(most);

/** Each number the judge goes by, with its own range: counts from one on, and as many as a horse's record can show. */
const NUMBERS = {
  share,
  sure: share,
  gateSure: share,
  handlingSure: share,
  latelySure: share,
  lostUnder: share,
  forgetBy: share,
  forgetPer: from1to(1000),
  longPer: from1to(1000),
  laterAsks: share,
  seriesWeight: share,
  holdDays: from1to(60),
  holdMisses: from1to(60),
  days: from1to(60),
  handlingDays: from1to(60),
  gateDays: from1to(60),
  riderDays: from1to(60),
  colds: from1to(20),
  coldsLost: from1to(20),
  firstBy: share,
  firstSure: share,
  firstLost: share,
  enoughAsks: from1to(20),
  enoughMany: from1to(100),
  enoughAfterMany: from1to(20),
  enoughDays: z.number().min(0).max(60),
  trustLinks: z.number().min(0).max(20),
  mendAsks: from1to(10),
  mendedMost: z.number().min(0).max(10),
  recent: from1to(20),
  tightLost: from1to(20),
  places: from1to(10),
  people: from1to(10),
  freshPerDay: from1to(365),
  freshAtMost: from1to(3650),
  gateFresh: from1to(365),
  breakDays: from1to(365),
  groundPer: from1to(365),
  groundMost: z.number().min(0).max(60),
  soonDays: from1to(365),
  gapAtLeast: share,
  gapAsks: from1to(100),
  cornerAtLeast: from1to(100),
  cornerShare: share,
  creepOutings: from1to(20),
  creepRise: z.number().gt(0).max(4),
  offersAtLeast: from1to(100),
} satisfies Record<keyof JudgeNumbers, z.ZodNumber>;

const textSchema = z.string().max(2000);

export const programSchema = z.strictObject({
  id: idSchema,
  version: z.int().min(1).max(10_000),
  catalogue: z
    .int()
    .min(1)
    .max(NEWEST_EDITION)
    .optional()
    .describe("The edition of the catalogue whose steps it names; the first where it names none."),
  name: nameSchema,
  about: z.string().min(1).max(2000),
  stop: z.array(idSchema),
  optional: z.array(idSchema).optional(),
  judge: z.strictObject(NUMBERS).partial().optional(),
  coach: z
    .strictObject({
      spurtSeconds: z.int().min(10).max(3600).nullable().optional(),
      spurtsMost: z.int().min(1).max(50).nullable().optional(),
      stuck: z.literal(["angle", "smaller", "wait", "more", "aim"]).optional(),
      fright: z.literal(["keep-on", "keep-hand", "when-still", "smaller", "touch-stays", "again"]).optional(),
      firstDay: z.literal(["no-more", "build"]).optional(),
      standing: z.literal(["grows", "stays"]).optional(),
      stickyShare: z.number().min(1).max(5).optional(),
      spareAsks: z.int().min(1).max(20).optional(),
      pieces: z.int().min(1).max(12).optional(),
      newPieces: z.int().min(0).max(12).optional(),
    })
    .optional()
    .describe("What the coach in the pen goes by."),
  ways: z
    .strictObject({
      pressure: z.literal(PRESSURES),
      pressureMost: z.literal(PHASES),
      reward: z.literal(REWARDS),
      lead: z.literal(LEADS).nullable(),
      headgear: z.literal(HEADGEARS),
      begin: z.literal(BEGINS),
      firstMount: z.literal(FIRST_MOUNTS).nullable(),
      firstRidesIn: z.literal(FIRST_RIDES_IN).nullable(),
      twoEyes: z.boolean(),
      quarters: z.literal(["never", "not-minded"]),
      contactWeeks: z.int().min(0).max(104).nullable(),
      canterMonths: z.int().min(24).max(120).nullable(),
      ridingMonths: z.int().min(24).max(120).nullable(),
    })
    .partial()
    .optional()
    .describe("How it goes about things where schools differ."),
  road: z.array(idSchema).min(1).max(300).optional(),
  ownSteps: z.array(stepSchema).max(200).optional(),
  standards: z
    .record(
      idSchema,
      z.strictObject({
        phase: z.literal(PHASES).optional(),
        mood: z.literal(MOODS).optional(),
        dose: z.number().gt(0).max(100_000).optional(),
        within: withinSchema,
        lateSpoils: z.boolean().optional(),
        rung: idSchema.optional().describe("Id of the rung that is the standard."),
      }),
    )
    .optional(),
  texts: z
    .strictObject({
      forWhom: textSchema,
      holdsTo: textSchema,
      why: textSchema,
      critics: textSchema,
      firstOuting: z.array(z.strictObject({ minutes: z.int().min(1).max(120), what: textSchema })).max(30),
      weeks: z.array(z.strictObject({ weeks: z.string().min(1).max(30), what: textSchema })).max(60),
    })
    .optional(),
  ends: z.array(idSchema).optional(),
  needs: z.record(idSchema, z.array(needSchema)).optional(),
  stageNeeds: z.partialRecord(z.literal(STAGES), z.array(needSchema)).optional(),
  steps: z.array(stepSchema).min(1).optional(),
  gates: z.array(gateSchema).optional(),
});

/** A program, and the file it was read from. */
export interface OwnProgram {
  program: Program;
  file: ProgramFile;
}

function readShape(input: unknown): { ok: true; file: ProgramFile } | { ok: false; problems: InputProblem[] } {
  if (isTooDeep(input))
    return {
      ok: false,
      problems: [{ path: "", expected: `at most ${LEVELS_MOST} levels of lists and objects`, found: "more" }],
    };
  const parsed = programSchema.safeParse(input);
  return parsed.success
    ? { ok: true, file: parsed.data as ProgramFile }
    : { ok: false, problems: problemsFrom(parsed.error, input) };
}

/** What is wrong with a program's shape alone, for whoever looks at its graph besides. */
export function programShapeProblems(input: unknown): InputProblem[] {
  const shape = readShape(input);
  return shape.ok ? [] : shape.problems;
}

/**
 * Reads a program that has been parsed as JSON: its shape, and then its graph: nothing unknown, nothing in a circle, every gate's
 * steps before it, nothing that nothing rests on. Reports every problem, not the first.
 *
 * @param isGuarded whether what guards a person is asked for too: of every program a yard publishes
 */
export function parseProgram(
  input: unknown,
  isGuarded = false,
): ({ ok: true } & OwnProgram) | { ok: false; problems: InputProblem[] } {
  const shape = readShape(input);
  if (!shape.ok) return shape;
  const { file } = shape;
  const program = buildProgram(file);
  const problems = [
    ...rungsNotThere(file),
    ...problemsOf(program),
    ...(isGuarded ? unsafePartsOf(program, guardOf(program)) : []),
  ].map(({ path, expected, found }): InputProblem => {
    const [list, index, ...rest] = path;
    const id = list === "steps" && typeof index === "number" ? program.steps[index]?.id : undefined;
    // A step of the shipped catalogue has no place in the file: it goes by its id.
    const place = id !== undefined && !file.steps ? [`steps ${shown(id)}`, ...rest] : path;
    return { path: pathInWords(place), expected, found };
  });
  return problems.length > 0 ? { ok: false, problems } : { ok: true, program, file };
}

/**
 * Reads a yard's own programs as they travel with a record: each sound, with all that guards a person, under an id of its own.
 *
 * @param path where the list stands, for messages
 * @param from place in it of the first of these
 */
export function parseOwnPrograms(
  inputs: readonly unknown[],
  path: readonly PropertyKey[],
  from = 0,
): { own: OwnProgram[]; problems: InputProblem[] } {
  const own: OwnProgram[] = [];
  const problems: InputProblem[] = [];
  inputs.forEach((input, index) => {
    const place = pathInWords([...path, from + index]);
    const parsed = parseProgram(input, true);
    if (!parsed.ok)
      for (const problem of parsed.problems)
        problems.push({ ...problem, path: problem.path === "" ? place : `${place}.${problem.path}` });
    else if (!parsed.file.id.startsWith(OWN_PROGRAM))
      problems.push({
        path: `${place}.id`,
        expected: `an id that begins with ${OWN_PROGRAM}`,
        found: shown(parsed.file.id),
      });
    else own.push({ program: parsed.program, file: parsed.file });
  });
  return { own, problems };
}

/** A program's file as a JSON Schema (draft 2020-12), for whoever writes one by hand. */
export const programJsonSchema = (): object => z.toJSONSchema(programSchema, { io: "input" });
