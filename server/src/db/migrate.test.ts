import { readFileSync } from "node:fs";
import type { Pool } from "pg";
import { parseRecord } from "@still-pine/contract/record";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { throwAwayCluster, type ThrowAwayCluster } from "../testing/throw-away";
import { rebuildMissing, rebuildYard } from "../read-models/rebuild";
import { readModelsAsText } from "../testing/read-models";
import { recordPieces } from "../store/export";
import { listDevices } from "../store/devices";
import { findHorse } from "../store/horses";
import { findPlan } from "../store/live";
import { takeEvents } from "../recording/take-events";
import { loadYard } from "../store/yard";
import { filedApart } from "../store/owners";
import { ANSWERS } from "@still-pine/contract/views";
import { storedYard, stringText } from "../views/stored-yard";
import { migrate } from "./migrate";
import { createPool, inSnapshot } from "./pool";
import { withClient } from "./with-client";

let cluster: ThrowAwayCluster;
beforeAll(async () => {
  cluster = await throwAwayCluster();
});
afterAll(() => cluster?.remove());

/** The version of the program by whose edition of the catalogue he goes is said since there are several; all else is as it was. */
const withVersion = (text: string): string =>
  text.replace('"program":{"id":"loose-pen-start"}', '"program":{"version":2,"id":"loose-pen-start"}');

async function textOf(pieces: AsyncIterable<string>): Promise<string> {
  let all = "";
  for await (const piece of pieces) all += piece;
  return all;
}

/** Says of a horse's asks from before rungs could be said that they were made in full. */
async function sayInFull(pool: Pool, horse: string, steps: readonly string[], at: string): Promise<void> {
  const yard = await loadYard(pool);
  if (!yard) throw new Error("no yard");
  const events = steps.map((step) => ({
    horse,
    outing: null,
    event: { id: `${horse}-${step}-full`, at, type: "in-full", step },
  }));
  const { results } = await takeEvents(pool, yard, events, "2026-06-20T12:00:00Z");
  expect(results.map(({ result }) => result)).toEqual(steps.map(() => "stored"));
}

