// The pen on a slow phone: the CPU slowed four times, 5,000 events in the outing.
import { chmodSync, mkdirSync, readFileSync, readdirSync } from "node:fs";
import { createServer } from "node:http";
import path from "node:path";
import zlib from "node:zlib";
import { rolldown } from "rolldown";
import { bytesOf, serveLibraries } from "./first-load.mjs";
import { inRounds, ms, paired } from "./measure.mjs";
import { atRest, openBrowser, startServer } from "./running.mjs";

const SLOWED = 4;
const EVENTS = 5000;
/** So many rounds of a tap every half second, the pen and the bare page by turns. */
const ROUNDS = 9;
const TAPS = 24;
const BETWEEN_MS = 500;
/** A step of the line. */
const TRAVELLED = "circle-trot";
const FRAME_MS = 1000 / 60;
const AT_MOST = { paint: 1.5, durable: 2, bytes: 1.5, coachMs: 1, memory: 1.25 };

const nth = (values, share) => values.toSorted((a, b) => a - b)[Math.floor(values.length * share)] ?? 0;

export async function measurePen(root, scratch, report) {
  const folder = path.join(scratch, "pen");
  mkdirSync(folder);
  chmodSync(folder, 0o755);
  const application = await startServer(root, folder);
  const bare = await serveBare(root);
  const browser = await openBrowser();
  try {
    const context = await browser.newContext({
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      serviceWorkers: "block",
    });
    await context.addInitScript(watch);
    const page = await context.newPage();
    const pen = await beginOuting(page, application.url);
    await fill(page, EVENTS);

    const slow = async (target) => {
      const session = await context.newCDPSession(target);
      await session.send("Emulation.setCPUThrottlingRate", { rate: SLOWED });
      return session;
    };
    const floorPage = await context.newPage();
    await floorPage.goto(bare.url);
    await slow(floorPage);
    await page.goto(pen);
    await page.getByRole("group", { name: /^Feel/ }).waitFor();
    const session = await slow(page);
    // The first round only warms up: a phone has been recording for a while when it holds so many.
    const rounds = await inRounds(ROUNDS, async () => ({
      ours: await tapped(page, "[aria-label^=Feel] button"),
      floor: await tapped(floorPage, "#pad button"),
    }));
    await floorPage.close();
    await page.bringToFront();
    const of = (what, share) =>
      paired(rounds.map(({ ours, floor }) => [nth(ours[what], share), nth(floor[what], share)]));
    const paint = of("paint", 0.95);
    report(
      `tap to the next paint in the pen, ${EVENTS.toLocaleString("en")} events, CPU slowed ${SLOWED} times, p95 (median ${ms(of("paint", 0.5).measured)})`,
      `a bare page that only paints the touched square (median ${ms(of("paint", 0.5).floor)}), or one frame more`,
      ms(paint.measured),
      ms(paint.floor),
      paint.ratio,
      Math.max(AT_MOST.paint, (paint.floor + FRAME_MS) / paint.floor),
      paint.spread,
    );
    const tasks = paired(rounds.map(({ ours }) => [ours.longest, 50]));
    report(
      `longest task in ${TAPS / 2} seconds of a tap every half second (0: never over 50 ms)`,
      "what a person does not feel",
      ms(tasks.measured),
      "50 ms",
      tasks.ratio,
      1,
      tasks.spread,
    );
    const durable = of("durable", 0.95);
    report(
      `tap to durable on the device, p95 (median ${ms(of("durable", 0.5).measured)})`,
      `a bare IndexedDB put of the same bytes, strict as well (median ${ms(of("durable", 0.5).floor)})`,
      ms(durable.measured),
      ms(durable.floor),
      durable.ratio,
      AT_MOST.durable,
      durable.spread,
    );
    await coachTimes(context, bare.url, report);
    await memory(page, session, report);
    await page.close();
    await bytes(context, root, scratch, pen, report);
  } finally {
    await browser.close();
    bare.close();
    await application.stop();
  }
}

