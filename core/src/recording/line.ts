import type { Step } from "../programs";
import { chipsOf, CHIP_VALUES } from "../programs/chips";
import type { Chip } from "../programs";
import type { AskEvent } from "../record";
import type { AskDetails } from "./press";

/** One thing of the line that was pressed: another rung or another value of a chip; undefined takes the word back. */
export type LineChange = { [Name in "rung" | Chip]?: AskDetails[Name] | undefined };

/**
 * What the line of an exercise says before anybody changed it: the rung the card names, or the smallest; standing, where standing and
 * moving are two things; with what the step is usually done. The rest is unsaid until it is said.
 *
 * @param rung id of the rung to begin with; one the ladder does not have is none
 */
export function beginLine(step: Step, rung?: string): AskDetails {
  const { rungs, tool } = step.ladder;
  const chips = chipsOf(step);
  const from = rungs.find(({ id }) => id === rung) ?? rungs[0];
  return {
    ...(from === undefined ? {} : { rung: from.id }),
    ...(chips.includes("setting") ? { setting: "standing" as const } : {}),
    ...(chips.includes("tool") && tool !== null ? { tool } : {}),
  };
}

/** The line after a press; what it was before stays as it was. */
export function changeLine(line: AskDetails, change: LineChange): AskDetails {
  const all: Record<string, unknown> = { ...line, ...change };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== undefined));
}

/**
 * The line on another side of the same exercise: what is in the hand and where one stands goes along, the rung is that side's own.
 */
export const lineOnSide = (line: AskDetails, begin: AskDetails): AskDetails =>
  changeLine(line, { rung: begin.rung, setting: begin.setting });

/** The id of the rung so many above that of a line, below it where negative; null where there is none. A line without a rung is under all. */
export function rungBeside({ ladder }: Pick<Step, "ladder">, { rung }: AskDetails, by: 1 | -1): string | null {
  const place = ladder.rungs.findIndex(({ id }) => id === rung);
  return ladder.rungs[place + by]?.id ?? null;
}

/** From so many seconds on a step's time is kept by a watch rather than felt. */
const WATCH_FROM = 30;

/** The unit in which a step is timed by a watch: something long; null for one that is not. */
export function watchUnit({ standard: { dose } }: Pick<Step, "standard">): "seconds" | "minutes" | null {
  if (dose?.unit === "minutes") return "minutes";
  return dose?.unit === "seconds" && dose.amount >= WATCH_FROM ? "seconds" : null;
}

/** The unit in which the time of a step is told; null for one that is measured otherwise. */
export const timeUnit = ({ standard: { dose } }: Pick<Step, "standard">): "seconds" | "minutes" | null =>
  dose?.unit === "minutes" || dose?.unit === "seconds" ? dose.unit : null;

/**
 * Id of the highest rung that a time has reached, up to the one that was meant and of those measured as that is; the smallest of the
 * ladder where it came to none. However long it was, it shows no rung above: on many ladders that one is another thing, not more time.
 *
 * @param amount in the step's unit
 */
export function rungReached(
  { ladder: { rungs } }: Pick<Step, "ladder">,
  { rung }: AskDetails,
  amount: number,
): string | undefined {
  const place = rungs.findIndex(({ id }) => id === rung);
  const reached = rungs.slice(0, place + 1).findLast(({ dose = 0, at }) => dose <= amount && at === rungs[place]?.at);
  return (reached ?? rungs[0])?.id;
}

/** The value a chip of two turns to: from unsaid to the first, then to the other one. */
export function turned(chip: Chip, line: AskDetails): string | undefined {
  const values: readonly string[] = CHIP_VALUES[chip];
  return values[(values.indexOf(line[chip] ?? "") + 1) % values.length];
}

/** The line under which an ask was made. */
export const lineOfAsk = (ask: AskEvent, step: Pick<Step, "id" | "elsewhere">): AskDetails =>
  changeLine({}, Object.fromEntries((["rung", ...chipsOf(step)] as const).map((name) => [name, ask[name]])));

/** Whether an ask was made under this line: it says the same rung and the same of each chip of its step. */
export const isUnderLine = (ask: AskEvent, step: Pick<Step, "id" | "elsewhere">, line: AskDetails): boolean =>
  ask.rung === line.rung && chipsOf(step).every((chip) => ask[chip] === line[chip]);
