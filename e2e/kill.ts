import { execFileSync } from "node:child_process";
import { randomInt } from "node:crypto";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { isDeepStrictEqual } from "node:util";
import { Client } from "pg";
import { randomFrom } from "@still-pine/core/simulated";
import { startApplication, throwAwayFolder, type Application } from "./application";
import { bringInUntil, changeZoneUntil, emptyBeside, FILES_HORSE, publishUntil, wrongBeside } from "./kill-beside";

/**
 * A client sends events, with retries, while the program, its database or one of that one's processes is killed at random moments;
 * files come in meanwhile, programs are published, and the yard's zone is changed. Afterwards everything that was acknowledged is
 * there exactly once, of a file all or nothing.
 */
export interface KillReport {
  kills: { program: number; database: number; backend: number; both: number };
  acknowledged: number;
  files: number;
  programs: number;
  zones: number;
  /** Sent, and the answer lost: sent again afterwards. */
  sentAgain: number;
  retries: number;
  lost: string[];
  twice: string[];
  /** Lines of the read models that a rebuild makes otherwise. */
  otherAfterRebuild: string[];
  /** Horses of which bin/assess says something else from what goes out. */
  otherWhenAssessed: string[];
  wrongBeside: string[];
}

const HORSES = ["k1", "k2", "k3"];
const ASSESS = new URL("../server/dist/assess.cjs", import.meta.url).pathname;
const MOST_SAID = 64 * 1024 * 1024;
/** After so many a new yard is begun: what a yard has to do at a change of zone grows with all that it holds. */
const KILLS_OF_A_YARD = 100;
/** Below those the system gives to whoever calls somebody: one that is free once stays so while nobody listens on it. */
const PORTS = { from: 20_000, to: 30_000 };

export async function killHarness(kills: number, seed: number): Promise<KillReport> {
  const report = emptyReport();
  for (let from = 0; from < kills; from += KILLS_OF_A_YARD) {
    const part = await killInOneYard(Math.min(KILLS_OF_A_YARD, kills - from), seed + from);
    // Said at once: a long run may end early.
    process.stdout.write(`seed ${seed}, from kill ${from}: ${JSON.stringify(part)}\n`);
    addUp(report, part);
  }
  return report;
}

const emptyReport = (): KillReport => ({
  kills: { program: 0, database: 0, backend: 0, both: 0 },
  acknowledged: 0,
  files: 0,
  programs: 0,
  zones: 0,
  sentAgain: 0,
  retries: 0,
  lost: [],
  twice: [],
  otherAfterRebuild: [],
  otherWhenAssessed: [],
  wrongBeside: [],
});

/** Numbers are summed and lists are joined. */
function addUp(whole: KillReport, part: KillReport): void {
  for (const kind of Object.keys(whole.kills) as (keyof KillReport["kills"])[]) whole.kills[kind] += part.kills[kind];
  for (const name of ["acknowledged", "files", "programs", "zones", "sentAgain", "retries"] as const)
    whole[name] += part[name];
  for (const name of ["lost", "twice", "otherAfterRebuild", "otherWhenAssessed", "wrongBeside"] as const)
    whole[name].push(...part[name]);
}

