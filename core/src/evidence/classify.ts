import type { AskEvent, Mood, Phase, SeriesEvent, Setting } from "../record";
import { fallsShort, isRungShort, type Ladder, type SideKey, type Standard, type Step } from "../programs";

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
    ladder: { ...ladder, standard: place },
  };
}

/** From this version of an ask on its line is said: in one of a former shape those names are nobody's. */
const LINE_SINCE = 2;

/** Whether an event could say how it was put. It is asked first: of most events of the former shape nothing else need be read. */
const isOnLine = ({ v }: { v?: number | undefined }): boolean => v !== undefined && v >= LINE_SINCE;

/**
 * Place of the rung of an ask among those of a ladder. One that is not said is the lowest, as is one that the ladder no longer has;
 * null for an ask of the former shape, in which nobody could say it.
 */
export function rungOfAsk(ask: Pick<AskEvent, "rung" | "v">, { rungs }: Ladder): number | null {
  if (!isOnLine(ask)) return null;
  const { rung } = ask;
  for (let place = rungs.length - 1; place > 0; place -= 1) if (rungs[place]?.id === rung) return place;
  return 0;
}

/**
 * The one answer to what an ask is worth, for judge, coach, card and check-up.
 * Clean: gave, on the standard's rung or a higher one where the rung is said, phase and mood at most the standard's, dose at least it
 * (within it, where it says so), with no fault that spoiled it, no bolt after the release, and in time where lateness spoils it. A clean ask counts for every rung
 * under its own; a miss counts for its own rung, not for those under it.
 */
export function worthOfAsk(ask: AskEvent, { standard, ladder }: Measure): Worth {
  if (ask.answer === "neutral" || isNoLesson(ask)) return "neutral";
  const { dose } = standard;
  const rung = rungOfAsk(ask, ladder);
  if (rung !== null && rung < ladder.standard) return "practice";
  if (rung !== null && dose && isRungShort(ladder.rungs[rung], dose)) return "practice";
  if (dose && ask.asked !== undefined && fallsShort(ask.asked, dose)) return "practice";
  // What a person ended short of it was never asked in full.
  if (dose && ask.watch !== undefined && ask.endedBy === "person" && fallsShort(ask.dose ?? 0, dose)) return "practice";
  if (isWithTool(ask, standard)) return "practice";
  const isClean =
    ask.answer === "gave" &&
    ask.after !== "bolted" &&
    ask.fault === undefined &&
    !(standard.lateSpoils === true && isLate(ask, standard)) &&
    !(dose && ask.dose !== undefined && fallsShort(ask.dose, dose)) &&
    isWithin(ask.phase, ask.mood, standard);
  if (isClean) return "clean";
  return rung !== null && rung > ladder.standard ? "practice" : "miss";
}

/** Whether an answer took longer than its step names, as far as anybody timed it. */
export const isLate = ({ waitSeconds }: AskEvent, { within }: Standard): boolean =>
  within !== undefined && waitSeconds !== undefined && waitSeconds > within;

/** In so many first outings of a step and side a try counts for nothing against him. */
const NEW_OUTINGS = 2;

/** Whether a miss was a try at something new: those are wanted. @param outings in which it was asked, this one among them */
export const isTry = ({ answer }: AskEvent, worth: Worth, outings: number): boolean =>
  answer === "tried" && worth === "miss" && outings <= NEW_OUTINGS;

/** What was in the hand; where it is not said the tool the step is asked with, but for an ask of the former shape. */
const toolOf = (event: AskEvent | SeriesEvent): string =>
  isOnLine(event) ? (event.tool ?? "unsaid") : event.type === "ask" ? (event.tool ?? "none") : "none";

/** Whether it was done with a tool where it has to come without one. A tool in a series of the former shape is nobody's. */
const isWithTool = (event: AskEvent | SeriesEvent, { withoutTool }: Standard): boolean =>
  withoutTool === true && toolOf(event) !== "none";

/** Whether an ask or a series could say its rung, and leaves it unsaid where that matters: it counts for the smallest. */
export const isUnsaid = (event: AskEvent | SeriesEvent, { ladder }: Pick<Step, "ladder">): boolean =>
  isOnLine(event) && event.rung === undefined && ladder.standard > 0;

/** Whether he gave it, and something spoiled it: a fault, a bolt after the release, or that it came late where that spoils it. */
export const isSpoiled = (event: AskEvent | SeriesEvent, worth: string, standard: Standard): boolean =>
  worth === "miss" &&
  event.type === "ask" &&
  event.answer === "gave" &&
  (event.fault !== undefined || event.after === "bolted" || (standard.lateSpoils === true && isLate(event, standard)));

/** How he went: standing where it is not said, but for an ask of the former shape, which then says neither. */
export function settingOf(event: AskEvent | SeriesEvent): Setting | undefined {
  // In a series of the former shape that name is nobody's.
  if (!isOnLine(event)) return event.type === "ask" ? event.setting : undefined;
  return event.setting ?? (event.gait === undefined ? "standing" : "moving");
}

/** Whether he cantered, as far as the ask says so; in one of the former shape nobody could. */
export const isAtCanter = (event: AskEvent | SeriesEvent): boolean => isOnLine(event) && event.gait === "canter";

/** Whether an ask was a reminder or a probe: neither shows anything of a lesson. */
const isNoLesson = (ask: AskEvent): boolean => isOnLine(ask) && ask.purpose !== undefined && ask.purpose !== "lesson";

/**
 * How many of a remembered series came clean and how many were misses. The person's own count holds, except that a usual phase or mood
 * over the standard leaves none clean, and a first or worst answer that was a miss leaves at least one miss. On a rung below the standard,
 * or with a tool where it has to come without, all of it is practice; on one above it the misses say nothing of the standard.
 */
export function countInSeries(series: SeriesEvent, { standard, ladder }: Measure): { clean: number; missed: number } {
  const rung = rungOfAsk(series, ladder);
  if (rung !== null && rung < ladder.standard) return { clean: 0, missed: 0 };
  if (isWithTool(series, standard)) return { clean: 0, missed: 0 };
  const anyMissed = [series.first, series.worst].some((answer) => answer !== "gave" && answer !== "neutral");
  const most = anyMissed ? series.count - 1 : series.count;
  const clean = isWithin(series.phase, series.mood, standard) ? Math.min(series.clean, most) : 0;
  return { clean, missed: rung !== null && rung > ladder.standard ? 0 : series.count - clean };
}

/** Whether the first ask of a remembered series was clean; null where it was neither right nor wrong, or says nothing of the standard. */
export function isFirstOfSeriesClean(series: SeriesEvent, { standard, ladder }: Measure): boolean | null {
  if (series.first === "neutral") return null;
  const rung = rungOfAsk(series, ladder) ?? ladder.standard;
  if (isWithTool(series, standard)) return null;
  const isClean = series.first === "gave" && isWithin(series.phase, series.mood, standard);
  return rung < ladder.standard || (!isClean && rung > ladder.standard) ? null : isClean;
}

function isWithin(phase: Phase | undefined, mood: Mood | undefined, standard: Standard): boolean {
  if (mood === undefined || mood > standard.mood) return false;
  return standard.phase === null || (phase !== undefined && phase <= standard.phase);
}
