import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium, expect, test, type BrowserContext, type Page } from "./test";
import { addHorse, entriesOnServer, goIn, openCard, passes } from "./pages";
import { executablePath, flags } from "./browser";

/** What happens to an outing when the device, the browser or the network lets one down. */
test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

const last = (page: Page) => page.getByRole("status", { name: "Last entry" });
const isKept = (page: Page) => expect(last(page).getByLabel("kept")).toBeVisible();
const cell = (page: Page, name: string) => page.getByRole("button", { name: new RegExp(`^${name}(;|$)`) });

async function inThePen(
  page: Page,
  name: string,
  steps: string[] = ["flex"],
): Promise<{ horse: string; outing: string }> {
  const horse = await addHorse(page, name);
  await openCard(page, horse, steps);
  return { horse, outing: await goIn(page) };
}

/** Two-digit entries, no two after each other alike, so that none is taken for a double. */
async function ask(page: Page, times: number): Promise<void> {
  for (let n = 0; n < times; n += 1) {
    await page.keyboard.press("1");
    await page.keyboard.press(String(n % 2));
  }
  await expect(last(page)).toContainText(times % 2 ? "loose" : "quiet");
  await isKept(page);
}

async function asksOnServer(page: Page, { horse, outing }: { horse: string; outing: string }): Promise<number> {
  return (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask").length;
}

async function endByKeys(page: Page): Promise<void> {
  await page.keyboard.press("End");
  await page.keyboard.press("End");
  await page.getByRole("region", { name: "Finish lines" }).waitFor();
}

test("a reload in the middle of a fright comes back exactly where it was, the clock running on", async ({ page }) => {
  const where = await inThePen(page, "Whortle", ["flex", "lead"]);
  await ask(page, 5);
  await page.keyboard.press("9");
  await page.keyboard.press("*");
  await page.keyboard.press("2");
  await isKept(page);
  await expect(page.getByRole("button", { name: /^Quiet again 0:0[1-9]/ })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("button", { name: /^Quiet again 0:0[1-9]/ })).toBeVisible();
  await expect(page.getByRole("button", { name: /^Off/ })).toHaveAttribute("aria-pressed", "true");
  await expect(page.getByRole("button", { name: /^Near/ })).toContainText("5 asks");
  await expect(last(page)).toContainText("Fright: a step");
  await page.keyboard.press(".");
  await ask(page, 1);
  await endByKeys(page);
  await expect.poll(() => asksOnServer(page, where)).toBe(6);
});

test("the browser is killed right after an entry was confirmed: it is there again, and reaches the server", async ({
  baseURL,
  page: other,
}) => {
  test.setTimeout(400_000);
  const folder = mkdtempSync(path.join(tmpdir(), "still-pine-phone-"));
  const open = (): Promise<BrowserContext> =>
    chromium.launchPersistentContext(folder, {
      executablePath,
      args: flags,
      baseURL: baseURL ?? "",
      viewport: { width: 390, height: 844 },
      serviceWorkers: "block",
    });
  try {
    const before = await open();
    const page = before.pages()[0] ?? (await before.newPage());
    // Nothing goes to the server while it lives: what is there afterwards came from the device.
    await page.route("**/api/events", (route) => route.abort());
    await page.goto("/");
    const horse = await addHorse(other, "Meadowsweet");
    await openCard(page, horse, ["flex"]);
    const where = { horse, outing: await goIn(page) };
    await ask(page, 12);
    await page.keyboard.press("2");
    await page.keyboard.press("2");
    await expect(last(page)).toContainText("Gave · ask · watchful");
    await isKept(page);
    spawnSync("pkill", ["-9", "-f", folder]);
    await before.close().catch(() => undefined);
    expect(await asksOnServer(other, where)).toBe(0);

    const after = await open();
    const again = after.pages()[0] ?? (await after.newPage());
    await again.goto(`/pen/${where.outing}`);
    await expect(last(again)).toContainText("Gave · ask · watchful");
    await expect(again.getByRole("button", { name: /^Near/ })).toContainText("13 asks");
    await expect.poll(() => asksOnServer(other, where), { timeout: 20_000 }).toBe(13);
    await after.close();
  } finally {
    spawnSync("pkill", ["-9", "-f", folder]);
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
});

test("a device that grows full in the middle says so, keeps what it can, sends the rest, and loses nothing", async ({
  page,
}) => {
  test.setTimeout(400_000);
  const horse = await addHorse(page, "Tansy");
  await page.goto("/");
  const session = await page.context().newCDPSession(page);
  const origin = new URL(page.url()).origin;
  await session.send("Storage.overrideQuotaForOrigin", { origin, quotaSize: 3_000_000 });
  await openCard(page, horse, ["flex"]);
  const where = { horse, outing: await goIn(page) };
  await ask(page, 3);
  await page.route("**/api/events", (route) => route.abort());
  await fillDevice(page);
  let asks = 3;
  const press = async (): Promise<void> => {
    await page.keyboard.press("1");
    await page.keyboard.press(String(asks % 2));
    asks += 1;
    await expect(page.getByRole("button", { name: /^Near/ })).toContainText(`${asks} asks`);
  };
  const isFull = async (): Promise<boolean> => (await last(page).innerText()).includes("This device is full");
  // The room held back for it, and what the browser has in hand, take some hundreds; then there is none.
  for (let n = 0; n < 600 && !(await isFull()); n += 1) await press();
  // A browser that tidies its files finds room once more, and then keeps what waited: that room is filled as well.
  await expect(async () => {
    if (!(await isFull())) await fillDevice(page);
    await press();
    await expect(last(page)).toContainText(/This device is full: \d+ only in this page. Keep it open./);
  }).toPass({ timeout: 120_000 });
  await expect(page.getByRole("button", { name: /^Near/ })).toContainText(`${asks} asks`);
  // With the network back, which a browser tells, the page sends them straight.
  await page.unroute("**/api/events");
  await page.evaluate(() => window.dispatchEvent(new Event("online")));
  await expect(last(page)).not.toContainText("only in this page", { timeout: 20_000 });
  // And with room again the device keeps them as before.
  await page.evaluate(() => indexedDB.deleteDatabase("filler"));
  await session.send("Storage.overrideQuotaForOrigin", { origin });
  await press();
  await endByKeys(page);
  await expect.poll(() => asksOnServer(page, where), { timeout: 30_000 }).toBe(asks);
});

/** Writes until the browser takes no more. */
async function fillDevice(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const db = await new Promise<IDBDatabase>((resolve, reject) => {
      const open = indexedDB.open("filler", 1);
      open.addEventListener("upgradeneeded", () => open.result.createObjectStore("bytes", { autoIncrement: true }));
      open.addEventListener("success", () => resolve(open.result));
      open.addEventListener("error", () => reject(open.error ?? new Error("not opened")));
    });
    const put = (size: number): Promise<boolean> =>
      new Promise((resolve) => {
        const tx = db.transaction("bytes", "readwrite", { durability: "strict" });
        tx.objectStore("bytes").add(crypto.getRandomValues(new Uint8Array(size)));
        tx.addEventListener("complete", () => resolve(true));
        tx.addEventListener("abort", () => resolve(false));
      });
    for (const size of [60_000, 4000, 300]) while (await put(size));
    db.close();
  });
}

