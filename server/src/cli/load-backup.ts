import { randomBytes } from "node:crypto";
import { Trouble } from "../cluster/trouble";
import { isMigrationList, migrateTo } from "../db/migrate";
import { withClient } from "../db/with-client";
import { copyAcross, dropDatabase, firstLine, makeDatabase, nameOf, runClient } from "./database";

/**
 * A backup's file holds statements, and whoever wrote it may have written others into it. They run as a role that owns nothing but
 * an empty database made for them. Only rows cross from there: of the tables this program makes, into a database it made.
 */

const RESTORER = "still_pine_restorer";

/** Tables in the order in which one refers to another. Whatever else a backup holds stays behind. */
const TABLES: readonly string[] = [
  "yard",
  "place",
  "person",
  "horse",
  "outing_owner",
  "outing_alias",
  "event",
  "media",
  "media_thumbnail",
  "outing",
  "ledger",
  "horse_state",
  "device",
  "pairing_code",
  "pairing_miss",
  "outing_plan",
  "program",
  "program_draft",
  "trouble",
  "words_anew",
];

/** Loads a backup into an empty database. @throws Trouble where it cannot be read, or belongs to another program's version */
export async function loadBackup(file: string, into: string): Promise<void> {
  const scratch = `${nameOf(into)}_scratch`;
  const made = await makeScratch(into, scratch);
  try {
    const loaded = runClient("pg_restore", made, [
      "--no-owner",
      "--no-privileges",
      "--exit-on-error",
      "--single-transaction",
      `--dbname=${scratch}`,
      file,
    ]);
    if (!loaded.ok) throw new Trouble(`The backup could not be read: ${firstLine(loaded.output)}`);
    await withClient(into, async (client) => migrateTo(client, await migrationsIn(made)));
    const columns = await columnsOf(into);
    for (const table of TABLES) {
      const own = columns.get(table);
      if (!own) continue;
      const list = own.map((column) => `"${column}"`).join(", ");
      await copyAcross(
        made,
        `copy (select ${list} from public.${table}) to stdout`,
        into,
        `\\copy public.${table} (${list}) from pstdin`,
      );
    }
    // A yard from before the order of coming in was kept gets its numbers with the migration.
    if (columns.get("event")?.includes("arrival"))
      await withClient(into, (client) =>
        client.query("select setval(pg_get_serial_sequence('event', 'arrival'), coalesce(max(arrival), 1)) from event"),
      );
  } finally {
    await dropDatabase(into, scratch);
  }
}

/** A database of the restorer's own; on a server where no role may be made, of whoever asks. */
async function makeScratch(url: string, name: string): Promise<string> {
  const password = randomBytes(24).toString("hex");
  const isMade = await withClient(url, async (client) => {
    try {
      await client.query(
        `do $$ begin create role ${RESTORER}; exception when duplicate_object or unique_violation then null; end $$`,
      );
      await client.query(
        `alter role ${RESTORER} login nosuperuser nocreatedb nocreaterole noreplication password '${password}'`,
      );
      // Whoever makes a database for a role has to be a member of it.
      await client.query(`grant ${RESTORER} to current_user`);
      return true;
    } catch (cause) {
      if ((cause as { code?: string }).code === "42501") return false;
      throw cause;
    }
  });
  const address = new URL(await makeDatabase(url, name, isMade ? RESTORER : undefined));
  if (isMade) {
    address.username = RESTORER;
    address.password = password;
  }
  return address.href;
}

/** Migrations a backup had; whether they are ours is looked at by whoever goes by them. */
async function migrationsIn(scratch: string): Promise<{ name: string; checksum: string }[]> {
  const { rows } = await withClient(scratch, (client) =>
    client.query<{ name: string; checksum: string }>("select name, checksum from public.migration order by name"),
  ).catch((cause: unknown) => {
    throw new Trouble("The backup could not be read: it says nothing of its version.", { cause });
  });
  if (!isMigrationList(rows)) throw new Trouble("The backup could not be read: it says nothing of its version.");
  return rows;
}

/** Columns of the tables this program made; what is worked out by the database itself is none to be copied. */
async function columnsOf(url: string): Promise<Map<string, string[]>> {
  const { rows } = await withClient(url, (client) =>
    client.query<{ table: string; columns: string[] }>(
      `select table_name as table, array_agg(column_name::text order by ordinal_position) as columns
       from information_schema.columns where table_schema = 'public' and is_generated = 'NEVER' group by table_name`,
    ),
  );
  return new Map(rows.map(({ table, columns }) => [table, columns]));
}
