import type { AskEvent, Mood, Phase, SeriesEvent } from "../record";
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

/** From this version of an ask on its line is said: in one of a former shape those names are nobody's. */
const LINE_SINCE = 2;

/** Place of the rung an ask says among those of a ladder; null where it says none. One that the ladder no longer has is the lowest. */
export function rungOfAsk({ rung, v = 1 }: Pick<AskEvent, "rung" | "v">, { rungs }: Ladder): number | null {
  if (rung === undefined || v < LINE_SINCE) return null;
  return Math.max(
    0,
    rungs.findIndex(({ id }) => id === rung),
  );
}

/**
 * The one answer to what an ask is worth, for judge, coach, card and check-up.
 * Clean: gave, on the standard's rung or a higher one where the rung is said, phase and mood at most the standard's, dose at least it
 * (within it, where it says so), with no fault that spoiled it, no bolt after the release. A clean ask counts for every rung
 * under its own; a miss counts for its own rung, not for those under it.
 */
export function worthOfAsk(ask: AskEvent, { standard, ladder }: Measure): Worth {
  if (ask.answer === "neutral" || isNoLesson(ask)) return "neutral";
  const { dose } = standard;
  const rung = rungOfAsk(ask, ladder);
  if (rung !== null && rung < ladder.standard) return "practice";
  if (rung !== null && dose && isRungShort(ladder.rungs[rung], dose)) return "practice";
  if (dose && ask.asked !== undefined && fallsShort(ask.asked, dose)) return "practice";
  if (standard.withoutTool && ask.tool !== undefined && ask.tool !== "none") return "practice";
  const isClean =
    ask.answer === "gave" &&
    ask.after !== "bolted" &&
    ask.fault === undefined &&
    !(dose && ask.dose !== undefined && fallsShort(ask.dose, dose)) &&
    isWithin(ask.phase, ask.mood, standard);
  if (isClean) return "clean";
  return rung !== null && rung > ladder.standard ? "practice" : "miss";
}

/** Whether an ask was a reminder or a probe: neither shows anything of a lesson. */
const isNoLesson = ({ purpose, v = 1 }: AskEvent): boolean =>
  v >= LINE_SINCE && purpose !== undefined && purpose !== "lesson";

/**
 * How many of a remembered series came clean and how many were misses. The person's own count holds, except that a usual phase or mood
 * over the standard leaves none clean, and a first or worst answer that was a miss leaves at least one miss. On a rung below the standard
 * all of it is practice; on one above it the misses say nothing of the standard.
 */
export function countInSeries(series: SeriesEvent, { standard, ladder }: Measure): { clean: number; missed: number } {
  const rung = rungOfAsk(series, ladder);
  if (rung !== null && rung < ladder.standard) return { clean: 0, missed: 0 };
  const anyMissed = [series.first, series.worst].some((answer) => answer !== "gave" && answer !== "neutral");
  const most = anyMissed ? series.count - 1 : series.count;
  const clean = isWithin(series.phase, series.mood, standard) ? Math.min(series.clean, most) : 0;
  return { clean, missed: rung !== null && rung > ladder.standard ? 0 : series.count - clean };
}

/** Whether the first ask of a remembered series was clean; null where it was neither right nor wrong, or says nothing of the standard. */
export function isFirstOfSeriesClean(series: SeriesEvent, { standard, ladder }: Measure): boolean | null {
  if (series.first === "neutral") return null;
  const rung = rungOfAsk(series, ladder) ?? ladder.standard;
  const isClean = series.first === "gave" && isWithin(series.phase, series.mood, standard);
  return rung < ladder.standard || (!isClean && rung > ladder.standard) ? null : isClean;
}

function isWithin(phase: Phase | undefined, mood: Mood | undefined, standard: Standard): boolean {
  if (mood === undefined || mood > standard.mood) return false;
  return standard.phase === null || (phase !== undefined && phase <= standard.phase);
}
