import type { OutingId, YardId } from "@still-pine/core/record";
import { v7 as newId } from "uuid";
import type { DeviceView } from "@still-pine/contract/http";
import { hashOf, newCode, newKey, plainCode } from "./secrets";
import { inTransaction, type Db } from "../db/pool";
import type { Pool, PoolClient } from "pg";

/** What a code or a key lets somebody do. */
export type Rights = { rights: "all"; outing: null } | { rights: "write"; outing: OutingId };

const CODE_MINUTES = 5;
/** So many wrong tries from one place, and nothing is tried from there until a pause has passed. */
export const MISSES_MOST = 5;
/** The first pause; each further wrong try doubles it. */
const PAUSE_MINUTES = 5;
const PAUSE_MOST_MINUTES = 8 * 60;
/** Wrong tries are forgotten after a day without one. */
const FORGOTTEN_HOURS = 24;
/** So many wrong codes from everywhere end a code: one of 39 bits is then still not worth guessing at. */
const GUESSES_MOST = 1000;
/** A phone that is not used for so long has to be let in again; a helper's key is good for a day. */
const KEY_DAYS = { all: 180, write: 1 } as const;

const MINUTE_MS = 60_000;
const DAY_MS = 24 * 60 * MINUTE_MS;
const later = (now: string, ms: number): string => new Date(Date.parse(now) + ms).toISOString();

/** Makes a code that lets one device in, once, within five minutes. */
export async function makeCode(
  db: Db,
  yardId: YardId,
  { rights, outing }: Rights,
  now: string,
): Promise<{ code: string; expiresAt: string }> {
  const code = newCode();
  const expiresAt = later(now, CODE_MINUTES * MINUTE_MS);
  await db.query("delete from pairing_code where yard_id = $1 and expires_at < $2::timestamptz - interval '1 day'", [
    yardId,
    now,
  ]);
  await db.query(
    `insert into pairing_code (yard_id, id, code_hash, rights, outing_id, made_at, expires_at)
     values ($1, $2, $3, $4, $5, $6, $7)`,
    [yardId, newId(), hashOf(plainCode(code)), rights, outing, now, expiresAt],
  );
  return { code, expiresAt };
}

/** What became of a code that was tried. */
export type Paired =
  | { result: "in"; key: string; expiresAt: string; device: DeviceRow }
  /** No such code, or none any more; how often it may still be tried before the pause. */
  | { result: "unknown" | "used" | "expired"; triesLeft: number }
  | Pause;
interface Pause {
  result: "pause";
  seconds: number;
}

/** What is tried, and from where: wrong tries at one door, or from one place, keep nobody out elsewhere. */
interface Trying {
  door: "code" | "phrase";
  /** An address of the network. */
  origin: string;
}

export interface DeviceRow {
  id: string;
  recorder: string;
  name: string;
  rights: "all" | "write";
  outing: OutingId | null;
  /** A browser of the laptop itself, let in by the pass phrase. */
  isLaptop: boolean;
  version: number;
  expiresAt: Date;
}

const COLUMNS = `id, recorder, name, rights, outing_id as outing, is_laptop as "isLaptop", version, expires_at as "expiresAt"`;

/**
 * Lets a device in by a code. One try at a time: codes guessed side by side are counted one after the other. What the device
 * calls itself in the events it records is given here, never claimed: a name that others write under would let it strike
 * out what they wrote. One that was let in before keeps the name it has, which its key proves.
 *
 * @param key the key it has from before, if any
 */
export function pair(
  pool: Pool,
  yardId: YardId,
  { code, name, key, origin }: { code: string; name: string; key: string | undefined; origin: string },
  now: string,
): Promise<Paired> {
  const trying: Trying = { door: "code", origin };
  return inTransaction(pool, async (client): Promise<Paired> => {
    await client.query("select 1 from yard where id = $1 for no key update", [yardId]);
    const { misses, pause } = await recentMisses(client, yardId, trying, now);
    if (pause) return pause;
    const { rows } = await client.query<Rights & { id: string; used_at: Date | null; expires_at: Date }>(
      "select id, rights, outing_id as outing, used_at, expires_at from pairing_code where yard_id = $1 and code_hash = $2",
      [yardId, hashOf(plainCode(code))],
    );
    const [found] = rows;
    const why =
      found === undefined
        ? "unknown"
        : found.used_at
          ? "used"
          : found.expires_at.getTime() <= Date.parse(now)
            ? "expired"
            : null;
    if (found === undefined || why) {
      await missed(client, yardId, trying, now);
      return { result: why ?? "unknown", triesLeft: MISSES_MOST - misses - 1 };
    }
    await client.query("update pairing_code set used_at = $3 where yard_id = $1 and id = $2", [yardId, found.id, now]);
    await forget(client, yardId, trying);
    const recorder = (await recorderOfKey(client, yardId, key)) ?? newId();
    return { result: "in", ...(await addDevice(client, yardId, { recorder, name, ...found }, now)) };
  });
}

