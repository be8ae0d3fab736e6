import { Client } from "pg";
import { Trouble } from "../cluster/trouble";

/**
 * Who works with a database: any number of servers, or one program that puts another database in its place or makes what is
 * derived anew. A claim is a lock the database gives up by itself when whoever holds it is gone.
 */
const CLAIM = 7_463_002;
const LOOK_AGAIN_MS = 2000;

const IN_USE = "Still Pine runs on this database: stop it first, then try again.";

async function holding(url: string, how: "alone" | "shared"): Promise<Client | null> {
  const client = new Client({ connectionString: url });
  client.on("error", () => undefined);
  await client.connect();
  const lock = how === "alone" ? "pg_try_advisory_lock" : "pg_try_advisory_lock_shared";
  const { rows } = await client.query<{ isOurs: boolean }>(`select ${lock}($1) as "isOurs"`, [CLAIM]);
  if (rows[0]?.isOurs) return client;
  await client.end();
  return null;
}

/** Claims a database for one program alone. @returns gives it back @throws Trouble where a server runs on it */
export async function claimAlone(url: string): Promise<() => Promise<void>> {
  const client = await holding(url, "alone");
  if (!client) throw new Trouble(IN_USE);
  return () => client.end();
}

/**
 * Claims a database for a server, and goes on doing so where the connection is lost: the database may be started again under it.
 *
 * @returns gives it back
 * @throws Trouble where a program works on it alone
 */
export async function claimAsServer(url: string): Promise<() => Promise<void>> {
  let client = await holding(url, "shared");
  if (!client)
    throw new Trouble(
      "Another program works on this database alone (a restore, or a new demo yard): wait for its end, then start again.",
    );
  let isOver = false;
  const watch = (held: Client): void =>
    void held.once("end", () => {
      client = null;
      if (!isOver) setTimeout(again, LOOK_AGAIN_MS).unref();
    });
  const again = (): void =>
    void holding(url, "shared").then(
      (held) => {
        if (!held || isOver) {
          void held?.end();
          if (!isOver) setTimeout(again, LOOK_AGAIN_MS).unref();
          return;
        }
        client = held;
        watch(held);
      },
      () => void setTimeout(again, LOOK_AGAIN_MS).unref(),
    );
  watch(client);
  return async () => {
    isOver = true;
    await client?.end();
  };
}
