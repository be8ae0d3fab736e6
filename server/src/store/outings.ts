import type { OutingSummary } from "@still-pine/contract/http";
import { sumsOf } from "@still-pine/contract/views";
import type { Day, FoldedOuting, HorseId, YardId } from "@still-pine/core/record";
import { sqlInstant, type Db } from "../db/pool";
import type { Labels } from "./labels";

/** The outings of a horse as lines of his diary. */

interface OutingRow {
  id: string;
  day: Day;
  started_at: Date;
  ended_at: Date;
  place: string | null;
  handler: string | null;
  asks: number;
  mishaps: number;
  steps: string[];
}

const COLUMNS = "id, day, started_at, ended_at, place, handler, asks, mishaps, steps";

const summaryOf = (row: OutingRow, labels: Labels): OutingSummary => ({
  id: row.id,
  day: row.day,
  startedAt: row.started_at.toISOString(),
  endedAt: row.ended_at.toISOString(),
  place: row.place === null ? null : (labels.place.get(row.place) ?? row.place),
  handler: row.handler === null ? null : (labels.person.get(row.handler) ?? row.handler),
  asks: row.asks,
  mishaps: row.mishaps,
  steps: row.steps,
});

/** A page of them, the latest first. @param skip outings to pass over */
export async function listOutings(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  page: { skip: number; most: number },
  labels: Labels,
): Promise<OutingSummary[]> {
  const { rows } = await db.query<OutingRow>(
    `select ${COLUMNS} from outing where yard_id = $1 and horse_id = $2
     order by started_at desc, id desc offset $3 limit $4`,
    [yardId, horseId, page.skip, page.most],
  );
  return rows.map((row) => summaryOf(row, labels));
}

export async function countOutings(db: Db, yardId: YardId, horseId: HorseId): Promise<number> {
  const { rows } = await db.query<{ n: number }>(
    "select count(*)::int as n from outing where yard_id = $1 and horse_id = $2",
    [yardId, horseId],
  );
  return rows[0]?.n ?? 0;
}

/** One of them; null where the horse has none of that id. */
export async function findOuting(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  id: string,
  labels: Labels,
): Promise<OutingSummary | null> {
  const { rows } = await db.query<OutingRow>(
    `select ${COLUMNS} from outing where yard_id = $1 and horse_id = $2 and id = $3`,
    [yardId, horseId, id],
  );
  return rows[0] ? summaryOf(rows[0], labels) : null;
}

/** Ids of the last ones, the latest first. @param withAsks only those in which something was asked */
export async function lateOutings(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  most: number,
  withAsks = false,
): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select id from outing where yard_id = $1 and horse_id = $2 and asks >= $4
     order by started_at desc, id desc limit $3`,
    [yardId, horseId, most, withAsks ? 1 : 0],
  );
  return rows.map(({ id }) => id);
}

/** Writes the outings' own rows. Returns those that were there with another day, place or handler: all their events moved. */
export async function writeOutings(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  outings: readonly FoldedOuting[],
): Promise<Set<string>> {
  if (outings.length === 0) return new Set();
  const before = await db.query<{ id: string; day: Day; place: string | null; handler: string | null }>(
    "select id, day, place, handler from outing where yard_id = $1 and id = any($2)",
    [yardId, outings.map(({ id }) => id)],
  );
  const sums = outings.map(sumsOf);
  await db.query(
    `insert into outing (yard_id, horse_id, id, day, started_at, ended_at, place, handler, asks, mishaps, steps)
     select $1, $2, id, day, started_at, ended_at, place, handler, asks, mishaps, array(select jsonb_array_elements_text(steps))
     from unnest($3::text[], $4::date[], $5::timestamptz[], $6::timestamptz[], $7::text[], $8::text[], $9::int[], $10::int[], $11::jsonb[])
       as one(id, day, started_at, ended_at, place, handler, asks, mishaps, steps)
     on conflict (yard_id, id) do update set day = excluded.day, started_at = excluded.started_at, ended_at = excluded.ended_at,
       place = excluded.place, handler = excluded.handler, asks = excluded.asks, mishaps = excluded.mishaps, steps = excluded.steps`,
    [
      yardId,
      horseId,
      outings.map(({ id }) => id),
      outings.map(({ day }) => day),
      outings.map(({ startedAt }) => sqlInstant(startedAt)),
      outings.map(({ endedAt }) => sqlInstant(endedAt)),
      outings.map(({ head }) => labelOf(head.place)),
      outings.map(({ head }) => labelOf(head.handler)),
      sums.map(({ asks }) => asks),
      sums.map(({ mishaps }) => mishaps),
      sums.map(({ steps }) => JSON.stringify(steps)),
    ],
  );
  const now = new Map(outings.map((outing) => [outing.id, outing]));
  return new Set(
    before.rows
      .filter(({ id, day, place, handler }) => {
        const outing = now.get(id);
        return (
          outing &&
          (outing.day !== day || labelOf(outing.head.place) !== place || labelOf(outing.head.handler) !== handler)
        );
      })
      .map(({ id }) => id),
  );
}

const labelOf = (value: unknown): string | null => (typeof value === "string" ? value : null);

/** An outing and how many events it has. */
export interface Sized {
  id: string;
  events: number;
}

/** The outings of a horse in their order, as far as events say it. */
export async function sizesOfOutings(db: Db, yardId: YardId, horseId: HorseId): Promise<Sized[]> {
  const { rows } = await db.query<Sized>(
    `select outing_id as id, count(*)::int as events from event
     where yard_id = $1 and horse_id = $2 and outing_id is not null group by outing_id order by min(at), outing_id`,
    [yardId, horseId],
  );
  return rows;
}
