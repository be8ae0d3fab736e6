import type { RecordEvent } from "@still-pine/core/record";
import type { Db } from "../db/pool";

/** An event as it lies in the database: people and places by id. */
export interface StoredEvent {
  horseId: string;
  outingId: string | null;
  event: RecordEvent;
}

export async function eventsOfHorse(db: Db, yardId: string, horseId: string): Promise<StoredEvent[]> {
  return read(db, "yard_id = $1 and horse_id = $2", [yardId, horseId]);
}

export async function eventsOfYard(db: Db, yardId: string): Promise<StoredEvent[]> {
  return read(db, "yard_id = $1", [yardId]);
}

export async function eventsById(db: Db, yardId: string, ids: readonly string[]): Promise<StoredEvent[]> {
  return read(db, "yard_id = $1 and id = any($2)", [yardId, ids]);
}

/** Which horse an outing belongs to, for each of these outings that exists. */
export async function horsesOfOutings(
  db: Db,
  yardId: string,
  outingIds: readonly string[],
): Promise<Map<string, string>> {
  const { rows } = await db.query<{ outing_id: string; horse_id: string }>(
    "select distinct outing_id, horse_id from event where yard_id = $1 and outing_id = any($2)",
    [yardId, outingIds],
  );
  return new Map(rows.map((row) => [row.outing_id, row.horse_id]));
}

async function read(db: Db, where: string, values: unknown[]): Promise<StoredEvent[]> {
  const { rows } = await db.query<{ horse_id: string; outing_id: string | null; body: RecordEvent }>(
    `select horse_id, outing_id, body from event where ${where} order by horse_id, at, id`,
    values,
  );
  return rows.map((row) => ({ horseId: row.horse_id, outingId: row.outing_id, event: row.body }));
}

/** Adds events; those whose id is there already are left alone. Returns the ids that were new. */
export async function insertEvents(db: Db, yardId: string, events: readonly StoredEvent[]): Promise<Set<string>> {
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
      events.map(({ event }) => event.at),
      events.map(({ event }) => event.type),
      events.map(({ event }) => JSON.stringify(event)),
    ],
  );
  return new Set(rows.map((row) => row.id));
}