test("without any network an outing goes from the first tap to its review, and reaches the server afterwards", async ({
  page,
}) => {
  const where = await inThePen(page, "Heather", ["flex", "lead"]);
  await page.goto(`/horses/${where.horse}/outings/${where.outing}/review`);
  await page.getByRole("region", { name: "Finish lines" }).waitFor();
  await page.goto(`/pen/${where.outing}`);
  await page.getByRole("group", { name: /^Feel/ }).waitFor();
  await page.route("**/api/**", (route) => route.abort());
  await ask(page, 8);
  await page.keyboard.press("+");
  await ask(page, 2);
  await endByKeys(page);
  await expect(page.getByText("Everything is kept on this device.")).toBeVisible();
  await expect(page.getByRole("row", { name: /Lateral flexion/ }).first()).toContainText("8");
  await page.unroute("**/api/**");
  await page.getByRole("button", { name: "Try now" }).click();
  await expect(page.getByRole("status", { name: "Verdicts" })).toContainText("Lateral flexion");
  await expect.poll(() => asksOnServer(page, where)).toBe(10);
});

test("a browser that refuses storage, the buzz, the screen's wake lock and voices records all the same", async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({ baseURL: baseURL ?? "", viewport: { width: 390, height: 844 } });
  await context.addInitScript(() => {
    const refuse = (): never => {
      throw new DOMException("refused", "SecurityError");
    };
    Object.defineProperty(globalThis, "indexedDB", { get: refuse });
    Storage.prototype.setItem = refuse;
    Object.defineProperty(Navigator.prototype, "vibrate", { value: refuse });
    Object.defineProperty(Navigator.prototype, "wakeLock", {
      value: { request: () => Promise.reject(new Error("no")) },
    });
    Object.defineProperty(globalThis, "speechSynthesis", { get: refuse });
    Object.defineProperty(globalThis, "MediaRecorder", { value: undefined });
  });
  const page = await context.newPage();
  const faults: string[] = [];
  page.on("pageerror", (error) => faults.push(error.message));
  const where = await inThePen(page, "Ling");
  await expect(page.getByText("This browser keeps nothing")).toBeVisible();
  await cell(page, "hint, quiet").click();
  await expect(last(page)).toContainText("Gave · hint · quiet");
  await page.getByRole("button", { name: "more" }).click();
  await page.getByRole("button", { name: /^Voice note/ }).click();
  await expect(page.getByText("This browser records no voice.")).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();
  await endByKeys(page);
  await expect.poll(() => asksOnServer(page, where)).toBe(1);
  expect(faults).toEqual([]);
  await context.close();
});

