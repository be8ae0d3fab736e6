import { chmodSync, closeSync, existsSync, openSync, renameSync, rmSync, statSync } from "node:fs";
import path from "node:path";
import { Trouble } from "../cluster/trouble";
import { migrate, MigrationRefused } from "../db/migrate";
import { createPool } from "../db/pool";
import { prepareServerRole } from "../db/roles";
import { withClient } from "../db/with-client";
import { isNothingButDemo, seedDemoYard } from "../demo/seed";
import { mindClosedPipes } from "../process/safely";
import { rebuildMissing, rebuildYard } from "../read-models/rebuild";
import { stripStored } from "../media/strip-stored";
import { loadYard } from "../store/yard";
import {
  dropDatabase,
  firstLine,
  inDatabase,
  keptAside,
  makeDatabase,
  nameOf,
  putInPlace,
  readSettings,
  runClient,
  whileAlone,
  withDatabase,
  type Settings,
} from "./database";
import { loadBackup } from "./load-backup";

/** `bin/backup FILE`, `bin/restore`, `bin/demo` and `bin/rebuild`: what is done with the whole database. */

const USAGE: Record<string, string> = {
  backup: "usage: bin/backup FILE",
  restore: "usage: bin/restore [--replace] FILE, or bin/restore --kept [NAME]",
  demo: "usage: bin/demo [--replace]",
  rebuild: "usage: bin/rebuild",
};

async function backup(settings: Settings, file: string): Promise<string> {
  if (isFolder(file)) throw new Trouble(`${file} is a folder: name the file to write.`);
  return withDatabase(settings, false, async (url) => {
    const part = `${file}.part`;
    const failed = (why: string): Trouble => {
      rmSync(part, { force: true });
      return new Trouble(`The backup could not be written to ${file}: ${why}`);
    };
    try {
      // It holds names, and the hashes of keys: nobody else reads it, not even while it is written.
      closeSync(openSync(part, "w", OWNER_ONLY));
      chmodSync(part, OWNER_ONLY);
    } catch (cause) {
      throw failed(cause instanceof Error ? cause.message : String(cause));
    }
    const made = runClient("pg_dump", url, ["--format=custom", "--no-owner", "--no-privileges", `--file=${part}`]);
    if (!made.ok || !runClient("pg_restore", null, ["--list", part]).ok) throw failed(firstLine(made.output));
    renameSync(part, file);
    return `Backed up to ${file}.`;
  });
}

const OWNER_ONLY = 0o600;
const isFolder = (file: string): boolean => statSync(file, { throwIfNoEntry: false })?.isDirectory() === true;

/** Horses a database holds; 0 where there is no yard in it yet. */
const countHorses = (url: string): Promise<number> =>
  withClient(url, async (client) => {
    const { rows } = await client.query<{ there: boolean }>("select to_regclass('public.horse') is not null as there");
    if (!rows[0]?.there) return 0;
    const counted = await client.query<{ n: number }>("select count(*)::int as n from horse");
    return counted.rows[0]?.n ?? 0;
  });

async function restore(settings: Settings, file: string, replace: boolean): Promise<string> {
  if (!existsSync(file)) throw new Trouble(`${file}: no such file.`);
  if (!statSync(file).isFile()) throw new Trouble(`${file} is no file: choose one that bin/backup wrote.`);
  const listed = runClient("pg_restore", null, ["--list", file]);
  if (!listed.ok || !/TABLE public event /.test(listed.output))
    throw new Trouble(`${file} is no backup of Still Pine: choose a file that bin/backup wrote.`);
  return withDatabase(settings, true, (url) =>
    whileAlone(settings, url, async (release) => {
      const horses = await countHorses(url);
      if (horses > 0 && !replace)
        throw new Trouble(
          `The yard holds ${inWords(horses)}: add --replace to put the backup in its place; what is there is kept aside.`,
        );
      const aside = await fillAndPut(url, horses, settings.now, release, async (fresh) => {
        await loadBackup(file, fresh);
        await bringUpToDate(fresh, settings.now);
      });
      return `Restored from ${file}.${aside}`;
    }),
  );
}

/** Puts back what was kept aside; what is there now is kept in turn. Without a name it says what there is. */
async function restoreKept(settings: Settings, name: string | undefined): Promise<string> {
  return withDatabase(settings, true, (url) =>
    whileAlone(settings, url, async (release) => {
      const kept = await keptAside(url);
      if (name === undefined)
        return kept.length === 0
          ? "Nothing is kept aside."
          : ["Kept aside, the latest first:", ...kept.map((one) => `  bin/restore --kept ${one}`)].join("\n");
      if (!kept.includes(name))
        throw new Trouble(`${name}: nothing is kept aside under this name; bin/restore --kept says what there is.`);
      await bringUpToDate(inDatabase(url, name), settings.now);
      const horses = await countHorses(url);
      await release();
      const aside = await putInPlace(url, name, horses, settings.now);
      return `Brought back ${name}.${aside}`;
    }),
  );
}

