import type { RecordEvent, HorseId, OutingId, YardId } from "@still-pine/core/record";
import { sqlInstant, type Db } from "../db/pool";

/** An event as it lies in the database: people and places by id. */
export interface StoredEvent {
  horseId: HorseId;
  outingId: OutingId | null;
  event: RecordEvent;
}

export const eventsOfHorse = (db: Db, yardId: YardId, horseId: HorseId): Promise<StoredEvent[]> =>
  readEvents(db, "yard_id = $1 and horse_id = $2", [yardId, horseId]);

/** All events of a horse in the order of their times; null where there are more than so many. */
export async function eventsOfHorseAtMost(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  most: number,
): Promise<StoredEvent[] | null> {
  const { rows } = await db.query<{ outing_id: string | null; body: RecordEvent }>(
    "select outing_id, body from event where yard_id = $1 and horse_id = $2 order by at, id limit $3",
    [yardId, horseId, most + 1],
  );
  return rows.length > most ? null : rows.map((row) => ({ horseId, outingId: row.outing_id, event: row.body }));
}

/** What is said of the horse itself, outside of any outing. */
export const horseEventsOf = (db: Db, yardId: YardId, horseId: HorseId): Promise<StoredEvent[]> =>
  readEvents(db, `yard_id = $1 and horse_id = $2 and outing_id is null ${AS_THEY_CAME}`, [yardId, horseId]);

export const eventsOfOutings = (db: Db, yardId: YardId, outingIds: readonly string[]): Promise<StoredEvent[]> =>
  outingIds.length === 0
    ? Promise.resolve([])
    : readEvents(db, `yard_id = $1 and outing_id = any($2) ${AS_THEY_CAME}`, [yardId, outingIds]);

export const eventsById = (db: Db, yardId: YardId, ids: readonly string[]): Promise<StoredEvent[]> =>
  ids.length === 0 ? Promise.resolve([]) : readEvents(db, "yard_id = $1 and id = any($2)", [yardId, ids]);

/** What a device is handed lies in the order in which it came in; who folds a whole record orders it by itself. */
const AS_THEY_CAME = "order by arrival";

/** Entries that a condition of SQL holds for, in no order unless one is said. */
export async function readEvents(db: Db, where: string, values: unknown[]): Promise<StoredEvent[]> {
  const { rows } = await db.query<{ horse_id: string; outing_id: string | null; body: RecordEvent }>(
    `select horse_id, outing_id, body from event where ${where}`,
    values,
  );
  return rows.map((row) => ({ horseId: row.horse_id, outingId: row.outing_id, event: row.body }));
}

/** Adds events; those whose id is there already are left alone. Returns the ids that were new. */
export async function insertEvents(db: Db, yardId: YardId, events: readonly StoredEvent[]): Promise<Set<string>> {
  if (events.length === 0) return new Set();
  const { rows } = await db.query<{ id: string }>(
    `insert into event (yard_id, id, horse_id, outing_id, at, type, body)
     select $1, * from unnest($2::text[], $3::text[], $4::text[], $5::timestamptz[], $6::text[], $7::jsonb[])
     on conflict (yard_id, id) do nothing returning id`,
    [
      yardId,
      events.map(({ event }) => event.id),
      events.map(({ horseId }) => horseId),
      events.map(({ outingId }) => outingId),
      events.map(({ event }) => sqlInstant(event.at)),
      events.map(({ event }) => event.type),
      events.map(({ event }) => JSON.stringify(event)),
    ],
  );
  return new Set(rows.map((row) => row.id));
}

/** Entries of the horses themselves by their ids: as they were recorded, and as they count now. */
export async function horseEventsAsTheyStand(
  db: Db,
  yardId: YardId,
  ids: readonly string[],
): Promise<Map<string, { body: RecordEvent; current: RecordEvent }>> {
  const { rows } = await db.query<{ id: string; body: RecordEvent; current: RecordEvent }>(
    `select e.id, e.body, coalesce(l.current, e.body) as current from event e
     join ledger l on l.yard_id = e.yard_id and l.id = e.id and l.kind = e.type
     where e.yard_id = $1 and e.id = any($2) and e.outing_id is null`,
    [yardId, ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** Whether more than so many events are stored, of a horse or of the whole yard. */
export async function hasMoreEvents(db: Db, yardId: YardId, horseId: HorseId | null, than: number): Promise<boolean> {
  const { rows } = await db.query<{ count: number }>(
    `select count(*)::int as count from
       (select from event where yard_id = $1 and ($2::text is null or horse_id = $2) limit $3) as first`,
    [yardId, horseId, than + 1],
  );
  return (rows[0]?.count ?? 0) > than;
}
