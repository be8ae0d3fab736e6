import { isSeries, type AskEvent, type Mood, type Phase, type SeriesEvent, type Setting } from "../record";
import {
  asFarAsDose,
  fallsShort,
  isRungShort,
  placeOfRung,
  type Dose,
  type Ladder,
  type Rung,
  type SideKey,
  type Standard,
  type Step,
} from "../programs";

/**
 * The side an ask is judged on: near or off, for feet a leg, or none where the step has no sides. Null where it says too little to be
 * one of the step's sides: such an ask counts for none of them.
 */
export function sideOfAsk(
  { side, part }: Pick<AskEvent, "side" | "part">,
  { side: kind }: Pick<Step, "side">,
): SideKey | null {
  if (kind === "none") return "none";
  if (side !== "near" && side !== "off") return null;
  if (kind !== "leg") return side;
  return part === "fore" || part === "hind" ? LEGS[side][part] : null;
}

const LEGS = {
  near: { fore: "near-fore", hind: "near-hind" },
  off: { fore: "off-fore", hind: "off-hind" },
} as const;

/**
 * What one ask is worth: clean, a miss, or nothing (neither right nor wrong, or practice: a lower rung or smaller dose than the
 * standard's, a miss on a higher rung, or with a tool where it has to be there without one).
 */
export type Worth = "clean" | "miss" | "neutral" | "practice";

/** What an ask is measured by. */
export type Measure = Pick<Step, "standard" | "ladder">;

/** A step judged by one of its rungs alone, and by how much that rung is where it is measured. */
export function asFarAsRung({ standard, ladder }: Measure, place: number): Measure {
  const { dose, at } = ladder.rungs[place] ?? {};
  const amount = standard.dose && dose !== undefined ? { ...standard.dose, amount: dose } : null;
  return {
    standard: { ...standard, dose: amount && at !== undefined ? { ...amount, at } : amount, withoutTool: false },
    ladder: { ...ladder, standard: place, own: ladder.own ?? ladder.standard },
  };
}

/** A step judged only as far as one rung of its ladder. */
export function asFarAs(step: Step, rung: number | string): Step {
  if (typeof rung === "string") return { ...step, ...asFarAsRung(step, placeOfRung(step.ladder, rung)) };
  const dose = step.standard.dose && { ...step.standard.dose, amount: rung };
  return { ...step, standard: { ...step.standard, dose }, ladder: asFarAsDose(step.ladder, dose) };
}

/** From this version of an ask on its line is said: in one of a former shape those names are nobody's. */
const LINE_SINCE = 2;

/** Whether an event could say how it was put. It is asked first: of most events of the former shape nothing else need be read. */
const isOnLine = ({ v }: { v?: number | undefined }): boolean => v !== undefined && v >= LINE_SINCE;

/** Whether nobody could say how it was put. */
export const isOfFormerShape = (event: { v?: number | undefined }): boolean => !isOnLine(event);

/**
 * Place among the rungs of a ladder of the one an ask names, null where it names none. One that the ladder no longer has is the lowest.
 * An ask of the former shape could name none: it is on the highest rung that its dose reaches, or on the standard's where somebody
 * said that these were asked in full.
 */
export function saidRung(ask: AskEvent | SeriesEvent, measure: Measure): number | null {
  if (!isOnLine(ask)) return rungOfFormer(ask, measure);
  const { rungs } = measure.ladder;
  const { rung } = ask;
  if (rung === undefined) return null;
  for (let place = rungs.length - 1; place > 0; place -= 1) if (rungs[place]?.id === rung) return place;
  return 0;
}

/** As `saidRung`; where nothing is said it counts as the lowest. */
const rungOfAsk = (ask: AskEvent | SeriesEvent, measure: Measure): number => saidRung(ask, measure) ?? 0;

function rungOfFormer(ask: AskEvent | SeriesEvent, measure: Measure): number | null {
  const { ladder } = measure;
  const full = isInFull(ask, ladder) ? (ladder.own ?? ladder.standard) : null;
  if (isSeries(ask)) return full;
  if (ask.asked !== undefined) return rungOfDose(ask.asked, measure) ?? full;
  // What was missed may have been asked for longer than it was got.
  return full ?? (ask.answer === "gave" && ask.dose !== undefined ? rungOfDose(ask.dose, measure) : null);
}

