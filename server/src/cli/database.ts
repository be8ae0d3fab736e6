import { spawn, spawnSync } from "node:child_process";
import { existsSync, readdirSync } from "node:fs";
import path from "node:path";
import { pipeline } from "node:stream/promises";
import { defaultFolder, PROGRAMS, startCluster } from "../cluster/cluster";
import { claimFolder, isClaimed } from "../cluster/only-one";
import { Trouble } from "../cluster/trouble";
import { claimAlone } from "../db/claim";
import { withClient } from "../db/with-client";
import { readClock } from "./clock";

/** A yard's database as a whole: reached, put in the place of another, read and written by PostgreSQL's own programs. */

export interface Settings {
  folder: string;
  databaseUrl: string | undefined;
  now: string;
}

/** @throws Trouble where one of them is none */
export const readSettings = (env: NodeJS.ProcessEnv): Settings => ({
  folder: path.resolve(env["STILLPINE_DATA"] || defaultFolder()),
  databaseUrl: env["DATABASE_URL"] || undefined,
  now: readClock(env).now(),
});

/**
 * Gives the address of the yard's database; starts the private server for that time where it does not run.
 *
 * @param alone nobody else may be at work on it meanwhile
 */
export async function withDatabase(
  { folder, databaseUrl }: Settings,
  alone: boolean,
  work: (url: string) => Promise<string>,
): Promise<string> {
  if (databaseUrl) return work(databaseUrl);
  if (!existsSync(path.join(folder, "cluster", "PG_VERSION")))
    throw new Trouble(`There is no yard in ${folder}: start it with bin/start first, or set STILLPINE_DATA.`);
  if (isClaimed(folder) && !alone) {
    const running = await startCluster(folder, "guest");
    return work(running.url);
  }
  const release = await claimFolder(folder, 0);
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

/** Runs work on a database of somebody else's server while no server of ours works on it; a private one is claimed by its folder. */
export async function whileAlone<Result>(
  { databaseUrl }: Settings,
  url: string,
  work: (release: () => Promise<void>) => Promise<Result>,
): Promise<Result> {
  const release = databaseUrl ? await claimAlone(url) : async (): Promise<void> => undefined;
  try {
    return await work(release);
  } finally {
    await release();
  }
}

interface Ran {
  ok: boolean;
  output: string;
}

function findProgram(program: string): string {
  const newest = existsSync(PROGRAMS)
    ? readdirSync(PROGRAMS)
        .filter((version) => existsSync(path.join(PROGRAMS, version, "bin", program)))
        .toSorted((a, b) => Number(b) - Number(a))[0]
    : undefined;
  return newest ? path.join(PROGRAMS, newest, "bin", program) : program;
}

function environmentOf(url: string | null): NodeJS.ProcessEnv {
  const address = url === null ? null : new URL(url);
  return {
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
  };
}

const missing = (program: string): Trouble =>
  new Trouble(`${program} is not installed: run apt-get install postgresql-client, then try again.`);

/** Runs one of PostgreSQL's own client programs against a database, to its end. */
export function runClient(program: string, url: string | null, words: readonly string[]): Ran {
  const { status, stdout, stderr, error } = spawnSync(findProgram(program), [...words], {
    encoding: "utf8",
    maxBuffer: 64 * 1024 * 1024,
    env: environmentOf(url),
  });
  if (error) throw missing(program);
  return { ok: status === 0, output: `${stdout}${stderr}` };
}

/** Gives what one statement writes out of a database to one that reads it into another. @throws Trouble where either fails */
export async function copyAcross(from: string, out: string, to: string, into: string): Promise<void> {
  const psql = findProgram("psql");
  const words = (sql: string): string[] => ["--no-psqlrc", "--quiet", "--set=ON_ERROR_STOP=1", "--command", sql];
  const reading = spawn(psql, words(out), { env: environmentOf(from), stdio: ["ignore", "pipe", "pipe"] });
  const writing = spawn(psql, words(into), { env: environmentOf(to), stdio: ["pipe", "ignore", "pipe"] });
  const ends = [reading, writing].map(
    (child) =>
      new Promise<Ran>((resolve, reject) => {
        let output = "";
        child.stderr.on("data", (piece: Buffer) => (output += piece.toString()));
        child.once("error", () => reject(missing("psql")));
        child.once("close", (code) => resolve({ ok: code === 0, output }));
      }),
  );
  // One that fails closes the pipe; what it said is told below.
  await pipeline(reading.stdout, writing.stdin).catch(() => undefined);
  for (const { ok, output } of await Promise.all(ends))
    if (!ok) throw new Trouble(`The backup could not be read: ${firstLine(output)}`);
}

export const firstLine = (output: string): string =>
  output.split("\n").find((line) => /error/i.test(line)) ?? output.trim().split("\n")[0] ?? "";

/** The same server, another database of it. */
export const inDatabase = (url: string, name: string): string => {
  const address = new URL(url);
  address.pathname = `/${name}`;
  return address.href;
};

export const nameOf = (url: string): string => decodeURIComponent(new URL(url).pathname.slice(1));

const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;
const BEFORE = "_before_";

/** Databases kept aside, the latest first. */
export async function keptAside(url: string): Promise<string[]> {
  const { rows } = await withClient(inDatabase(url, "postgres"), (client) =>
    client.query<{ datname: string }>("select datname from pg_database where starts_with(datname, $1)", [
      `${nameOf(url)}${BEFORE}`,
    ]),
  );
  return rows.map(({ datname }) => datname).toSorted((a, b) => (a < b ? 1 : -1));
}

/** A name nothing is kept aside under yet: two in one second are told apart. */
async function freeName(url: string, now: string): Promise<string> {
  const taken = new Set(await keptAside(url));
  const first = `${nameOf(url)}${BEFORE}${now.replace(/\D/g, "").slice(0, 14)}`;
  for (let n = 2, name = first; ; n += 1) {
    if (!taken.has(name)) return name;
    name = `${first}_${n}`;
  }
}

/** A database made for the while, empty. */
export async function makeDatabase(url: string, name: string, owner?: string): Promise<string> {
  await dropDatabase(url, name);
  await withClient(inDatabase(url, "postgres"), (client) =>
    client.query(`create database ${quoted(name)} template template0${owner ? ` owner ${quoted(owner)}` : ""}`),
  );
  return inDatabase(url, name);
}

export async function dropDatabase(url: string, name: string): Promise<void> {
  await withClient(inDatabase(url, "postgres"), (client) =>
    client.query(`drop database if exists ${quoted(name)} with (force)`),
  );
}

/**
 * Puts a database in the place of the yard's; what was there is kept aside, unless it held no horse.
 *
 * @returns a sentence that says where, or nothing
 */
export async function putInPlace(url: string, name: string, horses: number, now: string): Promise<string> {
  const aside = await freeName(url, now);
  try {
    await withClient(inDatabase(url, "postgres"), async (client) => {
      // Both or neither: a yard must not be without its database for a moment.
      await client.query(
        `begin; alter database ${quoted(nameOf(url))} rename to ${quoted(aside)};
         alter database ${quoted(name)} rename to ${quoted(nameOf(url))}; commit`,
      );
      if (horses === 0) await client.query(`drop database ${quoted(aside)} with (force)`);
    });
  } catch (cause) {
    // 55006: object in use.
    if ((cause as { code?: string }).code !== "55006") throw cause;
    throw new Trouble("Another program works with this database: stop it first, then try again.", { cause });
  }
  return horses > 0 ? ` What was there is kept as ${aside}; bin/restore --kept ${aside} brings it back.` : "";
}
