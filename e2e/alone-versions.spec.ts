import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { expect, test, type Page } from "./test";
import { putYard, startApplication, throwAwayFolder } from "./application";
import { addHorse, entriesOnServer, goIn, isReadyAlone, openCard } from "./pages";

/** A new version, an outbox of the version before, a device without room, a yard that was made anew. */

test.use({ serviceWorkers: "allow", viewport: { width: 390, height: 844 } });

const waits = (page: Page) => page.getByRole("status", { name: "What waits here" });
const kept = (page: Page) => expect(page.getByRole("status", { name: "Last entry" }).getByLabel("kept")).toBeVisible();

test("a new version waits while somebody is in the pen, keeps the queue, and comes when it is let in", async ({
  browser,
}) => {
  test.setTimeout(400_000);
  const pages = mkdtempSync(path.join(tmpdir(), "still-pine-pages-"));
  cpSync(fileURLToPath(new URL("../web/dist", import.meta.url)), pages, { recursive: true });
  const data = throwAwayFolder();
  putYard(data, "demo");
  const application = await startApplication({ folder: data, env: { STILLPINE_WEB: pages } });
  const context = await browser.newContext({ baseURL: application.url, viewport: { width: 390, height: 844 } });
  try {
    const page = await context.newPage();
    const horse = await addHorse(page, "Wren");
    await page.goto("/");
    await isReadyAlone(page);
    await openCard(page, horse, ["flex"]);
    const outing = await goIn(page);
    await context.setOffline(true);
    for (const mood of ["1", "2", "0"]) {
      await page.keyboard.press("1");
      await page.keyboard.press(mood);
      await kept(page);
    }
    // The next build: another page, so another list of everything there is.
    const index = path.join(pages, "index.html");
    writeFileSync(index, readFileSync(index, "utf8").replace("<title>", '<meta name="build" content="next"><title>'));
    const worker = path.join(pages, "sw.js");
    writeFileSync(worker, readFileSync(worker, "utf8").replace(/(url:"index\.html",revision:")[^"]+/, "$1next"));
    await page.evaluate(() => {
      (window as unknown as { isSame: boolean }).isSame = true;
    });
    await context.setOffline(false);
    await page.evaluate(async () => (await navigator.serviceWorker.getRegistration())?.update());
    await expect
      .poll(() => page.evaluate(async () => (await navigator.serviceWorker.getRegistration())?.waiting?.state))
      .toBe("installed");
    await page.keyboard.press("1");
    await page.keyboard.press("1");
    await kept(page);
    expect(await page.evaluate(() => (window as unknown as { isSame?: boolean }).isSame)).toBe(true);
    await page.keyboard.press("End");
    await page.keyboard.press("End");
    await expect(page.getByRole("heading", { name: "Coming out" })).toBeVisible();
    await page.goto("/waiting");
    await expect(page.locator('meta[name="build"]')).toHaveCount(0);
    await page.getByRole("button", { name: "Take it now" }).click();
    await expect(page.locator('meta[name="build"]')).toHaveCount(1);
    // That it was sent is said for a moment only.
    await expect
      .poll(async () => (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask").length)
      .toBe(4);
  } finally {
    await context.close();
    await application.stop();
    for (const folder of [pages, data]) rmSync(folder, { recursive: true, force: true });
  }
});

/** What the version before this one kept on a phone, taken from it: an outing with every entry unsent. */
interface FirstOutbox {
  version: number;
  horse: string;
  outings: { id: string; horse: string }[];
  events: { event: { id: string; at: string; type: string } }[];
  local: Record<string, string>;
}

test("an outbox written by the version before is sent by this one, each entry once, and its outing goes on", async ({
  page,
}) => {
  const horse = await addHorse(page, "Wintergreen");
  const file = fileURLToPath(new URL("fixtures/outbox-of-the-first-pen.json", import.meta.url));
  const text = readFileSync(file, "utf8");
  const { horse: old } = JSON.parse(text) as FirstOutbox;
  // Nobody ended it, and nobody was gone for two hours: it happened just now.
  const first = JSON.parse(text.replaceAll(old, horse)) as FirstOutbox;
  const ago = Date.now() - Date.parse(first.events.at(-1)?.event.at ?? "") - 60_000;
  const late = (at: string): string => new Date(Date.parse(at) + ago).toISOString();
  const moved = JSON.parse(
    JSON.stringify(first).replaceAll(
      /"(at|startedAt)":"([^"]+)"/g,
      (_all, name: string, at: string) => `"${name}":"${late(at)}"`,
    ),
  ) as FirstOutbox;
  // The old version's own store, made as it made it, before the new one looks.
  await page.route("**/*", (route) => route.fulfill({ contentType: "text/html", body: "<title>empty</title>" }));
  await page.goto("/");
  await page.evaluate(async (kept) => {
    indexedDB.deleteDatabase("still-pine.pen");
    localStorage.clear();
    for (const [name, value] of Object.entries(kept.local)) localStorage.setItem(name, value);
    const db = await new Promise<IDBDatabase>((resolve, reject) => {
      const asked = indexedDB.open("still-pine.pen", kept.version);
      asked.addEventListener("error", () => reject(asked.error));
      asked.addEventListener("success", () => resolve(asked.result));
      asked.addEventListener("upgradeneeded", () => {
        asked.result.createObjectStore("outings", { keyPath: "id" });
        const events = asked.result.createObjectStore("events", { keyPath: "key", autoIncrement: true });
        events.createIndex("outing", "outing");
        events.createIndex("sent", "sent");
        asked.result.createObjectStore("media", { keyPath: "id" }).createIndex("sent", "sent");
        asked.result.createObjectStore("reserve");
      });
    });
    const tx = db.transaction(["outings", "events"], "readwrite");
    for (const outing of kept.outings) tx.objectStore("outings").put(outing);
    for (const event of kept.events) tx.objectStore("events").put(event);
    // One it had been refused.
    tx.objectStore("events").put({
      ...kept.events[0],
      key: 9999,
      sent: 1,
      refused: "step expected a step, found none",
    });
    await new Promise((resolve) => tx.addEventListener("complete", resolve));
    db.close();
  }, moved);
  await page.unroute("**/*");
  await page.goto("/");
  await expect(waits(page)).toContainText(/^Sent \d.* · 1 cannot be sent/, { timeout: 30_000 });
  const outing = moved.outings[0]?.id ?? "";
  const entries = await entriesOnServer(page, horse, outing);
  const wanted = moved.events.filter(({ event }) => event.type === "ask").map(({ event }) => event.id);
  expect(wanted).toHaveLength(40);
  expect(entries.filter(({ type }) => type === "ask").map(({ id }) => id)).toEqual(wanted);
  await page.goto(`/pen/${outing}`);
  await expect(page.getByRole("status", { name: "Last entry" })).toContainText("Gave · hint · loose");
});

test("four fifths of the room used is said before it is too late", async ({ page }) => {
  await page.addInitScript(() => {
    navigator.storage.estimate = () => Promise.resolve({ usage: 81 * 1024 * 1024, quota: 100 * 1024 * 1024 });
  });
  await page.goto("/waiting");
  await expect(waits(page)).toContainText("room is short");
  await expect(page.getByRole("region", { name: "Room" })).toContainText("81 MB of 100 MB are used");
  await expect(page.getByRole("region", { name: "Room" })).toContainText("free some room");
});

test("a laptop whose yard was made anew takes it up by itself, where nothing waits for the old one", async ({
  page,
}) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: "Plover", exact: true })).toBeVisible();
  await page.evaluate(() => localStorage.setItem("still-pine.yard", "0198-a-yard-that-was"));
  await page.goto("/");
  await expect(page.getByRole("alert")).toContainText("another yard's Still Pine");
  await expect(page.getByRole("link", { name: "Plover", exact: true })).toBeVisible({ timeout: 15_000 });
});
