import { randomBytes } from "node:crypto";
import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import type { Server } from "node:http";
import { tmpdir } from "node:os";
import path from "node:path";
import type { Pool, QueryResult } from "pg";
import { afterAll, beforeAll, inject } from "vitest";
import { startCluster } from "../cluster/cluster";
import { migrate } from "../db/migrate";
import { createPool } from "../db/pool";
import { prepareServerRole, SERVER_ROLE } from "../db/roles";
import { withClient } from "../db/with-client";
import { createApp } from "../http/app";
import { createYard, type Yard } from "../store/yard";
import { TEMPLATE } from "./one-cluster";

/** A real PostgreSQL cluster for one test file, gone afterwards. */
export interface ThrowAwayCluster {
  /** An empty database of its own; its address. */
  database(): Promise<string>;
  remove(): Promise<void>;
}

export async function throwAwayCluster(): Promise<ThrowAwayCluster> {
  const folder = mkdtempSync(path.join(tmpdir(), "still-pine-test-"));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(folder);
  let count = 0;
  return {
    database: async () => {
      const name = `test_${(count += 1)}`;
      await withClient(cluster.url, (client) => client.query(`create database ${name}`));
      return cluster.url.replace(/[^/]+$/, name);
    },
    remove: async () => {
      await cluster.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** An empty yard with its server, listening on a port of its own. */
export interface TestYard {
  db: Pool;
  yard: Yard;
  url: string;
  /** The database's address for the role that migrates. */
  ownerUrl: string;
  /** A statement as the role that migrates. */
  asOwner(sql: string, values?: unknown[]): Promise<QueryResult>;
  close(): Promise<void>;
}

export async function openYard(databaseUrl: string, now: string | (() => string)): Promise<TestYard> {
  await withClient(databaseUrl, async (client) => {
    await migrate(client);
    await prepareServerRole(client);
  });
  const db = createPool(databaseUrl, SERVER_ROLE);
  const heavy = createPool(databaseUrl, SERVER_ROLE, "heavy");
  const yard = await createYard(db, "Test yard", "Europe/Dublin");
  let port = 0;
  const server = await new Promise<Server>((resolve) => {
    const listening = createApp({ db, heavy, port: () => port, now: typeof now === "string" ? () => now : now }).listen(
      0,
      "127.0.0.1",
      () => resolve(listening),
    );
  });
  const address = server.address();
  if (address && typeof address === "object") ({ port } = address);
  return {
    db,
    yard,
    url: `http://127.0.0.1:${port}`,
    ownerUrl: databaseUrl,
    asOwner: (sql, values) => withClient(databaseUrl, (owner) => owner.query(sql, values)),
    close: async () => {
      if (db.ended) return;
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await db.end();
      await heavy.end();
    },
  };
}

/** A new migrated database on the cluster that all test files share; its address. */
async function databaseOfOurs(): Promise<string> {
  const shared = inject("cluster");
  const name = `test_${randomBytes(8).toString("hex")}`;
  await withClient(shared, (client) => client.query(`create database ${name} template ${TEMPLATE}`));
  return shared.replace(/[^/]+$/, name);
}

/**
 * Empty yards for the tests of one file, each a database of its own on the cluster of the whole run. Call at the top of the file; the yards are there when
 * the tests run.
 *
 * @returns gives the yard of a number, and another new one, whose database goes when it is closed
 */
export function yardsForTests(
  now: string | (() => string),
  count = 1,
): { yard: (index?: number) => TestYard; another: () => Promise<TestYard> } {
  const yards: TestYard[] = [];
  const open = async (): Promise<TestYard> => {
    const yard = await openYard(await databaseOfOurs(), now);
    yards.push(yard);
    return yard;
  };
  // Of these there may be thousands: once closed they take no room.
  const another = async (): Promise<TestYard> => {
    const yard = await open();
    const close = async (): Promise<void> => {
      if (yard.db.ended) return;
      await yard.close();
      const name = path.basename(new URL(yard.ownerUrl).pathname);
      await withClient(inject("cluster"), (client) => client.query(`drop database ${name} with (force)`));
    };
    return { ...yard, close };
  };
  beforeAll(async () => {
    for (let index = 0; index < count; index += 1) await open();
  });
  afterAll(async () => {
    for (const yard of yards) await yard.close();
  });
  return {
    yard: (index = 0) => {
      const yard = yards[index];
      if (!yard) throw new Error("the yards are made before the tests, not before the file");
      return yard;
    },
    another,
  };
}

/** Sends JSON and reads JSON. */
export async function call(
  url: string,
  method: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<{ status: number; body: any; headers: Headers }> {
  const response = await fetch(url, {
    method,
    headers: { ...(body === undefined ? {} : { "Content-Type": "application/json" }), ...headers },
    body: body === undefined ? undefined : typeof body === "string" ? body : JSON.stringify(body),
  });
  const text = await response.text();
  // Tests look into bodies of many shapes; each expectation names what it wants of them.
  return { status: response.status, body: text === "" ? null : JSON.parse(text), headers: response.headers };
}
