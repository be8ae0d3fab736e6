// Phones: the outbox over a bad link, a cold start without a network, and fifty live outings at once.
import { createServer, request as httpRequest } from "node:http";
import { mkdirSync, chmodSync, readFileSync } from "node:fs";
import path from "node:path";
import { gzipSync } from "node:zlib";
import { pathToFileURL } from "node:url";
import { rolldown } from "rolldown";
import { inRounds, median, ms, paired } from "./measure.mjs";
import { openBrowser, startServer } from "./running.mjs";

const EVENTS = 10_000;
const BITS_A_SECOND = 100_000;
const LATENCY_MS = 400;
const LOSS = 0.05;
const OUTINGS = 50;
const MINUTE_MS = 60_000;

const seconds = (value) => `${(value / 1000).toFixed(1)} s`;
const folderIn = (scratch, name) => {
  const folder = path.join(scratch, name);
  mkdirSync(folder);
  chmodSync(folder, 0o755);
  return folder;
};

async function outboxParts(root, scratch) {
  const build = await rolldown({
    input: path.join(root, "bench/outbox-entry.ts"),
    logLevel: "silent",
    platform: "node",
    resolve: { mainFields: ["module", "main"] },
  });
  const file = path.join(scratch, "outbox.mjs");
  await build.write({ file, format: "esm" });
  return import(pathToFileURL(file).href);
}

