import { statfsSync } from "node:fs";
import { createServer, type RequestListener, type Server } from "node:http";
import { connect } from "node:net";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { Client, type Pool } from "pg";
import { defaultFolder, startCluster, type Cluster } from "./cluster/cluster";
import { claimFolder } from "./cluster/only-one";
import { Trouble } from "./cluster/trouble";
import { readClock } from "./cli/clock";
import { claimAsServer } from "./db/claim";
import { migrate, MigrationRefused } from "./db/migrate";
import { createPool } from "./db/pool";
import { logInAsServer, prepareServerRole, SERVER_ROLE } from "./db/roles";
import { seedDemoYard } from "./demo/seed";
import { comingIn, goingOut, type DoJob, type DoLayDown } from "./archive/in-thread";
import { createApp, type AppSettings } from "./http/app";
import type { DoorLimits, OpenDoor, PhonesSettings } from "./phones/door";
import { sweepTemporary } from "./process/temporary";
import { endWhenLost, keepListening, mindClosedPipes, safely } from "./process/safely";
import { rebuildMissing } from "./read-models/rebuild";
import { stripStored } from "./media/strip-stored";
import { createYard, loadYard } from "./store/yard";

/** What `bin/start` runs once everything is installed and built: database, migrations, demo yard, server, ready line. */

const DEFAULT_PORT = 7463;
/**
 * A request that takes longer to arrive is no longer waited for; an archive of 2 GB comes at 7 MB a second. A connection on which nothing
 * comes stays for a minute: closed after Node's five seconds it often met the very request that was on its way.
 */
const LIMITS: DoorLimits = { requestTimeout: 300_000, headersTimeout: 20_000, keepAliveTimeout: 60_000 };

interface Settings {
  port: number;
  folder: string;
  databaseUrl: string | undefined;
  empty: boolean;
  now: () => string;
  isClockFixed: boolean;
  phones: PhonesSettings | null;
}

/** What bin/start may be told beside its name. */
const OPTIONS: readonly string[] = ["--empty", "--phones"];
const LOCAL_NAME = "still-pine.local";

function readSettings(words: readonly string[], env: NodeJS.ProcessEnv): Settings {
  const unknown = words.find((word) => !OPTIONS.includes(word));
  if (unknown !== undefined) throw new Trouble(`${unknown}: no such option. ${USAGE}`);
  const port = Number(env["PORT"] ?? DEFAULT_PORT);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Trouble(`PORT: expected a number from 0 to 65535, found ${JSON.stringify(env["PORT"])}.`);
  const { now, isFixed } = readClock(env);
  const folder = path.resolve(env["STILLPINE_DATA"] || defaultFolder());
  return {
    port,
    folder,
    phones: words.includes("--phones") ? readPhones(env, port, folder) : null,
    databaseUrl: env["DATABASE_URL"] || undefined,
    empty: words.includes("--empty"),
    now,
    isClockFixed: isFixed,
  };
}

/** How phones come in: two ports after the laptop's, a name of the local network, or a certificate of one's own. */
function readPhones(env: NodeJS.ProcessEnv, laptopPort: number, folder: string): PhonesSettings {
  const said = env["STILLPINE_PHONES_PORT"];
  const port = said === undefined ? (laptopPort === 0 ? 0 : laptopPort + 1) : Number(said);
  if (!Number.isInteger(port) || port < 0 || port > 65_534)
    throw new Trouble(
      `STILLPINE_PHONES_PORT: expected a number from 0 to 65534 (the one after it is used too), found ${JSON.stringify(said ?? String(port))}.`,
    );
  const name = (env["STILLPINE_NAME"] || LOCAL_NAME).toLowerCase();
  if (!/^[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?\.local$/.test(name))
    throw new Trouble(
      `STILLPINE_NAME: expected a name of letters, digits and dashes that ends in .local, found ${JSON.stringify(name)}.`,
    );
  const cert = env["STILLPINE_CERT"];
  const key = env["STILLPINE_KEY"];
  if (!cert !== !key)
    throw new Trouble("STILLPINE_CERT and STILLPINE_KEY go together: name the certificate and its key, or neither.");
  return {
    folder,
    port,
    trustPort: port === 0 ? 0 : port + 1,
    name,
    own: cert && key ? { cert, key } : null,
    announce: env["STILLPINE_ANNOUNCE"] !== "no",
  };
}

/** So many may knock at one moment without one being left outside unheard. */
const BACKLOG = 4096;

/** Takes the port first: nothing else is begun when it is not free. */
function listen(server: Server, port: number): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once("error", (cause: NodeJS.ErrnoException) => {
      if (cause.code === "EADDRINUSE")
        reject(
          new Trouble(
            `Port ${port} is taken by another program: start with another one, for example PORT=${port === 65_535 ? 7464 : port + 1} bin/start.`,
          ),
        );
      else if (cause.code === "EACCES")
        reject(
          new Trouble(
            `Port ${port} is not yours to use: start with one above 1023, for example PORT=${DEFAULT_PORT} bin/start.`,
          ),
        );
      else reject(cause);
    });
    server.listen({ port, host: "127.0.0.1", backlog: BACKLOG }, () => {
      keepListening(server);
      const address = server.address();
      resolve(address && typeof address === "object" ? address.port : port);
    });
  });
}