/** Whether somebody said of an ask of the former shape that it was made as far as the standard. */
const isInFull = ({ at }: AskEvent | SeriesEvent, { inFullUntil }: Ladder): boolean =>
  inFullUntil !== undefined && Date.parse(at) <= inFullUntil;

/** The first of the highest rungs that so much reaches, measured where the step's own standard is; null where that is not measured. */
function rungOfDose(
  amount: number,
  { standard, ladder: { rungs, standard: place, own = place } }: Measure,
): number | null {
  const { dose, at } = rungs[own] ?? {};
  const atMost = standard.dose?.atMost === true;
  if (dose === undefined) return null;
  const reached = rungs.flatMap((rung) =>
    rung.at === at && rung.dose !== undefined && !fallsShort(amount, { amount: rung.dose, atMost }) ? rung.dose : [],
  );
  const most = reached.at(-1);
  return Math.max(
    0,
    rungs.findIndex((rung) => rung.at === at && rung.dose === most && most !== undefined),
  );
}

/** How an ask says that it was put as far as the standard: its rung, and nothing in the hand where it has to come without. */
export function inFull({ standard, ladder }: Measure): Pick<AskEvent, "rung" | "tool"> {
  const rung = ladder.rungs[ladder.standard]?.id;
  return {
    ...(rung === undefined ? {} : { rung }),
    ...(standard.withoutTool ? { tool: "none" as const } : {}),
  };
}

/** When an ask was made, if it went as far as the standard's rung or farther; null where it did not, or was no lesson. */
export function asksStandardAt(ask: AskEvent | SeriesEvent, measure: Measure): string | null {
  if (!isSeries(ask) && (ask.answer === "neutral" || isNoLesson(ask))) return null;
  return rungOfAsk(ask, measure) >= measure.ladder.standard ? ask.at : null;
}

/**
 * The one answer to what an ask is worth, for judge, coach, card and check-up.
 * Clean: gave, on the standard's rung or a higher one, phase and mood at most the standard's, dose at least it
 * (within it, where it says so), with no fault that spoiled it, no bolt after the release, and in time where lateness spoils it. A clean ask
 * counts for every rung under its own; a miss for its own rung and, where those were asked before, for the higher ones.
 *
 * @param wasAsked whether the standard was asked on this side before
 */
export function worthOfAsk(ask: AskEvent, measure: Measure, wasAsked = false): Worth {
  const { standard, ladder } = measure;
  if (ask.answer === "neutral" || isNoLesson(ask)) return "neutral";
  if (isWithTool(ask, measure)) return "practice";
  const { dose } = standard;
  const rung = rungOfAsk(ask, measure);
  const isRightHow = isGivenWell(ask, standard);
  if (rung < ladder.standard || (dose && isLessAsked(ask, ladder.rungs[rung], dose)))
    return wasAsked && !isRightHow ? "miss" : "practice";
  if (isRightHow && !(dose && ask.dose !== undefined && fallsShort(ask.dose, dose))) return "clean";
  return rung > ladder.standard ? "practice" : "miss";
}

/** Gave, at most the standard's phase and mood, with no fault that spoiled it, no bolt after the release, and in time where lateness spoils it. */
const isGivenWell = (ask: AskEvent, standard: Standard): boolean =>
  ask.answer === "gave" &&
  ask.after !== "bolted" &&
  ask.fault === undefined &&
  !(standard.lateSpoils === true && isLate(ask, standard)) &&
  isWithin(ask.phase, ask.mood, standard);

/** Whether less was asked than a dose. What a person ended short of it was never asked in full. */
const isLessAsked = ({ asked, watch, endedBy, dose: got = 0 }: AskEvent, rung: Rung | undefined, dose: Dose): boolean =>
  isRungShort(rung, dose) ||
  (asked !== undefined && fallsShort(asked, dose)) ||
  (watch !== undefined && endedBy === "person" && fallsShort(got, dose));

/** Whether an answer took longer than its step names, as far as anybody timed it. */
export const isLate = ({ waitSeconds }: AskEvent, { within }: Standard): boolean =>
  within !== undefined && waitSeconds !== undefined && waitSeconds > within;

/** In so many first outings of a step and side a try counts for nothing against him. */
const NEW_OUTINGS = 2;

