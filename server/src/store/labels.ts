import { v7 as newId } from "uuid";
import { EVENT_TYPES } from "@still-pine/contract/record";
import type { RecordEvent } from "@still-pine/core/record";
import type { Db } from "../db/pool";

/** People and places are rows; events name them by id, so that a person can be made nameless without touching the record. */
export type LabelKind = "place" | "person";

export type Labels = Record<LabelKind, Map<string, string>>;

export interface LabelRow {
  id: string;
  label: string;
  version: number;
}

/** Which fields of events name a place or a person. */
const LABEL_FIELDS: ReadonlyMap<string, LabelKind> = new Map(
  EVENT_TYPES.flatMap(({ fields }) => fields.flatMap(({ name, is }) => (is.kind === "label" ? [[name, is.of]] : []))),
);
const LABELLED: ReadonlySet<string> = new Set([
  "correction",
  ...EVENT_TYPES.filter(({ fields }) => fields.some(({ name }) => LABEL_FIELDS.has(name))).map(({ type }) => type),
]);

export async function listLabels(db: Db, yardId: string, kind: LabelKind): Promise<LabelRow[]> {
  const { rows } = await db.query<LabelRow>(
    `select id, label, version from ${kind} where yard_id = $1 order by label`,
    [yardId],
  );
  return rows;
}

/** Labels by id. */
export async function loadLabels(db: Db, yardId: string): Promise<Labels> {
  const load = async (kind: LabelKind): Promise<Map<string, string>> =>
    new Map((await listLabels(db, yardId, kind)).map(({ id, label }) => [id, label]));
  return { place: await load("place"), person: await load("person") };
}

/** Ids by label; labels not met before get one. */
async function idsForLabels(
  db: Db,
  yardId: string,
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

type Change = (kind: LabelKind, value: string) => string;

/** An event with its labels of places and people changed; the same event where it has none. */
function changeLabels(event: RecordEvent, change: Change): RecordEvent {
  if (!LABELLED.has(event.type)) return event;
  const changed = changeFields(event as unknown as Record<string, unknown>, change);
  const within = changed["with"];
  const isObject = event.type === "correction" && typeof within === "object" && within !== null;
  return (isObject
    ? { ...changed, with: changeFields(within as Record<string, unknown>, change) }
    : changed) as unknown as RecordEvent;
}

function changeFields(fields: Record<string, unknown>, change: Change): Record<string, unknown> {
  let changed: Record<string, unknown> | null = null;
  for (const [name, kind] of LABEL_FIELDS) {
    const value = fields[name];
    if (typeof value === "string") (changed ??= { ...fields })[name] = change(kind, value);
  }
  return changed ?? fields;
}

/** Events as a person reads them: labels for ids. */
export const withLabels = (event: RecordEvent, labels: Labels): RecordEvent =>
  changeLabels(event, (kind, id) => labels[kind].get(id) ?? id);

/** Events as they are stored: ids for labels, new labels made. */
export async function withIds(db: Db, yardId: string, events: readonly RecordEvent[]): Promise<RecordEvent[]> {
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
  yardId: string,
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

export async function findLabel(db: Db, yardId: string, kind: LabelKind, id: string): Promise<LabelRow | null> {
  const { rows } = await db.query<LabelRow>(
    `select id, label, version from ${kind} where yard_id = $1 and id::text = $2`,
    [yardId, id],
  );
  return rows[0] ?? null;
}
