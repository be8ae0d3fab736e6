import { compareEvents } from "./order";
import { isCorrection, type CorrectionEvent, type RecordEvent } from "./types";

/** Where one event stands after all corrections of it. */
export interface Standing {
  /** The event as it counts now: the original with its changed fields. */
  event: RecordEvent;
  voided: boolean;
  /** The corrections that made it so, as they were written, in the order they count. */
  by: CorrectionEvent[];
}

export interface Corrections {
  /** The standing of an event; without corrections that is the event itself. */
  standingOf(event: RecordEvent): Standing;
  /** Every correction of an event, of those corrections, and so on: each after the one it corrects. */
  about(id: string): CorrectionEvent[];
  /** Whether a correction is struck out by another one that stands. */
  isUndone(correction: CorrectionEvent): boolean;
  /** Every correction, in effective order. */
  all: readonly CorrectionEvent[];
  /** Corrections that name an event this record does not hold, or that lead back to themselves. */
  stray: CorrectionEvent[];
}

/** Fields of an event that no correction may change. */
export const FIXED_FIELDS: readonly string[] = ["id", "type", "replaces"];
/** Fields no correction may take away. */
const KEPT_FIELDS: readonly string[] = ["at"];

const NONE: CorrectionEvent[] = [];

/** What became of a correction by the corrections of it. */
interface Fate {
  /** A correction of it that stands strikes it out. */
  undone: boolean;
  /** It strikes out what it corrects; a void that was given fields changes those instead. */
  strikes: boolean;
}

/**
 * Resolves who corrects whom. A void stands until it is itself voided; changed fields apply in effective order, a later
 * one winning field by field. A correction of a correction works on that correction: voiding it brings back what it had
 * changed, giving it other fields adds them to those it gave. Goes through chains of any length; work grows with the number
 * of corrections, and n log n for their order.
 *
 * @param events all events of the record, in any order
 */
export function resolveCorrections(events: readonly RecordEvent[]): Corrections {
  const all = events.filter(isCorrection).toSorted(compareEvents);
  const known = new Set(events.map((event) => event.id));
  const byTarget = new Map<string, CorrectionEvent[]>();
  for (const correction of all) {
    const list = byTarget.get(correction.replaces);
    if (list) list.push(correction);
    else byTarget.set(correction.replaces, [correction]);
  }
  const circular = findCircular(all);
  const said: Said = { byTarget, circular, fates: new Map() };
  const settled = new Map<string, Standing>();
  return {
    standingOf: (event) => {
      if (!byTarget.has(event.id)) return { event, voided: false, by: NONE };
      const before = settled.get(event.id);
      if (before) return before;
      settle(event.id, said);
      const standing = applied(event, said);
      settled.set(event.id, standing);
      return standing;
    },
    about: (id) => everyOneAbout(id, byTarget),
    isUndone: (correction) => {
      if (!said.fates.has(correction.id)) settle(correction.replaces, said);
      return said.fates.get(correction.id)?.undone === true;
    },
    all,
    stray: findStray(all, known, circular),
  };
}

interface Said {
  byTarget: ReadonlyMap<string, CorrectionEvent[]>;
  circular: ReadonlySet<string>;
  fates: Map<string, Fate>;
}

/** What is said of an event by corrections that are not in a circle. */
function directOf(id: string, { byTarget, circular }: Said): readonly CorrectionEvent[] {
  const direct = byTarget.get(id) ?? NONE;
  return circular.size === 0 ? direct : direct.filter((one) => !circular.has(one.id));
}

/** Puts a list on a stack so that its first comes off first. */
function pushAll(stack: CorrectionEvent[], list: readonly CorrectionEvent[]): void {
  for (let index = list.length - 1; index >= 0; index -= 1) stack.push(list[index] as CorrectionEvent);
}

/** Finds the fates of all that is said of an event: what corrects a correction is settled before it. */
function settle(id: string, said: Said): void {
  const { fates } = said;
  const open: CorrectionEvent[] = [];
  const isOpened = new Set<string>();
  pushAll(open, directOf(id, said));
  for (let correction = open.at(-1); correction; correction = open.at(-1)) {
    const own = directOf(correction.id, said);
    if (fates.has(correction.id)) open.pop();
    else if (own.length === 0 || isOpened.has(correction.id)) {
      fates.set(correction.id, fateOf(correction, own, fates));
      open.pop();
    } else {
      isOpened.add(correction.id);
      pushAll(open, own);
    }
  }
}