async function killInOneYard(kills: number, seed: number): Promise<KillReport> {
  const random = randomFrom(seed);
  const folder = throwAwayFolder();
  // Always the same port: a phone keeps the address it has.
  const env = { PORT: String(await freePort()) };
  const start = (): Promise<Application> => startApplication({ folder, args: ["--empty"], env });
  let application = await start();
  const { url } = application;
  for (const id of HORSES)
    await post(`${url}/api/horses`, { id, name: id, foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" });

  const report = emptyReport();
  const acknowledged = new Set<string>();
  const sent = new Map<string, object>();
  const done = { killing: false };
  const senders = HORSES.map((horse, index) =>
    sendUntil(url, horse, randomFrom(seed + index + 1), { acknowledged, sent, done, report }),
  );
  const beside = emptyBeside();
  const isOver = (): boolean => done.killing;
  const others = [bringInUntil, publishUntil, changeZoneUntil].map((one, index) =>
    one(url, randomFrom(seed + 100 + index), beside, isOver),
  );
  try {
    for (let kill = 0; kill < kills; kill += 1) {
      await sleep(50 + random() * 700);
      const kind = (["program", "database", "backend", "both"] as const)[Math.floor(random() * 4)] ?? "both";
      report.kills[kind] += 1;
      if (kind === "backend") killOneBackend(postmaster(folder), random);
      else if (kind !== "program") killAll(postmaster(folder));
      if (kind === "program" || kind === "both") {
        await application.kill();
        application = await start();
      }
      await answering(url);
    }
  } finally {
    done.killing = true;
  }
  await Promise.all([...senders, ...others]);
  report.acknowledged = acknowledged.size;
  [report.files, report.programs, report.zones] = [beside.filesIn.size, beside.programsIn.size, beside.zonesSet];
  report.wrongBeside = await wrongBeside(url, beside);
  await check(url, folder, acknowledged, sent, report);
  await application.stop();
  rmSync(folder, { recursive: true, force: true });
  return report;
}

/** Any one: two runs of the same seed may be at work beside each other. */
async function freePort(): Promise<number> {
  for (;;) {
    const port = randomInt(PORTS.from, PORTS.to);
    const isFree = await new Promise<boolean>((resolve) => {
      const server = createServer();
      server.once("error", () => resolve(false));
      server.listen(port, "127.0.0.1", () => server.close(() => resolve(true)));
    });
    if (isFree) return port;
  }
}

interface Shared {
  acknowledged: Set<string>;
  sent: Map<string, object>;
  done: { killing: boolean };
  report: KillReport;
}

/** Sends batches of events of one horse, each again and again until it is acknowledged, as long as there are kills. */
async function sendUntil(
  url: string,
  horse: string,
  random: () => number,
  { acknowledged, sent, done, report }: Shared,
): Promise<void> {
  for (let batch = 0; !done.killing; batch += 1) {
    const events = Array.from({ length: 1 + Math.floor(random() * 12) }, (_, n) => {
      const id = `${horse}-${batch}-${n}`;
      // Now and then an older outing, or a correction of an earlier event: the read models go back for it.
      const day = random() < 0.1 ? 1 : 1 + Math.floor(batch / 20);
      const at = new Date(Date.UTC(2026, 0, day, 10, 0, n)).toISOString();
      const event =
        batch > 2 && random() < 0.1
          ? { id, at, type: "correction", replaces: `${horse}-${batch - 2}-0`, with: { mood: 2 } }
          : { id, at, type: "ask", step: "share-space", answer: random() < 0.8 ? "gave" : "none", mood: 1 };
      return { horse, outing: `${horse}-day-${day}`, event };
    });
    for (const one of events) sent.set(one.event.id, one);
    for (;;) {
      const results = await post(`${url}/api/events`, { events });
      if (results) {
        for (const { id, result } of results) if (result !== "refused") acknowledged.add(id);
        // No faster than several phones: else the machine does nothing but judge.
        await sleep(random() * 80);
        break;
      }
      report.retries += 1;
      // Some are given up on, as by a phone that is switched off: they are sent again at the end.
      if (done.killing || random() < 0.03) break;
      await sleep(30 + random() * 100);
    }
  }
}

/** Null where there was no answer, or one that says to send again. */
async function post(url: string, body: object): Promise<{ id: string; result: string }[] | null> {
  try {
    const response = await fetch(url, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(20_000),
    });
    if (response.status >= 500) return null;
    return ((await response.json()) as { results?: { id: string; result: string }[] }).results ?? [];
  } catch {
    return null;
  }
}

export function postmaster(folder: string): number {
  const file = path.join(folder, "cluster/postmaster.pid");
  return existsSync(file) ? Number(readFileSync(file, "utf8").split("\n")[0]) : 0;
}

/** The database with every process of its own, as when power fails. */
export function killAll(pid: number): void {
  if (!pid) return;
  killEach([pid, ...childrenOf(pid).map((child) => child.pid)]);
}

/** One process of the database's that works for somebody: the database takes itself up again. */
function killOneBackend(pid: number, random: () => number): void {
  const backends = childrenOf(pid).filter(({ what }) => / still_pine\w* /.test(what));
  const one = backends[Math.floor(random() * backends.length)];
  if (one) killEach([one.pid]);
}

function childrenOf(pid: number): { pid: number; what: string }[] {
  try {
    return execFileSync("ps", ["-o", "pid=,args=", "--ppid", String(pid)], { encoding: "utf8" })
      .split("\n")
      .filter(Boolean)
      .map((line) => ({ pid: Number(/\d+/.exec(line)?.[0]), what: line }));
  } catch {
    return [];
  }
}

function killEach(pids: readonly number[]): void {
  for (const one of pids)
    try {
      process.kill(one, "SIGKILL");
    } catch {
      // It has gone already.
    }
}

async function answering(url: string): Promise<void> {
  for (let tries = 0; tries < 300; tries += 1) {
    const isThere = await fetch(`${url}/api/yard`, { signal: AbortSignal.timeout(5000) }).then(
      (response) => response.ok,
      () => false,
    );
    if (isThere) return;
    await sleep(50);
  }
  throw new Error("it does not answer again");
}

async function check(
  url: string,
  folder: string,
  acknowledged: Set<string>,
  sent: Map<string, object>,
  report: KillReport,
): Promise<void> {
  const inRecord = async (): Promise<string[]> => {
    const records = await Promise.all(
      HORSES.map(
        async (horse) =>
          (await (await fetch(`${url}/api/horses/${horse}/record`)).json()) as {
            outings: { events: { id: string }[] }[];
          },
      ),
    );
    return records.flatMap((record) => record.outings.flatMap((outing) => outing.events.map((event) => event.id)));
  };
  const there = await inRecord();
  const once = new Set(there);
  report.lost = [...acknowledged].filter((id) => !once.has(id));
  report.twice = there.filter((id) => !once.delete(id));

  const again = [...sent].filter(([id]) => !acknowledged.has(id)).map(([, event]) => event);
  report.sentAgain = again.length;
  for (let from = 0; from < again.length; from += 100)
    await post(`${url}/api/events`, { events: again.slice(from, from + 100) });
  const after = new Set(await inRecord());
  report.lost.push(...[...sent.keys()].filter((id) => !after.has(id)));
  for (const horse of [...HORSES, FILES_HORSE])
    if (!(await isAssessedAlike(url, horse))) report.otherWhenAssessed.push(horse);

  const port = readFileSync(path.join(folder, "cluster/postmaster.pid"), "utf8").split("\n")[3] ?? "";
  const client = new Client({
    host: "127.0.0.1",
    port: Number(port),
    user: "still_pine",
    database: "still_pine",
    password: readFileSync(path.join(folder, "password"), "utf8").trim(),
  });
  await client.connect();
  const models = async (): Promise<string[]> => {
    const { rows } = await client.query<{ line: string }>(
      `select to_jsonb(o)::text as line from outing o union all select to_jsonb(l)::text from ledger l
       union all select to_jsonb(s)::text from horse_state s order by 1`,
    );
    return rows.map(({ line }) => line);
  };
  const grown = await models();
  execFileSync(process.execPath, [new URL("../server/dist/data.mjs", import.meta.url).pathname, "rebuild"], {
    env: { ...process.env, STILLPINE_DATA: folder, DATABASE_URL: "" },
  });
  const made = await models();
  if (made.length !== grown.length) report.otherAfterRebuild.push(`${grown.length} lines before, ${made.length} after`);
  const [was, is] = [new Set(grown), new Set(made)];
  const wasOnly = grown.filter((line) => !is.has(line));
  const isOnly = made.filter((line) => !was.has(line));
  wasOnly.forEach((line, index) =>
    report.otherAfterRebuild.push(...differences(JSON.parse(line), JSON.parse(isOnly[index] ?? "null"), "")),
  );
  await client.end();
}

/** Whether bin/assess says of what goes out what the horse's page says; a horse that is not there is as it should be. */
async function isAssessedAlike(url: string, horse: string): Promise<boolean> {
  const page = await fetch(`${url}/api/horses/${horse}`);
  if (page.status === 404) return true;
  const { judgements, gates } = (await page.json()) as Verdicts & { judgements: unknown };
  const record = await (await fetch(`${url}/api/horses/${horse}/record`)).text();
  const said = JSON.parse(
    execFileSync(process.execPath, [ASSESS, "-"], { input: record, encoding: "utf8", maxBuffer: MOST_SAID }),
  ) as Verdicts & { steps: unknown };
  return isDeepStrictEqual([said.steps, said.gates].map(withoutEvidence), [judgements, gates].map(withoutEvidence));
}

interface Verdicts {
  gates: unknown;
}

/** Which entries a finding rests on is not kept with what is derived. */
const withoutEvidence = (value: unknown): unknown =>
  JSON.parse(JSON.stringify(value, (key, one: unknown) => (key === "evidence" ? [] : one)));

/** Where two values differ, and how. */
function differences(was: unknown, is: unknown, at: string): string[] {
  if (typeof was !== "object" || typeof is !== "object" || was === null || is === null)
    return was === is ? [] : [`${at}: ${JSON.stringify(was)} before, ${JSON.stringify(is)} after`];
  const names = new Set([...Object.keys(was), ...Object.keys(is)]);
  return [...names].flatMap((name) =>
    differences((was as Record<string, unknown>)[name], (is as Record<string, unknown>)[name], `${at}/${name}`),
  );
}