/** Whether a miss was a try at something new: those are wanted. @param outings in which it was asked, this one among them */
export const isTry = ({ answer }: AskEvent, worth: Worth, outings: number): boolean =>
  answer === "tried" && worth === "miss" && outings <= NEW_OUTINGS;

/**
 * Whether it was done with a tool where it has to come without one. Where it is not said it was: with the one the step is asked with,
 * unless somebody said that it was asked in full. A tool in a series of the former shape is nobody's.
 */
function isWithTool(event: AskEvent | SeriesEvent, { standard, ladder }: Measure): boolean {
  if (standard.withoutTool !== true) return false;
  const tool = isSeries(event) && !isOnLine(event) ? undefined : event.tool;
  return tool === undefined ? isOnLine(event) || !isInFull(event, ladder) : tool !== "none";
}

/** Whether an ask or a series leaves its rung unsaid where that matters: it counts for the smallest. */
export const isUnsaid = (event: AskEvent | SeriesEvent, measure: Measure): boolean =>
  measure.ladder.standard > 0 && (isOnLine(event) ? event.rung === undefined : rungOfFormer(event, measure) === null);

/** Whether it is of the former shape and says too little to count for the standard, so that somebody may say it was asked in full. */
export const isFormerUnsaid = (event: AskEvent | SeriesEvent, measure: Measure): boolean =>
  isOfFormerShape(event) && (isUnsaid(event, measure) || isWithTool(event, measure));

/** Whether he gave it, and something spoiled it: a fault, a bolt after the release, or that it came late where that spoils it. */
export const isSpoiled = (event: AskEvent | SeriesEvent, worth: string, standard: Standard): boolean =>
  worth === "miss" &&
  event.type === "ask" &&
  event.answer === "gave" &&
  (event.fault !== undefined || event.after === "bolted" || (standard.lateSpoils === true && isLate(event, standard)));

/** How he went: standing where it is not said. */
export function settingOf(event: AskEvent | SeriesEvent): Setting {
  // In a series of the former shape that name is nobody's, and in an ask of it that of a gait.
  if (!isOnLine(event)) return (isSeries(event) ? undefined : event.setting) ?? "standing";
  return event.setting ?? (event.gait === undefined ? "standing" : "moving");
}

/** Whether he cantered, as far as the ask says so; in one of the former shape nobody could. */
export const isAtCanter = (event: AskEvent | SeriesEvent): boolean => isOnLine(event) && event.gait === "canter";

/** Whether an ask was a reminder or a probe: neither shows anything of a lesson. */
const isNoLesson = (ask: AskEvent): boolean => isOnLine(ask) && ask.purpose !== undefined && ask.purpose !== "lesson";

/**
 * How many of a remembered series came clean and how many were misses. The person's own count holds, except that a usual phase or mood
 * over the standard leaves none clean, and a first or worst answer that was a miss leaves at least one miss. On a rung below the standard,
 * or with a tool where it has to come without, all of it is practice: it says nothing of its single asks. On one above it the misses say
 * nothing of the standard.
 */
export function countInSeries(series: SeriesEvent, measure: Measure): { clean: number; missed: number } {
  const { standard, ladder } = measure;
  const rung = rungOfAsk(series, measure);
  if (rung < ladder.standard || isWithTool(series, measure)) return { clean: 0, missed: 0 };
  const anyMissed = [series.first, series.worst].some((answer) => answer !== "gave" && answer !== "neutral");
  const most = anyMissed ? series.count - 1 : series.count;
  const clean = isWithin(series.phase, series.mood, standard) ? Math.min(series.clean, most) : 0;
  return { clean, missed: rung > ladder.standard ? 0 : series.count - clean };
}

/** Whether the first ask of a remembered series was clean; null where it was neither right nor wrong, or says nothing of the standard. */
export function isFirstOfSeriesClean(series: SeriesEvent, measure: Measure): boolean | null {
  const { standard, ladder } = measure;
  if (series.first === "neutral" || isWithTool(series, measure)) return null;
  const rung = rungOfAsk(series, measure);
  const isClean = series.first === "gave" && isWithin(series.phase, series.mood, standard);
  return rung < ladder.standard || (!isClean && rung > ladder.standard) ? null : isClean;
}

function isWithin(phase: Phase | undefined, mood: Mood | undefined, standard: Standard): boolean {
  if (mood === undefined || mood > standard.mood) return false;
  return standard.phase === null || (phase !== undefined && phase <= standard.phase);
}
