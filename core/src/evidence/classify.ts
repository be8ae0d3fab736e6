import type { AskEvent, Mood, Phase, SeriesEvent } from "../record";
import type { Dose, SideKey, Standard, Step } from "../programs";

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

/** What one ask is worth: clean, a miss, or nothing (neither right nor wrong, or asked below the standard: a smaller dose, or with a tool). */
export type Worth = "clean" | "miss" | "neutral" | "practice";

/**
 * The one answer to what an ask is worth, for judge, coach, card and check-up.
 * Clean: gave, phase and mood at most the standard's, dose at least it (within it, where it says so), no
 * bolt after the release.
 */
export function worthOfAsk(ask: AskEvent, standard: Standard): Worth {
  if (ask.answer === "neutral") return "neutral";
  const { dose } = standard;
  if (dose && ask.asked !== undefined && fallsShort(ask.asked, dose)) return "practice";
  if (standard.withoutTool && ask.tool !== undefined && ask.tool !== "none") return "practice";
  if (ask.answer !== "gave" || ask.after === "bolted") return "miss";
  if (dose && ask.dose !== undefined && fallsShort(ask.dose, dose)) return "miss";
  return isWithin(ask.phase, ask.mood, standard) ? "clean" : "miss";
}

function fallsShort(amount: number, dose: Dose): boolean {
  return dose.atMost ? amount > dose.amount : amount < dose.amount;
}

/**
 * How many of a remembered series were clean. The person's own count holds, except that a usual phase or mood over the
 * standard leaves none, and a first or worst answer that was a miss leaves at least one miss.
 */
export function cleanInSeries(series: SeriesEvent, standard: Standard): number {
  if (!isWithin(series.phase, series.mood, standard)) return 0;
  const missed = [series.first, series.worst].some((answer) => answer !== "gave" && answer !== "neutral");
  return Math.min(series.clean, missed ? series.count - 1 : series.count);
}

/** Whether the first ask of a remembered series was clean; null where it was neither right nor wrong. */
export function isFirstOfSeriesClean(series: SeriesEvent, standard: Standard): boolean | null {
  if (series.first === "neutral") return null;
  return series.first === "gave" && isWithin(series.phase, series.mood, standard);
}

function isWithin(phase: Phase | undefined, mood: Mood | undefined, standard: Standard): boolean {
  if (mood === undefined || mood > standard.mood) return false;
  return standard.phase === null || (phase !== undefined && phase <= standard.phase);
}
