import type { JudgeNumbers, Standard, Step } from "../programs";
import { OVER, TIGHT, type AskEvent, type Day, type Phase, type SeriesEvent } from "../record";
import { isLate, isSpoiled, isUnsaid } from "./classify";
import type { Row } from "./enough";

/** What one outing showed of one side: its weights, what was tight in it, and where its answers lie on the feel square. */
export interface Visit extends Row {
  outing: number;
  day: Day;
  /** Weights of everything before it, as they were when it ended, so that a late proof can weigh on from here. */
  cleanBefore: number;
  notBefore: number;
  clean: number;
  not: number;
  /** The same by the long record, in which a day's first ask weighs more than its later ones. */
  longCleanBefore: number;
  longNotBefore: number;
  longClean: number;
  longNot: number;
  /** Whether its cold ask came clean, and the day's first one; undefined where it had none. */
  cold: boolean | undefined;
  first: boolean | undefined;
  /** Asks after the day's first one that counted as they came, one by one, and how many of them were clean: for `DaySums` alone. */
  later: number;
  laterClean: number;
  /** Where he was over, and mishaps while it was worked. */
  upset: readonly string[];
  /** Anything that counts; a visit of neutral and practice asks alone does not move the window of rule 4. */
  counted: boolean;
  tight: readonly string[];
  shutDown: readonly string[];
  /** What says no rung where it could, and what was given and spoiled. */
  unsaid: readonly string[];
  spoiled: readonly string[];
  /** What was given later than its step names, and how many answers anybody timed. */
  late: readonly string[];
  timed: number;
  /** `gave` answers by phase, and by corner of the feel square. */
  gavePhases: readonly number[];
  gave: number;
  /** Whether any of them took more than the standard's phase. */
  heavy: boolean;
  lightTight: readonly string[];
  heavyLoose: readonly string[];
  heavyTight: readonly string[];
  /** Where and with whom it was, and whether he was seen to canter or to stretch, for steps that ask for it. */
  place?: string | undefined;
  person?: string | undefined;
  canter?: boolean | undefined;
  stretched?: boolean | undefined;
}

/** Most visits have none of these; one empty list serves them all. */
const NONE: readonly string[] = Object.freeze([]);
/** And those whose answers have no phase, one empty tally. */
const NO_PHASES: readonly number[] = Object.freeze([0, 0, 0, 0, 0]);
const PHASES = 5;

export function createVisit(outing: number, day: Day): Visit {
  return {
    outing,
    day,
    cleanBefore: 0,
    notBefore: 0,
    clean: 0,
    not: 0,
    longCleanBefore: 0,
    longNotBefore: 0,
    longClean: 0,
    longNot: 0,
    cold: undefined,
    first: undefined,
    later: 0,
    laterClean: 0,
    made: 0,
    running: 0,
    afterMiss: false,
    upset: NONE,
    counted: false,
    tight: NONE,
    shutDown: NONE,
    unsaid: NONE,
    spoiled: NONE,
    late: NONE,
    timed: 0,
    gavePhases: NO_PHASES,
    gave: 0,
    heavy: false,
    lightTight: NONE,
    heavyLoose: NONE,
    heavyTight: NONE,
    // Named from the start: what is added to an object later costs more than the object.
    place: undefined,
    person: undefined,
    canter: undefined,
    stretched: undefined,
  };
}

/** The kind of answer the feel square's corners name. */
export type Corner = "reacts" | "dull" | "braced";

const CORNER_LISTS = { reacts: "lightTight", dull: "heavyLoose", braced: "heavyTight" } as const;

/** Notes where answers that were given lie on the feel square; a series lies there as many times as it counts. */
export function noteFeel(
  visit: Visit,
  { id, phase, mood }: AskEvent | SeriesEvent,
  times: number,
  { phase: most, mood: quiet }: Standard,
): void {
  if (mood === undefined || times === 0) return;
  visit.gave += times;
  const isWeighed = most !== null && phase !== undefined;
  if (isWeighed) {
    const phases = visit.gavePhases === NO_PHASES ? [0, 0, 0, 0, 0] : (visit.gavePhases as number[]);
    phases[phase] = (phases[phase] ?? 0) + times;
    visit.gavePhases = phases;
  }
  const isHeavy = isWeighed && phase > most;
  if (isHeavy) visit.heavy = true;
  if (!isHeavy && mood < TIGHT) return;
  const corner = mood >= TIGHT ? (isHeavy ? "heavyTight" : "lightTight") : mood <= quiet ? "heavyLoose" : null;
  if (corner) for (let n = 0; n < times; n += 1) visit[corner] = noted(visit[corner], id);
}

/** Notes a tight answer, and one in which he was over. */
export function noteMood(visit: Visit, { id, mood }: AskEvent | SeriesEvent): void {
  if (mood === undefined || mood < TIGHT) return;
  visit.tight = noted(visit.tight, id);
  if (mood >= OVER) visit.upset = noted(visit.upset, id);
}

/** Whether a clean outing sets the date anew from which a side grows rusty: not one in which he missed his cold ask. */
export const isRestoring = ({ cold }: Visit): boolean => cold !== false;