/** What the device of a key calls itself, whether or not the key still opens anything. */
async function recorderOfKey(client: PoolClient, yardId: YardId, key: string | undefined): Promise<string | null> {
  if (key === undefined) return null;
  const { rows } = await client.query<{ recorder: string }>(
    "select recorder from device where yard_id = $1 and key_hash = $2 and not is_laptop",
    [yardId, hashOf(key)],
  );
  return rows[0]?.recorder ?? null;
}

/** Wrong tries from a place that still count, and the pause they made: longer after each one more. */
async function recentMisses(
  client: PoolClient,
  yardId: YardId,
  { door, origin }: Trying,
  now: string,
): Promise<{ misses: number; pause: Pause | null }> {
  const { rows } = await client.query<{ misses: number; last: Date | null }>(
    `select count(*)::int as misses, max(at) as last from pairing_miss
     where yard_id = $1 and door = $2 and origin = $3 and at > $4::timestamptz - make_interval(hours => $5)`,
    [yardId, door, origin, now, FORGOTTEN_HOURS],
  );
  const { misses = 0, last = null } = rows[0] ?? {};
  if (misses < MISSES_MOST || !last) return { misses, pause: null };
  const minutes = Math.min(PAUSE_MOST_MINUTES, PAUSE_MINUTES * 2 ** (misses - MISSES_MOST));
  const leftMs = last.getTime() + minutes * MINUTE_MS - Date.parse(now);
  return { misses, pause: leftMs > 0 ? { result: "pause", seconds: Math.ceil(leftMs / 1000) } : null };
}

/** Gives a device a key; what is stored of it is its hash. */
async function addDevice(
  client: PoolClient,
  yardId: YardId,
  { recorder, name, rights, outing }: { recorder: string; name: string } & Rights,
  now: string,
  isLaptop = false,
): Promise<{ key: string; expiresAt: string; device: DeviceRow }> {
  const key = newKey();
  const expiresAt = later(now, KEY_DAYS[rights] * DAY_MS);
  const { rows } = await client.query<DeviceRow>(
    `insert into device (yard_id, id, recorder, name, is_laptop, rights, outing_id, key_hash, paired_at, seen_at, expires_at)
     values ($1, $2, $3, $4, $10, $5, $6, $7, $8, $8, $9) returning ${COLUMNS}`,
    [yardId, newId(), recorder, name, rights, outing, hashOf(key), now, expiresAt, isLaptop],
  );
  const [device] = rows;
  if (!device) throw new Error("the new device did not come back");
  return { key, expiresAt, device };
}

/** What became of a pass phrase that was tried. */
export type Unlocked = { result: "in"; key: string; expiresAt: string } | Pause | { result: "wrong" };

/**
 * Opens the laptop for one browser of it. Wrong phrases are counted by themselves: wrong codes, tried on the network, keep
 * nobody from the laptop.
 *
 * @param isRight whether the phrase is the yard's
 */
export function unlock(
  pool: Pool,
  yardId: YardId,
  isRight: () => Promise<boolean>,
  origin: string,
  now: string,
): Promise<Unlocked> {
  const trying: Trying = { door: "phrase", origin };
  return inTransaction(pool, async (client): Promise<Unlocked> => {
    await client.query("select 1 from yard where id = $1 for no key update", [yardId]);
    const { pause } = await recentMisses(client, yardId, trying, now);
    if (pause) return pause;
    if (!(await isRight())) {
      await missed(client, yardId, trying, now);
      return { result: "wrong" };
    }
    await forget(client, yardId, trying);
    const laptop = { recorder: newId(), name: "The laptop", rights: "all", outing: null } as const;
    return { result: "in", ...(await addDevice(client, yardId, laptop, now, true)) };
  });
}

/** Shuts out every other browser of the laptop that was let in by a pass phrase, as a new one is set. */
export async function lockLaptops(db: Db, yardId: YardId, exceptKey: string, now: string): Promise<void> {
  await db.query(
    "update device set withdrawn_at = $2 where yard_id = $1 and is_laptop and withdrawn_at is null and key_hash <> $3",
    [yardId, now, hashOf(exceptKey)],
  );
}

/** A miss is counted; so many wrong codes from everywhere end those that are still open, so that none is found by guessing on. */
async function missed(client: PoolClient, yardId: YardId, { door, origin }: Trying, now: string): Promise<void> {
  await client.query(
    "delete from pairing_miss where yard_id = $1 and at <= $2::timestamptz - make_interval(hours => $3)",
    [yardId, now, FORGOTTEN_HOURS],
  );
  await client.query("insert into pairing_miss (yard_id, id, at, door, origin) values ($1, $2, $3, $4, $5)", [
    yardId,
    newId(),
    now,
    door,
    origin,
  ]);
  if (door === "code")
    await client.query(
      `update pairing_code set expires_at = $2 where yard_id = $1 and used_at is null and expires_at > $2
       and (select count(*) from pairing_miss m where m.yard_id = $1 and m.door = 'code' and m.at >= pairing_code.made_at) >= $3`,
      [yardId, now, GUESSES_MOST],
    );
}

