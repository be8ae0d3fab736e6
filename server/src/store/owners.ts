import type { HorseId, OutingId, YardId } from "@still-pine/core/record";
import { createHash } from "node:crypto";
import type { Db } from "../db/pool";

/** Whose an outing is: one horse's alone, which the database sees to (`outing_owner`). */

/** An outing as an entry says it. */
export interface SaidOuting {
  horse: HorseId;
  outing: OutingId;
}

/** Where the entries of an outing are filed, and whose it is; null where it is nobody's yet. */
export interface FiledOuting extends SaidOuting {
  id: string;
  owner: string | null;
}

/** Begins the id of an outing that is filed apart; the rest tells it from any other. */
const SAID_KEPT = 120;

/**
 * The id under which a horse's entries are filed that name an outing of another horse: the same for the same two, always.
 * The migration that tells such outings apart makes the same one.
 */
export function filedApart({ horse, outing }: SaidOuting): string {
  const hash = createHash("sha256").update(`${outing}\n${horse}`).digest("hex").slice(0, 16);
  return `${[...outing].slice(0, SAID_KEPT).join("")}~${hash}`;
}

const keyOf = ({ horse, outing }: SaidOuting): string => JSON.stringify([horse, outing]);

/** Finds where outings are filed. @returns looks one of them up */
export async function filedOutings(
  db: Db,
  yardId: YardId,
  said: readonly SaidOuting[],
): Promise<(one: SaidOuting) => FiledOuting> {
  const wanted = [...new Map(said.map((one) => [keyOf(one), one])).values()];
  const { rows } =
    wanted.length === 0
      ? { rows: [] }
      : await db.query<FiledOuting>(
          `select w.horse, w.outing, coalesce(a.outing_id, w.outing) as id, o.horse_id as owner
           from unnest($2::text[], $3::text[]) as w(horse, outing)
           left join outing_alias a on a.yard_id = $1 and a.horse_id = w.horse and a.said_id = w.outing
           left join outing_owner o on o.yard_id = $1 and o.outing_id = coalesce(a.outing_id, w.outing)`,
          [yardId, wanted.map(({ horse }) => horse), wanted.map(({ outing }) => outing)],
        );
  const filed = new Map(rows.map((row) => [keyOf(row), row]));
  return (one) => filed.get(keyOf(one)) ?? { ...one, id: one.outing, owner: null };
}

/**
 * Gives outings that are nobody's to their horses. One that another writer took meanwhile stays theirs.
 *
 * @returns whose each is now, by its id
 */
export async function claimOutings(
  db: Db,
  yardId: YardId,
  claims: ReadonlyMap<string, string>,
): Promise<Map<string, string>> {
  if (claims.size === 0) return new Map();
  const ids = [...claims.keys()].toSorted();
  await db.query(
    `insert into outing_owner (yard_id, outing_id, horse_id) select $1, * from unnest($2::text[], $3::text[])
     on conflict (yard_id, outing_id) do nothing`,
    [yardId, ids, ids.map((id) => claims.get(id) ?? "")],
  );
  return horsesOfOutings(db, yardId, ids);
}

/** Files a horse's outing apart from another horse's of the same id. @returns the id it is filed under */
export async function fileApart(db: Db, yardId: YardId, said: SaidOuting): Promise<string> {
  const id = filedApart(said);
  await db.query(
    `insert into outing_owner (yard_id, outing_id, horse_id) values ($1, $2, $3) on conflict (yard_id, outing_id) do nothing`,
    [yardId, id, said.horse],
  );
  await db.query(
    `insert into outing_alias (yard_id, horse_id, said_id, outing_id) values ($1, $2, $3, $4)
     on conflict (yard_id, horse_id, said_id) do nothing`,
    [yardId, said.horse, said.outing, id],
  );
  return id;
}

/** Which horse an outing belongs to, for each of these outings that is anybody's. */
export async function horsesOfOutings(
  db: Db,
  yardId: YardId,
  outingIds: readonly string[],
): Promise<Map<string, string>> {
  if (outingIds.length === 0) return new Map();
  const { rows } = await db.query<{ outing_id: string; horse_id: string }>(
    "select outing_id, horse_id from outing_owner where yard_id = $1 and outing_id = any($2)",
    [yardId, [...new Set(outingIds)]],
  );
  return new Map(rows.map((row) => [row.outing_id, row.horse_id]));
}
