import { rungInWords } from "@still-pine/core/programs/ladder-words";
import type { StepId } from "@still-pine/core/record";
import type { Brief, Help, LastOuting, OldHabit, Proposed, Worry } from "@still-pine/core/planning";
import { gateName, sideInWords, stepName } from "@still-pine/core/readiness/words";
import { phaseWordsOf, type Dialect, type Program, type Step } from "@still-pine/core/programs";
import type { FinishLine } from "@still-pine/core/outing";
import { plain } from "../../parts/choice-words";
import { upToInWords } from "../../parts/up-to-words";
import { MOOD_WORDS } from "../../marks/feel-square";

const FRIGHTS: Record<number, string> = { 1: "flinched", 2: "stepped off", 3: "jumped", 4: "was away" };

/** How sentences about a horse's steps are made: the program's names in the yard's words. */
export interface Naming {
  program: Program;
  words: Dialect;
}

const at = ({ program, words }: Naming, step: StepId, side?: string): string => {
  const where = side ? sideInWords(side as "near") : "";
  return `${stepName(program, step, words)}${where ? `, ${where}` : ""}`;
};

export function worryInWords(worry: Worry, naming: Naming): string {
  switch (worry.kind) {
    case "startle":
      return `${FRIGHTS[worry.size] ?? "took fright"} at ${worry.thing ?? "something"}`;
    case "mishap":
      return `mishap: ${plain(worry.what)}, severity ${worry.severity}`;
    case "against-gate":
      return `worked against the gate ${gateName(naming.program, worry.gate, naming.words)}: ${at(naming, worry.step)}${worry.reason === null ? "" : `, “${worry.reason}”`}`;
    case "tight":
      return `${worry.over ? "over" : "tight"} ${worry.times === 1 ? "once" : `${worry.times} times`}: ${at(naming, worry.step, worry.side)}`;
    default:
      return worry satisfies never;
  }
}

export function helpInWords(help: Help, naming: Naming): string {
  const where = at(naming, help.step, "side" in help ? help.side : undefined);
  switch (help.kind) {
    case "ease":
      return `let down (${plain(help.sign)}) at: ${where}`;
    case "smaller":
      return `asking for less: ${where}`;
    case "other-tool":
      return `something else in the hand: ${where}`;
    case "came-back":
      return `doing something else and coming back: ${where}`;
    case "waited":
      return `a wait: ${where}`;
    case "setting":
      return `${help.setting}: ${where}`;
    default:
      return help satisfies never;
  }
}

export function habitInWords(habit: OldHabit, naming: Naming): string {
  switch (habit.kind) {
    case "fault":
      return `${plain(habit.fault)} (${habit.times} times): ${at(naming, habit.step)}`;
    case "startle":
      return `starts at ${habit.thing}`;
    case "caught":
      return `catching him: ${plain(habit.how)}${habit.seconds === null ? "" : `, ${Math.round(habit.seconds / 60)} min`}`;
    default:
      return habit satisfies never;
  }
}

/** "Lateral flexion, near side: gave at a hint, quiet." */
export function endedInWords({ lastAsk }: LastOuting, naming: Naming): string | null {
  if (!lastAsk) return null;
  const feel = [
    lastAsk.phase === undefined ? null : phaseWordsOf(naming.program)[lastAsk.phase],
    lastAsk.mood === undefined ? null : MOOD_WORDS[lastAsk.mood],
  ].filter(Boolean);
  return `${at(naming, lastAsk.step, lastAsk.side)}: ${[lastAsk.answer, ...feel].join(", ")}`;
}

export const weakInWords = ({ step, side, good, asks }: LastOuting["weak"][number], naming: Naming): string =>
  `${at(naming, step, side)}: ${good} of ${asks} good`;

/** "3 clean on each side, at a hint" */
export function lineInWords({ count, worth, phase, rung, dose }: FinishLine, step: Step, program: Program): string {
  const what = worth === "tried" ? `${count} tries or better` : `${count} clean`;
  const sides = step.side === "none" ? "" : step.side === "leg" ? " on each leg" : " on each side";
  const most = phase === undefined ? "" : `, at most ${phaseWordsOf(program)[phase]}`;
  const unit = step.standard.dose?.unit;
  const rungs = rung === undefined ? "" : `, ${rungInWords(step.id, rung)}`;
  return `${what}${sides}${most}${rungs}${dose === undefined ? "" : `, ${dose} ${unit}`}`;
}

const WHY: Record<Proposed["why"], string> = {
  again: "the last review said so",
  cold: "what stayed?",
  slipped: "it slipped",
  gate: "the next gate asks for it",
  longest: "it has lain longest",
  untried: "new to him",
  smaller: "its smaller rungs may be worked",
  beside: "beside the road",
  base: "its last first ask failed: back to it first",
  "bit-weeks": "the bit is to be carried longer first",
  "too-young": "too young for this program",
  held: "held",
  back: "back after a break: wanted clean cold before he is ridden",
  rusty: "a cold check is due",
  soon: "a cold check falls due soon",
};

export function whyInWords(
  { why, isNew, sticky, step }: Proposed,
  gate: string | null,
  naming: Naming,
  upTo?: Brief["upTo"],
): string {
  const said =
    why === "gate" && gate !== null ? `${gateName(naming.program, gate, naming.words)} asks for it` : WHY[why];
  return [
    said,
    isNew && why !== "untried" ? "still new to him" : null,
    sticky === null ? null : `${sticky} side needs more`,
    upToInWords(upTo, step, naming.program, naming.words),
  ]
    .filter(Boolean)
    .join("; ");
}

/** "Work day 25, calendar day 34" */
export const dayNumbers = ({ workDay, calendarDay }: Brief): string =>
  `Work day ${workDay}, calendar day ${calendarDay}`;