/** Who got in from a place begins anew there. */
const forget = (client: PoolClient, yardId: YardId, { door, origin }: Trying): Promise<unknown> =>
  client.query("delete from pairing_miss where yard_id = $1 and door = $2 and origin = $3", [yardId, door, origin]);

/** Why a key opens nothing. */
export type NoKey = "unknown" | "withdrawn" | "expired";

/** The device a key belongs to, seen now; or why there is none. A key that is used stays good. */
export async function deviceOfKey(db: Db, yardId: YardId, key: string, now: string): Promise<DeviceRow | NoKey> {
  const { rows } = await db.query<DeviceRow & { withdrawn: boolean; stale: boolean }>(
    `select ${COLUMNS}, withdrawn_at is not null as withdrawn, seen_at < $3::timestamptz - interval '1 minute' as stale
     from device where yard_id = $1 and key_hash = $2`,
    [yardId, hashOf(key), now],
  );
  const [found] = rows;
  if (!found) return "unknown";
  const { withdrawn, stale, ...device } = found;
  if (withdrawn) return "withdrawn";
  if (device.expiresAt.getTime() <= Date.parse(now)) return "expired";
  if (stale)
    await db.query(
      `update device set seen_at = $3, expires_at = case when rights = 'all' then $4 else expires_at end
       where yard_id = $1 and id = $2`,
      [yardId, device.id, now, later(now, KEY_DAYS.all * DAY_MS)],
    );
  return device;
}

/** Whether a device is still let in, as this transaction sees it; it is not shut out before the transaction ends. */
export async function isStillIn(client: PoolClient, yardId: YardId, id: string): Promise<boolean> {
  const { rowCount } = await client.query(
    "select 1 from device where yard_id = $1 and id = $2 and withdrawn_at is null for share",
    [yardId, id],
  );
  return rowCount === 1;
}

/** Devices that are let in, and those that were until lately, the latest seen first. */
export async function listDevices(db: Db, yardId: YardId, now: string): Promise<DeviceView[]> {
  const { rows } = await db.query<
    Omit<DeviceView, "state" | "pairedAt" | "seenAt"> & {
      pairedAt: Date;
      seenAt: Date;
      expiresAt: Date;
      withdrawn: boolean;
    }
  >(
    `select d.id, d.name, d.rights, d.outing_id as outing, h.name as "horseName", d.version, d.paired_at as "pairedAt",
       d.seen_at as "seenAt", d.expires_at as "expiresAt", d.withdrawn_at is not null as withdrawn
     from device d
     left join outing o on o.yard_id = d.yard_id and o.id = d.outing_id
     left join horse h on h.yard_id = o.yard_id and h.id = o.horse_id
     where d.yard_id = $1 and not d.is_laptop and d.seen_at > $2::timestamptz - interval '400 days'
     order by d.seen_at desc, d.id`,
    [yardId, now],
  );
  return rows.map(({ withdrawn, expiresAt, pairedAt, seenAt, ...device }) => ({
    ...device,
    pairedAt: pairedAt.toISOString(),
    seenAt: seenAt.toISOString(),
    state: withdrawn ? "withdrawn" : expiresAt.getTime() <= Date.parse(now) ? "expired" : "in",
  }));
}

/** Names a device anew, or shuts it out, if it still is the version that was seen; null when it is not, or is not there. */
export async function changeDevice(
  db: Db,
  yardId: YardId,
  id: string,
  seenVersion: number,
  { name, isIn }: { name: string; isIn: boolean },
  now: string,
): Promise<{ id: string; version: number } | null> {
  const { rows } = await db.query<{ id: string; version: number }>(
    `update device set name = $4, version = version + 1,
       withdrawn_at = case when $5 then withdrawn_at else coalesce(withdrawn_at, $6::timestamptz) end
     where yard_id = $1 and id::text = $2 and version = $3 returning id, version`,
    [yardId, id, seenVersion, name, isIn, now],
  );
  return rows[0] ?? null;
}

/** A device's name and standing. */
export async function findDevice(
  db: Db,
  yardId: YardId,
  id: string,
): Promise<{ name: string; isIn: boolean; version: number } | null> {
  const { rows } = await db.query<{ name: string; isIn: boolean; version: number }>(
    `select name, withdrawn_at is null as "isIn", version from device where yard_id = $1 and id::text = $2`,
    [yardId, id],
  );
  return rows[0] ?? null;
}

/** Names of the devices that recorded, by what they call themselves in events. */
export async function namesOfRecorders(
  db: Db,
  yardId: YardId,
  recorders: readonly string[],
): Promise<Record<string, string>> {
  if (recorders.length === 0) return {};
  const { rows } = await db.query<{ recorder: string; name: string }>(
    `select distinct on (recorder) recorder, name from device where yard_id = $1 and recorder = any($2)
     order by recorder, paired_at desc`,
    [yardId, recorders],
  );
  return Object.fromEntries(rows.map(({ recorder, name }) => [recorder, name]));
}
