import type { AskEvent, Day, SeriesEvent } from "../record";
import { type Worth } from "./classify";
import type { Weights } from "./memories";
import { type Shown } from "./shown";
import { type Visit } from "./visit";

/** One ask or series as evidence. `lucky`: a good one right after a miss, not yet proven. */
export interface Entry {
  event: AskEvent | SeriesEvent;
  outing: number;
  worth: Worth | "lucky" | "failed-lucky" | "series";
  cold: boolean;
  /** What it adds before forgetting. */
  clean: number;
  not: number;
}

/** A side's evidence between two outings as plain data; `SideEvidence.restore` takes it up again. */
export interface SavedSide extends Weights {
  visits: Visit[];
  pending: Entry[];
  colds: { id: string; clean: boolean }[];
  asked: number;
  count: number;
  days: number;
  cleanDays: number;
  lastDay: Day | null;
  lastClean: Day | null;
  lastCleanEvent: string | null;
  freshened: Day | null;
  shown: Shown;
  /** Whether a sign of ease was seen since he was last tight. */
  eased: boolean;
  /** Outings in which it was asked, and whether he ever gave it: a try before that is practice. */
  outings: number;
  gave: boolean;
  /** When the standard was first asked. */
  standardAsked: string | null;
  /** Of the last counted asks, whether each was clean; only where a step is judged by holds. */
  lastOnes: boolean[];
}

/** With lists, visits and entries of its own: a late proof changes them. */
export const copyOf = (saved: SavedSide): SavedSide => ({
  ...saved,
  visits: saved.visits.map((visit) => ({ ...visit })),
  pending: saved.pending.map((entry) => ({ ...entry })),
  lastOnes: [...saved.lastOnes],
});

/** Notes how the last counted asks came, so many of them. */
export function noteLast(last: boolean[], clean: boolean, times: number, most: number): void {
  for (let n = Math.min(times, most); n > 0; n -= 1) if (last.push(clean) > most) last.shift();
}

/** How many entries, oldest first, are from before an outing. */
export function countBefore(entries: readonly Entry[], outing: number): number {
  let count = 0;
  while ((entries[count]?.outing ?? outing) < outing) count += 1;
  return count;
}

/** Whether an entry is a remembered series. */
export function isSeriesEvent(event: AskEvent | SeriesEvent): event is SeriesEvent {
  return event.type === "series";
}

/** Ids of those that were given, by which phases are weighed. */
export const idsOfGiven = (entries: readonly Entry[]): string[] =>
  entries.flatMap(({ event }) => (isSeriesEvent(event) || event.answer === "gave" ? [event.id] : []));
