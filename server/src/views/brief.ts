import type { Pool } from "pg";
import type { BriefView } from "@still-pine/contract/http";
import { addDays, ageOn, dayIn } from "@still-pine/core/record";
import { writeBrief } from "@still-pine/core/planning";
import { foldOutings } from "../read-models/fold-outings";
import { horseLine } from "../read-models/line";
import { loadLabels } from "../store/labels";
import type { Yard } from "../store/yard";
import { standingOfHorse, yardView } from "./horse";

/** So many outings back a brief looks. */
const LOOKED_AT = 20;

/** The brief for a horse's next outing; null where the yard has no such horse. */
export async function briefView(db: Pool, yard: Yard, id: string, now: string): Promise<BriefView | null> {
  const today = dayIn(yard.timeZone, now);
  const [judged, labels, { rows }] = await Promise.all([
    standingOfHorse(db, yard, id, today),
    loadLabels(db, yard.id),
    db.query<{ id: string }>(
      "select id from outing where yard_id = $1 and horse_id = $2 order by started_at desc, id desc limit $3",
      [yard.id, id, LOOKED_AT],
    ),
  ]);
  if (!judged) return null;
  const { horse, standing } = judged;
  const late = rows.map((row) => row.id);
  const { outings } = await foldOutings(db, yard, horse, late, labels);
  const line = horseLine(horse, standing, today);
  return {
    yard: yardView(yard, labels, today),
    horse: line,
    brief: writeBrief({
      program: standing.program,
      judgements: standing.judgements,
      next: standing.next,
      outings,
      workDays: line.workDays,
      firstDay: line.calendarDays === 0 ? null : addDays(today, 1 - line.calendarDays),
      today,
      monthsAtLeast: ageOn(horse.foaled, horse.foaledPrecision, today).monthsAtLeast,
    }),
  };
}
