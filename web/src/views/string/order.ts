import type { StringHorse } from "@still-pine/contract/http";
import { gateName, STATUS_WORDS, stepName } from "@still-pine/core/readiness/words";
import type { ProgramFor } from "../../book/use-book";

/** How the string is sorted, filtered and found in; all of it stands in the address. */
export const SORTS = {
  attention: "what wants attention",
  name: "name",
  days: "work days",
  last: "longest not out",
  road: "how far",
} as const;
export type Sort = keyof typeof SORTS;

export const SHOWN = {
  all: "all in work",
  slipped: "slipped or rusty",
  gate: "at a gate",
  idle: "not out for a week",
} as const;
export type Shown = keyof typeof SHOWN;

export const isSort = (text: string | null): text is Sort => text !== null && text in SORTS;
export const isShown = (text: string | null): text is Shown => text !== null && text in SHOWN;

const COMPARE: Record<Sort, (a: StringHorse, b: StringHorse) => number> = {
  attention: (a, b) =>
    b.slipped - a.slipped || b.rusty - a.rusty || (a.lastOuting ?? "").localeCompare(b.lastOuting ?? ""),
  name: () => 0,
  days: (a, b) => b.workDays - a.workDays,
  last: (a, b) => (a.lastOuting ?? "").localeCompare(b.lastOuting ?? ""),
  road: (a, b) => b.steady - a.steady,
};

/** Sorted; horses that are alike stand by their names. */
export function sortHorses(horses: readonly StringHorse[], sort: Sort): StringHorse[] {
  return horses.toSorted((a, b) => COMPARE[sort](a, b) || a.name.localeCompare(b.name));
}

const WEEK_MS = 7 * 86_400_000;
/** One step of a gate missing is at it. */
const AT_GATE = 1;

const KEEPS: Record<Shown, (horse: StringHorse, today: string) => boolean> = {
  all: () => true,
  slipped: ({ slipped, rusty }) => slipped + rusty > 0,
  gate: ({ gate }) => gate !== null && gate.of - gate.have <= AT_GATE,
  idle: ({ lastOuting }, today) => lastOuting === null || Date.parse(today) - Date.parse(lastOuting) >= WEEK_MS,
};

/** Horses that are shown, and that are found by name, by a step at their edge, by a word or by the next gate. */
export function filterHorses(
  horses: readonly StringHorse[],
  { shown, find, today }: { shown: Shown; find: string; today: string },
  programFor: ProgramFor,
): StringHorse[] {
  const wanted = find.trim().toLowerCase();
  return horses.filter((horse) => {
    if (!KEEPS[shown](horse, today)) return false;
    if (wanted === "") return true;
    const program = programFor(horse);
    const said = [
      horse.name,
      ...horse.edge.flatMap(({ step, status }) => [stepName(program, step), STATUS_WORDS[status]]),
      horse.gate ? gateName(program, horse.gate.gate) : "",
    ];
    return said.some((text) => text.toLowerCase().includes(wanted));
  });
}
