import { Client } from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { throwAwayCluster, type ThrowAwayCluster } from "../testing/throw-away";
import { migrate } from "./migrate";
import { createPool } from "./pool";
import { logInAsServer, prepareServerRole, SERVER_ROLE } from "./roles";

let cluster: ThrowAwayCluster;
beforeAll(async () => {
  cluster = await throwAwayCluster();
});
afterAll(() => cluster?.remove());

describe("the role the server works as", () => {
  it("logs in by itself, adds to the record and changes rows, and can neither change the record nor become its owner", async () => {
    const url = await cluster.database();
    const owner = new Client({ connectionString: url });
    await owner.connect();
    await migrate(owner);
    expect(await prepareServerRole(owner)).toBe(true);
    const pool = createPool(await logInAsServer(owner, url));
    try {
      const { rows } = await pool.query("select current_user as who, session_user as login");
      expect(rows[0]).toEqual({ who: SERVER_ROLE, login: SERVER_ROLE });
      await pool.query("insert into yard (id, name, time_zone) values (gen_random_uuid(), 'Y', 'UTC')");
      for (const statement of [
        "set role still_pine",
        "alter table event disable trigger event_is_kept",
        "update event set body = '{}'",
        "delete from event",
        "delete from media",
        "delete from horse",
        "select bury_horse(gen_random_uuid(), 'x')",
        "drop table event",
        "update migration set checksum = 'x'",
        "create table mine (x int)",
      ])
        await expect(pool.query(statement)).rejects.toThrow(/permission denied|must be owner/);
      // Setting what the burial sets opens nothing.
      await expect(
        pool.query("begin; set local still_pine.burying = 'yes'; update event set body = '{}'; commit"),
      ).rejects.toThrow("permission denied");
    } finally {
      await pool.end();
      await owner.end();
    }
  });

  it("is left out, and said so, where this user may make none", async () => {
    const url = await cluster.database();
    const owner = new Client({ connectionString: url });
    await owner.connect();
    await owner.query("create role plain login password 'p'; grant all on schema public to plain");
    const address = new URL(url);
    address.username = "plain";
    address.password = "p";
    const plain = new Client({ connectionString: address.href });
    await plain.connect();
    try {
      await migrate(plain);
      expect(await prepareServerRole(plain)).toBe(false);
      await expect(plain.query("update event set type = 'x'")).rejects.toThrow("not changed in place");
    } finally {
      await plain.end();
      await owner.end();
    }
  });
});
