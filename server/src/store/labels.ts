import { v7 as newId } from "uuid";
import { changeLabels, withLabels, type LabelKind, type Labels } from "@still-pine/contract/views";
import type { RecordEvent, YardId } from "@still-pine/core/record";
import type { Db } from "../db/pool";

export { withLabels, type LabelKind, type Labels };

export interface LabelRow {
  id: string;
  label: string;
  version: number;
}

export async function listLabels(db: Db, yardId: YardId, kind: LabelKind): Promise<LabelRow[]> {
  const { rows } = await db.query<LabelRow>(
    `select id, label, version from ${kind} where yard_id = $1 order by label`,
    [yardId],
  );
  return rows;
}

/** Labels by id. */
export async function loadLabels(db: Db, yardId: YardId): Promise<Labels> {
  const load = async (kind: LabelKind): Promise<Map<string, string>> =>
    new Map((await listLabels(db, yardId, kind)).map(({ id, label }) => [id, label]));
  return { place: await load("place"), person: await load("person") };
}

/** Ids by label; labels not met before get one. */
async function idsForLabels(
  db: Db,
  yardId: YardId,
  kind: LabelKind,
  labels: ReadonlySet<string>,
): Promise<Map<string, string>> {
  if (labels.size === 0) return new Map();
  const wanted = [...labels].toSorted();
  const known = await db.query<{ id: string; label: string }>(
    `select id, label from ${kind} where yard_id = $1 and label = any($2)`,
    [yardId, wanted],
  );
  const ids = new Map(known.rows.map(({ id, label }) => [label, id]));
  const missing = wanted.filter((label) => !ids.has(label));
  if (missing.length === 0) return ids;
  await db.query(
    `insert into ${kind} (yard_id, id, label) select $1, * from unnest($2::uuid[], $3::text[]) on conflict (yard_id, label) do nothing`,
    [yardId, missing.map(() => newId()), missing],
  );
  const { rows } = await db.query<{ id: string; label: string }>(
    `select id, label from ${kind} where yard_id = $1 and label = any($2)`,
    [yardId, wanted],
  );
  return new Map(rows.map(({ id, label }) => [label, id]));
}

/** Events as they are stored: ids for labels, new labels made. */
export async function withIds(db: Db, yardId: YardId, events: readonly RecordEvent[]): Promise<RecordEvent[]> {
  const met: Record<LabelKind, Set<string>> = { place: new Set(), person: new Set() };
  for (const event of events)
    changeLabels(event, (kind, label) => {
      met[kind].add(label);
      return label;
    });
  const ids: Labels = {
    place: await idsForLabels(db, yardId, "place", met.place),
    person: await idsForLabels(db, yardId, "person", met.person),
  };
  return events.map((event) => changeLabels(event, (kind, label) => ids[kind].get(label) ?? label));
}

/**
 * Gives a place or person another label, or makes a person nameless, if it still is the version that was seen.
 *
 * @returns null when it is not, or is not there; "taken" when another has that label
 */
export async function relabel(
  db: Db,
  yardId: YardId,
  kind: LabelKind,
  id: string,
  seenVersion: number,
  label: string,
): Promise<LabelRow | null | "taken"> {
  try {
    const { rows } = await db.query<LabelRow>(
      `update ${kind} set label = $4, version = version + 1
       where yard_id = $1 and id::text = $2 and version = $3 returning id, label, version`,
      [yardId, id, seenVersion, label],
    );
    return rows[0] ?? null;
  } catch (cause) {
    if ((cause as { code?: string }).code === "23505") return "taken";
    throw cause;
  }
}

export async function findLabel(db: Db, yardId: YardId, kind: LabelKind, id: string): Promise<LabelRow | null> {
  const { rows } = await db.query<LabelRow>(
    `select id, label, version from ${kind} where yard_id = $1 and id::text = $2`,
    [yardId, id],
  );
  return rows[0] ?? null;
}
