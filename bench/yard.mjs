// A yard of 300 horses and 1,000,000 asks: its string, a record, the ledger, batches, fifty pens, a long export.
import { execFileSync } from "node:child_process";
import { chmodSync, mkdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { pathToFileURL } from "node:url";
import compression from "compression";
import express from "express";
import pg from "pg";
import { rolldown } from "rolldown";
import { inRounds, inTurn, median, ms, paired, timed, undisturbed } from "./measure.mjs";
import { startServer } from "./running.mjs";
import { blockedByString } from "./screens.mjs";

const HORSES = 300;
const OUTINGS = 84;
const ASKS = 40;
const DAYS_BETWEEN = 87;
const NOW = "2026-06-01T12:00:00Z";
const LONG = { outings: 5000, asks: 40 };
/** A server that is asked has been asked before; the database's part of an answer is as quick the first time. */
const WARM_UPS = 20;

const quantile = (values, share) =>
  values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))];
const mb = (bytes) => `${Math.round(bytes / 1024 / 1024)} MB`;

async function serverParts(root, scratch) {
  const build = await rolldown({
    input: path.join(root, "bench/server-entry.ts"),
    platform: "node",
    external: [/^node:/, "pg-native"],
    moduleTypes: { ".sql": "text" },
    resolve: { mainFields: ["module", "main"] },
    logLevel: "silent",
  });
  const file = path.join(scratch, "server.mjs");
  await build.write({ file, format: "esm" });
  return import(pathToFileURL(file).href);
}

/** The yard's events as SQL makes them; then everything derived, as bin/rebuild does. */
async function makeYard(root, folder, parts) {
  const cluster = await parts.startCluster(folder);
  const client = new pg.Client({ connectionString: cluster.url });
  await client.connect();
  await parts.migrate(client);
  await parts.prepareServerRole(client);
  const pool = parts.createPool(cluster.url);
  const yard = await parts.createYard(pool, "Large yard", "Europe/Dublin");
  const sql = readFileSync(path.join(root, "bench/large-yard.sql"), "utf8");
  const fill = (text, numbers) =>
    text
      .replaceAll(":yard", `'${yard.id}'`)
      .replaceAll(":horses", numbers.horses)
      .replaceAll(":outings", numbers.outings)
      .replaceAll(":asks", numbers.asks)
      .replaceAll(":days_between", numbers.between);
  const making = await timed(() =>
    client.query(fill(sql, { horses: HORSES, outings: OUTINGS, asks: ASKS, between: DAYS_BETWEEN })),
  );
  // One horse more, with 200,000 asks.
  const long = sql
    .slice(sql.indexOf("insert into horse"))
    .replaceAll("generate_series(1, :horses)", "generate_series(9999, 9999)");
  await client.query(fill(long, { horses: 1, outings: LONG.outings, asks: LONG.asks, between: 1 }));
  const rebuilding = await timed(() => parts.rebuildYard(pool, yard, NOW));
  await client.query("vacuum analyze");
  console.log(`     (made in ${ms(making)}, derived anew in ${ms(rebuilding)})`);
  await pool.end();
  await client.end();
  await cluster.stop();
  // A million rows that are still on their way to the disk would hold up everything that is measured.
  execFileSync("sync");
  return yard;
}

const rssOf = (pid) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))[1]) * 1024;
const read = async (url) => (await fetch(url)).arrayBuffer();
const post = async (url, events) => {
  const response = await fetch(`${url}/api/events`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ events }),
  });
  const { results } = await response.json();
  if (!results?.every((one) => one.result === "stored")) throw new Error(`not stored: ${JSON.stringify(results?.[0])}`);
};

export async function measureYard(root, scratch, report) {
  const folder = path.join(scratch, "yard");
  mkdirSync(folder);
  chmodSync(folder, 0o755);
  const parts = await serverParts(root, scratch);
  const yard = await makeYard(root, folder, parts);
  const server = await startServer(root, folder, { STILLPINE_NOW: NOW });
  const { url } = server;
  const port = readFileSync(path.join(folder, "cluster/postmaster.pid"), "utf8").split("\n")[3];
  const pool = new pg.Pool({
    host: "127.0.0.1",
    port: Number(port),
    user: "still_pine",
    database: "still_pine",
    password: readFileSync(path.join(folder, "password"), "utf8").trim(),
  });
  try {
    await string(url, pool, yard, report);
    await blockedByString(url, report);
    await record(url, pool, yard, report);
    await ledger(url, report);
    await batches(url, pool, yard, report);
    await pens(server, report);
    await exporting(server, report);
  } finally {
    await pool.end();
    await server.stop();
  }
}

