import { spawn, spawnSync } from "node:child_process";
import { chmodSync, cpSync, rmSync } from "node:fs";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { randomFrom } from "@still-pine/core/simulated";
import { processesOn, putYard, START, startApplication, throwAwayFolder } from "./application";
import { inCluster } from "./in-cluster";
import { killAll, postmaster } from "./kill";

/** Starts that are killed on their way: the first of a folder, and the first of this build on a former build's yard. */
export interface KilledStarts {
  /** Those that were still on their way when they were killed. */
  killed: number;
  first: number;
  older: number;
  wrong: string[];
}

const FIXTURE = new URL("../server/src/db/fixtures/after-the-programs.sql", import.meta.url).pathname;

/** A folder with a yard as the former build left it, and all its entries. */
async function olderYard(): Promise<{ folder: string; entries: string }> {
  const folder = throwAwayFolder();
  putYard(folder, "empty");
  inCluster(folder, "dropdb", ["still_pine", "--maintenance-db=postgres"]);
  inCluster(folder, "createdb", ["still_pine", "--maintenance-db=postgres"]);
  // psql reads it as the owner of the database, who may not look into this folder's parent.
  const copy = path.join(folder, "older.sql");
  cpSync(FIXTURE, copy);
  chmodSync(copy, 0o644);
  inCluster(folder, "psql", ["--quiet", "--set=ON_ERROR_STOP=1", `--file=${copy}`]);
  rmSync(copy);
  return { folder, entries: entriesIn(folder) };
}

const entriesIn = (folder: string, isRunning = false): string =>
  inCluster(folder, "psql", ["-Atc", "select id, body from event order by id"], isRunning);

/** Kills so many starts, program or database or both, and sees that the next start brings all of it up. */
export async function killedStarts(kills: number, seed: number): Promise<KilledStarts> {
  const random = randomFrom(seed);
  const report: KilledStarts = { killed: 0, first: 0, older: 0, wrong: [] };
  const older = await olderYard();
  for (let n = 0; n < kills; n += 1) {
    const isFirst = n % 2 === 0;
    const folder = throwAwayFolder();
    if (!isFirst) spawnSync("cp", ["-a", `${older.folder}/.`, folder]);
    report[isFirst ? "first" : "older"] += 1;
    try {
      if (await killOnItsWay(folder, random)) report.killed += 1;
      const { url, stop } = await startApplication({ folder, args: ["--empty"] });
      const yard = await fetch(`${url}/api/yard`);
      if (!yard.ok) report.wrong.push(`${n}: no yard`);
      if (!isFirst && entriesIn(folder, true) !== older.entries) report.wrong.push(`${n}: other entries`);
      if (!isFirst)
        for (const horse of ["h-7", "h-8"])
          if (!(await fetch(`${url}/api/horses/${horse}`)).ok) report.wrong.push(`${n}: ${horse} cannot be read`);
      await stop();
      const left = processesOn(folder);
      if (left.length > 0) report.wrong.push(`${n}: left behind: ${left.join("; ")}`);
    } catch (cause) {
      report.wrong.push(`${n}: ${String(cause)}`);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  }
  rmSync(older.folder, { recursive: true, force: true });
  return report;
}

const LONGEST_MS = 5000;

/** Whether it was still on its way. */
async function killOnItsWay(folder: string, random: () => number): Promise<boolean> {
  const child = spawn(process.execPath, [START, "--empty"], {
    stdio: ["ignore", "pipe", "ignore"],
    env: { ...process.env, PORT: "0", STILLPINE_DATA: folder, DATABASE_URL: "" },
  });
  const ended = new Promise<void>((resolve) => child.on("exit", () => resolve()));
  let isReady = false;
  child.stdout.on("data", (piece: Buffer) => (isReady ||= piece.includes("ready")));
  // Early moments are tried more often: that is when most is made.
  await Promise.race([sleep(random() ** 1.5 * LONGEST_MS), ended]);
  const wasOnItsWay = !isReady;
  const kind = Math.floor(random() * 3);
  if (kind !== 0) killAll(postmaster(folder));
  if (kind !== 1) child.kill("SIGKILL");
  // Without its database it ends by itself, in a plain line, or it brings the database up again.
  if (kind === 1) {
    await Promise.race([ended, sleep(LONGEST_MS)]);
    child.kill("SIGKILL");
  }
  await ended;
  return wasOnItsWay;
}