async function beginOuting(page, url) {
  await page.goto(url);
  const { horses } = await (await page.request.get(`${url}/api/string`)).json();
  const horse = horses.find((one) => one.name === "Plover") ?? horses[0];
  await page.goto(`${url}/horses/${horse.id}/brief`);
  await page.getByRole("button", { name: "Understood" }).click();
  // A step he travels in has the most over its pad: the line with its chips, and the row of how he goes.
  await page.getByLabel("Another step").selectOption(TRAVELLED);
  await page.getByRole("button", { name: "Into the pen" }).click();
  await page
    .getByRole("group", { name: "Exercises" })
    .getByRole("button", { name: /^Circle at trot/ })
    .click();
  await page.getByRole("group", { name: "Rein, gait and frame" }).waitFor();
  await page.getByRole("button", { name: /^hint, quiet/ }).tap();
  await page.getByLabel("kept").waitFor();
  return page.url();
}

/** Puts so many events into the outing, as if this phone had recorded them in the last hour. */
async function fill(page, count) {
  await page.evaluate(
    async ({ wanted, travelled }) => {
      const open = indexedDB.open("still-pine.pen");
      const db = await new Promise((resolve) => (open.onsuccess = () => resolve(open.result)));
      const all = (store) =>
        new Promise((resolve) => {
          const request = db.transaction(store).objectStore(store).getAll();
          request.onsuccess = () => resolve(request.result);
        });
      const [outing] = await all("outings");
      const began = Date.parse(outing.startedAt) - 40 * 60_000;
      const device = localStorage.getItem("still-pine.device");
      const tx = db.transaction(["events", "outings"], "readwrite");
      tx.objectStore("outings").put({ ...outing, startedAt: new Date(began).toISOString() });
      let seq = Number(localStorage.getItem("still-pine.seq"));
      for (let n = 0; n < wanted; n += 1) {
        seq += 1;
        const event = {
          id: `filled-${n}`,
          at: new Date(began + (n * 39 * 60_000) / wanted).toISOString(),
          device,
          seq,
          type: "ask",
          v: 2,
          step: n % 40 < 20 ? travelled : "flex",
          rung: n % 40 < 20 ? "3" : "3s",
          side: n % 10 < 5 ? "near" : "off",
          answer: n % 7 === 0 ? "tried" : "gave",
          phase: 1 + (n % 2),
          mood: n % 3 === 0 ? 2 : 1,
        };
        // Sent already: what is measured is the pen, not the network.
        tx.objectStore("events").put({ outing: outing.id, horse: outing.horse, event, sent: 1 });
      }
      localStorage.setItem("still-pine.seq", String(seq));
      await new Promise((resolve) => (tx.oncomplete = resolve));
      db.close();
    },
    { wanted: count, travelled: TRAVELLED },
  );
}

/** Taps the squares in turn, and reads what the page noted of each. */
async function tapped(page, squares, taps = TAPS) {
  // Of two pages only the one in front is painted.
  await page.bringToFront();
  const boxes = await page.locator(squares).evaluateAll((all) =>
    all.map((one) => {
      const { x, y, width, height } = one.getBoundingClientRect();
      return [x + width / 2, y + height / 2];
    }),
  );
  await page.evaluate(() => globalThis.noted.clear());
  for (let n = 0; n < taps; n += 1) {
    const began = performance.now();
    await page.touchscreen.tap(...boxes[(n * 7) % boxes.length]);
    await page.waitForTimeout(Math.max(0, BETWEEN_MS - (performance.now() - began)));
  }
  // The last one has been painted, and lies on the device.
  await page.waitForFunction((count) => globalThis.noted.read().durable.length >= count, taps);
  return page.evaluate(() => globalThis.noted.read());
}

