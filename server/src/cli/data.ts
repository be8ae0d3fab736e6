import { spawnSync } from "node:child_process";
import { existsSync, readdirSync, renameSync, rmSync } from "node:fs";
import path from "node:path";
import { DEMO_YARD } from "@still-pine/core/simulated";
import { defaultFolder, PROGRAMS, startCluster } from "../cluster/cluster";
import { claimFolder, isClaimed } from "../cluster/only-one";
import { Trouble } from "../cluster/trouble";
import { migrate, MigrationRefused } from "../db/migrate";
import { createPool } from "../db/pool";
import { prepareServerRole } from "../db/roles";
import { withClient } from "../db/with-client";
import { seedDemoYard } from "../demo/seed";
import { rebuildMissing, rebuildYard } from "../read-models/rebuild";
import { loadYard } from "../store/yard";

/** `bin/backup FILE`, `bin/restore [--replace] FILE`, `bin/demo` and `bin/rebuild`: what is done with the whole database. */

const USAGE: Record<string, string> = {
  backup: "usage: bin/backup FILE",
  restore: "usage: bin/restore [--replace] FILE",
  demo: "usage: bin/demo [--replace]",
  rebuild: "usage: bin/rebuild",
};

interface Settings {
  folder: string;
  databaseUrl: string | undefined;
  now: string;
}

const readSettings = (env: NodeJS.ProcessEnv): Settings => ({
  folder: path.resolve(env["STILLPINE_DATA"] || defaultFolder()),
  databaseUrl: env["DATABASE_URL"] || undefined,
  now: env["STILLPINE_NOW"] ?? new Date().toISOString(),
});

/**
 * Gives the address of the yard's database; starts the private server for that time where it does not run.
 *
 * @param alone nobody else may be at work on it meanwhile
 */
async function withDatabase(
  { folder, databaseUrl }: Settings,
  alone: boolean,
  work: (url: string) => Promise<string>,
): Promise<string> {
  if (databaseUrl) return work(databaseUrl);
  if (!existsSync(path.join(folder, "cluster", "PG_VERSION")))
    throw new Trouble(`There is no yard in ${folder}: start it with bin/start first, or set STILLPINE_DATA.`);
  const isAtWork = isClaimed(folder);
  if (isAtWork && !alone) {
    const running = await startCluster(folder);
    return work(running.url);
  }
  const release = claimFolder(folder, 0);
  try {
    const cluster = await startCluster(folder);
    try {
      return await work(cluster.url);
    } finally {
      await cluster.stop();
    }
  } finally {
    release();
  }
}

/** Runs one of PostgreSQL's own client programs against a database. @returns what it printed, or null where it failed */
function runClient(program: string, url: string | null, words: readonly string[]): { ok: boolean; output: string } {
  const newest = existsSync(PROGRAMS)
    ? readdirSync(PROGRAMS)
        .filter((version) => existsSync(path.join(PROGRAMS, version, "bin", program)))
        .toSorted((a, b) => Number(b) - Number(a))[0]
    : undefined;
  const address = url === null ? null : new URL(url);
  const { status, stdout, stderr, error } = spawnSync(
    newest ? path.join(PROGRAMS, newest, "bin", program) : program,
    [...words],
    {
      encoding: "utf8",
      maxBuffer: 64 * 1024 * 1024,
      env: {
        ...process.env,
        LC_ALL: "C",
        ...(address
          ? {
              PGHOST: address.hostname,
              PGPORT: address.port || "5432",
              PGUSER: decodeURIComponent(address.username),
              PGPASSWORD: decodeURIComponent(address.password),
              PGDATABASE: address.pathname.slice(1),
            }
          : {}),
      },
    },
  );
  if (error) throw new Trouble(`${program} is not installed: run apt-get install postgresql-client, then try again.`);
  return { ok: status === 0, output: `${stdout}${stderr}` };
}

const firstLine = (output: string): string => output.split("\n").find((line) => /error/i.test(line)) ?? output.trim();

async function backup(settings: Settings, file: string): Promise<string> {
  return withDatabase(settings, false, async (url) => {
    const part = `${file}.part`;
    const made = runClient("pg_dump", url, ["--format=custom", "--no-owner", "--no-privileges", `--file=${part}`]);
    if (!made.ok || !runClient("pg_restore", null, ["--list", part]).ok) {
      rmSync(part, { force: true });
      throw new Trouble(`The backup could not be written to ${file}: ${firstLine(made.output)}`);
    }
    renameSync(part, file);
    return `Backed up to ${file}.`;
  });
}

