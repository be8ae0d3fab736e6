import { v7 as newId } from "uuid";
import type { EventBody, DeviceId, HorseId, OutingId } from "@still-pine/core/record";
import { instantIn } from "../parts/days";
import { stamp } from "../outbox/stamp";

/** An outing being written up. Kept in this browser until it is saved, so that no reload and no error loses it. */
export interface Draft {
  outing: OutingId;
  horse: HorseId;
  day: string;
  start: string;
  end: string;
  place: string;
  handler: string;
  /** The rest of the head, as typed: helper, gear, weather, how he was caught. */
  head: Record<string, string>;
  entries: Entry[];
  /** A note begun and not yet added. */
  unsentNote: string;
}

interface EntryHead {
  id: string;
  /** When it was typed. */
  recordedAt: string;
  device: DeviceId;
  seq: number;
  v?: number;
  /** When it happened, as it was first sent; absent until then. */
  at?: string;
}

export type Entry = EntryHead & EventBody;

/** An entry as it is typed: its time is given when the outing's own times are known. */
export function newEntry(body: EventBody): Entry {
  const { at: recordedAt, ...stamped } = stamp(body);
  return { ...stamped, recordedAt };
}

export function emptyDraft(horse: HorseId, today: string): Draft {
  return {
    outing: newId(),
    horse,
    day: today,
    start: "",
    end: "",
    place: "",
    handler: "",
    head: {},
    entries: [],
    unsentNote: "",
  };
}

export type HeadField = "horse" | "day" | "start" | "end" | "place" | "handler";
export type HeadErrors = Partial<Record<HeadField, string>>;

/** What is missing or wrong before an outing can be saved, by field. */
export function headErrors(draft: Draft, timeZone: string, now: string): HeadErrors {
  const errors: HeadErrors = {};
  if (!draft.horse) errors.horse = "Choose the horse.";
  const start = instantIn(timeZone, draft.day, draft.start);
  const end = instantIn(timeZone, draft.day, draft.end);
  if (!/^\d{4}-\d\d-\d\d$/.test(draft.day)) errors.day = "Choose the day.";
  if (!draft.start) errors.start = "Say when it started.";
  else if (start && start > now) errors.start = "That has not come yet.";
  if (!draft.end) errors.end = "Say when it ended.";
  else if (start && end && end <= start) errors.end = `Must be after the start, ${draft.start}.`;
  if (!draft.place.trim()) errors.place = "Say where.";
  if (!draft.handler.trim()) errors.handler = "Say who handled the horse.";
  return errors;
}

export interface SentEvent {
  horse: HorseId;
  outing: OutingId;
  event: { id: string; [field: string]: unknown };
}

/**
 * The draft with a time for every entry: spread evenly over the outing in the order they were typed. Times already given
 * stay, so that what was sent once is the same when it is sent again with more; unless the outing's own times were changed
 * and leave them outside, then all are given anew.
 */
export function withTimes(draft: Draft, timeZone: string): Draft {
  const start = Date.parse(instantIn(timeZone, draft.day, draft.start) ?? "");
  const end = Date.parse(instantIn(timeZone, draft.day, draft.end) ?? "");
  if (Number.isNaN(start) || Number.isNaN(end)) return draft;
  const isInside = (at: string): boolean => Date.parse(at) >= start && Date.parse(at) <= end;
  const stay = draft.entries.every((entry) => entry.at === undefined || isInside(entry.at));
  const given = stay ? draft.entries.filter((entry) => entry.at !== undefined) : [];
  const from = Math.max(start, ...given.map((entry) => Date.parse(entry.at ?? "")));
  const gap = (end - from) / (draft.entries.length - given.length + 1);
  let placed = 0;
  const timed = (entry: Entry): Entry => {
    if (stay && entry.at !== undefined) return entry;
    placed += 1;
    return { ...entry, at: new Date(Math.round(from + gap * placed)).toISOString() };
  };
  return { ...draft, entries: draft.entries.map(timed) };
}

/** The draft as events: its head and its entries. Give it times first. @param head the rest of the head, read from what was typed */
export function eventsOf(draft: Draft, timeZone: string, head: Record<string, unknown> = {}): SentEvent[] {
  const startedAt = instantIn(timeZone, draft.day, draft.start);
  const endedAt = instantIn(timeZone, draft.day, draft.end);
  if (!startedAt || !endedAt) return [];
  const of = (event: SentEvent["event"]): SentEvent => ({ horse: draft.horse, outing: draft.outing, event });
  return [
    of({
      id: `${draft.outing}:start`,
      at: startedAt,
      type: "outing-start",
      ...head,
      place: draft.place.trim(),
      handler: draft.handler.trim(),
    }),
    ...draft.entries.map((entry) => of({ ...entry })),
    of({ id: `${draft.outing}:end`, at: endedAt, type: "outing-end" }),
  ];
}

const KEY = "still-pine.drafts";

/** Unsaved write-ups of this browser, one a horse. */
function readDrafts(): Record<string, Draft> {
  try {
    const drafts = JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, Draft> | null;
    return drafts && typeof drafts === "object" ? drafts : {};
  } catch {
    return {};
  }
}

/** The unsaved write-up of a horse ("" for one whose horse is not chosen yet), or null. */
export function readDraft(horse: HorseId): Draft | null {
  const draft = readDrafts()[horse];
  return draft && Array.isArray(draft.entries) ? { ...draft, head: draft.head ?? {} } : null;
}

export function keepDraft(draft: Draft): void {
  if (isWorthKeeping(draft)) localStorage.setItem(KEY, JSON.stringify({ ...readDrafts(), [draft.horse]: draft }));
  else dropDraft(draft.horse);
}

export function dropDraft(horse: HorseId): void {
  const { [horse]: _dropped, ...others } = readDrafts();
  localStorage.setItem(KEY, JSON.stringify(others));
}

/**
 * The write-up after another horse was chosen: the same entries for that horse, unless it has an unsaved write-up of its
 * own, which is then taken up; this one stays with its horse.
 */
export function withHorse(draft: Draft, horse: HorseId): Draft {
  const own = readDraft(horse);
  if (own) return own;
  dropDraft(draft.horse);
  return { ...draft, horse };
}

export function isWorthKeeping(draft: Draft): boolean {
  return (
    draft.entries.length > 0 ||
    Object.values(draft.head).some(Boolean) ||
    [draft.start, draft.end, draft.place, draft.handler, draft.unsentNote].some(Boolean)
  );
}