function fateOf(correction: CorrectionEvent, own: readonly CorrectionEvent[], fates: ReadonlyMap<string, Fate>): Fate {
  let undone = false;
  let isGivenFields = false;
  for (const one of own) {
    const fate = fates.get(one.id);
    if (!fate || fate.undone) continue;
    if (fate.strikes) undone = true;
    else if (saysFields(one)) isGivenFields = true;
  }
  return { undone, strikes: correction.void === true && !isGivenFields };
}

/** A void that does not strike was given fields. */
const saysFields = (one: CorrectionEvent): boolean => one.with !== undefined || one.void === true;

/** Goes through what is said of an event, each correction followed by what is said of it, and changes fields as it goes. */
function applied(event: RecordEvent, said: Said): Standing {
  const by: CorrectionEvent[] = [];
  const isOfCorrection = isCorrection(event);
  const fields = new Map<string, unknown>(isOfCorrection ? [] : Object.entries(event));
  let isChanged = false;
  let voided = false;
  const open: CorrectionEvent[] = [];
  pushAll(open, directOf(event.id, said));
  for (let correction = open.pop(); correction; correction = open.pop()) {
    const fate = said.fates.get(correction.id);
    if (!fate || fate.undone) continue;
    by.push(correction);
    if (fate.strikes) {
      voided = true;
      continue;
    }
    for (const [field, value] of Object.entries(correction.with ?? {})) {
      if (FIXED_FIELDS.includes(field) || (value === null && KEPT_FIELDS.includes(field))) continue;
      // null takes a field away; a correction keeps it, to take it away from what it corrects.
      if (value === null && !isOfCorrection) fields.delete(field);
      else fields.set(field, value);
    }
    isChanged ||= saysFields(correction);
    pushAll(open, directOf(correction.id, said));
  }
  if (!isChanged) return { event, voided, by };
  const changed = Object.fromEntries(fields);
  if (!isOfCorrection) return { event: changed as RecordEvent, voided, by };
  // New fields for a correction take the place of its voiding and join the fields it already changed.
  const { void: wasVoid, ...rest } = event;
  return { event: { ...rest, with: { ...(wasVoid ? {} : event.with), ...changed } }, voided, by };
}

function everyOneAbout(id: string, byTarget: ReadonlyMap<string, CorrectionEvent[]>): CorrectionEvent[] {
  const found = new Set<CorrectionEvent>();
  const open: CorrectionEvent[] = [];
  pushAll(open, byTarget.get(id) ?? NONE);
  for (let correction = open.pop(); correction; correction = open.pop()) {
    if (found.has(correction) || correction.id === id) continue;
    found.add(correction);
    pushAll(open, byTarget.get(correction.id) ?? NONE);
  }
  return [...found];
}

/**
 * Ids of corrections that lead back to themselves. One that only leads into such a circle is none: whether it stands does not hang
 * on what it corrects, and may be known without it.
 */
function findCircular(corrections: readonly CorrectionEvent[]): Set<string> {
  const byId = new Map(corrections.map((correction) => [correction.id, correction]));
  const done = new Set<string>();
  const circular = new Set<string>();
  for (const start of corrections) {
    const path = new Set<string>();
    let current: CorrectionEvent | undefined = start;
    while (current && !done.has(current.id) && !path.has(current.id)) {
      path.add(current.id);
      current = byId.get(current.replaces);
    }
    if (current && path.has(current.id)) {
      const inOrder = [...path];
      for (const id of inOrder.slice(inOrder.indexOf(current.id))) circular.add(id);
    }
    for (const id of path) done.add(id);
  }
  return circular;
}

/** Corrections whose chain ends in nothing known, or in a circle: they change nothing. */
function findStray(
  corrections: readonly CorrectionEvent[],
  known: ReadonlySet<string>,
  circular: ReadonlySet<string>,
): CorrectionEvent[] {
  const byId = new Map(corrections.map((correction) => [correction.id, correction]));
  const strays = new Map<string, boolean>();
  return corrections.filter((start) => {
    const path: string[] = [];
    let current: CorrectionEvent | undefined = start;
    while (current && !strays.has(current.id) && !circular.has(current.id)) {
      path.push(current.id);
      current = byId.get(current.replaces);
    }
    const isLost = current !== undefined && (circular.has(current.id) || strays.get(current.id) === true);
    for (const id of path) strays.set(id, isLost);
    return isLost || !known.has(start.replaces);
  });
}
