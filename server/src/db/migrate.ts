import { createHash } from "node:crypto";
import type { Client } from "pg";
import first from "./migrations/0001_first.sql";
import wholeRecord from "./migrations/0002_whole_record.sql";
import phones from "./migrations/0003_phones.sql";
import programs from "./migrations/0004_programs.sql";

/** Forward only, in this order. A landed migration is never edited: its checksum is kept in the database. */
const MIGRATIONS: readonly { name: string; sql: string }[] = [
  { name: "0001_first", sql: first },
  { name: "0002_whole_record", sql: wholeRecord },
  { name: "0003_phones", sql: phones },
  { name: "0004_programs", sql: programs },
];

/** One number for all Still Pine programs that migrate: only one at a time. */
const ADVISORY_LOCK = 7_463_001;

export class MigrationRefused extends Error {}

const checksum = (sql: string): string => createHash("sha256").update(sql).digest("hex");

/**
 * Brings a database to this program's version, each migration in its own transaction.
 *
 * @returns names of the migrations that were applied now
 * @throws MigrationRefused when the database is newer than the program or a landed migration was changed
 */
export async function migrate(client: Client): Promise<string[]> {
  await client.query("select pg_advisory_lock($1)", [ADVISORY_LOCK]);
  try {
    await client.query(
      "create table if not exists migration (name text primary key, checksum text not null, applied_at timestamptz not null default now())",
    );
    const { rows } = await client.query<{ name: string; checksum: string }>(
      "select name, checksum from migration order by name",
    );
    const applied = new Map(rows.map((row) => [row.name, row.checksum]));
    const unknown = rows.filter((row) => !MIGRATIONS.some(({ name }) => name === row.name));
    if (unknown.length > 0)
      throw new MigrationRefused(
        `the database is newer than this program (it has ${unknown.map((row) => row.name).join(", ")}): update Still Pine`,
      );
    const done: string[] = [];
    for (const { name, sql } of MIGRATIONS) {
      const known = applied.get(name);
      if (known === checksum(sql)) continue;
      if (known !== undefined)
        throw new MigrationRefused(`migration ${name} was changed after it had been applied: restore its file`);
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
