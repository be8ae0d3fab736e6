import type { YardId } from "@still-pine/core/record";
import type { TroubleFields, TroubleView } from "@still-pine/contract/http";
import type { Db } from "../db/pool";

interface Row {
  id: string;
  version: number;
  body: TroubleFields;
}

const viewOf = ({ id, version, body }: Row): TroubleView => ({ ...body, id, version });

/** Troubles the yard has added, by id. */
export async function listTroubles(db: Db, yardId: YardId): Promise<TroubleView[]> {
  const { rows } = await db.query<Row>("select id, version, body from trouble where yard_id = $1 order by id", [
    yardId,
  ]);
  return rows.map(viewOf);
}

export async function findTrouble(db: Db, yardId: YardId, id: string): Promise<TroubleView | null> {
  const { rows } = await db.query<Row>("select id, version, body from trouble where yard_id = $1 and id = $2", [
    yardId,
    id,
  ]);
  return rows[0] ? viewOf(rows[0]) : null;
}

/** Stores a trouble if it still is the version that was seen, 0 for a new one; null when it is not. */
export async function putTrouble(
  db: Db,
  yardId: YardId,
  id: string,
  seen: number,
  fields: TroubleFields,
): Promise<TroubleView | null> {
  const { rows } =
    seen === 0
      ? await db.query<Row>(
          `insert into trouble (yard_id, id, body) values ($1, $2, $3) on conflict do nothing returning id, version, body`,
          [yardId, id, JSON.stringify(fields)],
        )
      : await db.query<Row>(
          `update trouble set body = $4, version = version + 1
           where yard_id = $1 and id = $2 and version = $3 returning id, version, body`,
          [yardId, id, seen, JSON.stringify(fields)],
        );
  return rows[0] ? viewOf(rows[0]) : null;
}

/** Takes a trouble away if it still is the version that was seen; returns whether it did. */
export async function dropTrouble(db: Db, yardId: YardId, id: string, seen: number): Promise<boolean> {
  const { rowCount } = await db.query("delete from trouble where yard_id = $1 and id = $2 and version = $3", [
    yardId,
    id,
    seen,
  ]);
  return rowCount === 1;
}