test("two equal taps within a quarter of a second are one, unless the setting says otherwise", async ({ page }) => {
  await inThePen(page, "Thistle");
  const near = page.getByRole("button", { name: /^Near/ });
  const twice = async (): Promise<void> => {
    const target = await cell(page, "hint, quiet").boundingBox();
    if (!target) throw new Error("no cell");
    const [x, y] = [target.x + target.width / 2, target.y + target.height / 2];
    await page.touchscreen.tap(x, y);
    await page.touchscreen.tap(x, y);
  };
  await twice();
  await expect(near).toContainText("1 ask");
  await page.getByRole("button", { name: "more" }).tap();
  await page.getByRole("button", { name: /^Settings/ }).tap();
  await page.getByRole("switch", { name: /second equal tap/ }).tap();
  await page.getByRole("button", { name: "Close" }).tap();
  await twice();
  await expect(near).toContainText("3 asks");
  for (let n = 0; n < 3; n += 1) await page.getByRole("button", { name: "undo" }).tap();
  await expect(near).toContainText("0 asks");
  await expect(page.getByRole("button", { name: "undo" })).toBeDisabled();
});

test("two horses' outings run on one phone, one tap apart, each where it was; a second one on the same horse is not begun", async ({
  page,
}) => {
  const first = await inThePen(page, "Quince");
  await ask(page, 2);
  await inThePen(page, "Rose", ["lead"]);
  await ask(page, 1);
  const nav = page.getByRole("navigation", { name: "Outings on this device" });
  await nav.getByRole("link", { name: "Quince" }).tap();
  await expect(page.getByRole("button", { name: /^Near/ })).toContainText("2 asks");
  await nav.getByRole("link", { name: "Rose" }).tap();
  await expect(page.getByRole("group", { name: "Exercises" })).toContainText("Leads");
  await page.goto(`/horses/${first.horse}/brief`);
  await expect(page.getByRole("button", { name: "Into the pen" })).toBeHidden();
  await page.getByRole("link", { name: "Go on with the running outing" }).tap();
  await expect(page).toHaveURL(new RegExp(first.outing));
});

test("an outing nobody ended is closed with its last entry after two hours, and says so", async ({ page }) => {
  const where = await inThePen(page, "Poplar");
  await ask(page, 2);
  await page.goto("/");
  await page.clock.install({ time: Date.now() + 2 * 60 * 60 * 1000 + 60_000 });
  await page.goto(`/horses/${where.horse}/brief`);
  await expect(page.getByRole("button", { name: "Into the pen" })).toBeVisible();
  await page.goto(`/pen/${where.outing}`);
  await expect(page.getByRole("heading", { name: /this outing is over/ })).toBeVisible();
  await page.getByRole("link", { name: "To its review" }).click();
  await expect(page.getByText("nobody ended it: it was closed by itself with its last entry")).toBeVisible();
  await expect(page.getByText(/^\d\d:\d\d–\d\d:\d\d, 0 min/)).toBeVisible();
});

