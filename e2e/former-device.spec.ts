import { readFileSync, writeFileSync } from "node:fs";
import { expect, test, type Page } from "./test";
import { putDevice, takeDevice, type Device } from "./a-device";
import { startOnCopy, type Application } from "./application";
import { entriesOnServer, fillHead, goIn, openCard } from "./pages";

/**
 * What the build before the house was put in order kept on a phone: an outing that runs with everything unsent, the yard and its
 * horses for a day alone, a card that was begun and a write-up that was begun. It was taken from that build by
 * `TAKE_DEVICE=1 npx playwright test -c e2e/playwright.config.ts former-device`, and is not taken anew.
 */
const FIXTURE = new URL("fixtures/device-before-the-house.json", import.meta.url);
const NOW = "2026-06-10T10:00:00Z";
const HORSES = [
  ["former-thistle", "Thistle"],
  ["former-teal", "Teal"],
] as const;
const [[THISTLE], [TEAL]] = HORSES;

let application: Application;
test.beforeAll(async ({ playwright }) => {
  application = await startOnCopy("empty", { env: { STILLPINE_NOW: NOW } });
  const request = await playwright.request.newContext({ baseURL: application.url });
  for (const [id, name] of HORSES)
    await request.post("/api/horses", {
      data: { id, name, foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" },
    });
  // Two outings of days before, so that there is something to know of him.
  for (const day of ["08", "09"]) {
    const outing = `former-${day}`;
    const at = (minute: number): string => `2026-06-${day}T09:${String(minute).padStart(2, "0")}:00Z`;
    const events = [
      { id: `${outing}:start`, at: at(0), type: "outing-start", place: "Round pen", handler: "M" },
      ...[1, 2, 3].map((n) => ({
        id: `${outing}-${n}`,
        at: at(n),
        type: "ask",
        step: "share-space",
        answer: "gave",
        mood: 1,
      })),
      { id: `${outing}:end`, at: at(10), type: "outing-end" },
    ].map((event) => ({ horse: THISTLE, outing, event }));
    expect((await request.post("/api/events", { data: { events } })).status()).toBe(200);
  }
  await request.dispose();
});
test.afterAll(() => application?.stop());

/** A page on the yard's clock, some minutes later. */
async function open(page: Page, minutes = 0): Promise<void> {
  await page.clock.install({ time: Date.parse(NOW) + minutes * 60_000 });
}
const yardId = async (page: Page): Promise<string> =>
  ((await (await page.request.get(`${application.url}/api/hello`)).json()) as { yard: string }).yard;
const last = (page: Page) => page.getByRole("status", { name: "Last entry" });
const horsesKept = async (page: Page): Promise<number> =>
  (await takeDevice(page)).databases.find(({ name }) => name === "still-pine.day")?.stores["horses"]?.length ?? 0;

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

test("is taken from the build that was", async ({ browser }) => {
  test.skip(
    !process.env["TAKE_DEVICE"],
    "This makes the fixture and checks nothing: the build it was taken from is gone.",
  );
  const page = await browser.newPage({ baseURL: application.url });
  await open(page);
  await page.goto("/");
  await expect.poll(() => horsesKept(page), { timeout: 30_000 }).toBe(2);
  await page.goto(`/write-up?horse=${TEAL}`);
  await fillHead(page, { start: "09:00", end: "09:20" });
  for (let n = 0; n < 2; n += 1) await page.getByRole("button", { name: /^mood 1, quiet/ }).click();
  await openCard(page, TEAL, ["flex", "halter-on"]);
  await openCard(page, THISTLE, ["flex", "lead"]);
  await page.route("**/api/events", (route) => route.abort());
  await goIn(page);
  for (let n = 0; n < 4; n += 1) {
    await page.keyboard.press("1");
    await page.keyboard.press(String(n % 2));
    await page.clock.runFor(1500);
  }
  await page.keyboard.press("*");
  await page.keyboard.press("2");
  await expect(last(page)).toContainText("Fright: a step");
  await expect(last(page).getByLabel("kept")).toBeVisible();
  const text = JSON.stringify(await takeDevice(page), null, 1).replaceAll(await yardId(page), "THE-YARD");
  writeFileSync(FIXTURE, `${text}\n`);
  await page.close();
});

/** A phone of the former build, whose pages have become those of this one. */
async function openFormer(page: Page, minutes: number): Promise<Device> {
  await open(page, minutes);
  await page.goto("/");
  await expect.poll(() => horsesKept(page), { timeout: 30_000 }).toBe(2);
  await page.goto("about:blank");
  const device = JSON.parse(readFileSync(FIXTURE, "utf8").replaceAll("THE-YARD", await yardId(page))) as Device;
  await page.route("**/*", (route) => route.fulfill({ contentType: "text/html", body: "<title>empty</title>" }));
  await page.goto("/");
  await putDevice(page, device);
  await page.unroute("**/*");
  return device;
}

const storeOf = (device: Device, database: string, store: string): unknown[] =>
  (device.databases.find(({ name }) => name === database)?.stores[store] ?? []).map(({ value }) => value);

test("its outing goes on where it was, and everything that waited is sent, each entry once", async ({ browser }) => {
  const page = await browser.newPage({ baseURL: application.url });
  const device = await openFormer(page, 3);
  const kept = storeOf(device, "still-pine.pen", "events") as { outing: string; event: { id: string; type: string } }[];
  const outing = kept[0]?.outing ?? "";
  await page.goto(`/pen/${outing}`);
  await expect(last(page)).toContainText("Fright: a step");
  await expect(page.getByRole("button", { name: /^Near/ })).toContainText("4 asks");
  await page.keyboard.press(".");
  await page.clock.runFor(1500);
  await page.keyboard.press("1");
  await page.keyboard.press("1");
  await expect(last(page)).toContainText("quiet");
  const wanted = kept.filter(({ event }) => event.type === "ask").map(({ event }) => event.id);
  expect(wanted).toHaveLength(4);
  await expect
    .poll(
      async () =>
        (await entriesOnServer(page, THISTLE, outing)).filter(({ type }) => type === "ask").map(({ id }) => id),
      { timeout: 20_000 },
    )
    .toEqual([...wanted, expect.any(String)]);
  await page.close();
});

test("a write-up and a card that were begun on it are still begun", async ({ browser }) => {
  const page = await browser.newPage({ baseURL: application.url });
  await openFormer(page, 3);
  await page.goto(`/write-up?horse=${TEAL}`);
  await expect(
    page.getByRole("region", { name: "Entered so far" }).getByRole("button", { name: /^Remove:/ }),
  ).toHaveCount(2);
  await page.goto(`/horses/${TEAL}/brief`);
  await expect(page.getByRole("button", { name: /^Not today:/ })).toHaveCount(2);
  await page.close();
});

test("the yard it kept is shown by itself, verdicts and all", async ({ browser }) => {
  const page = await browser.newPage({ baseURL: application.url });
  await openFormer(page, 3);
  await page.route("**/api/**", (route) => route.abort());
  await page.goto("/");
  await page.getByRole("link", { name: "Thistle", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Thistle", level: 1 })).toBeVisible();
  await expect(page.getByText(/Shares the pen/).first()).toBeVisible();
  await page.close();
});
