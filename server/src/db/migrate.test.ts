import { Client } from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { throwAwayCluster, type ThrowAwayCluster } from "../testing/throw-away";
import { migrate } from "./migrate";

let cluster: ThrowAwayCluster;
beforeAll(async () => {
  cluster = await throwAwayCluster();
});
afterAll(() => cluster?.remove());

async function withClient<Result>(url: string, work: (client: Client) => Promise<Result>): Promise<Result> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

describe("migrations", () => {
  it("run once, and two programs at a time do not hurt each other", async () => {
    const url = await cluster.database();
    const both = await Promise.all([withClient(url, migrate), withClient(url, migrate)]);
    expect(both.flat()).toEqual(["0001_first", "0002_whole_record"]);
    expect(await withClient(url, migrate)).toEqual([]);
  });

  it("refuse a database that is newer, and a landed migration that was changed", async () => {
    const url = await cluster.database();
    await withClient(url, migrate);
    await withClient(url, (client) => client.query("update migration set checksum = 'x'"));
    await expect(withClient(url, migrate)).rejects.toThrow("0001_first was changed after it had been applied");
    await withClient(url, (client) =>
      client.query("insert into migration (name, checksum) values ('9999_later', 'y')"),
    );
    await expect(withClient(url, migrate)).rejects.toThrow("newer than this program (it has 9999_later)");
  });

  it("every table of the yard's has yard_id first in its key", async () => {
    const url = await cluster.database();
    await withClient(url, migrate);
    const { rows } = await withClient(url, (client) =>
      client.query<{ table: string; first: string }>(
        `select c.relname as table, a.attname as first from pg_index i join pg_class c on c.oid = i.indrelid
         join pg_attribute a on a.attrelid = c.oid and a.attnum = i.indkey[0]
         where c.relnamespace = 'public'::regnamespace and c.relname not in ('migration', 'yard')`,
      ),
    );
    expect(rows.length).toBeGreaterThanOrEqual(6);
    expect(rows.filter((row) => row.first !== "yard_id")).toEqual([]);
  });
});