test("the phone's clock set in the middle of an outing moves none of its times", async ({ page }) => {
  await page.clock.install();
  const where = await inThePen(page, "Hazel");
  const press = async (mood: string): Promise<void> => {
    await page.keyboard.press("1");
    await page.keyboard.press(mood);
    await page.clock.runFor(1000);
  };
  await press("1");
  await page.clock.runFor(30_000);
  const jumped = await page.evaluate(() => {
    const real = Date.now;
    Date.now = () => real() + 3 * 60 * 60 * 1000;
    return true;
  });
  expect(jumped).toBe(true);
  await page.clock.runFor(2000);
  await press("0");
  await page.keyboard.press("End");
  await page.keyboard.press("End");
  await page.clock.runFor(3000);
  await page.getByRole("region", { name: "Finish lines" }).waitFor();
  await page.clock.runFor(3000);
  await expect.poll(() => asksOnServer(page, where)).toBe(2);
  const entries = await entriesOnServer(page, where.horse, where.outing);
  const [one, two] = entries.filter(({ type }) => type === "ask").map(({ at }) => Date.parse(String(at)));
  expect((two ?? 0) - (one ?? 0)).toBeGreaterThan(25_000);
  expect((two ?? 0) - (one ?? 0)).toBeLessThan(60_000);
  expect(entries.find(({ type }) => type === "clock-moved")).toMatchObject({ bySeconds: expect.closeTo(10_800, -2) });
});

test("the rail lock keeps stray touches out, survives a reload, and opens by a slide; the remote goes on", async ({
  page,
}) => {
  await inThePen(page, "Maple");
  await page.getByRole("button", { name: "more" }).tap();
  await page.getByRole("button", { name: /^Rail lock/ }).tap();
  await page.touchscreen.tap(195, 420);
  await page.touchscreen.tap(60, 790);
  await page.reload();
  await page.getByRole("slider", { name: /^Rail lock/ }).waitFor();
  await expect(last(page)).toContainText("Nothing recorded yet");
  await page.keyboard.press("1");
  await page.keyboard.press("1");
  await expect(last(page)).toContainText("Gave · hint · quiet");
  const slider = page.getByRole("slider", { name: /^Rail lock/ });
  const box = await slider.boundingBox();
  if (!box) throw new Error("no slider");
  await page.mouse.move(box.x + 30, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + 120, box.y + 30, { steps: 3 });
  await page.mouse.up();
  await expect(slider).toBeVisible();
  await page.mouse.move(box.x + 30, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + 360, box.y + 30, { steps: 6 });
  await page.mouse.up();
  await expect(slider).toBeHidden();
});

test("a voice note and a photo stay with the outing", async ({ page, context }) => {
  await context.grantPermissions(["microphone"]);
  const where = await inThePen(page, "Willow");
  await page.getByRole("button", { name: "more" }).tap();
  await page.getByRole("button", { name: /^Voice note/ }).tap();
  await expect(page.getByRole("button", { name: /^End the voice note/ })).toBeVisible();
  await passes(page, 1500);
  await page.getByRole("button", { name: /^End the voice note/ }).tap();
  await expect(last(page)).toContainText("Voice note");
  await page.getByRole("button", { name: "more" }).tap();
  const picture = await page.screenshot();
  await page.getByLabel("Photo file").setInputFiles({ name: "p.png", mimeType: "image/png", buffer: picture });
  await expect(last(page)).toContainText("Photo");
  await endByKeys(page);
  await expect
    .poll(
      async () => {
        const answer = await page.request.get(`/api/horses/${where.horse}/media`);
        const media = (await answer.json()) as { contentType: string }[];
        return media.map(({ contentType }) => contentType).toSorted();
      },
      { timeout: 20_000 },
    )
    .toEqual(["audio/webm", "image/jpeg"]);
});