describe("migrations", () => {
  it("run once, and two programs at a time do not hurt each other", async () => {
    const url = await cluster.database();
    const both = await Promise.all([withClient(url, migrate), withClient(url, migrate)]);
    expect(both.flat()).toEqual([
      "0001_first",
      "0002_whole_record",
      "0003_phones",
      "0004_programs",
      "0005_owners",
      "0006_columns",
      "0007_editions",
      "0008_words_anew",
    ]);
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

  it("take up a dump from the end of the first slice: the same record, and read models made for it", async () => {
    const url = await cluster.database();
    const read = (name: string): string => readFileSync(new URL(`fixtures/${name}`, import.meta.url), "utf8");
    await withClient(url, (client) => client.query(read("after-first-slice.sql")));
    expect(await withClient(url, migrate)).toEqual([
      "0002_whole_record",
      "0003_phones",
      "0004_programs",
      "0005_owners",
      "0006_columns",
      "0007_editions",
      "0008_words_anew",
    ]);
    const pool = createPool(url);
    try {
      const yard = await loadYard(pool);
      if (!yard) throw new Error("no yard");
      expect(yard).toMatchObject({ name: "My yard", units: "metric", words: "american", version: 1 });
      expect(await rebuildMissing(pool, yard, "2026-05-20T18:00:00Z")).toBe(1);
      const horse = await findHorse(pool, yard.id, "h-2");
      if (!horse) throw new Error("no horse");
      const text = await inSnapshot(pool, async (client) => textOf(recordPieces(client, yard, horse)));
      expect(text).toBe(withVersion(read("after-first-slice-record.json")));
      const { horses } = JSON.parse(await stringText(pool, yard, "2026-05-20T18:00:00Z"));
      expect(horses[0]).toMatchObject({ name: "Sedge", inWork: false, workDays: 4, lastOuting: "2026-05-14" });
      const { rows } = await pool.query("select count(*)::int as n from ledger");
      expect(rows[0].n).toBe(4 + 24 + 1 + 1);
    } finally {
      await pool.end();
    }
  });

  it("take up a dump from the end of the pen: the same record, the same verdicts, and it goes on", async () => {
    const url = await cluster.database();
    const read = (name: string): string => readFileSync(new URL(`fixtures/${name}`, import.meta.url), "utf8");
    await withClient(url, (client) => client.query(read("after-the-pen.sql")));
    expect(await withClient(url, migrate)).toEqual([
      "0003_phones",
      "0004_programs",
      "0005_owners",
      "0006_columns",
      "0007_editions",
      "0008_words_anew",
    ]);
    const pool = createPool(url);
    try {
      const yard = await loadYard(pool);
      if (!yard) throw new Error("no yard");
      // The judge keeps more of the past since check-ups: what was gathered then is gathered anew.
      expect(await rebuildMissing(pool, yard, "2026-06-01T12:00:00Z")).toBe(1);
      const horse = await findHorse(pool, yard.id, "h-5");
      if (!horse) throw new Error("no horse");
      expect(await inSnapshot(pool, async (client) => textOf(recordPieces(client, yard, horse)))).toBe(
        withVersion(read("after-the-pen-record.json")),
      );
      const { horses } = JSON.parse(await stringText(pool, yard, "2026-06-01T12:00:00Z"));
      expect(horses[0]).toMatchObject({ name: "Sorrel", inWork: false, workDays: 3, lastOuting: "2026-05-22" });
      // What came before has its order of coming in, and what comes now comes after it.
      const { rows } = await pool.query(
        "select count(distinct arrival)::int as n, max(arrival)::int as last from event",
      );
      expect(rows[0].n).toBe(34);
      const event = { id: "new", at: "2026-06-01T10:00:00Z", type: "note", text: "n" };
      await takeEvents(pool, yard, [{ horse: "h-5", outing: "pen-2", event }], "2026-06-01T12:00:00Z");
      const late = await pool.query("select arrival::int as arrival from event where id = 'new'");
      expect(late.rows[0].arrival).toBeGreaterThan(rows[0].last);
    } finally {
      await pool.end();
    }
  });

  it("take up a dump from the end of the phones: the same record, pairs and plan, and who is let in stays so", async () => {
    const url = await cluster.database();
    const read = (name: string): string => readFileSync(new URL(`fixtures/${name}`, import.meta.url), "utf8");
    await withClient(url, (client) => client.query(read("after-the-phones.sql")));
    expect(await withClient(url, migrate)).toEqual([
      "0004_programs",
      "0005_owners",
      "0006_columns",
      "0007_editions",
      "0008_words_anew",
    ]);
    const pool = createPool(url);
    const now = "2026-06-20T12:00:00Z";
    try {
      const yard = await loadYard(pool);
      if (!yard) throw new Error("no yard");
      expect(await rebuildMissing(pool, yard, now)).toBe(1);
      const horse = await findHorse(pool, yard.id, "h-6");
      if (!horse) throw new Error("no horse");
      expect(await inSnapshot(pool, async (client) => textOf(recordPieces(client, yard, horse)))).toBe(
        withVersion(read("after-the-phones-record.json")),
      );
      const lineOf = async () => JSON.parse(await stringText(pool, yard, now)).horses[0];
      expect(await lineOf()).toMatchObject({ name: "Whinchat", workDays: 3, lastOuting: "2026-06-15" });
      expect((await lineOf()).trail).toMatchObject([{ step: "yield-hind", status: "begun" }]);
      // Of what two devices saw each ask counts once, by the same words as before, if surer by the long record, once it is said to have been in full.
      await sayInFull(pool, "h-6", ["yield-hind"], now);
      expect((await lineOf()).trail).toEqual([
        {
          step: "yield-hind",
          status: "coming",
          sides: { near: { status: "coming", sure: 0.383133 }, off: { status: "coming", sure: 0.383133 } },
        },
      ]);
      const devices = await listDevices(pool, yard.id, now);
      expect(devices.map(({ name, rights, outing }) => [name, rights, outing]).toSorted()).toEqual([
        ["Pen phone", "all", null],
        ["Rail phone", "write", "two-2"],
      ]);
      expect(await findPlan(pool, yard.id, "two-2")).toMatchObject({ horse: "h-6", known: ["yield-hind"] });
    } finally {
      await pool.end();
    }
  });

  it("take up a dump in which two horses have one outing: the first entry's horse keeps it, the other's is filed apart", async () => {
    const url = await cluster.database();
    await withClient(url, (client) =>
      client.query(readFileSync(new URL("fixtures/after-the-programs.sql", import.meta.url), "utf8")),
    );
    const idsOf = async (): Promise<unknown[]> =>
      (await withClient(url, (client) => client.query("select id, body from event order by id"))).rows;
    const before = await idsOf();
    expect(await withClient(url, migrate)).toEqual(["0005_owners", "0006_columns", "0007_editions", "0008_words_anew"]);
    expect(await idsOf()).toEqual(before);
    const pool = createPool(url);
    const now = "2026-06-20T12:00:00Z";
    try {
      const yard = await loadYard(pool);
      if (!yard) throw new Error("no yard");
      expect(await rebuildMissing(pool, yard, now)).toBe(2);
      const apart = filedApart({ horse: "h-8", outing: "shared-2" });
      const { rows } = await pool.query(
        "select distinct horse_id, outing_id from event where outing_id ~ 'shared' order by 1, 2",
      );
      expect(rows.map(({ horse_id, outing_id }) => [horse_id, outing_id])).toEqual([
        ["h-7", "shared-1"],
        ["h-7", "shared-2"],
        ["h-8", apart],
      ]);
      // A phone that still has it under the shared id goes on with its own horse's.
      const event = { id: "late", at: "2026-06-12T09:03:00Z", type: "note", text: "late" };
      const sent = await takeEvents(pool, yard, [{ horse: "h-8", outing: "shared-2", event }], now);
      expect(sent.results[0]?.result).toBe("stored");
      const again = await takeEvents(pool, yard, [{ horse: "h-8", outing: "shared-2", event }], now);
      expect(again.results[0]?.result).toBe("already there");
      for (const [id, outing] of [
        ["h-7", "shared-2"],
        ["h-8", "shared-2"],
        ["h-8", apart],
      ] as const)
        expect(
          (await ANSWERS.outing(storedYard(pool, yard, now), { params: { horse: id, outing }, query: undefined }))
            ?.entries.length,
        ).toBe(id === "h-7" ? 2 : 3);
      const stored = await readModelsAsText(pool);
      expect(await rebuildYard(pool, yard, now)).toBe(2);
      expect(await readModelsAsText(pool)).toEqual(stored);
      // What goes out comes in again: a year mistyped is no reason to lose a yard.
      for (const id of ["h-7", "h-8"]) {
        const horse = await findHorse(pool, yard.id, id);
        if (!horse) throw new Error("no horse");
        const text = await inSnapshot(pool, async (client) => textOf(recordPieces(client, yard, horse)));
        expect(parseRecord(JSON.parse(text), now)).toMatchObject({ ok: true });
      }
    } finally {
      await pool.end();
    }
  });

  it("take up a dump from before what is searched had columns: the same record, the same String, and it goes on", async () => {
    const url = await cluster.database();
    const read = (name: string): string => readFileSync(new URL(`fixtures/${name}`, import.meta.url), "utf8");
    await withClient(url, (client) => client.query(read("before-the-columns.sql")));
    expect(await withClient(url, migrate)).toEqual(["0006_columns", "0007_editions", "0008_words_anew"]);
    const pool = createPool(url);
    const now = "2026-06-20T12:00:00Z";
    try {
      const yard = await loadYard(pool);
      if (!yard) throw new Error("no yard");
      // A former judge kept less of the past: what it derived is derived anew.
      expect(await rebuildMissing(pool, yard, now)).toBe(2);
      // Nobody could say a rung then, so that every ask counts for the smallest.
      const { horses } = JSON.parse(await stringText(pool, yard, now)) as { horses: { trail: { status: string }[] }[] };
      expect(horses.flatMap(({ trail }) => trail.map(({ status }) => status))).toEqual(["begun", "begun", "begun"]);
      const stored = await readModelsAsText(pool);
      expect(await rebuildYard(pool, yard, now)).toBe(2);
      expect(await readModelsAsText(pool)).toEqual(stored);
      const horse = await findHorse(pool, yard.id, "h-7");
      if (!horse) throw new Error("no horse");
      expect(await inSnapshot(pool, async (client) => textOf(recordPieces(client, yard, horse)))).toBe(
        withVersion(read("before-the-columns-record.json")),
      );
      const { rows } = await pool.query(
        "select id, replaces, is_live, program_id from event where replaces is not null or program_id is not null order by id",
      );
      expect(rows).toEqual([
        { id: "fix", replaces: "ask-near-0", is_live: true, program_id: null },
        { id: "gone", replaces: "ask-off-0", is_live: true, program_id: null },
        { id: "last-1:start", replaces: null, is_live: true, program_id: "in-hand-classical-start" },
        { id: "moves", replaces: null, is_live: false, program_id: "in-hand-classical-start" },
      ]);
      // Said to have been asked in full, it says what it said then, but for what the long record makes of the same asks.
      await sayInFull(pool, "h-7", ["flex", "yield-hind"], now);
      // One of its asks is of a mistyped year.
      await sayInFull(pool, "h-8", ["flex"], "2062-07-01T00:00:00Z");
      expect(await stringText(pool, yard, now)).toBe(read("before-the-columns-string.json"));
      const event = { id: "late", at: "2026-06-18T09:21:00Z", type: "note", text: "late" };
      const sent = await takeEvents(pool, yard, [{ horse: "h-7", outing: "last-1", event }], now);
      expect(sent.results[0]?.result).toBe("stored");
    } finally {
      await pool.end();
    }
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
