import type { HorseFields } from "@still-pine/contract/http";
import type { NamedProgram } from "@still-pine/core/programs";
import type { Horse, YardId } from "@still-pine/core/record";
import type { Db } from "../db/pool";

export interface StoredHorse extends Horse {
  programId: string;
  /** The version on whose edition he goes by it; null where nobody said. */
  programVersion: number | null;
  extra: Record<string, unknown>;
  version: number;
}

const COLUMNS = `id, name, foaled, foaled_precision as "foaledPrecision", sex, program_id as "programId",
  program_version as "programVersion", extra, version`;

/** The program a horse came with, as his record names it. */
export function cameWith({ programId, programVersion }: StoredHorse): { id: string; version?: number } {
  return { id: programId, ...(programVersion === null ? {} : { version: programVersion }) };
}

export async function listHorses(db: Db, yardId: YardId): Promise<StoredHorse[]> {
  const { rows } = await db.query<StoredHorse>(`select ${COLUMNS} from horse where yard_id = $1 order by name, id`, [
    yardId,
  ]);
  return rows;
}

export async function findHorse(db: Db, yardId: YardId, id: string): Promise<StoredHorse | null> {
  const { rows } = await db.query<StoredHorse>(`select ${COLUMNS} from horse where yard_id = $1 and id = $2`, [
    yardId,
    id,
  ]);
  return rows[0] ?? null;
}

/**
 * These horses, each kept for this transaction alone, so that what is derived of one is made by one writer at a time.
 *
 * Every transaction takes its locks in one order, and so none waits for another that waits for it: the yard (`holdYard`); a
 * device's row; all horses it will touch, in one call of this, which goes by their ids; outings, by their ids; places, then
 * people, by their labels.
 */
export async function lockHorses(db: Db, yardId: YardId, ids: readonly string[]): Promise<Map<string, StoredHorse>> {
  const { rows } = await db.query<StoredHorse>(
    `select ${COLUMNS} from horse where yard_id = $1 and id = any($2) order by id for no key update`,
    [yardId, [...new Set(ids)]],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** Every horse of the yard, kept as `lockHorses` does. */
export async function lockAllHorses(db: Db, yardId: YardId): Promise<Map<string, StoredHorse>> {
  const { rows } = await db.query<StoredHorse>(
    `select ${COLUMNS} from horse where yard_id = $1 order by id for no key update`,
    [yardId],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** Stores a new horse. Sent twice with the same id it changes nothing; returns whether it was new. */
export async function insertHorse(
  db: Db,
  yardId: YardId,
  horse: Horse,
  program: NamedProgram,
  extra: Record<string, unknown> = {},
): Promise<boolean> {
  const { rowCount } = await db.query(
    `insert into horse (yard_id, id, name, foaled, foaled_precision, sex, program_id, program_version, extra)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9) on conflict (yard_id, id) do nothing`,
    [
      yardId,
      horse.id,
      horse.name,
      horse.foaled,
      horse.foaledPrecision,
      horse.sex,
      program.id,
      program.version ?? null,
      JSON.stringify(extra),
    ],
  );
  return rowCount === 1;
}

/** Changes a horse if it still is the version that was seen; null when it is not (or is not there). */
export async function updateHorse(
  db: Db,
  yardId: YardId,
  id: string,
  seenVersion: number,
  fields: HorseFields,
): Promise<StoredHorse | null> {
  const { rows } = await db.query<StoredHorse>(
    `update horse set name = $4, foaled = $5, foaled_precision = $6, sex = $7, version = version + 1
     where yard_id = $1 and id = $2 and version = $3 returning ${COLUMNS}`,
    [yardId, id, seenVersion, fields.name, fields.foaled, fields.foaledPrecision, fields.sex],
  );
  return rows[0] ?? null;
}

export async function hasHorses(db: Db, yardId: YardId): Promise<boolean> {
  const { rowCount } = await db.query("select from horse where yard_id = $1 limit 1", [yardId]);
  return (rowCount ?? 0) > 0;
}
