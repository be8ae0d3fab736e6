import { isCorrection, type RecordEvent } from "@still-pine/core/record";
import { sqlInstant, type Db } from "../db/pool";

/** An event as it lies in the database: people and places by id. */
export interface StoredEvent {
  horseId: string;
  outingId: string | null;
  event: RecordEvent;
}

export const eventsOfHorse = (db: Db, yardId: string, horseId: string): Promise<StoredEvent[]> =>
  read(db, "yard_id = $1 and horse_id = $2", [yardId, horseId]);

/** All events of a horse in the order of their times; null where there are more than so many. */
export async function eventsOfHorseAtMost(
  db: Db,
  yardId: string,
  horseId: string,
  most: number,
): Promise<StoredEvent[] | null> {
  const { rows } = await db.query<{ outing_id: string | null; body: RecordEvent }>(
    "select outing_id, body from event where yard_id = $1 and horse_id = $2 order by at, id limit $3",
    [yardId, horseId, most + 1],
  );
  return rows.length > most ? null : rows.map((row) => ({ horseId, outingId: row.outing_id, event: row.body }));
}

/** What is said of the horse itself, outside of any outing. */
export const horseEventsOf = (db: Db, yardId: string, horseId: string): Promise<StoredEvent[]> =>
  read(db, "yard_id = $1 and horse_id = $2 and outing_id is null", [yardId, horseId]);

export const eventsOfOutings = (db: Db, yardId: string, outingIds: readonly string[]): Promise<StoredEvent[]> =>
  outingIds.length === 0 ? Promise.resolve([]) : read(db, "yard_id = $1 and outing_id = any($2)", [yardId, outingIds]);

export const eventsById = (db: Db, yardId: string, ids: readonly string[]): Promise<StoredEvent[]> =>
  ids.length === 0 ? Promise.resolve([]) : read(db, "yard_id = $1 and id = any($2)", [yardId, ids]);

async function read(db: Db, where: string, values: unknown[]): Promise<StoredEvent[]> {
  const { rows } = await db.query<{ horse_id: string; outing_id: string | null; body: RecordEvent }>(
    `select horse_id, outing_id, body from event where ${where}`,
    values,
  );
  return rows.map((row) => ({ horseId: row.horse_id, outingId: row.outing_id, event: row.body }));
}

/** All corrections of these events, of those corrections, and so on, wherever they stand; not those given already. */
export async function correctionsOf(db: Db, yardId: string, events: readonly StoredEvent[]): Promise<StoredEvent[]> {
  const known = new Set(events.map(({ event }) => event.id));
  const found: StoredEvent[] = [];
  let ids = [...known];
  while (ids.length > 0) {
    const more = (
      await read(db, "yard_id = $1 and type = 'correction' and body ->> 'replaces' = any($2)", [yardId, ids])
    ).filter(({ event }) => !known.has(event.id));
    for (const { event } of more) known.add(event.id);
    found.push(...more);
    ids = more.map(({ event }) => event.id);
  }
  return found;
}

/**
 * What each of these corrections is about: the event it names, the one that names if it is a correction, and so on to the event
 * at the end, stored or among `fresh`. A chain that leads to nothing stored, or back to itself, ends before that.
 */
export async function chainsOf(
  db: Db,
  yardId: string,
  corrections: readonly StoredEvent[],
  fresh: readonly StoredEvent[],
): Promise<Map<string, StoredEvent[]>> {
  const known = new Map(fresh.map((one) => [one.event.id, one]));
  const walked = new Set<string>();
  for (let ids = corrections.flatMap(targetOf); ids.length > 0;) {
    const next = ids.filter((id) => !walked.has(id));
    for (const id of next) walked.add(id);
    const missing = next.filter((id) => !known.has(id));
    for (const one of await eventsById(db, yardId, missing)) known.set(one.event.id, one);
    ids = next.flatMap((id) => {
      const one = known.get(id);
      return one ? targetOf(one) : [];
    });
  }
  return new Map(
    corrections.map((correction) => {
      const chain: StoredEvent[] = [];
      let current = known.get(targetOf(correction)[0] ?? "");
      while (current && current !== correction && !chain.includes(current)) {
        chain.push(current);
        current = known.get(targetOf(current)[0] ?? "");
      }
      return [correction.event.id, chain];
    }),
  );
}

const targetOf = ({ event }: StoredEvent): string[] => (isCorrection(event) ? [event.replaces] : []);

/** The event at the end of a chain, where it is one that can be corrected. */
export function rootOf(chain: readonly StoredEvent[] | undefined): StoredEvent | undefined {
  const last = chain?.at(-1);
  return last && !isCorrection(last.event) ? last : undefined;
}

/** Which horse an outing belongs to, for each of these outings that exists. */
export async function horsesOfOutings(
  db: Db,
  yardId: string,
  outingIds: readonly string[],
): Promise<Map<string, string>> {
  if (outingIds.length === 0) return new Map();
  const { rows } = await db.query<{ id: string; horse_id: string }>(
    "select id, horse_id from outing where yard_id = $1 and id = any($2)",
    [yardId, [...new Set(outingIds)]],
  );
  return new Map(rows.map((row) => [row.id, row.horse_id]));
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
      events.map(({ event }) => sqlInstant(event.at)),
      events.map(({ event }) => event.type),
      events.map(({ event }) => JSON.stringify(event)),
    ],
  );
  return new Set(rows.map((row) => row.id));
}
