import { v7 as newId } from "uuid";
import type { YardFields } from "@still-pine/contract/http";
import { SHIPPED, type ProgramBook } from "@still-pine/core/programs";
import type { YardId } from "@still-pine/core/record";
import type { Db } from "../db/pool";
import { bookOf } from "./programs";

export interface Yard extends YardFields {
  id: YardId;
  version: number;
  /** All programs its horses can go by. */
  book: ProgramBook;
}

const COLUMNS = `id, name, time_zone as "timeZone", units, words, version`;

/** With a mark of its own programs: by it those that were read before are known again. */
const SELECT = `select ${COLUMNS}, (
  select md5(string_agg(concat_ws(' ', p.id, p.version, p.published_at), ',' order by p.id, p.version))
  from program p where p.yard_id = yard.id) as programs from yard`;

type YardRow = Omit<Yard, "book"> & { programs: string | null };

/** The yard this server works for; there is one for now, and every query is scoped by its id. */
export async function loadYard(db: Db): Promise<Yard | null> {
  const { rows } = await db.query<YardRow>(`${SELECT} order by created_at, id limit 1`);
  return rows[0] ? withPrograms(db, rows[0]) : null;
}

async function withPrograms(db: Db, { programs, ...yard }: YardRow): Promise<Yard> {
  return { ...yard, book: await bookOf(db, yard.id, programs) };
}

/** So long whoever wants the yard alone waits, and lets nobody else begin meanwhile; then they are told to come again. */
const ALONE_WAITS = "5s";

/** With others who write, or alone. */
export type Hold = "together" | "alone";

/**
 * The yard as it is now, and as it stays while this transaction lasts: nobody changes its zone or publishes a program meanwhile.
 * Whoever writes what is derived of a horse begins with this; it comes before any other lock (see `lockHorses`).
 *
 * @param how "alone" waits for all who hold it, and keeps others from it: for whoever changes its zone or its programs. A lock by
 * name, not of the row: it is given in the order in which it was asked for, so that many short writers do not keep one out for ever
 */
export async function holdYard(db: Db, yard: Yard, how: Hold = "together"): Promise<Yard> {
  if (how === "alone") await db.query("select set_config('lock_timeout', $1, true)", [ALONE_WAITS]);
  const lock = how === "alone" ? "pg_advisory_xact_lock" : "pg_advisory_xact_lock_shared";
  await db.query(`select ${lock}(hashtextextended($1, 0))`, [`still-pine yard ${yard.id}`]);
  // A statement of its own: what was changed while the first one waited, that one does not see.
  const { rows } = await db.query<YardRow>(`${SELECT} where id = $1`, [yard.id]);
  return rows[0] ? withPrograms(db, rows[0]) : yard;
}

export async function createYard(db: Db, name: string, timeZone: string): Promise<Yard> {
  const { rows } = await db.query<Omit<Yard, "book">>(
    `insert into yard (id, name, time_zone) values ($1, $2, $3) returning ${COLUMNS}`,
    [newId(), name, timeZone],
  );
  const [yard] = rows;
  if (!yard) throw new Error("the new yard did not come back");
  return { ...yard, book: SHIPPED };
}

/** Changes the settings if they still are the version that was seen; null when they are not. */
export async function updateYard(
  db: Db,
  { id, book }: Pick<Yard, "id" | "book">,
  seenVersion: number,
  fields: YardFields,
): Promise<Yard | null> {
  const { rows } = await db.query<Omit<Yard, "book">>(
    `update yard set name = $3, time_zone = $4, units = $5, words = $6, version = version + 1
     where id = $1 and version = $2 returning ${COLUMNS}`,
    [id, seenVersion, fields.name, fields.timeZone, fields.units, fields.words],
  );
  return rows[0] ? { ...rows[0], book } : null;
}

/** Which yard this is, and whether the laptop has to be opened by a pass phrase. */
export interface YardLock {
  id: string;
  isLocked: boolean;
}

export async function findLock(db: Db): Promise<YardLock | null> {
  const { rows } = await db.query<YardLock>(
    `select id, pass_phrase_hash is not null as "isLocked" from yard order by created_at, id limit 1`,
  );
  return rows[0] ?? null;
}

/** The argon2 hash of the yard's pass phrase; null where it has none. */
export async function passPhraseHash(db: Db, id: string): Promise<string | null> {
  const { rows } = await db.query<{ hash: string | null }>("select pass_phrase_hash as hash from yard where id = $1", [
    id,
  ]);
  return rows[0]?.hash ?? null;
}

export async function setPassPhraseHash(db: Db, id: string, hash: string | null): Promise<void> {
  await db.query("update yard set pass_phrase_hash = $2 where id = $1", [id, hash]);
}
