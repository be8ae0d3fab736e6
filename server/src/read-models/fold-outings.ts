import { foldRecord, type FoldedOuting, type FoldedRecord } from "@still-pine/core/record";
import type { Db } from "../db/pool";
import { correctionsOf, eventsOfOutings } from "../store/events";
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
  const fromElsewhere = own.length === 0 ? [] : await correctionsOf(db, yard.id, own);
  const record = toRecord(yard, horse, own, labels);
  // Corrections that stand elsewhere lie here among the horse's own events: only what they say matters.
  const folded = foldRecord({
    ...record,
    horseEvents: fromElsewhere.map(({ event }) => (labels ? withLabels(event, labels) : event)),
  });
  return { folded, outings: folded.outings };
}
