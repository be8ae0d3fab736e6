// What a page feels like: how long the String of a large yard ever blocks it, and how many frames the map of the steps draws.
import { chmodSync, mkdirSync } from "node:fs";
import path from "node:path";
import { against, median, ms } from "./measure.mjs";
import { largeRecord } from "./record.mjs";
import { atRest, openBrowser, startServer } from "./running.mjs";

const SLOWED = 4;

/** Longest time the page could not answer while the String of 300 horses comes anew, one of them changed. */
export async function blockedByString(url, report) {
  const browser = await openBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(url);
    await page.getByRole("link", { name: "Horse 7", exact: true }).waitFor();
    await page.evaluate(watchTasks);
    const runs = [];
    for (let run = 0; run < 7; run += 1) {
      await page.evaluate(addAsk, { horse: `horse-000${1 + run}`, outing: `string-${run}` });
      const answered = page.waitForResponse((response) => response.url().endsWith("/api/string"));
      // As when one comes back to the page: it asks anew.
      await page.evaluate(() => {
        globalThis.longest = 0;
        window.dispatchEvent(new Event("focus"));
      });
      await answered;
      await atRest(page);
      runs.push(await page.evaluate(() => globalThis.longest));
    }
    report(
      "String of 301 horses come anew: the longest the page was blocked (0: never for 50 ms)",
      "what a person does not feel",
      ms(median(runs)),
      "50 ms",
      median(runs) / 50,
      1,
      against(50, runs).spread,
    );
  } finally {
    await browser.close();
  }
}

/** Frames while the map of the steps is opened and dragged, the CPU slowed, against those of a page that draws nothing. */
export async function framesOfMap(root, scratch, report) {
  const folder = path.join(scratch, "map");
  mkdirSync(folder);
  chmodSync(folder, 0o755);
  const application = await startServer(root, folder);
  const browser = await openBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(application.url);
    const { horses } = await (await page.request.get(`${application.url}/api/string`)).json();
    const horse = horses.find((one) => one.name === "Heron") ?? horses[0];
    const session = await page.context().newCDPSession(page);
    await session.send("Emulation.setCPUThrottlingRate", { rate: SLOWED });

    await page.goto("about:blank");
    const empty = await dragged(page);
    await page.goto(`${application.url}/horses/${horse.id}`);
    await page.getByRole("heading", { name: horse.name, level: 1 }).waitFor();
    await page.evaluate(watchTasks);
    await page.keyboard.press("m");
    await page.locator(".react-flow__node").first().waitFor();
    await atRest(page);
    const opening = await page.evaluate(() => globalThis.longest);
    const map = await dragged(page);
    report(
      `frames a second while the map of the steps is dragged, CPU slowed ${SLOWED} times (slowest twentieth of the frames: ${ms(map.slow)})`,
      "a page that draws nothing, dragged",
      map.rate.toFixed(1),
      empty.rate.toFixed(1),
      empty.rate / map.rate,
      1.05,
    );
    report(
      `map of the steps opened, CPU slowed ${SLOWED} times: the longest the page was blocked`,
      "what a person does not feel",
      ms(opening),
      "50 ms",
      opening / 50,
      1,
    );
  } finally {
    await browser.close();
    await application.stop();
  }
}

const SWITCH_ASKS = 20_000;
const SWITCH_MOST_MS = 100;
const SWITCHES = 7;

/** Longest time the page could not answer while a horse of many asks is read under other schools and moved to one of them. */
export async function blockedBySwitch(root, scratch, road, report) {
  const folder = path.join(scratch, "switch");
  mkdirSync(folder);
  chmodSync(folder, 0o755);
  const application = await startServer(root, folder);
  const browser = await openBrowser();
  try {
    const record = largeRecord({ asks: SWITCH_ASKS, steps: road });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(application.url);
    const brought = await page.request.post(`${application.url}/api/records`, { data: record });
    if (!brought.ok()) throw new Error(await brought.text());
    const session = await page.context().newCDPSession(page);
    await session.send("Emulation.setCPUThrottlingRate", { rate: SLOWED });
    await page.goto(`${application.url}/horses/${record.horse.id}`);
    const runs = [];
    for (let run = 0; run < SWITCHES; run += 1) {
      await page.getByRole("link", { name: "what others would say" }).click();
      await page
        .getByRole("button", { name: /^Move / })
        .first()
        .waitFor();
      await atRest(page);
      await page.evaluate(watchTasks);
      // Pressed from inside the page: looking for a button by its role takes longer than what is measured.
      await page.evaluate(pressMove, "main");
      await atRest(page);
      await page.evaluate(pressMove, "[role=dialog]");
      await page.waitForURL(`**/horses/${record.horse.id}`);
      await atRest(page);
      runs.push(await page.evaluate(() => globalThis.longest));
    }
    const longest = median(runs);
    report(
      `a horse of ${SWITCH_ASKS.toLocaleString("en")} asks moved to another school and his page shown, CPU slowed ${SLOWED} times: the longest the page was blocked`,
      "the limit itself",
      ms(longest),
      ms(SWITCH_MOST_MS),
      longest / SWITCH_MOST_MS,
      1,
      against(SWITCH_MOST_MS, runs).spread,
    );
  } finally {
    await browser.close();
    await application.stop();
  }
}

/** Drags over the middle of the page for two seconds, and counts frames. */
async function dragged(page) {
  await page.mouse.move(700, 450);
  await page.mouse.down();
  await page.evaluate(countFrames);
  const until = performance.now() + 2000;
  for (let n = 0; performance.now() < until; n += 1) {
    await page.mouse.move(700 + 250 * Math.sin(n / 20), 450 + 150 * Math.cos(n / 25));
    await page.waitForTimeout(8);
  }
  const times = await page.evaluate(() => globalThis.frames.splice(0));
  await page.mouse.up();
  const between = times.slice(1).map((time, index) => time - times[index]);
  const sorted = between.toSorted((a, b) => a - b);
  return {
    rate: (1000 * between.length) / (times.at(-1) - times[0]),
    slow: sorted[Math.floor(sorted.length * 0.95)] ?? 0,
  };
}

// What follows runs in the page.

function watchTasks() {
  globalThis.longest = 0;
  globalThis.watching ??= new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) globalThis.longest = Math.max(globalThis.longest, duration);
  });
  globalThis.watching.observe({ type: "longtask" });
}

function pressMove(where) {
  const buttons = [...document.querySelectorAll(`${where} button`)];
  const button = buttons.find((one) => one.textContent.trim().startsWith("Move "));
  if (!button) throw new Error(`no button to move him in ${where}`);
  button.click();
}

function countFrames() {
  globalThis.frames = [];
  const count = (time) => {
    globalThis.frames.push(time);
    requestAnimationFrame(count);
  };
  requestAnimationFrame(count);
}

async function addAsk({ horse, outing }) {
  const event = {
    id: `${outing}-0`,
    at: "2026-05-30T09:00:00Z",
    type: "ask",
    step: "share-space",
    side: "none",
    answer: "gave",
    mood: 1,
  };
  await fetch("/api/events", {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ events: [{ horse, outing, event }] }),
  });
}
