import { Pool, types, type PoolClient } from "pg";

/** A calendar day stays the string it is; node-postgres would make a local midnight of it. */
const DATE_OID = 1082;
types.setTypeParser(DATE_OID, (text) => text);

export type Db = Pool | PoolClient;

/** Connections for what is asked and answered at once, and for what takes long: neither waits for the other. */
export const CONNECTIONS = { quick: 10, heavy: 3 } as const;

/**
 * Connections for the server.
 *
 * @param role works as this role of the database from the first statement on, where it is not the one that logs in
 */
export function createPool(connectionString: string, role?: string, kind: keyof typeof CONNECTIONS = "quick"): Pool {
  const pool = new Pool({
    connectionString,
    max: CONNECTIONS[kind],
    connectionTimeoutMillis: kind === "quick" ? 5000 : 30_000,
    statement_timeout: kind === "quick" ? 60_000 : 600_000,
    // Waiting for another writer of the same horse is a matter of moments.
    lock_timeout: 20_000,
    ...(role === undefined ? {} : { options: `-c role=${role}` }),
  });
  // An idle connection lost to a database restart is replaced at the next query.
  pool.on("error", () => undefined);
  return pool;
}

/** An instant as PostgreSQL takes it: its offsets reach less far than ISO 8601's. */
export const sqlInstant = (at: string): string => new Date(at).toISOString();

/** Two transactions in each other's way: one of them is undone whole and may simply be tried again. */
const TRY_AGAIN = new Set(["40P01", "40001"]);
const TRIES = 4;

/** Runs `work` in one transaction; any error rolls all of it back. */
export async function inTransaction<Result>(
  pool: Pool,
  work: (client: PoolClient) => Promise<Result>,
): Promise<Result> {
  for (let tries = 1; ; tries += 1)
    try {
      return await once(pool, work);
    } catch (cause) {
      if (tries === TRIES || !TRY_AGAIN.has(String((cause as { code?: string }).code))) throw cause;
    }
}

/** Reads one moment of the database, however long it takes. */
export async function inSnapshot<Result>(pool: Pool, work: (client: PoolClient) => Promise<Result>): Promise<Result> {
  return once(pool, work, "begin isolation level repeatable read read only");
}

async function once<Result>(
  pool: Pool,
  work: (client: PoolClient) => Promise<Result>,
  begin = "begin",
): Promise<Result> {
  const client = await pool.connect();
  // A connection that breaks while it is ours is reported by the query that meets it.
  const ignore = (): void => undefined;
  client.on("error", ignore);
  try {
    await client.query(begin);
    const result = await work(client);
    await client.query("commit");
    client.off("error", ignore);
    client.release();
    return result;
  } catch (cause) {
    const isBroken = await client.query("rollback").then(
      () => false,
      () => true,
    );
    client.off("error", ignore);
    client.release(isBroken);
    throw cause;
  }
}
