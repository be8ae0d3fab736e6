import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { spawnSync } from "node:child_process";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium, expect, test, type BrowserContext, type Page } from "./test";
import { startOnCopy } from "./application";
import { addHorse, axeFindings, entriesOnServer, goIn, isReadyAlone, openCard } from "./pages";
import { executablePath, flags } from "./browser";

/** A phone without a network: it opens, works, is killed, comes back, and everything is on the server exactly once. */

test.use({ serviceWorkers: "allow", viewport: { width: 390, height: 844 } });

const openPhone = (folder: string, baseURL: string | undefined, more: string[] = []): Promise<BrowserContext> =>
  chromium.launchPersistentContext(folder, {
    executablePath,
    args: [...flags, ...more],
    baseURL: baseURL ?? "",
    viewport: { width: 390, height: 844 },
    timezoneId: "Europe/Dublin",
  });
const waits = (page: Page) => page.getByRole("status", { name: "What waits here" });
const kept = (page: Page) => expect(page.getByRole("status", { name: "Last entry" }).getByLabel("kept")).toBeVisible();

test("network cut: a cold start, a whole outing, the browser killed, started again, network back: everything once", async ({
  baseURL,
  page: laptop,
}) => {
  test.setTimeout(400_000);
  const horse = await addHorse(laptop, "Yellowwort");
  const folder = mkdtempSync(path.join(tmpdir(), "still-pine-alone-"));
  const added = await laptop.request.put("/api/troubles/at-the-ford", {
    headers: { "If-Match": '"0"' },
    data: {
      name: "Will not cross the ford",
      seen: ["water"],
      body: [{ look: "Feet and shoes.", who: "farrier" }],
      steps: [{ step: "lead", why: "He has to come along." }],
    },
  });
  expect(added.status()).toBe(200);
  try {
    const first = await openPhone(folder, baseURL);
    await first.pages()[0]?.goto("/");
    await isReadyAlone(first.pages()[0] as Page);
    await first.close();

    // A cold start in aeroplane mode: another process, and no network from its first moment.
    const alone = await openPhone(folder, baseURL);
    await alone.setOffline(true);
    const page = await alone.newPage();
    await page.goto("/");
    await expect(page.getByRole("link", { name: "Yellowwort", exact: true })).toBeVisible();
    await expect(waits(page)).toContainText("No network · as known");
    expect(await axeFindings(page)).toEqual([]);
    await page.getByRole("link", { name: "Yellowwort", exact: true }).click();
    await expect(page.getByRole("heading", { name: "Yellowwort" })).toBeVisible();
    for (const view of [`/horses/${horse}/map?as=list`, `/horses/${horse}/steps/flex`, `/write-up?horse=${horse}`]) {
      await page.goto(view);
      await expect(page.locator("h1")).toBeVisible();
      await expect(page.getByRole("alert")).toHaveCount(0);
    }
    // Where to look is known here too, with what the yard has added; and so are the programs.
    await page.goto(`/troubles?horse=${horse}&q=ford`);
    await page.getByRole("button", { name: /Will not cross the ford/ }).click();
    await expect(page.getByText("Feet and shoes.")).toBeVisible();
    await page.goto("/programs");
    await expect(page.getByRole("link", { name: "Marker and reward" })).toBeVisible();
    await expect(page.getByRole("alert")).toHaveCount(0);
    await openCard(page, horse, ["flex"]);
    const outing = await goIn(page);
    const press = async (mood: string): Promise<void> => {
      await page.keyboard.press("1");
      await page.keyboard.press(mood);
      await kept(page);
    };
    for (const mood of ["1", "2", "0"]) await press(mood);
    spawnSync("pkill", ["-9", "-f", folder]);
    await alone.close().catch(() => undefined);

    const again = await openPhone(folder, baseURL);
    await again.setOffline(true);
    const back = await again.newPage();
    await back.goto(`/pen/${outing}`);
    await expect(back.getByRole("button", { name: /^Near/ })).toContainText("3 asks");
    await back.keyboard.press("1");
    await back.keyboard.press("1");
    await kept(back);
    await back.keyboard.press("End");
    await back.keyboard.press("End");
    await expect(back.getByRole("heading", { name: "Coming out" })).toBeVisible();
    // The judge is here too.
    await expect(back.getByText(/verdicts are this device's own/)).toBeVisible();
    await expect(back.getByRole("status", { name: "Verdicts" })).toContainText("Lateral flexion");
    await back.goto(`/horses/${horse}`);
    await expect(back.getByText("last out today").or(back.getByText("in 1 calendar day")).first()).toBeVisible();
    await expect(waits(back)).toContainText(/On this device only: \d+ · No network/);
    expect(await entriesOnServer(laptop, horse, outing)).toEqual([]);

    await again.setOffline(false);
    await expect(waits(back)).toContainText(/^Sent \d/, { timeout: 40_000 });
    const entries = await entriesOnServer(laptop, horse, outing);
    const asks = entries.filter(({ type }) => type === "ask");
    expect(asks).toHaveLength(4);
    expect(new Set(entries.map(({ id }) => id)).size).toBe(entries.length);
    // Nothing is sent a second time by another start.
    await back.reload();
    await expect(waits(back)).toContainText(/^Sent \d/);
    expect(await entriesOnServer(laptop, horse, outing)).toEqual(entries);
    await again.close();
  } finally {
    spawnSync("pkill", ["-9", "-f", folder]);
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
});

test("weeks without a network: what waits goes out as a file, comes in on the laptop, and twice changes nothing", async ({
  browser,
  baseURL,
  page: laptop,
}) => {
  const horse = await addHorse(laptop, "Winterberry");
  const phone = await browser.newContext({ baseURL: baseURL ?? "", viewport: { width: 390, height: 844 } });
  const page = await phone.newPage();
  await page.goto("/");
  await isReadyAlone(page);
  await phone.setOffline(true);
  await openCard(page, horse, ["flex"]);
  const outing = await goIn(page);
  await page.keyboard.press("1");
  await page.keyboard.press("1");
  await expect(page.getByRole("status", { name: "Last entry" })).toContainText("Gave · hint · quiet");
  await kept(page);
  await page.goto("/waiting");
  await expect(page.getByRole("heading", { name: "Room on this device" })).toBeVisible();
  expect(await axeFindings(page)).toEqual([]);
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Take out what waits" }).click(),
  ]);
  const file = readFileSync(await download.path());
  const { events } = JSON.parse(file.toString()) as { events: unknown[] };
  for (const said of [`${events.length} entries are in.`, `${events.length} entries are in.`]) {
    await laptop.goto("/waiting");
    await laptop.getByLabel("File of waiting entries").setInputFiles({
      name: "still-pine-waiting.json",
      mimeType: "application/json",
      buffer: file,
    });
    await expect(laptop.getByText(said)).toBeVisible();
  }
  const entries = await entriesOnServer(laptop, horse, outing);
  expect(entries.filter(({ type }) => type === "ask")).toHaveLength(1);
  // The phone finds its network after all: what is there already is not doubled.
  await phone.setOffline(false);
  await expect(waits(page)).toContainText(/^Sent \d/, { timeout: 20_000 });
  const after = (await entriesOnServer(laptop, horse, outing)).filter(({ type }) => type !== "clock-skew");
  expect(after).toEqual(entries.filter(({ type }) => type !== "clock-skew"));
  for (const [name, text, said] of [
    ["a file of something else", "{}", "This is no file of waiting entries"],
    ["no JSON", "hello", "expected JSON"],
    [
      "another yard's",
      JSON.stringify({ ...(JSON.parse(file.toString()) as object), yard: "0198-another" }),
      "recorded for another yard",
    ],
  ] as const) {
    await laptop.getByLabel("File of waiting entries").setInputFiles({
      name: `${name}.json`,
      mimeType: "application/json",
      buffer: Buffer.from(text),
    });
    await expect(laptop.getByRole("alert")).toContainText(said);
  }
  await phone.close();
});

test("what the server refuses waits in a drawer with the reason, while all others go", async ({ page }) => {
  const horse = await addHorse(page, "Woodbine");
  await openCard(page, horse, ["flex"]);
  const outing = await goIn(page);
  await page.route("**/api/events", async (route) => {
    // One entry the server does not take: its time is spoilt on the way.
    const body = route.request().postDataBuffer();
    const text = await unzipped(body ?? Buffer.alloc(0), route.request().headers()["content-encoding"]);
    const batch = JSON.parse(text) as { events: { event: { type: string; at: string; mood?: number } }[] };
    for (const { event } of batch.events) if (event.mood === 3) event.at = "yesterday";
    const headers = { ...route.request().headers() };
    delete headers["content-encoding"];
    await route.continue({ postData: JSON.stringify(batch), headers });
  });
  for (const mood of ["1", "3", "1"]) {
    await page.keyboard.press("1");
    await page.keyboard.press(mood);
    await kept(page);
  }
  await expect
    .poll(async () => (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask").length)
    .toBe(2);
  await page.goto("/waiting");
  const drawer = page.getByRole("region", { name: "Cannot be sent" });
  await expect(drawer).toContainText("Woodbine");
  await expect(drawer).toContainText("Gave · hint · tight");
  await expect(drawer).toContainText("event.at");
  expect(await axeFindings(page)).toEqual([]);
  await page.unroute("**/api/events");
  await page.getByRole("button", { name: "Send again" }).click();
  await expect(drawer).toBeHidden();
  await expect
    .poll(async () => (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask").length)
    .toBe(3);
});

async function unzipped(body: Buffer, encoding: string | undefined): Promise<string> {
  return encoding === "gzip" ? (await import("node:zlib")).gunzipSync(body).toString() : body.toString();
}

test("a guest network's sign-in page, two tabs of one outing, and another yard at the same address", async ({
  page,
  context,
}) => {
  const horse = await addHorse(page, "Wormwood");
  await page.goto("/");
  await isReadyAlone(page);
  await context.route("**/api/**", (route) =>
    route.fulfill({ status: 200, contentType: "text/html", body: "<html><h1>Welcome, please sign in</h1></html>" }),
  );
  await openCard(page, horse, ["flex"]);
  const outing = await goIn(page);
  await page.keyboard.press("1");
  await page.keyboard.press("1");
  await kept(page);
  const second = await context.newPage();
  await second.goto(`/pen/${outing}`);
  await second.bringToFront();
  await expect(second.getByRole("button", { name: /^Near/ })).toContainText("1 ask");
  await second.keyboard.press("1");
  await second.keyboard.press("0");
  await kept(second);
  await expect(second.getByRole("button", { name: /^Near/ })).toContainText("2 asks");
  // Both tabs show both; one that is behind another is drawn when it is looked at.
  await page.bringToFront();
  await expect(page.getByRole("button", { name: /^Near/ })).toContainText("2 asks");
  await page.keyboard.press("1");
  await page.keyboard.press("2");
  await second.bringToFront();
  await expect(second.getByRole("button", { name: /^Near/ })).toContainText("3 asks");
  await second.goto("/waiting");
  await second.getByRole("button", { name: "Send now" }).click();
  await expect(second.getByText(/Something else answers/).first()).toBeVisible();
  await expect(second.getByText(/Sign in to it, or go to the yard's own network/)).toBeVisible();
  await context.unroute("**/api/**");
  await second.getByRole("button", { name: "Send now" }).click();
  await expect
    .poll(async () => (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask").length)
    .toBe(3);

  // Another yard's Still Pine at the same address gets nothing of this yard's.
  const elsewhere = await startOnCopy("empty");
  try {
    await page.bringToFront();
    await page.keyboard.press("1");
    await page.keyboard.press("1");
    await kept(page);
    await context.route("**/api/**", async (route) => {
      const url = new URL(route.request().url());
      const answer = await route.fetch({
        url: `${elsewhere.url}${url.pathname}${url.search}`,
        headers: { ...route.request().headers(), host: new URL(elsewhere.url).host, origin: elsewhere.url },
      });
      // The page may have gone meanwhile.
      await route.fulfill({ response: answer }).catch(() => undefined);
    });
    await page.keyboard.press("1");
    await page.keyboard.press("0");
    await kept(page);
    await second.goto("/waiting");
    await second.getByRole("button", { name: "Send now" }).click();
    await expect(second.getByText(/Another yard's Still Pine answers here/).first()).toBeVisible();
    const { horses } = (await (await page.request.get(`${elsewhere.url}/api/string`)).json()) as { horses: unknown[] };
    expect(horses).toEqual([]);
    await context.unrouteAll({ behavior: "ignoreErrors" });
    await second.getByRole("button", { name: "Send now" }).click();
    await expect
      .poll(async () => (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask").length)
      .toBe(5);
  } finally {
    await elsewhere.stop();
  }
});