/** A line for whoever wonders: another cluster on PostgreSQL's usual port is none of ours. */
async function tellOfNeighbour(): Promise<void> {
  const isThere = await new Promise<boolean>((resolve) => {
    const socket = connect(5432, "127.0.0.1");
    const end = (answer: boolean): void => {
      socket.destroy();
      resolve(answer);
    };
    socket.once("connect", () => end(true));
    socket.once("error", () => end(false));
    socket.setTimeout(200, () => end(false));
  });
  if (isThere)
    process.stdout.write("Another PostgreSQL listens on port 5432; it is left alone, Still Pine keeps its own.\n");
}

/** The claim of a server on a database that is not in a folder of its own. It ends with this program. */
async function claimDatabase(url: string): Promise<void> {
  try {
    await claimAsServer(url);
  } catch (cause) {
    throw cause instanceof Trouble ? cause : noAnswer(cause);
  }
}

const noAnswer = (cause: unknown): Trouble =>
  new Trouble(
    `The database does not answer (${cause instanceof Error ? cause.message : String(cause)}): check DATABASE_URL.`,
    { cause },
  );

/** Migrates, and opens the connections the server works with: as a role that can add to the record and not change it. */
async function prepareDatabase(
  url: string,
  settings: Settings,
): Promise<Pick<AppSettings, "db" | "heavy" | "bringIn" | "layDown">> {
  const client = new Client({ connectionString: url });
  client.on("error", () => undefined);
  try {
    await client.connect();
  } catch (cause) {
    throw noAnswer(cause);
  }
  let pool: Pool;
  let heavy: Pool;
  let bringIn: DoJob;
  let layDown: DoLayDown;
  try {
    await migrate(client);
    await stripStored(client);
    const hasRole = await prepareServerRole(client);
    // On a server of somebody else's the role has no password of its own; there the owner logs in and steps down.
    const isOwn = hasRole && !settings.databaseUrl;
    const address = isOwn ? await logInAsServer(client, url) : url;
    const role = hasRole && !isOwn ? SERVER_ROLE : undefined;
    pool = createPool(address, role);
    heavy = createPool(address, role, "heavy");
    const worker = new URL("./worker.mjs", import.meta.url);
    const database = { address, role, isOwn: !settings.databaseUrl };
    bringIn = comingIn(worker, database);
    layDown = goingOut(worker, database);
    if (!hasRole)
      process.stderr.write(
        `The database user may not make the role ${SERVER_ROLE}: the record is kept from change by its trigger alone.\n`,
      );
  } catch (cause) {
    if (cause instanceof MigrationRefused) throw new Trouble(`${cause.message}.`, { cause });
    throw cause;
  } finally {
    await client.end();
  }
  const yard = await loadYard(pool);
  if (yard) await rebuildMissing(pool, yard, settings.now());
  else if (settings.empty) await createYard(pool, "My yard", Intl.DateTimeFormat().resolvedOptions().timeZone);
  else await seedDemoYard(pool, settings.now());
  return { db: pool, heavy, bringIn, layDown };
}

