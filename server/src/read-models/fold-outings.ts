import { foldRecord, type FoldedOuting, type FoldedRecord, type RecordEvent } from "@still-pine/core/record";
import type { Db } from "../db/pool";
import { correctionsOf } from "../store/corrections";
import { eventsOfOutings, horseEventsOf } from "../store/events";
import type { StoredHorse } from "../store/horses";
import { withLabels, type Labels } from "../store/labels";
import { toRecord } from "../store/record";
import type { Yard } from "../store/yard";

/** These outings with every correction of their events, folded; places and people stay ids unless `labels` are given. */
export async function foldOutings(
  db: Db,
  yard: Yard,
  horse: StoredHorse,
  ids: readonly string[],
  labels?: Labels,
): Promise<{ folded: FoldedRecord; outings: readonly FoldedOuting[] }> {
  const own = await eventsOfOutings(db, yard.id, ids);
  const fromElsewhere = await correctionsOf(db, yard.id, horse.id, own);
  const record = toRecord(yard, horse, own, labels);
  // Corrections that stand elsewhere lie here among the horse's own events: only what they say matters.
  const folded = foldRecord({
    ...record,
    horseEvents: fromElsewhere.map(({ event }) => (labels ? withLabels(event, labels) : event)),
  });
  return { folded, outings: folded.outings };
}

/** What is said of the horse itself, with every correction of it; `standing` is what counts of it, corrected, without what was struck out. */
export async function foldHorseEvents(
  db: Db,
  yard: Yard,
  horse: StoredHorse,
  labels?: Labels,
): Promise<{ events: RecordEvent[]; folded: FoldedRecord; standing: readonly RecordEvent[] }> {
  const own = await horseEventsOf(db, yard.id, horse.id);
  const more = await correctionsOf(db, yard.id, horse.id, own);
  const record = toRecord(yard, horse, [...own, ...more.map((one) => ({ ...one, outingId: null }))], labels);
  const ids = new Set(own.map(({ event }) => event.id));
  const events = record.horseEvents.filter(({ id }) => ids.has(id));
  const folded = foldRecord(record);
  return { events, folded, standing: folded.ofHorse.filter(({ id }) => ids.has(id)) };
}