async function string(url, pool, yard, report) {
  const bare = express();
  bare.use(compression());
  bare.get("/", async (_request, response) => {
    const { rows } = await pool.query("select line::text as line from horse_state where yard_id = $1", [yard.id]);
    response.type("json").send(`[${rows.map((row) => row.line).join(",")}]`);
  });
  const listening = bare.listen(0, "127.0.0.1");
  await new Promise((resolve) => listening.once("listening", resolve));
  const floor = `http://127.0.0.1:${listening.address().port}/`;
  const {
    measured: ours,
    floor: theirs,
    ratio,
    spread,
  } = await inTurn(
    21,
    () => read(`${url}/api/string`),
    () => read(floor),
    WARM_UPS,
  );
  listening.close();
  report(
    "the String's API, 301 horses",
    "a bare handler that selects the same bytes",
    ms(ours),
    ms(theirs),
    ratio,
    3,
    spread,
  );
}

async function record(url, pool, yard, report) {
  const horse = "horse-0007";
  const {
    measured: ours,
    floor: theirs,
    ratio,
    spread,
  } = await inTurn(
    21,
    () => read(`${url}/api/horses/${horse}/record`),
    () => pool.query("select body from event where yard_id = $1 and horse_id = $2", [yard.id, horse]),
    WARM_UPS,
  );
  report("one horse's record, 3,360 asks", "the bare select of its rows", ms(ours), ms(theirs), ratio, 3, spread);
}

async function ledger(url, report) {
  const page = async (query) => await (await fetch(`${url}/api/ledger?${query}`)).json();
  let worst = { ratio: 0 };
  for (const filter of [
    "",
    "horse=horse-0007",
    "step=flex",
    "kind=ask",
    "kind=outing",
    "place=Round+pen",
    "handler=N",
    "side=off&step=flex",
  ]) {
    const { days } = await (await fetch(`${url}/api/ledger/sums?${filter}`)).json();
    for (const share of [0.1, 0.5, 0.99]) {
      const [day, rows] = days[Math.floor((days.length - 1) * share)];
      const jump = `${filter}&day=${day}&skip=${Math.floor(rows / 2)}`;
      const after = (await page(`${jump}&limit=10`)).next;
      for (const deep of [jump, `${filter}&after=${after}`]) {
        const {
          measured: ours,
          floor: theirs,
          ratio,
          spread,
        } = await inTurn(
          7,
          () => page(deep),
          () => page(filter),
        );
        if (ratio > worst.ratio) worst = { ratio, spread, ours, theirs, what: deep.replace(/after=[^&]+/, "after=…") };
      }
    }
  }
  console.log(`     (the slowest ledger page: ${worst.what})`);
  report(
    "a ledger page at any depth and filter, the slowest of 48",
    "the first page of that filter",
    ms(worst.ours),
    ms(worst.theirs),
    worst.ratio,
    3,
    worst.spread,
  );
  const sums = await timed(() => read(`${url}/api/ledger/sums?`));
  console.log(`     (sums of the whole ledger, for information: ${ms(sums)})`);
}

const askAt = (horse, outing, n, at) => ({
  horse,
  outing,
  event: {
    id: `${outing}-${n}`,
    at: new Date(at + n * 4000).toISOString(),
    type: "ask",
    step: "share-space",
    side: "none",
    answer: "gave",
    mood: 1,
  },
});

/** Batches of 500 into fresh outings; the same rows bare, in the same tables, then taken back. */
async function batches(url, pool, yard, report) {
  const rounds = await inRounds(
    12,
    async (run) => {
      const horse = `horse-00${10 + run}`;
      const outing = `batch-${run}`;
      const at = Date.UTC(2026, 4, 20, 9);
      const events = Array.from({ length: 500 }, (_, n) => askAt(horse, outing, n, at));
      return [await timed(() => post(url, events)), await bareInserts(pool, yard, outing)];
    },
    WARM_UPS / 2,
  );
  const { measured, floor, ratio, spread } = paired(rounds);
  report(
    "a batch of 500 asks, stored and judged",
    "bare multi-row inserts of the same rows into the same tables",
    ms(measured),
    ms(floor),
    ratio,
    3,
    spread,
  );
}

