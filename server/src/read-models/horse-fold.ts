import { findProgram, loosePenStart, type Program } from "@still-pine/core/programs";
import {
  gather,
  gatherOn,
  judgeGathered,
  restoreGathered,
  saveGathered,
  type Judgement,
  type SavedGathered,
} from "@still-pine/core/readiness";
import {
  compareOutings,
  type Day,
  type FoldedOuting,
  type FoldedRecord,
  type RecordEvent,
} from "@still-pine/core/record";

/**
 * What was gathered from a horse's outings, kept so that the next event is judged without reading the years before it. The
 * latest outing is left out: it may still grow. `base` holds all before it.
 */
export interface HorseFold {
  program: string;
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
  days: Days;
  inWork: boolean;
}

export const programOf = (id: string): Program => findProgram(id) ?? loosePenStart;

const keyOf = ({ id, startedAt }: FoldedOuting): OutingKey => ({ id, startedAt });

/** Gathers a whole record anew. */
export function foldHorse(folded: FoldedRecord, programId: string, inWork: boolean): HorseFold {
  const program = programOf(programId);
  const empty: HorseFold = {
    program: program.id,
    base: saveGathered(gather({ ...folded, outings: [] }, program)),
    last: null,
    open: null,
    days: { count: 0, first: null, last: null },
    inWork,
  };
  return goOn(empty, folded.outings);
}

/**
 * Goes on from a fold through its open outing, as it stands now, and later ones.
 *
 * @param outings in order; the open one first where there is one
 */
export function goOn(fold: HorseFold, outings: readonly FoldedOuting[]): HorseFold {
  const latest = outings.at(-1);
  if (!latest) return fold;
  const before = outings.slice(0, -1);
  const last = before.at(-1);
  return {
    ...fold,
    open: keyOf(latest),
    ...(last
      ? {
          base: saveGathered(gatherOn(restoreGathered(programOf(fold.program), fold.base), before)),
          last: keyOf(last),
          days: before.reduce(withDay, fold.days),
        }
      : {}),
  };
}

/** Whether these outings, as they are now, can be gone on to from the fold; else the whole record has to be read. */
export function canGoOn(fold: HorseFold, outings: readonly FoldedOuting[]): boolean {
  const { open, last } = fold;
  return outings.every(
    (one) =>
      (open === null || one.id === open.id || compareOutings(one, open) > 0) &&
      (last === null || compareOutings(one, last) > 0),
  );
}

/** Verdicts of a fold on a day. @param open the open outing as it stands now */
export function judgeFold(fold: HorseFold, open: FoldedOuting | null, today: Day): Standing {
  const program = programOf(fold.program);
  const base = restoreGathered(program, fold.base);
  const gathered = open ? gatherOn(base, [open]) : base;
  return {
    program,
    judgements: judgeGathered(gathered, today).map(withoutEvidence),
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
