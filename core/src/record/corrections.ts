import { isCorrection, type CorrectionEvent, type RecordEvent } from "./types";

/** Where one event stands after all corrections of it. */
export interface Standing {
  /** The event as it counts now: the original with its changed fields. */
  event: RecordEvent;
  voided: boolean;
  /** The corrections that made it so, in the order they count. */
  by: CorrectionEvent[];
}

export interface Corrections {
  /** The standing of an event; without corrections that is the event itself. */
  standingOf(event: RecordEvent): Standing;
  /** Every correction, in effective order. */
  all: readonly CorrectionEvent[];
  /** Corrections that name an event this record does not hold, or that lead back to themselves. */
  stray: CorrectionEvent[];
}

/** Fields of an event that no correction may change. */
export const FIXED_FIELDS: readonly string[] = ["id", "type", "replaces"];

const NONE: CorrectionEvent[] = [];

/**
 * Resolves who corrects whom. A void stands until it is itself voided; changed fields apply in the order given, a later
 * one winning field by field. A correction of a correction works on that correction: voiding it brings back what it had
 * changed, giving it other fields adds them to those it gave.
 *
 * @param events all events of the record in their effective order
 */
export function resolveCorrections(events: readonly RecordEvent[]): Corrections {
  const corrections = events.filter(isCorrection);
  const known = new Set(events.map((event) => event.id));
  const byTarget = new Map<string, CorrectionEvent[]>();
  for (const correction of corrections) {
    const list = byTarget.get(correction.replaces);
    if (list) list.push(correction);
    else byTarget.set(correction.replaces, [correction]);
  }

  const circular = findCircular(corrections);
  const settled = new Map<string, Standing>();
  const standingOf = (event: RecordEvent): Standing => {
    const direct = byTarget.get(event.id);
    if (!direct) return { event, voided: false, by: NONE };
    const before = settled.get(event.id);
    if (before) return before;
    let current = event;
    let voided = false;
    const by: CorrectionEvent[] = [];
    for (const correction of direct) {
      if (circular.has(correction.id)) continue;
      const standing = standingOf(correction);
      if (standing.voided) continue;
      const effective = standing.event as CorrectionEvent;
      by.push(effective);
      if (effective.void) voided = true;
      else if (effective.with) current = withChanges(current, effective.with);
    }
    const result = { event: current, voided, by };
    settled.set(event.id, result);
    return result;
  };
  return {
    standingOf,
    all: corrections,
    stray: findStray(corrections, known, circular),
  };
}

function withChanges(event: RecordEvent, changes: Record<string, unknown>): RecordEvent {
  const allowed = Object.fromEntries(Object.entries(changes).filter(([field]) => !FIXED_FIELDS.includes(field)));
  if (isCorrection(event)) {
    // New fields for a correction take the place of its voiding and join the fields it already changed.
    const { void: wasVoid, ...rest } = event;
    return { ...rest, with: { ...(wasVoid ? {} : event.with), ...allowed } };
  }
  const changed = { ...event, ...allowed } as Record<string, unknown>;
  // null takes a field away.
  for (const field of Object.keys(allowed)) if (changed[field] === null) delete changed[field];
  return changed as unknown as RecordEvent;
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
