import type { YardId } from "@still-pine/core/record";
import type { PoolClient } from "pg";
import type { DraftView } from "@still-pine/contract/http";
import { ProgramBook, SHIPPED, type ProgramFile } from "@still-pine/core/programs";
import type { Db } from "../db/pool";
import type { StoredHorse } from "./horses";

const read = new Map<string, { mark: string; book: ProgramBook }>();

/**
 * The programs a yard can go by. They are built once; what is worked out of a program is kept with it.
 *
 * @param mark of its own programs as they are stored; null: it has none
 */
export async function bookOf(db: Db, yardId: YardId, mark: string | null): Promise<ProgramBook> {
  if (mark === null) return SHIPPED;
  const before = read.get(yardId);
  if (before?.mark === mark) return before.book;
  const book = new ProgramBook(await publishedPrograms(db, yardId));
  read.set(yardId, { mark, book });
  return book;
}

/** Every version of the yard's own programs, the earlier first. */
export async function publishedPrograms(db: Db, yardId: YardId): Promise<ProgramFile[]> {
  const { rows } = await db.query<{ file: ProgramFile }>(
    "select file from program where yard_id = $1 order by published_at, id, version",
    [yardId],
  );
  return rows.map(({ file }) => file);
}

export async function listDrafts(db: Db, yardId: YardId): Promise<DraftView[]> {
  const { rows } = await db.query<DraftView>(
    "select id, version, file from program_draft where yard_id = $1 order by changed_at desc, id",
    [yardId],
  );
  return rows;
}

export async function findDraft(db: Db, yardId: YardId, id: string): Promise<DraftView | null> {
  const { rows } = await db.query<DraftView>(
    "select id, version, file from program_draft where yard_id = $1 and id = $2",
    [yardId, id],
  );
  return rows[0] ?? null;
}

/** Stores a draft if it still is the version that was seen, 0 for a new one; null when it is not. */
export async function putDraft(
  db: Db,
  yardId: YardId,
  id: string,
  seen: number,
  file: Record<string, unknown>,
  now: string,
): Promise<DraftView | null> {
  const text = JSON.stringify(file);
  const { rows } =
    seen === 0
      ? await db.query<DraftView>(
          `insert into program_draft (yard_id, id, file, changed_at) values ($1, $2, $3, $4)
           on conflict do nothing returning id, version, file`,
          [yardId, id, text, now],
        )
      : await db.query<DraftView>(
          `update program_draft set file = $4, changed_at = $5, version = version + 1
           where yard_id = $1 and id = $2 and version = $3 returning id, version, file`,
          [yardId, id, seen, text, now],
        );
  return rows[0] ?? null;
}

/** Takes a draft away if it still is the version that was seen; returns whether it did. */
export async function dropDraft(db: Db, yardId: YardId, id: string, seen: number): Promise<boolean> {
  const { rowCount } = await db.query("delete from program_draft where yard_id = $1 and id = $2 and version = $3", [
    yardId,
    id,
    seen,
  ]);
  return rowCount === 1;
}

/** Publishes a program as its next version. @returns it as it is stored, its version in it */
export async function publish(
  client: PoolClient,
  yardId: YardId,
  file: ProgramFile,
  now: string,
): Promise<ProgramFile> {
  const { rows } = await client.query<{ next: number }>(
    "select coalesce(max(version), 0) + 1 as next from program where yard_id = $1 and id = $2",
    [yardId, file.id],
  );
  const published = { ...file, version: rows[0]?.next ?? 1 };
  await client.query("insert into program (yard_id, id, version, file, published_at) values ($1, $2, $3, $4, $5)", [
    yardId,
    published.id,
    published.version,
    JSON.stringify(published),
    now,
  ]);
  return published;
}

/**
 * Stores a version that comes from elsewhere. A version that is here already stays as it is.
 *
 * @returns whether it is new here, or else whether the one that is here says the same
 */
export async function bringInProgram(
  client: PoolClient,
  yardId: YardId,
  file: ProgramFile,
  now: string,
): Promise<"new" | "same" | "other"> {
  const { rowCount } = await client.query(
    `insert into program (yard_id, id, version, file, published_at) values ($1, $2, $3, $4, $5) on conflict do nothing`,
    [yardId, file.id, file.version, JSON.stringify(file), now],
  );
  if (rowCount === 1) return "new";
  const { rows } = await client.query<{ isSame: boolean }>(
    `select file = $4::jsonb as "isSame" from program where yard_id = $1 and id = $2 and version = $3`,
    [yardId, file.id, file.version, JSON.stringify(file)],
  );
  return rows[0]?.isSame ? "same" : "other";
}

/** The yard's own programs that a horse goes by or has gone by, every version. */
export async function programsOfHorse(
  client: PoolClient,
  yardId: YardId,
  { id, programId }: StoredHorse,
): Promise<ProgramFile[]> {
  const { rows } = await client.query<{ file: ProgramFile }>(
    `select file from program where yard_id = $1 and (id = $3 or id in (
       select program_id from event where yard_id = $1 and horse_id = $2 and program_id is not null))
     order by id, version`,
    [yardId, id, programId],
  );
  return rows.map(({ file }) => file);
}
