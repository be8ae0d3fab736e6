import { v7 as newId } from "uuid";
import type { Db } from "../db/pool";

/** People and places are rows; events name them by id, so that a person can be made nameless without touching the record. */
export type LabelKind = "place" | "person";

export interface Labels {
  place: Map<string, string>;
  person: Map<string, string>;
}

/** Labels by id. */
export async function loadLabels(db: Db, yardId: string): Promise<Labels> {
  const load = async (kind: LabelKind): Promise<Map<string, string>> => {
    const { rows } = await db.query<{ id: string; label: string }>(
      `select id, label from ${kind} where yard_id = $1 order by label`,
      [yardId],
    );
    return new Map(rows.map(({ id, label }) => [id, label]));
  };
  const [place, person] = [await load("place"), await load("person")];
  return { place, person };
}

/** Ids by label; labels not met before get one. */
export async function idsForLabels(
  db: Db,
  yardId: string,
  kind: LabelKind,
  labels: readonly string[],
): Promise<Map<string, string>> {
  const wanted = [...new Set(labels)];
  if (wanted.length === 0) return new Map();
  await db.query(
    `insert into ${kind} (yard_id, id, label) select $1, * from unnest($2::uuid[], $3::text[]) on conflict (yard_id, label) do nothing`,
    [yardId, wanted.map(() => newId()), wanted],
  );
  const { rows } = await db.query<{ id: string; label: string }>(
    `select id, label from ${kind} where yard_id = $1 and label = any($2)`,
    [yardId, wanted],
  );
  return new Map(rows.map(({ id, label }) => [label, id]));
}