/** A small seeded source of numbers on [0, 1) (Park and Miller). */
function seeded(seed) {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

const post = (url, body) =>
  fetch(url, { method: "POST", body, headers: { "Content-Type": "application/json" } }).then(async (answer) => {
    if (!answer.ok) throw new Error(`${url}: ${answer.status} ${await answer.text()}`);
    return answer.json();
  });

async function newHorse(url, id) {
  await post(
    `${url}/api/horses`,
    JSON.stringify({ id, name: id, foaled: "2022-05-01", foaledPrecision: "month", sex: "mare" }),
  );
}

/** A link of so many bits a second and so much latency, over which a share of the requests is lost: the connection breaks. */
async function openLink(target) {
  const link = { loss: 0, random: seeded(7), lost: 0 };
  const server = createServer((incoming, outgoing) => {
    const pieces = [];
    incoming.on("data", (piece) => pieces.push(piece));
    incoming.on("end", () => {
      const body = Buffer.concat(pieces);
      const isLost = link.random() < link.loss;
      setTimeout(
        () => {
          if (isLost) {
            link.lost += 1;
            incoming.socket.destroy();
            return;
          }
          const url = new URL(target);
          const forwarded = httpRequest(
            {
              host: url.hostname,
              port: url.port,
              path: incoming.url,
              method: incoming.method,
              headers: { ...incoming.headers, host: url.host },
            },
            (answer) => {
              outgoing.writeHead(answer.statusCode, answer.headers);
              answer.pipe(outgoing);
            },
          );
          forwarded.end(body);
        },
        LATENCY_MS + (body.length * 8 * 1000) / BITS_A_SECOND,
      );
    });
  });
  await new Promise((resolve) => server.listen(0, "127.0.0.1", resolve));
  return {
    link,
    url: `http://127.0.0.1:${server.address().port}`,
    close: () => {
      server.closeAllConnections();
      server.close();
    },
  };
}

const entry = (run, n) => ({
  id: `${run}-${n}`,
  at: new Date(Date.now() - (EVENTS - n) * 20).toISOString(),
  type: "ask",
  step: ["flex", "yield-hind", "yield-fore"][n % 3],
  side: n % 2 ? "near" : "off",
  phase: n % 5,
  answer: "gave",
  mood: n % 4,
  device: `phone-${run}`,
  seq: n + 1,
});

async function measureOutbox(root, scratch, report) {
  const { InMemory, Sender, backOffMs } = await outboxParts(root, scratch);
  const server = await startServer(root, folderIn(scratch, "outbox"), {});
  const proxy = await openLink(server.url);
  const gzip = async (text) => gzipSync(text);
  try {
    const send = async (run, loss) => {
      const horse = `h-${run}`;
      await newHorse(server.url, horse);
      const kept = new InMemory();
      await kept.keepEvents(
        Array.from({ length: EVENTS }, (_, n) => ({ outing: `o-${run}`, horse, event: entry(run, n), sent: 0 })),
      );
      const bodies = [];
      const sender = new Sender({
        keeper: async () => kept,
        holding: new Map(),
        headers: () => ({}),
        now: () => Date.now(),
        newHead: () => ({ id: `${run}-s`, device: `phone-${run}`, seq: EVENTS + 1 }),
        device: () => `phone-${run}`,
        gzip,
        fetch: (where, init) => {
          if (where === "/api/events") bodies.push(init.body);
          return fetch(`${proxy.url}${where}`, init);
        },
      });
      proxy.link.loss = loss;
      const began = performance.now();
      for (let failures = 0; (await sender.round()) !== "all";)
        await new Promise((resolve) => setTimeout(resolve, backOffMs((failures += 1), 0.5)));
      const took = performance.now() - began;
      proxy.link.loss = 0;
      const there = await (await fetch(`${server.url}/api/horses/${horse}/outings/o-${run}`)).json();
      if (there.entries.length !== EVENTS) throw new Error(`${there.entries.length} of ${EVENTS} entries came`);
      return { took, bodies };
    };
    /** The same bodies one after the other, nothing lost and nothing to think about. */
    const plain = async (bodies, run) => {
      const horse = `h-${run}`;
      await newHorse(server.url, horse);
      const began = performance.now();
      for (const body of bodies) {
        const answer = await fetch(`${proxy.url}/api/events`, {
          method: "POST",
          body,
          headers: { "Content-Type": "application/json", "Content-Encoding": "gzip" },
        });
        await answer.text();
      }
      return performance.now() - began;
    };
    const ratios = [];
    const ours = [];
    const floors = [];
    for (let n = 0; n < 3; n += 1) {
      const { took, bodies } = await send(`run${n}`, LOSS);
      const floor = await plain([...new Set(bodies)].slice(0, EVENTS / 500), `floor${n}`);
      ours.push(took);
      floors.push(floor);
      ratios.push(took / floor);
    }
    report(
      `outbox of 10,000 entries over 100 kbit/s, 400 ms, 5 % loss (${proxy.link.lost} lost)`,
      "the same compressed bodies without loss",
      seconds(median(ours)),
      seconds(median(floors)),
      median(ratios),
      1.5,
    );
  } finally {
    proxy.close();
    await server.stop();
  }
}

const CPU_SLOWED = 4;

const LOOK_EVERY_MS = 1500;

/** Waits until everything for a day without a network is there: nothing is added to what the page keeps. */
async function allHasComeIn(page) {
  for (let before = -1, usage = 0; usage === 0 || usage !== before; await page.waitForTimeout(LOOK_EVERY_MS)) {
    before = usage;
    usage = await page.evaluate(async () => (await navigator.storage.estimate()).usage ?? 0);
  }
}

async function measureColdStart(root, scratch, report) {
  const server = await startServer(root, folderIn(scratch, "cold"), {});
  const browser = await openBrowser();
  try {
    const context = await browser.newContext({ baseURL: server.url, viewport: { width: 390, height: 844 } });
    const first = await context.newPage();
    await first.goto("/");
    await first.evaluate(async () => {
      await navigator.serviceWorker.ready;
    });
    await allHasComeIn(first);
    const horse = await first.evaluate(
      async () => (await (await fetch("/api/string")).json()).horses.find(({ name }) => name === "Plover").id,
    );
    await first.goto(`/horses/${horse}/brief`);
    await first.getByRole("button", { name: "Into the pen" }).waitFor();
    const understood = first.getByRole("button", { name: "Understood" });
    if (await understood.isVisible()) await understood.click();
    await first.getByRole("button", { name: "Into the pen" }).click();
    await first.getByRole("group", { name: /^Feel/ }).waitFor();
    const pen = first.url();
    await first.close();
    const open = async (isAlone) => {
      await context.setOffline(isAlone);
      const page = await context.newPage();
      const session = await context.newCDPSession(page);
      await session.send("Emulation.setCPUThrottlingRate", { rate: CPU_SLOWED });
      const began = performance.now();
      await page.goto(pen, { waitUntil: "commit" });
      await page.getByRole("group", { name: /^Feel/ }).getByRole("button").first().waitFor();
      const took = performance.now() - began;
      await page.close();
      return took;
    };
    const { measured, floor, ratio, spread } = paired(
      await inRounds(10, async () => [await open(true), await open(false)]),
    );
    report(
      "cold start without a network to a usable pen, CPU slowed four times",
      "the same with the server on loopback",
      ms(measured),
      ms(floor),
      ratio,
      1.3,
      spread,
    );
  } finally {
    await browser.close();
    await server.stop();
  }
}

const memoryOf = (pid) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))[1]) / 1024;

