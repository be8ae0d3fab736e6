// Fifty pens for ten minutes, with files coming in, going out, being looked at, and readers that stop reading beside them.
import { mkdirSync, readdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { recordOf, residentMb, send } from "./imports.mjs";
import { median, ms } from "./measure.mjs";
import { stall, startServer } from "./running.mjs";

const MINUTES = Number(process.env.SOAK_MINUTES ?? 10);
const PENS = 50;
const EVERY_MS = 2000;
const ALONE = 60;
const FILE_MB = 8;
const FILES = 3;
const STALLED = 8;
/** A reader that takes nothing is cut off after a minute. */
const STALLED_EVERY_MS = 75_000;
const LOOK_EVERY_MS = 2000;

const quantile = (values, share) =>
  values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))];
const descriptors = (pid) => readdirSync(`/proc/${pid}/fd`).length;

async function post(url, body) {
  const response = await fetch(url, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(`${url}: ${response.status} ${await response.text()}`);
  return response.json();
}

const askAt = (horse, outing, n) => ({
  horse,
  outing,
  event: {
    id: `${outing}-${n}`,
    at: new Date(Date.UTC(2026, 4, 25, 9) + n * EVERY_MS).toISOString(),
    type: "ask",
    step: "flex",
    side: n % 2 ? "near" : "off",
    phase: 1,
    answer: "gave",
    mood: 1,
    device: `d-${outing}`,
    seq: n + 1,
  },
});

/** Sends an entry and says how long that took; where it is told to come again it does, as a phone would. */
async function entry(url, item) {
  const began = performance.now();
  for (;;) {
    const response = await fetch(`${url}/api/events`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ events: [item] }),
    });
    await response.arrayBuffer();
    if (response.ok) return performance.now() - began;
    if (response.status !== 503) throw new Error(`an entry was answered ${response.status}`);
    await sleep(200);
  }
}

/** @param report a row of the table */
export async function soak(root, scratch, report) {
  const folder = path.join(scratch, "soak");
  mkdirSync(folder, { mode: 0o755 });
  const server = await startServer(root, folder, {});
  const { url } = server;
  const horses = Array.from({ length: PENS + 1 }, (_, n) => `pen-${n}`);
  for (const id of horses)
    await post(`${url}/api/horses`, { id, name: id, foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" });
  const alone = [];
  for (let n = 0; n < ALONE; n += 1) alone.push(await entry(url, askAt(`pen-${PENS}`, "alone", n)));

  // Written beforehand: whoever measures does not stand in the way of what is measured.
  const written = Array.from({ length: FILES }, (_, n) => path.join(scratch, `soak-${n}.json`));
  written.forEach((file, n) => writeFileSync(file, recordOf(`file-${n}`, FILE_MB)));
  const until = Date.now() + MINUTES * 60_000;
  const isOver = () => Date.now() > until;
  const times = [];
  /** In which second each of them ended. */
  const seconds = [];
  const began = Date.now();
  const done = { files: 0, previews: 0, exports: 0, archives: 0, stalled: 0, busy: 0 };
  const pen = async (number) => {
    await sleep((number * EVERY_MS) / PENS);
    for (let n = 0; !isOver(); n += 1) {
      // A new outing every quarter of an hour's worth of asks.
      const took = await entry(url, askAt(`pen-${number}`, `o-${number}-${Math.floor(n / 100)}`, n));
      times.push(took);
      seconds.push(Math.floor((Date.now() - began) / 1000));
      await sleep(Math.max(0, EVERY_MS - took));
    }
  };
  const count = (what, status) => {
    if (status < 300) done[what] += 1;
    else if (status === 503) done.busy += 1;
    else throw new Error(`${what}: answered ${status}`);
  };
  const files = async () => {
    for (let n = 0; !isOver(); n += 1) {
      // The same few horses again and again: the yard does not grow without end.
      const file = written[n % FILES];
      count("previews", await send(`${url}/api/records?preview=1`, file, "application/json"));
      count("files", await send(`${url}/api/records`, file, "application/json"));
    }
  };
  const exports = async () => {
    for (let n = 0; !isOver(); n += 1) {
      const where = n % 4 === 0 ? "/api/archive" : n % 4 === 1 ? "/api/ledger.csv" : "/api/horses/file-0/record";
      const response = await fetch(`${url}${where}`);
      await response.arrayBuffer();
      if (response.status !== 404) count(n % 4 === 0 ? "archives" : "exports", response.status);
      await sleep(500);
    }
  };
  const stalled = async () => {
    while (!isOver()) {
      const sockets = Array.from({ length: STALLED }, () => stall(url, "/api/horses/file-0/record"));
      done.stalled += STALLED;
      await sleep(Math.min(STALLED_EVERY_MS, Math.max(0, until - Date.now())));
      sockets.forEach((socket) => socket.destroy());
    }
  };
  const seen = [];
  const looking = async () => {
    while (!isOver()) {
      seen.push({ memory: residentMb(server.pid), open: descriptors(server.pid) });
      await sleep(LOOK_EVERY_MS);
    }
  };
  const pens = Array.from({ length: PENS }, (_, number) => pen(number));
  const beside = { files, exports, stalled };
  const left = (process.env.SOAK_WITHOUT ?? "").split(",");
  const others = Object.entries(beside).flatMap(([name, run]) => (left.includes(name) ? [] : [run()]));
  await Promise.all([...pens, ...others, looking()]);

  const third = Math.floor(seen.length / 3);
  const [early, late] = [seen.slice(third, 2 * third), seen.slice(-third)];
  const most = (list, field) => Math.max(...list.map((one) => one[field]));
  const spread = [0.5, 0.9, 0.95, 0.99, 1].map((share) => ms(quantile(times, share))).join(", ");
  console.log(`     ${times.length} entries, half, nine tenths and so on within ${spread}; ${JSON.stringify(done)}`);
  // Spread over all of it, or in a few moments in which nobody was answered?
  const slow = quantile(times, 0.99);
  const slowest = new Set(seconds.filter((_second, index) => times[index] >= slow));
  console.log(`     the slowest hundredth ended in these seconds: ${[...slowest].toSorted((a, b) => a - b).join(" ")}`);
  report(
    `50 pens for ${MINUTES} minutes beside files in, looked at and out, and readers that stop: p99 of an entry`,
    "p50 of one pen alone",
    `${ms(slow)} (${done.files} files in, ${done.previews} looked at, ${done.exports + done.archives} out, ${done.stalled} readers)`,
    ms(median(alone)),
    slow / median(alone),
    20,
  );
  report(
    "server's memory in the last third of it",
    "in the second third",
    `${most(late, "memory").toFixed(0)} MB`,
    `${most(early, "memory").toFixed(0)} MB`,
    most(late, "memory") / most(early, "memory"),
    1.25,
  );
  report(
    "open descriptors in the last third of it",
    "in the second third",
    String(most(late, "open")),
    String(most(early, "open")),
    most(late, "open") / most(early, "open"),
    1.25,
  );
  await server.stop();
}