/** Notes what says no rung, what was given and spoiled, and what came late. */
export function noteHow(
  visit: Visit,
  event: AskEvent | SeriesEvent,
  worth: string,
  step: Pick<Step, "ladder" | "standard">,
): void {
  if (isUnsaid(event, step)) visit.unsaid = noted(visit.unsaid, event.id);
  if (isSpoiled(event, worth, step.standard)) visit.spoiled = noted(visit.spoiled, event.id);
  if (step.standard.within === undefined || event.type !== "ask" || event.waitSeconds === undefined) return;
  if (event.answer !== "gave" || worth === "neutral") return;
  visit.timed += 1;
  if (isLate(event, step.standard)) visit.late = noted(visit.late, event.id);
}

/** A list of an outing that is still open, with one id more: no one else holds it yet. */
export function noted(list: readonly string[], id: string): readonly string[] {
  if (list === NONE) return [id];
  (list as string[]).push(id);
  return list;
}

/** Ids of the answers in a corner, where there are enough of them in these visits to give it its name; else none. */
export function cornerOf(visits: readonly Visit[], corner: Corner, numbers: JudgeNumbers): string[] {
  const gave = visits.reduce((sum, visit) => sum + visit.gave, 0);
  const ids = visits.flatMap((visit) => visit[CORNER_LISTS[corner]]);
  return ids.length >= numbers.cornerAtLeast && ids.length >= gave * numbers.cornerShare ? [...new Set(ids)] : [];
}

/** The usual phase of `gave` answers in these visits: the median, the heavier one of two. Null without any. */
export function usualPhaseOf(visits: readonly Visit[]): Phase | null {
  let all = 0;
  for (const visit of visits) for (const n of visit.gavePhases) all += n;
  if (all === 0) return null;
  let below = 0;
  for (let phase = 0; phase < PHASES; phase += 1) {
    for (const visit of visits) below += visit.gavePhases[phase] ?? 0;
    if (below > all / 2) return phase as Phase;
  }
  return null;
}

/** The mean phase of a visit's `gave` answers; null without any. */
function meanPhaseOf({ gavePhases }: Visit): number | null {
  let sum = 0;
  let count = 0;
  gavePhases.forEach((n, phase) => {
    sum += n * phase;
    count += n;
  });
  return count === 0 ? null : sum / count;
}

/** What an outing weighs in the long record. */
export const weightOf = (visit: Visit | undefined): number => (visit ? visit.longClean + visit.longNot : 0);

/** What came after an outing weighs so much among the last asks. */
export function weightAfter(visits: readonly Visit[], outing: number): number {
  let later = 0;
  for (let index = visits.length - 1; index >= 0; index -= 1) {
    const visit = visits[index];
    if (!visit || visit.outing <= outing) break;
    later += visit.clean + visit.not;
  }
  return later;
}

/** Where the last visits begin: at the last but so many that count. */
export function recentFrom(visits: readonly Visit[], count: number): number {
  let seen = 0;
  let from = visits.length;
  while (from > 0 && seen < count) {
    from -= 1;
    if (visits[from]?.counted) seen += 1;
  }
  return from;
}

/** Whether anything tight, over or shut down was seen in an outing, or a mishap. */
export const isUnquiet = ({ tight, shutDown, upset }: Visit): boolean =>
  tight.length + shutDown.length + upset.length > 0;

/** Whether any answer in these visits, from one on, took more than the standard's phase. */
export function isAnyHeavyFrom(visits: readonly Visit[], from: number): boolean {
  for (let index = from; index < visits.length; index += 1) if (visits[index]?.heavy) return true;
  return false;
}

/** How many of these visits, from one on, were not free of those. */
export function unquietFrom(visits: readonly Visit[], from: number): number {
  let count = 0;
  for (let index = from; index < visits.length; index += 1) {
    const visit = visits[index];
    if (visit && isUnquiet(visit)) count += 1;
  }
  return count;
}

/** By how much the mean phase rose over the last outings, where it rose in each of them; else null. */
export function creepOf(visits: readonly Visit[], { creepOutings, creepRise }: JudgeNumbers): number | null {
  const means = visits
    .slice(recentFrom(visits, creepOutings))
    .filter((visit) => visit.counted)
    .map(meanPhaseOf);
  if (means.length < creepOutings) return null;
  let rise = 0;
  for (const [index, mean] of means.entries()) {
    const before = index === 0 ? undefined : means[index - 1];
    if (mean === null || (before !== undefined && (before === null || mean <= before))) return null;
    rise = mean - (means[0] ?? 0);
  }
  return rise >= creepRise ? rise : null;
}

/** Whether another visit on the same day was clean; visits stand in the order of days. */
export function isOtherwiseClean(visits: readonly Visit[], index: number): boolean {
  const day = visits[index]?.day;
  for (const step of [-1, 1])
    for (let at = index + step; visits[at]?.day === day; at += step) if ((visits[at]?.clean ?? 0) > 0) return true;
  return false;
}

/** The first visit of the day on which the first one stands that is of this outing or a later one. */
export function firstOfDay(visits: readonly Visit[], outing: number): number {
  let from = visits.findIndex((visit) => visit.outing >= outing);
  if (from === -1) from = visits.length;
  while (from > 0 && visits[from - 1]?.day === visits[from]?.day) from -= 1;
  return from;
}

/** Counts an ask that was not its day's first one. */
export function noteLater(visit: Visit, isClean: boolean): void {
  visit.later += 1;
  if (isClean) visit.laterClean += 1;
}