/** The demo yard made anew, its last outings yesterday: a yard of weeks ago shows a string that has grown rusty. */
async function demo(settings: Settings, replace: boolean): Promise<string> {
  return withDatabase(settings, true, (url) =>
    whileAlone(settings, url, async (release) => {
      const horses = await countHorses(url);
      if (horses > 0 && !replace && !(await isDemo(url)))
        throw new Trouble(
          `The yard holds ${inWords(horses)}, and what you recorded yourself: add --replace to put the demo yard in its place; what is there is kept aside.`,
        );
      const aside = await fillAndPut(url, horses, settings.now, release, async (fresh) => {
        await bringUpToDate(fresh, settings.now);
        const pool = createPool(fresh);
        try {
          await seedDemoYard(pool, settings.now);
        } finally {
          await pool.end();
        }
      });
      return `Made the demo yard anew, dated to ${settings.now.slice(0, 10)}.${aside}`;
    }),
  );
}

const inWords = (horses: number): string => `${horses} ${horses === 1 ? "horse" : "horses"}`;

const isDemo = async (url: string): Promise<boolean> => {
  // One from before this was kept cannot be asked yet.
  await bringUpToDate(url, null);
  return (await inYard(url, (pool, yard) => isNothingButDemo(pool, yard.id))) ?? false;
};

/** Fills a fresh database and puts it in the place of the yard's. @returns a sentence that says where what was there is kept */
async function fillAndPut(
  url: string,
  horses: number,
  now: string,
  release: () => Promise<void>,
  fill: (freshUrl: string) => Promise<void>,
): Promise<string> {
  const fresh = `${nameOf(url)}_restoring`;
  try {
    await fill(await makeDatabase(url, fresh));
    await release();
    return await putInPlace(url, fresh, horses, now);
  } catch (cause) {
    await dropDatabase(url, fresh);
    throw cause;
  }
}

/** An older database is migrated, and what it has no read models of gets them. @param now none where only its shape matters */
async function bringUpToDate(url: string, now: string | null): Promise<void> {
  try {
    await withClient(url, async (client) => {
      await migrate(client);
      await stripStored(client);
      await prepareServerRole(client);
    });
  } catch (cause) {
    if (cause instanceof MigrationRefused) throw new Trouble(`${cause.message}.`, { cause });
    throw cause;
  }
  if (now !== null) await inYard(url, (pool, yard) => rebuildMissing(pool, yard, now));
}

/** @returns what the work gave; null where there is no yard yet */
async function inYard<T>(
  url: string,
  work: (pool: ReturnType<typeof createPool>, yard: NonNullable<Awaited<ReturnType<typeof loadYard>>>) => Promise<T>,
): Promise<T | null> {
  const pool = createPool(url);
  try {
    const yard = await loadYard(pool);
    return yard ? await work(pool, yard) : null;
  } finally {
    await pool.end();
  }
}

const rebuild = (settings: Settings): Promise<string> =>
  withDatabase(settings, false, (url) =>
    whileAlone(settings, url, async () => {
      const horses = (await inYard(url, (pool, yard) => rebuildYard(pool, yard, settings.now))) ?? 0;
      return `Made anew what is derived of ${inWords(horses)}.`;
    }),
  );

async function main([command = "", ...words]: readonly string[]): Promise<string> {
  mindClosedPipes();
  const settings = readSettings(process.env);
  const replace = words.includes("--replace");
  const isKept = command === "restore" && words[0] === "--kept";
  const files = words.filter((word) => word !== "--replace" && !(isKept && word === "--kept"));
  const [file] = files;
  const isOption = files.some((word) => word.startsWith("--"));
  if (command === "rebuild" && words.length === 0) return rebuild(settings);
  if (command === "demo" && files.length === 0) return demo(settings, replace);
  if (isKept && files.length <= 1 && !isOption && !replace) return restoreKept(settings, file);
  if (file !== undefined && files.length === 1 && !isOption) {
    if (command === "backup" && !replace) return backup(settings, path.resolve(file));
    if (command === "restore") return restore(settings, path.resolve(file), replace);
  }
  throw new Trouble(USAGE[command] ?? Object.values(USAGE).join("\n"));
}

main(process.argv.slice(2)).then(
  (line) => process.stdout.write(`${line}\n`),
  (cause: unknown) => {
    const line =
      cause instanceof Trouble
        ? cause.message
        : cause instanceof Error
          ? (cause.stack ?? cause.message)
          : String(cause);
    process.stderr.write(`${line}\n`);
    process.exitCode = cause instanceof Trouble ? 2 : 1;
  },
);