const inDatabase = (url: string, name: string): string => {
  const address = new URL(url);
  address.pathname = `/${name}`;
  return address.href;
};

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
  const listed = runClient("pg_restore", null, ["--list", file]);
  if (!listed.ok || !/TABLE public event /.test(listed.output))
    throw new Trouble(`${file} is no backup of Still Pine: choose a file that bin/backup wrote.`);
  return withDatabase(settings, true, async (url) => {
    const horses = await countHorses(url);
    if (horses > 0 && !replace)
      throw new Trouble(
        `The yard holds ${inWords(horses)}: add --replace to put the backup in its place; what is there is kept aside.`,
      );
    const aside = await putInPlace(url, horses, settings.now, async (fresh) => {
      const into = `--dbname=${new URL(fresh).pathname.slice(1)}`;
      const how = ["--no-owner", "--no-privileges", "--exit-on-error", "--single-transaction", into];
      const loaded = runClient("pg_restore", fresh, [...how, file]);
      if (!loaded.ok) throw new Trouble(`The backup could not be read: ${firstLine(loaded.output)}`);
      await bringUpToDate(fresh, settings.now);
    });
    return `Restored from ${file}.${aside}`;
  });
}

/** The demo yard made anew, its last outings yesterday: a yard of weeks ago shows a string that has grown rusty. */
async function demo(settings: Settings, replace: boolean): Promise<string> {
  return withDatabase(settings, true, async (url) => {
    const horses = await countHorses(url);
    if (horses > 0 && !replace && !(await isDemo(url)))
      throw new Trouble(
        `The yard holds ${inWords(horses)} of your own: add --replace to put the demo yard in its place; what is there is kept aside.`,
      );
    const aside = await putInPlace(url, horses, settings.now, async (fresh) => {
      await bringUpToDate(fresh, settings.now);
      const pool = createPool(fresh);
      try {
        await seedDemoYard(pool, settings.now);
      } finally {
        await pool.end();
      }
    });
    return `Made the demo yard anew, dated to ${settings.now.slice(0, 10)}.${aside}`;
  });
}

const inWords = (horses: number): string => `${horses} ${horses === 1 ? "horse" : "horses"}`;

const isDemo = (url: string): Promise<boolean | null> =>
  inYard(url, (_pool, yard) => Promise.resolve(yard.name === DEMO_YARD.name));

/**
 * Fills a fresh database and puts it in the place of the yard's; what was there is kept aside, unless it held no horse.
 *
 * @returns a sentence that says where, or nothing
 */
async function putInPlace(
  url: string,
  horses: number,
  now: string,
  fill: (freshUrl: string) => Promise<void>,
): Promise<string> {
  const name = new URL(url).pathname.slice(1);
  const fresh = `${name}_restoring`;
  const aside = `${name}_before_${now.replace(/\D/g, "").slice(0, 14)}`;
  const admin = inDatabase(url, "postgres");
  await withClient(admin, async (client) => {
    await client.query(`drop database if exists "${fresh}"`);
    await client.query(`create database "${fresh}" template template0`);
  });
  try {
    await fill(inDatabase(url, fresh));
  } catch (cause) {
    await withClient(admin, (client) => client.query(`drop database if exists "${fresh}"`));
    throw cause;
  }
  await withClient(admin, async (client) => {
    // Both or neither: a yard must not be without its database for a moment.
    await client.query(
      `begin; alter database "${name}" rename to "${aside}"; alter database "${fresh}" rename to "${name}"; commit`,
    );
    if (horses === 0) await client.query(`drop database "${aside}"`);
  });
  return horses > 0 ? ` What was there is kept as the database ${aside}.` : "";
}

/** An older backup is migrated, and what it has no read models of gets them. */
async function bringUpToDate(url: string, now: string): Promise<void> {
  try {
    await withClient(url, async (client) => {
      await migrate(client);
      await prepareServerRole(client);
    });
  } catch (cause) {
    if (cause instanceof MigrationRefused) throw new Trouble(`${cause.message}.`, { cause });
    throw cause;
  }
  await inYard(url, (pool, yard) => rebuildMissing(pool, yard, now));
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
  withDatabase(settings, false, async (url) => {
    const horses = (await inYard(url, (pool, yard) => rebuildYard(pool, yard, settings.now))) ?? 0;
    return `Made anew what is derived of ${inWords(horses)}.`;
  });

async function main([command = "", ...words]: readonly string[]): Promise<string> {
  const settings = readSettings(process.env);
  const replace = words.includes("--replace");
  const files = words.filter((word) => word !== "--replace");
  const [file] = files;
  const isOption = files.some((word) => word.startsWith("--"));
  if (command === "rebuild" && words.length === 0) return rebuild(settings);
  if (command === "demo" && files.length === 0) return demo(settings, replace);
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
