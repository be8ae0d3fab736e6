import type { DoseUnit, SideKey, Standard, Step } from "../programs";
import { TIGHT, TOOLS, type AskEvent, type Mood, type Phase, type Tool } from "../record";
import type { FinishLine } from "./types";

/** One ask as the coach weighs it. */
export interface Answer {
  id: string;
  step: string;
  side: SideKey;
  given: "gave" | "tried" | "none" | "against";
  phase?: Phase;
  mood?: Mood;
  /** As good as today's finish line asks. */
  good: boolean;
  /** Gave, quiet enough, and took more than the line allows. */
  heavy: boolean;
  /** Not good, and near enough that one more may be. */
  close: boolean;
  asked?: number;
  setting?: string;
  tool?: Tool;
}

/** The side an ask is judged on: for feet a leg. */
export function sideOf({ side = "none", part }: AskEvent, { side: kind }: Step): SideKey {
  if (kind === "none" || side === "none") return "none";
  return kind === "leg" ? (`${side}-${part === "hind" ? "hind" : "fore"}` as SideKey) : side;
}

/** Weighs an ask against the line of today; null for one that was neither right nor wrong. */
export function weighAnswer(ask: AskEvent, step: Step, line: FinishLine): Answer | null {
  const { answer, phase, mood, asked, setting, tool, after } = ask;
  if (answer === "neutral") return null;
  const bolted = after === "bolted";
  const most = step.standard.phase === null ? null : (line.phase ?? step.standard.phase);
  const isLight = most === null || (phase !== undefined && phase <= most);
  const quiet = mood !== undefined && mood <= step.standard.mood;
  const gave = answer === "gave" && !bolted;
  const tried = answer === "tried" && line.worth === "tried" && !bolted && (mood === undefined || quiet);
  const isTight = mood !== undefined && mood >= TIGHT;
  const isNearlyLight = most === null || phase === undefined || phase <= most + 1;
  return {
    id: ask.id,
    step: ask.step,
    side: sideOf(ask, step),
    given: answer,
    ...(phase === undefined ? {} : { phase }),
    ...(mood === undefined ? {} : { mood }),
    good: tried || (gave && quiet && isLight && isDoseThere(ask, step.standard, line)),
    heavy: gave && quiet && !isLight,
    close: !bolted && !isTight && (answer === "tried" || (answer === "gave" && isNearlyLight)),
    ...(asked === undefined ? {} : { asked }),
    ...(setting === undefined ? {} : { setting }),
    ...(tool === undefined ? {} : { tool }),
  };
}

/** He gave the dose that was asked for; without a word on it, what was asked was got. */
function isDoseThere({ asked, dose: got }: AskEvent, { dose }: Standard, line: FinishLine): boolean {
  if (got === undefined || dose === null) return true;
  const wanted = asked ?? line.dose ?? dose.amount;
  return dose.atMost ? got <= wanted : got >= wanted;
}

const GROWING_TOOLS: readonly Tool[] = ["none", "rope-end", "stick", "flag"] satisfies (typeof TOOLS)[number][];

/** In how many ways the second ask was more than the first: a bigger dose, moving instead of standing, a bigger thing. */
export function increasesBetween(
  first: Answer,
  second: Answer,
  dose: { atMost?: boolean; unit: DoseUnit } | null,
): number {
  const [a, b] = [first.asked, second.asked];
  const isMore = a !== undefined && b !== undefined && (dose?.atMost ? b < a : b > a);
  const isMoving = first.setting === "standing" && second.setting === "moving";
  const grown =
    first.tool !== undefined &&
    second.tool !== undefined &&
    GROWING_TOOLS.indexOf(second.tool) > GROWING_TOOLS.indexOf(first.tool) &&
    GROWING_TOOLS.includes(first.tool);
  return [isMore, isMoving, grown].filter(Boolean).length;
}
