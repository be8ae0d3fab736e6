import { beforeAll, describe, expect, it } from "vitest";
import type { LedgerQuery, LedgerRowView } from "@still-pine/contract/http";
import { bringInDemo } from "../testing/demo";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";
import { ledgerPageSql } from "./ledger";
import { loadLabels } from "./labels";

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW);
let home: TestYard;
let horses: { id: string; name: string }[];
beforeAll(async () => {
  home = yard();
  horses = await bringInDemo(home);
});

const page = async (query: string) => (await call(`${home.url}/api/ledger?${query}`, "GET")).body;
const sums = async (query = "") => (await call(`${home.url}/api/ledger/sums?${query}`, "GET")).body;

async function allRows(filter: string): Promise<LedgerRowView[]> {
  const rows: LedgerRowView[] = [];
  for (let after: string | null = ""; after !== null;) {
    const one = await page(`${filter}&limit=37${after ? `&after=${after}` : ""}`);
    rows.push(...one.rows);
    after = one.next;
  }
  return rows;
}

describe("the ledger", () => {
  it("holds every outing and event of the yard once, the latest first", async () => {
    const rows = await allRows("");
    const records = await Promise.all(
      horses.map(async ({ id }) => (await fetch(`${home.url}/api/horses/${id}/record`)).json() as Promise<any>),
    );
    const ids = records.flatMap((record) => [
      ...record.horseEvents.map((one: any) => one.id),
      ...record.outings.flatMap((outing: any) => [outing.id, ...outing.events.map((one: any) => one.id)]),
    ]);
    expect(rows.map((row) => row.id).toSorted()).toEqual(ids.toSorted());
    const order = rows.map((row) => `${row.day} ${row.at}`);
    expect(order).toEqual(order.toSorted().toReversed());
  });

  it("adds up: rows a day, outings, minutes, asks by side, under any filter", async () => {
    const [horse] = horses;
    for (const filter of [
      "",
      `horse=${horse?.id}`,
      "step=flex",
      "side=off&step=yield-hind",
      "kind=sign",
      "kind=outing",
      "handler=M&from=2026-06-01",
      "place=Nowhere",
    ]) {
      const rows = await allRows(filter);
      const sum = await sums(filter);
      expect([filter, sum.rows]).toEqual([filter, rows.length]);
      expect(sum.days.reduce((all: number, [, count]: [string, number]) => all + count, 0)).toBe(rows.length);
      const asks = rows.filter((row) => row.kind === "ask" && !row.voided);
      const series = rows.filter((row) => row.kind === "series" && !row.voided);
      const counted = asks.length + series.reduce((all, row) => all + Number((row.event as any).count), 0);
      expect([filter, sum.asks]).toEqual([filter, counted]);
      expect(sum.sides.near + sum.sides.off + sum.sides.none).toBe(sum.asks);
      const outings = new Set(rows.flatMap((row) => row.outing ?? []));
      expect([filter, sum.outings]).toEqual([filter, outings.size]);
    }
    const own = (await allRows("kind=outing")).reduce((all, row) => all + row.minutes, 0);
    expect((await sums()).minutes).toBe(own);
  });

  it("begins at any row by its day and the rows before it", async () => {
    const rows = await allRows("");
    const { days } = await sums();
    let before = 0;
    for (const [day, count] of days as [string, number][]) {
      const skip = Math.floor(count / 2);
      const found = (await page(`day=${day}&skip=${skip}&limit=3`)).rows.map((row: LedgerRowView) => row.id);
      expect(found).toEqual(rows.slice(before + skip, before + skip + 3).map((row) => row.id));
      before += count;
    }
  });

  it("shows what counts now: corrected, or struck out and not counted", async () => {
    const [row] = (await page("kind=ask&limit=1")).rows;
    const before = await sums();
    const correct = (id: string, change: object) =>
      call(`${home.url}/api/events`, "POST", {
        events: [
          {
            horse: row.horse,
            outing: row.outing,
            event: { id, at: NOW, type: "correction", replaces: row.id, ...change },
          },
        ],
      });
    await correct("lc1", { with: { mood: 2 } });
    expect((await page("kind=ask&limit=1")).rows[0]).toMatchObject({
      corrected: true,
      voided: false,
      event: { mood: 2 },
    });
    await correct("lc2", { void: true });
    expect((await page("kind=ask&limit=1")).rows[0]).toMatchObject({ corrected: true, voided: true });
    expect((await sums()).asks).toBe(before.asks - 1);
  });

  it("is read by an index at any depth and filter, never by going through the table", async () => {
    const labels = await loadLabels(home.db, home.yard.id);
    await home.asOwner("analyze");
    const deep = (await page("limit=400")).next;
    const queries: LedgerQuery[] = [
      {},
      { after: deep },
      { horse: horses[0]?.id, after: deep },
      { step: "flex", after: deep },
      { kind: "sign", after: deep },
      { place: "Round pen", after: deep },
      { handler: "M", after: deep },
      { day: "2026-06-01", skip: 20 },
      { from: "2026-05-01", to: "2026-06-05" },
    ];
    for (const query of queries) {
      const { text, values } = ledgerPageSql(home.yard.id, query, labels);
      const client = await home.db.connect();
      try {
        // A small table is read whole whatever it costs; this asks whether an index fits.
        await client.query("set enable_seqscan = off");
        await client.query("set enable_bitmapscan = off");
        const { rows } = await client.query<{ "QUERY PLAN": string }>(`explain ${text}`, values);
        const plan = rows.map((row) => row["QUERY PLAN"]).join("\n");
        expect([query, plan]).toEqual([query, expect.stringMatching(/Index.* Scan.* on ledger l/)]);
        expect([query, /Seq Scan/.test(plan)]).toEqual([query, false]);
        // In the order of the index: nothing is sorted below the limit.
        expect([query, /Limit[\s\S]*Sort[\s\S]*on ledger l/.test(plan)]).toEqual([query, false]);
      } finally {
        client.release(true);
      }
    }
  });
});

describe("other hot queries", () => {
  it("are read by an index", async () => {
    const hot: [string, unknown[]][] = [
      ["select body from event where yard_id = $1 and outing_id = any($2)", [home.yard.id, ["a"]]],
      ["select body from event where yard_id = $1 and horse_id = $2", [home.yard.id, "a"]],
      ["select body from event where yard_id = $1 and horse_id = $2 and outing_id is null", [home.yard.id, "a"]],
      [
        "select body from event where yard_id = $1 and type = 'correction' and body ->> 'replaces' = any($2)",
        [home.yard.id, ["a"]],
      ],
      ["select fold from horse_state where yard_id = $1 and horse_id = $2", [home.yard.id, "a"]],
      [
        "select id from outing where yard_id = $1 and horse_id = $2 order by started_at desc, id desc limit 60",
        [home.yard.id, "a"],
      ],
    ];
    const client = await home.db.connect();
    try {
      await client.query("set enable_seqscan = off");
      for (const [text, values] of hot) {
        const { rows } = await client.query<{ "QUERY PLAN": string }>(`explain ${text}`, values);
        const plan = rows.map((row) => row["QUERY PLAN"]).join("\n");
        expect([text, plan]).toEqual([text, expect.stringMatching(/Index/)]);
        expect(plan).not.toMatch(/Seq Scan/);
      }
    } finally {
      client.release(true);
    }
  });
});
