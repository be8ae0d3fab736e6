import { Pool, types, type PoolClient } from "pg";

/** A calendar day stays the string it is; node-postgres would make a local midnight of it. */
const DATE_OID = 1082;
types.setTypeParser(DATE_OID, (text) => text);

export type Db = Pool | PoolClient;

export function createPool(connectionString: string): Pool {
  const pool = new Pool({ connectionString, max: 10, connectionTimeoutMillis: 5000, statement_timeout: 30_000 });
  // An idle connection lost to a database restart is replaced at the next query.
  pool.on("error", () => undefined);
  return pool;
}

/** Runs `work` in one transaction; any error rolls all of it back. */
export async function inTransaction<Result>(
  pool: Pool,
  work: (client: PoolClient) => Promise<Result>,
): Promise<Result> {
  const client = await pool.connect();
  try {
    await client.query("begin");
    const result = await work(client);
    await client.query("commit");
    client.release();
    return result;
  } catch (cause) {
    await client.query("rollback").catch(() => undefined);
    client.release(cause instanceof Error && "fatal" in cause);
    throw cause;
  }
}