/** Reads a stream of server-sent events. */
async function listen(url, onEvent, signal) {
  const response = await fetch(url, { signal, headers: { Accept: "text/event-stream" } });
  const decoder = new TextDecoder();
  let text = "";
  for await (const piece of response.body) {
    text += decoder.decode(piece, { stream: true });
    for (let end = text.indexOf("\n\n"); end >= 0; end = text.indexOf("\n\n")) {
      const data = /^data: ?(.*)$/m.exec(text.slice(0, end))?.[1];
      text = text.slice(end + 2);
      if (data) onEvent(JSON.parse(data));
    }
  }
}

async function measureLive(root, scratch, report) {
  const server = await startServer(root, folderIn(scratch, "live"), {});
  const stopping = new AbortController();
  const sentAt = new Map();
  const delays = [];
  const missed = () => [...sentAt.values()].filter(({ seen }) => seen < 1).length;
  try {
    const streams = [];
    for (let n = 0; n < OUTINGS; n += 1) {
      const horse = `live-${n}`;
      await newHorse(server.url, horse);
      const start = {
        id: `l${n}:start`,
        at: new Date().toISOString(),
        type: "outing-start",
        place: "Pen",
        handler: "M",
      };
      await post(
        `${server.url}/api/events`,
        JSON.stringify({ events: [{ horse, outing: `l${n}`, event: { ...start, device: `l${n}-0`, seq: 1 } }] }),
      );
      for (const phone of [0, 1])
        streams.push(
          listen(
            `${server.url}/api/outings/l${n}/live`,
            ({ id, device }) => {
              const sent = sentAt.get(id);
              if (!sent || device === `l${n}-${phone}`) return;
              sent.seen += 1;
              delays.push(performance.now() - sent.at);
            },
            stopping.signal,
          ).catch(() => undefined),
        );
    }
    await new Promise((resolve) => setTimeout(resolve, 2000));
    let seq = 1;
    const write = async (n, phone) => {
      seq += 1;
      const event = {
        ...entry(`l${n}`, seq),
        id: `l${n}-${phone}-${seq}`,
        at: new Date().toISOString(),
        device: `l${n}-${phone}`,
        seq,
      };
      sentAt.set(event.id, { at: performance.now(), seen: 0 });
      await post(
        `${server.url}/api/events`,
        JSON.stringify({ events: [{ horse: `live-${n}`, outing: `l${n}`, event }] }),
      );
    };
    const run = async (forMs) => {
      const until = performance.now() + forMs;
      const writers = Array.from({ length: OUTINGS * 2 }, async (_, index) => {
        await new Promise((resolve) => setTimeout(resolve, index * 60));
        while (performance.now() < until) {
          const began = performance.now();
          await write(Math.floor(index / 2), index % 2);
          // An ask every six seconds from each of the two.
          await new Promise((resolve) => setTimeout(resolve, Math.max(0, 6000 - (performance.now() - began))));
        }
      });
      await Promise.all(writers);
    };
    // The first quarter of a minute warms up what any server keeps.
    await run(15_000);
    const before = memoryOf(server.pid);
    delays.length = 0;
    await run(MINUTE_MS);
    await new Promise((resolve) => setTimeout(resolve, 2000));
    const after = memoryOf(server.pid);
    if (missed() > 0) throw new Error(`${missed()} events were never seen by the other phone`);
    const p95 = delays.toSorted((a, b) => a - b)[Math.floor(delays.length * 0.95)];
    report(
      `50 live outings, two phones each, a minute: an entry seen by the other, p95 of ${delays.length}`,
      "two seconds",
      ms(p95),
      "2000 ms",
      p95 / 2000,
      1,
    );
    report(
      "the server's memory over that minute",
      "before it",
      `${Math.round(after)} MB`,
      `${Math.round(before)} MB`,
      after / before,
      1.25,
    );
  } finally {
    stopping.abort();
    await server.stop();
  }
}

export async function measurePhones(root, scratch, report) {
  await measureOutbox(root, scratch, report);
  await measureColdStart(root, scratch, report);
  await measureLive(root, scratch, report);
}
