import type { Response } from "express";
import type { Pool, PoolClient } from "pg";
import { inSnapshot } from "../db/pool";
import { spool } from "./spool";

/**
 * Reads one moment of the database into a spool, gives its connection back, and only then sends what was read.
 *
 * @param work sets the answer's headers and gives its pieces
 */
export async function laidDown(
  db: Pool,
  response: Response,
  work: (client: PoolClient) => Promise<AsyncIterable<string | Buffer>>,
): Promise<void> {
  const spooled = await inSnapshot(db, async (client) => spool(await work(client), () => !response.destroyed));
  if (!spooled) return;
  response.set("Content-Length", String(spooled.bytes));
  await spooled.send(response);
}
