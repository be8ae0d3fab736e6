import type { NamedProgram, Program, ProgramBook } from "../programs";
import {
  compareOutings,
  type Day,
  type FoldedOuting,
  type FoldedRecord,
  type RecordEvent,
  type OutingId,
} from "../record";
import { adjustedProgram, chosenProgram, readAbout, type HorseAbout } from "./about";
import { gatherOn, type Gathered } from "./gather";
import { GATHER_VERSION, restoreGathered, saveGathered, type SavedGathered } from "./saved";
import { judgeGates } from "./gates";
import { judgeGathered } from "./judge";
import { whatNext } from "./next";
import { createGathered } from "./states";
import type { FormerAsksOf, GateJudgement, Judgement, WhatNext } from "./types";

/**
 * What was gathered from a horse's outings, kept so that the next event is judged without reading the years before it. The
 * latest outing is left out: it may still grow. `base` holds all before it.
 */
export interface HorseFold {
  /** What it was gathered by: judge and program. Another one now, and the record is gathered anew. */
  judge: string;
  /** The program the record came with, and the version on whose edition. */
  program: string;
  programVersion?: number | undefined;
  /** What was said of the horse itself and bears on verdicts. */
  about: HorseAbout;
  base: SavedGathered;
  /** The last outing within `base`. */
  last: OutingKey | null;
  /** The latest outing of all. */
  open: OutingKey | null;
  days: Days;
  inWork: boolean;
}

export interface OutingKey {
  id: string;
  startedAt: string;
}

/** Different days of work within `base`. */
interface Days {
  count: number;
  first: Day | null;
  last: Day | null;
}

/** A horse's verdicts and the days it was worked on, the latest outing included. */
export interface Standing {
  program: Program;
  judgements: Judgement[];
  gates: GateJudgement[];
  next: WhatNext;
  /** Steps whose asks of the former shape count for less than the standard until somebody says that they were asked in full. */
  formerAsks: readonly FormerAsksOf[];
  days: Days;
  inWork: boolean;
}

const judgeOf = ({ id, version }: Program): string => `${GATHER_VERSION} ${id} ${version}`;

/** What folds are gathered by that hold for a yard. */
export const currentJudges = ({ inUse }: ProgramBook): readonly string[] => inUse.map(judgeOf);

/** The program a fold's record came with. Where a former build did not keep its version the judge names the one it was gathered by. */
export function programOfRecord({ program: id, programVersion, judge }: HorseFold): NamedProgram {
  const [, by, version] = judge.split(" ");
  return { id, version: programVersion ?? (by === id ? Number(version) : undefined) };
}

const adjusted = new WeakMap<HorseAbout, { from: Program; program: Program }>();
/** The program of a fold with the horse's own standards in it; the same each time, so that what is worked out of it is kept. */
function programOfFold(ofRecord: NamedProgram, about: HorseAbout, book: ProgramBook): Program {
  const from = chosenProgram(ofRecord, about, book);
  const before = adjusted.get(about);
  if (before?.from === from) return before.program;
  const found = adjustedProgram(from, about);
  adjusted.set(about, { from, program: found });
  return found;
}

/** Whether a fold made by one thing said of the horse holds for another: judge, program and his own standards are the same. */
function isGatheredAlike(fold: HorseFold, about: HorseAbout, book: ProgramBook): boolean {
  const how = ({ standards, carried = [], inFull = {} }: HorseAbout): string =>
    JSON.stringify([standards, carried, inFull]);
  return fold.judge === judgeOf(chosenProgram(programOfRecord(fold), about, book)) && how(fold.about) === how(about);
}

const keyOf = ({ id, startedAt }: FoldedOuting): OutingKey => ({ id, startedAt });

/** Gathers a whole record anew. */
export function foldHorse(folded: FoldedRecord, ofRecord: NamedProgram, inWork: boolean, book: ProgramBook): HorseFold {
  const about = readAbout(folded.ofHorse, folded.timeZone);
  const program = programOfFold(ofRecord, about, book);
  const empty: HorseFold = {
    judge: judgeOf(program),
    program: ofRecord.id,
    ...(ofRecord.version === undefined ? {} : { programVersion: ofRecord.version }),
    about,
    base: saveGathered(createGathered(program, about)),
    last: null,
    open: null,
    days: { count: 0, first: null, last: null },
    inWork,
  };
  return goOn(empty, folded.outings, book);
}