const INTO = ["event", "ledger"];

/** The rows that a batch left, under other ids, inserted again by nothing but the inserts; then taken back. */
async function bareInserts(pool, yard, outing) {
  const client = await pool.connect();
  try {
    const inserts = [];
    for (const table of INTO) {
      const { rows } = await client.query(`select * from ${table} where yard_id = $1 and outing_id = $2`, [
        yard.id,
        outing,
      ]);
      // What the database works out by itself is not inserted.
      const { rows: plain } = await client.query(
        "select column_name::text as name from information_schema.columns where table_name = $1 and is_generated = 'NEVER' and is_identity = 'NO' order by ordinal_position",
        [table],
      );
      const names = plain.map(({ name }) => name);
      const types = await typesOf(client, table, names);
      const cell = (row, name) => {
        if (name === "id") return `bare-${row.id}`;
        return name === "body" ? JSON.stringify(row.body) : row[name];
      };
      inserts.push({
        text: `insert into ${table} (${names.join(", ")})
          select * from unnest(${types.map((type, index) => `$${index + 1}::${type}[]`).join(", ")})`,
        values: names.map((name) => rows.map((row) => cell(row, name))),
      });
    }
    const time = await timed(async () => {
      await client.query("begin");
      for (const insert of inserts) await client.query(insert);
    });
    await client.query("rollback");
    return time;
  } finally {
    client.release();
  }
}

async function typesOf(client, table, names) {
  const { rows } = await client.query(
    "select attname, format_type(atttypid, null) as type from pg_attribute where attrelid = $1::regclass and attnum > 0",
    [table],
  );
  return names.map((name) => rows.find((row) => row.attname === name).type);
}

const PENS = 50;
const ENTRIES = 30;

/** Fifty pens for a minute. @param run its number: each has outings of its own */
async function minuteOfPens({ url, pid }, run) {
  const at = Date.UTC(2026, 4, 25, 9);
  const alone = [];
  for (let n = 0; n < 60; n += 1)
    alone.push(await timed(() => post(url, [askAt("horse-0100", `alone-${run}`, n, at)])));
  const before = rssOf(pid);
  const times = [];
  const outing = (number) => `pen-${run}-${number}`;
  const pen = async (number) => {
    await sleep((number * 2000) / PENS);
    for (let n = 0; n < ENTRIES; n += 1) {
      const took = await timed(() => post(url, [askAt(`horse-0${150 + number}`, outing(number), n, at)]));
      times.push(took);
      await sleep(Math.max(0, 2000 - took));
    }
  };
  await Promise.all(Array.from({ length: PENS }, (_, number) => pen(number)));
  const after = rssOf(pid);
  let stored = 0;
  for (let number = 0; number < PENS; number += 1)
    stored += (await (await fetch(`${url}/api/horses/horse-0${150 + number}/outings/${outing(number)}`)).json()).entries
      .length;
  if (stored !== PENS * ENTRIES) throw new Error(`${PENS * ENTRIES - stored} events of fifty pens are lost`);
  return { p99: quantile(times, 0.99), alone: median(alone), before, after };
}

async function pens(server, report) {
  const { p99, alone, before, after } = await undisturbed((run) => minuteOfPens(server, run));
  report("50 pens for a minute, p99 of an event", "p50 of one pen alone", ms(p99), ms(alone), p99 / alone, 20);
  console.log(`     (1,500 events, none lost; memory ${mb(before)} before, ${mb(after)} after)`);
  report("server's memory after the 50 pens", "before them", mb(after), mb(before), after / before, 1.5);
}

async function exporting(server, report) {
  await sleep(3000);
  const idle = rssOf(server.pid);
  let most = idle;
  const watch = setInterval(() => (most = Math.max(most, rssOf(server.pid))), 10);
  let bytes = 0;
  const began = performance.now();
  const response = await fetch(`${server.url}/api/horses/horse-9999/record`, {
    headers: { "Accept-Encoding": "identity" },
  });
  for await (const piece of response.body) bytes += piece.length;
  const took = performance.now() - began;
  clearInterval(watch);
  report(
    `export of a 200,000-ask horse (${mb(bytes)} in ${ms(took)}): memory above idle`,
    "150 MB",
    mb(most - idle),
    "150 MB",
    (most - idle) / (150 * 1024 * 1024),
    1,
  );
}
