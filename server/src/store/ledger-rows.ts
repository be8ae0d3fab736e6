import type { Day, RecordEvent, HorseId, OutingId, StepId, YardId } from "@still-pine/core/record";
import { sqlInstant, type Db } from "../db/pool";

/** One row of the ledger: an event as it counts now, or an outing, which has the kind ''. */
export interface LedgerRow {
  id: string;
  kind: string;
  day: Day;
  at: string;
  outing: OutingId | null;
  step: StepId | null;
  side: string | null;
  place: string | null;
  handler: string | null;
  asks: number;
  minutes: number;
  voided: boolean;
  /** With its corrections, where it has any. */
  current: RecordEvent | null;
}

/** No event can have an empty type. */
export const OUTING_KIND = "";

/** Writes rows; with "new" none of them is there yet. */
export async function writeLedger(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  rows: readonly LedgerRow[],
  are: "new" | "perhaps there" = "perhaps there",
): Promise<void> {
  if (rows.length === 0) return;
  await db.query(
    `insert into ledger (yard_id, horse_id, id, kind, day, at, outing_id, step, side, place, handler, asks, minutes, voided, current)
     select $1, $2, * from unnest($3::text[], $4::text[], $5::date[], $6::timestamptz[], $7::text[], $8::text[], $9::text[],
       $10::text[], $11::text[], $12::int[], $13::int[], $14::boolean[], $15::jsonb[])
     ${
       are === "new"
         ? ""
         : `on conflict (yard_id, id, kind) do update set day = excluded.day, at = excluded.at, step = excluded.step,
              side = excluded.side, place = excluded.place, handler = excluded.handler, asks = excluded.asks,
              minutes = excluded.minutes, voided = excluded.voided, current = excluded.current`
     }`,
    [
      yardId,
      horseId,
      rows.map(({ id }) => id),
      rows.map(({ kind }) => kind),
      rows.map(({ day }) => day),
      rows.map(({ at }) => sqlInstant(at)),
      rows.map(({ outing }) => outing),
      rows.map(({ step }) => step),
      rows.map(({ side }) => side),
      rows.map(({ place }) => place),
      rows.map(({ handler }) => handler),
      rows.map(({ asks }) => asks),
      rows.map(({ minutes }) => minutes),
      rows.map(({ voided }) => voided),
      rows.map(({ current }) => (current ? JSON.stringify(current) : null)),
    ],
  );
}

/** Drops everything of a horse that stands in the ledger and among the outings, to be made anew. */
export async function dropRows(db: Db, yardId: YardId, horseId: HorseId): Promise<void> {
  await db.query("delete from ledger where yard_id = $1 and horse_id = $2", [yardId, horseId]);
  await db.query("delete from outing where yard_id = $1 and horse_id = $2", [yardId, horseId]);
}