/**
 * Goes on from a fold through its open outing, as it stands now, and later ones.
 *
 * @param outings in order; the open one first where there is one
 */
export function goOn(fold: HorseFold, outings: readonly FoldedOuting[], book: ProgramBook): HorseFold {
  const latest = outings.at(-1);
  if (!latest) return fold;
  const before = outings.slice(0, -1);
  const last = before.at(-1);
  return {
    ...fold,
    open: keyOf(latest),
    ...(last
      ? {
          base: saveGathered(gatherOn(restoreFold(fold, book), before)),
          last: keyOf(last),
          days: before.reduce(withDay, fold.days),
        }
      : {}),
  };
}

/** What a fold was gathered to, to be gathered on. */
export const restoreFold = (fold: HorseFold, book: ProgramBook): Gathered =>
  restoreGathered(programOfFold(programOfRecord(fold), fold.about, book), fold.about, fold.base);

/**
 * Whether these outings, as they are now, can be gone on to from the fold; else the whole record has to be read.
 *
 * @param isNew whether an outing is none the fold knows: one that is within it already would be counted twice, wherever it has moved
 */
function canGoOn(fold: HorseFold, outings: readonly FoldedOuting[], isNew: (outing: OutingId) => boolean): boolean {
  const { open, last } = fold;
  return outings.every(
    (one) =>
      (one.id === open?.id || isNew(one.id)) &&
      (open === null || one.id === open.id || compareOutings(one, open) > 0) &&
      (last === null || compareOutings(one, last) > 0),
  );
}

/** What a fold is to be brought up to. */
export interface Fresh {
  /** What is said of the horse by now. */
  about: HorseAbout;
  inWork: boolean;
  /** Outings that are new or were changed, as they stand now, in order; the open one first where there is one. */
  outings: readonly FoldedOuting[];
  /** Whether an outing is none the fold knows: one that is within it already would be counted twice, wherever it has moved. */
  isNew: (outing: OutingId) => boolean;
}

/**
 * Brings a fold up to what is new: the one way to go on from what is stored, on the server and on a phone.
 *
 * @returns null where it cannot be gone on from: then the whole record has to be folded anew
 */
export function bringUp(
  fold: HorseFold,
  { about, inWork, outings, isNew }: Fresh,
  book: ProgramBook,
): { fold: HorseFold; open: FoldedOuting | null } | null {
  if (!isGatheredAlike(fold, about, book) || !canGoOn(fold, outings, isNew)) return null;
  return { fold: { ...goOn({ ...fold, about }, outings, book), inWork }, open: outings.at(-1) ?? null };
}

/** Verdicts of a fold on a day. @param open the open outing as it stands now */
export function judgeFold(fold: HorseFold, open: FoldedOuting | null, today: Day, book: ProgramBook): Standing {
  const gathered = open ? gatherOn(restoreFold(fold, book), [open]) : restoreFold(fold, book);
  const judgements = judgeGathered(gathered, today).map(withoutEvidence);
  return {
    program: gathered.program,
    judgements,
    gates: judgeGates(gathered, today),
    next: whatNext(gathered, judgements, today),
    formerAsks: gathered.steps.flatMap(({ step: { id: step, ladder }, formerAsks }) => {
      const rung = ladder.rungs[ladder.standard]?.id ?? "";
      return formerAsks ? [{ step, rung, ...formerAsks }] : [];
    }),
    days: open ? withDay(fold.days, open) : fold.days,
    inWork: fold.inWork,
  };
}

/** The events behind a verdict are not kept in the fold; a step's own page reads them. */
const withoutEvidence = (judgement: Judgement): Judgement => ({
  ...judgement,
  findings: judgement.findings.map((finding) => ({ ...finding, evidence: [] })),
});

function withDay(days: Days, { day }: FoldedOuting): Days {
  return day === days.last ? days : { count: days.count + 1, first: days.first ?? day, last: day };
}

/** The last rest or return that stands says whether a horse is in work. */
export function isInWork(events: readonly RecordEvent[]): boolean {
  const last = events
    .filter((event) => event.type === "rest" || event.type === "return")
    .toSorted((a, b) => Date.parse(a.at) - Date.parse(b.at) || (a.id < b.id ? -1 : 1))
    .at(-1);
  return last?.type !== "rest";
}