/** The port is taken before anything else is ready; whoever asks meanwhile is told so, not left waiting. */
const notYet: RequestListener = (_request, response) => {
  const problem = {
    type: "about:blank",
    title: "Starting",
    status: 503,
    detail: "Still Pine is starting. Send again in a moment; what was not acknowledged was not stored.",
  };
  response
    .writeHead(503, { "Content-Type": "application/problem+json", "Retry-After": "1", Connection: "close" })
    .end(JSON.stringify(problem));
};

/** A database that cannot write a page of its own stops. */
const FULL_BELOW_BYTES = 17 * 1024 * 1024;
function isDiskFull(folder: string): boolean {
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize < FULL_BELOW_BYTES;
  } catch {
    return false;
  }
}

const USAGE = "usage: bin/start [--empty] [--phones]";

/** The settings, or a line that says what to change in them. */
function settingsOrNone(words: readonly string[]): Settings | null {
  try {
    if (!words.includes("--help") && !words.includes("-h")) return readSettings(words, process.env);
    process.stdout.write(`${USAGE}\n`);
  } catch (cause) {
    if (!(cause instanceof Trouble)) throw cause;
    process.stderr.write(`${cause.message}\n`);
    process.exitCode = 2;
  }
  return null;
}

async function main(): Promise<void> {
  mindClosedPipes();
  const settings = settingsOrNone(process.argv.slice(2));
  if (!settings) return;
  let stopping = false;
  // Kept as a promise: Ctrl-C while the database is still starting waits for it and stops it too.
  let cluster: Promise<Cluster> | undefined;
  let release: (() => void) | undefined;
  let application: RequestListener = notYet;
  let phones: OpenDoor | null = null;
  const listener = safely((request, response) => application(request, response));
  const server = createServer(LIMITS, listener);
  const stop = async (code: number): Promise<void> => {
    if (stopping) return;
    stopping = true;
    server.close();
    server.closeAllConnections();
    phones?.close();
    await cluster?.then(
      (running) => running.stop(),
      () => undefined,
    );
    release?.();
    process.exit(code);
  };
  endWhenLost(stop);
  sweepTemporary();
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const) process.on(signal, () => void stop(0));

  try {
    const port = await listen(server, settings.port);
    if (!settings.databaseUrl) {
      release = await claimFolder(settings.folder, port);
      void tellOfNeighbour();
      cluster = startCluster(settings.folder);
    }
    if (settings.phones) {
      // What it needs is read only where phones are wanted.
      const { openPhonesDoor } = await import("./phones/door");
      phones = await openPhonesDoor(settings.phones, listener, LIMITS);
    }
    const url = settings.databaseUrl ?? (await cluster)?.url ?? "";
    if (settings.databaseUrl) await claimDatabase(settings.databaseUrl);
    const pools = await prepareDatabase(url, settings);
    // Another build of the pages, for tests of a new version.
    const webFolder = path.resolve(
      process.env["STILLPINE_WEB"] || path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../../web/dist"),
    );
    application = createApp({
      ...pools,
      isDiskFull: () => !settings.databaseUrl && isDiskFull(settings.folder),
      webFolder,
      port: () => port,
      now: settings.now,
      phones: () => phones,
      isClockFixed: settings.isClockFixed,
    });
    if (phones && !stopping)
      process.stdout.write(
        `Phones: ${phones.address} · how a phone learns to trust it: on the laptop, under Yard, Phones.\n`,
      );
    if (!stopping) process.stdout.write(`Still Pine is ready: http://127.0.0.1:${port}\n`);
  } catch (cause) {
    // Whatever fails while everything is being stopped fails because of that.
    if (stopping) return;
    const isDisk = (cause as { code?: string }).code === "53100";
    const line =
      cause instanceof Trouble
        ? cause.message
        : isDisk
          ? `The disk holding ${settings.folder} is full: free at least 200 MB there, or set STILLPINE_DATA to a folder on another disk.`
          : `Still Pine could not start: ${cause instanceof Error ? (cause.stack ?? cause.message) : String(cause)}`;
    process.stderr.write(`${line}\n`);
    await stop(1);
  }
}

void main();
