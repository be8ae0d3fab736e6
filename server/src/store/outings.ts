import type { OutingSummary } from "@still-pine/contract/http";
import type { Day } from "@still-pine/core/record";
import type { Db } from "../db/pool";
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
  yardId: string,
  horseId: string,
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

export async function countOutings(db: Db, yardId: string, horseId: string): Promise<number> {
  const { rows } = await db.query<{ n: number }>(
    "select count(*)::int as n from outing where yard_id = $1 and horse_id = $2",
    [yardId, horseId],
  );
  return rows[0]?.n ?? 0;
}

/** One of them; null where the horse has none of that id. */
export async function findOuting(
  db: Db,
  yardId: string,
  horseId: string,
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
  yardId: string,
  horseId: string,
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
