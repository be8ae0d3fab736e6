import { createHash } from "node:crypto";
import type { Client } from "pg";
import first from "./migrations/0001_first.sql";
import wholeRecord from "./migrations/0002_whole_record.sql";
import phones from "./migrations/0003_phones.sql";
import programs from "./migrations/0004_programs.sql";
import owners from "./migrations/0005_owners.sql";
import columns from "./migrations/0006_columns.sql";
import editions from "./migrations/0007_editions.sql";
import wordsAnew from "./migrations/0008_words_anew.sql";

/** Forward only, in this order. A landed migration is never edited: its checksum is kept in the database. */
const MIGRATIONS: readonly { name: string; sql: string }[] = [
  { name: "0001_first", sql: first },
  { name: "0002_whole_record", sql: wholeRecord },
  { name: "0003_phones", sql: phones },
  { name: "0004_programs", sql: programs },
  { name: "0005_owners", sql: owners },
  { name: "0006_columns", sql: columns },
  { name: "0007_editions", sql: editions },
  { name: "0008_words_anew", sql: wordsAnew },
];

/** One number for all Still Pine programs that migrate: only one at a time. */
const ADVISORY_LOCK = 7_463_001;

export class MigrationRefused extends Error {}

const checksum = (sql: string): string => createHash("sha256").update(sql).digest("hex");

/** A migration as a database keeps it. */
export interface Applied {
  name: string;
  checksum: string;
}

/** Whether rows from a stranger's database are migrations at all. */
export const isMigrationList = (rows: readonly unknown[]): rows is Applied[] =>
  rows.length > 0 &&
  rows.every((row) => {
    const { name, checksum: sum } = row as Partial<Applied>;
    return typeof name === "string" && typeof sum === "string";
  });

/** @throws MigrationRefused when the migrations are not the first of this program's */
function refuseStrange(applied: readonly Applied[]): void {
  const unknown = applied.filter((row) => !MIGRATIONS.some(({ name }) => name === row.name));
  if (unknown.length > 0)
    throw new MigrationRefused(
      `the database is newer than this program (it has ${unknown.map((row) => row.name).join(", ")}): update Still Pine`,
    );
  for (const { name, sql } of MIGRATIONS) {
    const known = applied.find((row) => row.name === name);
    if (known && known.checksum !== checksum(sql))
      throw new MigrationRefused(`migration ${name} was changed after it had been applied: restore its file`);
  }
}

/**
 * Brings a database to this program's version, each migration in its own transaction.
 *
 * @returns names of the migrations that were applied now
 * @throws MigrationRefused when the database is newer than the program or a landed migration was changed
 */
export const migrate = (client: Client): Promise<string[]> => migrateBy(client, MIGRATIONS);

/** Brings an empty database to the version another one has. @throws as `migrate` where that is none of this program's */
export async function migrateTo(client: Client, applied: readonly Applied[]): Promise<void> {
  refuseStrange(applied);
  await migrateBy(
    client,
    MIGRATIONS.filter(({ name }) => applied.some((row) => row.name === name)),
  );
}

async function migrateBy(client: Client, migrations: typeof MIGRATIONS): Promise<string[]> {
  await client.query("select pg_advisory_lock($1)", [ADVISORY_LOCK]);
  try {
    await client.query(
      "create table if not exists migration (name text primary key, checksum text not null, applied_at timestamptz not null default now())",
    );
    const { rows } = await client.query<Applied>("select name, checksum from migration order by name");
    refuseStrange(rows);
    const done: string[] = [];
    for (const { name, sql } of migrations) {
      if (rows.some((row) => row.name === name)) continue;
      await apply(client, name, sql);
      done.push(name);
    }
    return done;
  } finally {
    await client.query("select pg_advisory_unlock($1)", [ADVISORY_LOCK]);
  }
}

async function apply(client: Client, name: string, sql: string): Promise<void> {
  await client.query("begin");
  try {
    await client.query(sql);
    await client.query("insert into migration (name, checksum) values ($1, $2)", [name, checksum(sql)]);
    await client.query("commit");
  } catch (cause) {
    await client.query("rollback");
    throw new Error(`migration ${name} failed: ${cause instanceof Error ? cause.message : String(cause)}`, { cause });
  }
}
