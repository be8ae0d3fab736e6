import type { Pool } from "pg";
import type { BriefView } from "@still-pine/contract/http";
import { BRIEF_OUTINGS, composeBrief } from "@still-pine/contract/views";
import { dayIn } from "@still-pine/core/record";
import { foldOutings } from "../read-models/fold-outings";
import { loadLabels } from "../store/labels";
import type { Yard } from "../store/yard";
import { standingOfHorse, yardView } from "./horse";

/** The brief for a horse's next outing; null where the yard has no such horse. */
export async function briefView(db: Pool, yard: Yard, id: string, now: string): Promise<BriefView | null> {
  const today = dayIn(yard.timeZone, now);
  const [judged, labels, { rows }] = await Promise.all([
    standingOfHorse(db, yard, id, today),
    loadLabels(db, yard.id),
    db.query<{ id: string }>(
      "select id from outing where yard_id = $1 and horse_id = $2 order by started_at desc, id desc limit $3",
      [yard.id, id, BRIEF_OUTINGS],
    ),
  ]);
  if (!judged) return null;
  const { horse, standing } = judged;
  const late = rows.map((row) => row.id);
  const { outings } = await foldOutings(db, yard, horse, late, labels);
  return composeBrief({ yard: yardView(yard, labels, today), row: horse, standing, today, outings });
}