/** The core alone in the page: one more event on top of 5,000, and the coach asked. */
async function coachTimes(context, url, report) {
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  await page.goto(url);
  await session.send("Emulation.setCPUThrottlingRate", { rate: SLOWED });
  const { more, undo } = await page.evaluate(async (count) => {
    const { LiveOuting, advise, foldOuting, loosePenStart } = await import("/core.js");
    const began = Date.parse("2026-06-01T09:00:00Z");
    const plan = {
      program: loosePenStart,
      startedAt: new Date(began).toISOString(),
      exercises: [],
      known: [],
      caps: { workingMinutes: 600, inHandMinutes: 600 },
    };
    let seq = 0;
    const event = (fields) => {
      seq += 1;
      return { id: `e${seq}`, at: new Date(began + seq * 500).toISOString(), device: "d", seq, ...fields };
    };
    const ask = () =>
      event({
        type: "ask",
        step: seq % 40 < 20 ? "yield-hind" : "flex",
        side: seq % 10 < 5 ? "near" : "off",
        answer: "gave",
        phase: 1 + (seq % 2),
        mood: seq % 3,
      });
    const live = new LiveOuting(plan);
    for (let n = 0; n < count; n += 1) live.take(ask());
    const time = (made) => {
      const from = performance.now();
      for (const one of made) advise(live.take(one), plan, Date.parse(one.at));
      return (performance.now() - from) / made.length;
    };
    const batch = () => Array.from({ length: 20 }, ask);
    const strike = () => event({ type: "correction", replaces: live.lastStanding().id, void: true });
    // Twenty at a time: a slowed CPU stands still for longer than one of them takes.
    const strikes = () => {
      const from = performance.now();
      for (let n = 0; n < 20; n += 1) {
        const one = strike();
        advise(live.take(one), plan, Date.parse(one.at));
      }
      return (performance.now() - from) / 20;
    };
    const more = Array.from({ length: 50 }, () => time(batch()));
    const undo = Array.from({ length: 20 }, strikes);
    // What was gone through one by one is what all at once gives.
    const same = JSON.stringify(foldOuting(plan, live.history)) === JSON.stringify(live.state);
    if (!same) throw new Error("incremental and plain differ");
    return { more, undo };
  }, EVENTS);
  await page.close();
  for (const [what, times] of [
    ["one more ask", more],
    ["an undo", undo],
  ])
    report(
      `the coach after ${what} on top of ${EVENTS.toLocaleString("en")}, CPU slowed ${SLOWED} times, p95`,
      "the limit itself",
      `${nth(times, 0.95).toFixed(3)} ms`,
      `${AT_MOST.coachMs} ms`,
      nth(times, 0.95) / AT_MOST.coachMs,
      1,
    );
}

const AN_HOUR = 1200;

/** An hour of an ask every three seconds, typed as fast as the page takes them: the heap after ten minutes of it and after all. */
async function memory(page, session, report) {
  await session.send("Emulation.setCPUThrottlingRate", { rate: 1 });
  await session.send("HeapProfiler.enable");
  const type = (count) =>
    page.evaluate(async (wanted) => {
      for (let n = 0; n < wanted; n += 1) {
        for (const key of ["1", String(n % 3)])
          window.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
        await new Promise((resolve) => setTimeout(resolve, 8));
      }
    }, count);
  const weigh = async () => {
    await atRest(page);
    await session.send("HeapProfiler.collectGarbage");
    const { usedSize } = await session.send("Runtime.getHeapUsage");
    const { nodes } = await session.send("Memory.getDOMCounters");
    return { usedSize, nodes };
  };
  await type(AN_HOUR / 6);
  const early = await weigh();
  await type((AN_HOUR * 5) / 6);
  const late = await weigh();
  const mb = ({ usedSize }) => `${(usedSize / 1024 / 1024).toFixed(1)} MB`;
  report(
    `the pen's memory after an hour's outing (${late.nodes} nodes; ${early.nodes} after ten minutes)`,
    "after ten minutes of it",
    mb(late),
    mb(early),
    late.usedSize / early.usedSize,
    AT_MOST.memory,
  );
}

