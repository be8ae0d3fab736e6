import { asFarAsRung, saidRung, sideOfAsk, worthOfAsk, type Measure, type Worth } from "../evidence";
import { asFarAsDose, type DoseUnit, type SideKey, type Standard, type Step } from "../programs";
import { TIGHT, TOOLS, type AskEvent, type Mood, type Phase, type Tool, type StepId } from "../record";
import type { FinishLine } from "./types";

/** One ask as the coach weighs it. */
export interface Answer {
  id: string;
  step: StepId;
  side: SideKey;
  given: "gave" | "tried" | "none" | "against";
  phase?: Phase;
  mood?: Mood;
  worth: Exclude<Worth, "neutral">;
  /** What was asked was given, quietly and lightly enough, even where less was asked than counts. */
  right: boolean;
  /** As good as today's finish line asks. */
  good: boolean;
  /** Gave, quiet enough, and took more than the line allows. */
  heavy: boolean;
  /** Not good, and near enough that one more may be. */
  close: boolean;
  /** Place of its rung on the ladder, where it says one. */
  rung?: number;
  asked?: number;
  setting?: string;
  tool?: Tool;
}

/** The standard of a step as today's line has it: its own phase and dose, where it says them. */
function standardOfLine({ standard }: Step, { phase, dose }: FinishLine): Standard {
  return {
    ...standard,
    phase: standard.phase === null ? null : (phase ?? standard.phase),
    dose: standard.dose && dose !== undefined ? { ...standard.dose, amount: dose } : standard.dose,
  };
}

/** What today's line measures by: its own rung, where it names one below the standard's. */
function measureOfLine(step: Step, line: FinishLine): Measure {
  const { ladder } = step;
  const standard = standardOfLine(step, line);
  const place = ladder.rungs.findIndex(({ id }) => id === line.rung);
  if (place < 0 || place >= ladder.standard) return { standard, ladder: asFarAsDose(ladder, standard.dose) };
  const { dose } = asFarAsRung(step, place).standard;
  return { standard: { ...standard, dose }, ladder: { ...ladder, standard: place } };
}

/**
 * Weighs an ask against the line of today; null for one that was neither right nor wrong, or says too little to be of one side.
 *
 * @param wasAsked whether the standard was asked on this side before
 */
export function weighAnswer(ask: AskEvent, step: Step, line: FinishLine, wasAsked = false): Answer | null {
  const measure = measureOfLine(step, line);
  const { standard } = measure;
  const worth = worthOfAsk(ask, measure, wasAsked);
  const side = sideOfAsk(ask, step);
  const { answer, phase, mood, asked, setting, tool, after } = ask;
  if (worth === "neutral" || answer === "neutral" || side === null) return null;
  const rung = saidRung(ask, step);
  const bolted = after === "bolted";
  const most = standard.phase;
  const isLight = most === null || (phase !== undefined && phase <= most);
  const quiet = mood !== undefined && mood <= standard.mood;
  const gave = answer === "gave" && !bolted;
  const tried = answer === "tried" && line.worth === "tried" && !bolted && (mood === undefined || quiet);
  const practised = worth === "practice" && gave && quiet && isLight && isAskedThere(ask, standard);
  const right = worth === "clean" || tried || practised;
  const isTight = mood !== undefined && mood >= TIGHT;
  const isNearlyLight = most === null || phase === undefined || phase <= most + 1;
  return {
    id: ask.id,
    step: ask.step,
    side,
    given: answer,
    worth,
    ...(phase === undefined ? {} : { phase }),
    ...(mood === undefined ? {} : { mood }),
    right,
    good: worth === "clean" || (line.worth === "tried" && right),
    heavy: gave && quiet && !isLight,
    close: !bolted && !isTight && (answer === "tried" || (answer === "gave" && isNearlyLight)),
    ...(rung === null ? {} : { rung }),
    ...(asked === undefined ? {} : { asked }),
    ...(setting === undefined ? {} : { setting }),
    ...(tool === undefined ? {} : { tool }),
  };
}

/** He gave the smaller dose that was asked for; without a word on it, what was asked was got. */
function isAskedThere({ asked, dose: got }: AskEvent, { dose }: Standard): boolean {
  if (got === undefined || asked === undefined || dose === null) return true;
  return dose.atMost ? got <= asked : got >= asked;
}

const GROWING_TOOLS: readonly Tool[] = ["none", "rope-end", "stick", "flag"] satisfies (typeof TOOLS)[number][];

/** In how many ways the second ask was more than the first: a higher rung or bigger dose, moving instead of standing, a bigger thing. */
export function increasesBetween(
  first: Answer,
  second: Answer,
  dose: { atMost?: boolean; unit: DoseUnit } | null,
): number {
  const [a, b] = [first.asked, second.asked];
  const isHigher = first.rung !== undefined && second.rung !== undefined && second.rung > first.rung;
  const isMore = isHigher || (a !== undefined && b !== undefined && (dose?.atMost ? b < a : b > a));
  const isMoving = first.setting === "standing" && second.setting === "moving";
  const grown =
    first.tool !== undefined &&
    second.tool !== undefined &&
    GROWING_TOOLS.indexOf(second.tool) > GROWING_TOOLS.indexOf(first.tool) &&
    GROWING_TOOLS.includes(first.tool);
  return [isMore, isMoving, grown].filter(Boolean).length;
}

/** Whether a quiet answer took less than the one before it, of the same exercise, side and rung, with the same in the hand. */
export function isLighter(before: Answer, last: Answer): boolean {
  const isAlike = before.step === last.step && before.side === last.side && before.rung === last.rung;
  if (!isAlike || before.tool !== last.tool || before.given !== "gave" || last.given !== "gave") return false;
  return before.phase !== undefined && last.phase !== undefined && last.phase < before.phase;
}