async function bytes(context, root, scratch, pen, report) {
  const libraries = await serveLibraries(root, scratch);
  const assets = path.join(root, "web/dist/assets");
  const styles = readdirSync(assets)
    .filter((name) => name.endsWith(".css"))
    .reduce((sum, name) => sum + zlib.gzipSync(readFileSync(path.join(assets, name))).length, 0);
  try {
    const ours = await bytesOf(context, pen);
    const floor = (await bytesOf(context, libraries.url)) + styles;
    const kb = (size) => `${(size / 1024).toFixed(1)} KB`;
    report(
      "first load of the pen, bytes over the wire",
      "the page of libraries and fonts of the String, and the styles",
      kb(ours),
      kb(floor),
      ours / floor,
      AT_MOST.bytes,
    );
  } finally {
    libraries.close();
  }
}

/** A bare page: a pad whose touched square is painted, and the same bytes put into IndexedDB; and the core as a module. */
async function serveBare(root) {
  const built = await rolldown({
    input: path.join(root, "bench/core-entry.ts"),
    logLevel: "silent",
    platform: "browser",
    resolve: { mainFields: ["module", "main"] },
  });
  const { output } = await built.generate({ format: "esm" });
  const core = output.map(({ code }) => code ?? "").join("\n");
  const server = createServer((request, response) => {
    const isCore = request.url === "/core.js";
    response.writeHead(200, { "Content-Type": isCore ? "text/javascript" : "text/html" });
    response.end(isCore ? core : BARE);
  });
  await new Promise((resolve) => server.listen(0, "127.0.0.1", resolve));
  return { url: `http://127.0.0.1:${server.address().port}/`, close: () => server.close() };
}

const BARE = `<!doctype html><meta name=viewport content="width=device-width"><title>bare</title>
<style>#pad{display:grid;grid-template-columns:repeat(5,1fr);height:400px;gap:4px;touch-action:none}[data-pressed]{background:#1d4b38}</style>
<div id=pad>${"<button></button>".repeat(25)}</div>
<script>
const open = indexedDB.open("bare", 1);
open.onupgradeneeded = () => open.result.createObjectStore("events", { keyPath: "key", autoIncrement: true });
let n = 0;
let lit = null;
pad.addEventListener("pointerup", ({ target }) => {
  lit?.removeAttribute("data-pressed");
  (lit = target).setAttribute("data-pressed", "");
  n += 1;
  const event = { id: "01900000-0000-7000-8000-" + String(n).padStart(12, "0"), at: new Date().toISOString(),
    device: "01900000-0000-7000-8000-000000000000", seq: n, type: "ask", step: "yield-hind", side: "near", answer: "gave", phase: 1, mood: 1 };
  const tx = open.result.transaction("events", "readwrite", { durability: "strict" });
  tx.objectStore("events").put({ outing: event.device, horse: event.device, event, sent: 0 });
});
</script>`;

// What follows runs in the page, before anything of it.

function watch() {
  const noted = { paint: [], durable: [], longest: 0, down: null };
  globalThis.noted = {
    clear: () => Object.assign(noted, { paint: [], durable: [], longest: 0, down: null }),
    read: () => noted,
  };
  addEventListener(
    "pointerup",
    () => {
      const began = performance.now();
      noted.down = began;
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.addEventListener("message", () => noted.paint.push(performance.now() - began));
        channel.port1.start();
        channel.port2.postMessage(null);
      });
    },
    { capture: true },
  );
  const transaction = IDBDatabase.prototype.transaction;
  IDBDatabase.prototype.transaction = function (stores, mode, options) {
    const tx = transaction.call(this, stores, mode, options);
    if (mode === "readwrite" && options?.durability === "strict" && noted.down !== null) {
      const began = noted.down;
      noted.down = null;
      tx.addEventListener("complete", () => noted.durable.push(performance.now() - began));
    }
    return tx;
  };
  new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) noted.longest = Math.max(noted.longest, duration);
  }).observe({ type: "longtask" });
}
