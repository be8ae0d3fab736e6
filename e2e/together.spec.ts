import { chromium, expect, patient, test, type Browser, type BrowserContext, type Page } from "./test";
import { startOnCopy, type Application } from "./application";
import { addHorse, axeFindings, entriesOnServer, goIn, openCard, untilNoPair } from "./pages";
import { executablePath, flags } from "./browser";

/** Phones over HTTPS: pairing through the page with the codes, a helper at the rail, two on one outing with cuts between them. */

let application: Application;
let browser: Browser;
let phonesUrl: string;

test.beforeAll(async () => {
  application = await startOnCopy("demo", {
    args: ["--phones"],
    env: { STILLPINE_PHONES_PORT: "0", STILLPINE_ANNOUNCE: "no" },
  });
  phonesUrl = application.phones ?? "";
  browser = await chromium.launch({
    executablePath,
    args: [...flags, "--host-resolver-rules=MAP still-pine.local 127.0.0.1", "--ignore-certificate-errors"],
  });
});
test.afterAll(async () => {
  await browser?.close();
  await application?.stop();
});

const openLaptop = (): Promise<BrowserContext> =>
  browser.newContext({ baseURL: application.url, viewport: { width: 1280, height: 800 }, serviceWorkers: "block" });
const openPhone = (): Promise<BrowserContext> =>
  browser.newContext({
    baseURL: phonesUrl,
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    serviceWorkers: "block",
  });

/** A page in each. */
const pagesOf = (contexts: readonly BrowserContext[]): Promise<Page[]> =>
  Promise.all(contexts.map(async (one) => patient(await one.newPage())));

const codeOn = async (page: Page): Promise<string> => (await page.getByLabel(/^Code /).innerText()).trim();

async function makeCode(laptop: Page): Promise<string> {
  await laptop.goto("/phones");
  // What comes in meanwhile moves the button: a press beside it is made again.
  await expect(async () => {
    if (!(await laptop.getByLabel(/^Code /).isVisible())) await laptop.getByRole("button", { name: /code$/ }).click();
    await expect(laptop.getByLabel(/^Code /)).toBeVisible({ timeout: 5000 });
  }).toPass();
  return codeOn(laptop);
}

async function askIn(phone: Page, code: string, name: string): Promise<void> {
  await phone.goto(`/join#${code}`);
  await phone.getByLabel("What this phone is called").fill(name);
  // By key: the way back to an outing of its own, found late, would move the button from under a press.
  await phone.getByLabel("What this phone is called").press("Enter");
}

/** Asks in, and waits until it is let in: a page opened before that would be refused. */
async function pair(phone: Page, code: string, name: string): Promise<void> {
  await askIn(phone, code, name);
  await expect(phone).not.toHaveURL(/\/join/);
}

const press = async (page: Page, mood: string): Promise<void> => {
  await page.keyboard.press("1");
  await page.keyboard.press(mood);
  await expect(page.getByRole("status", { name: "Last entry" }).getByLabel("kept")).toBeVisible();
};
const near = (page: Page) => page.getByRole("button", { name: /^Near/ });

/** A laptop, a phone in the pen with all rights, and a helper at the rail. */
async function threeOf(horseName: string): Promise<{
  laptop: Page;
  pen: Page;
  rail: Page;
  contexts: BrowserContext[];
  horse: string;
  outing: string;
}> {
  const contexts = await Promise.all([openLaptop(), openPhone(), openPhone()]);
  const [laptop, pen, rail] = (await pagesOf(contexts)) as [Page, Page, Page];
  const horse = await addHorse(laptop, horseName);
  await pair(pen, await makeCode(laptop), `${horseName}'s pen`);
  await expect(pen.getByRole("link", { name: horseName, exact: true })).toBeVisible();
  await openCard(pen, horse, ["flex"]);
  const outing = await goIn(pen);
  await pen.getByRole("button", { name: "more" }).click();
  await pen.getByRole("button", { name: /Helper at the rail/ }).click();
  const code = await codeOn(pen);
  await pen.getByRole("button", { name: "Close" }).click();
  await pair(rail, code, `${horseName}'s rail`);
  await expect(rail.getByRole("heading", { name: `${horseName}, at the rail` })).toBeVisible();
  await expect(rail.getByText("With the pen")).toBeVisible();
  return { laptop, pen, rail, contexts, horse, outing };
}

test("a phone is paired through the code's page, seen in the list, and shut out at once; what it recorded stays on it", async () => {
  const contexts = await Promise.all([openLaptop(), openPhone()]);
  const [laptop, phone] = (await pagesOf(contexts)) as [Page, Page];
  const horse = await addHorse(laptop, "Whitethorn");
  await phone.goto("/");
  // Whoever is not let in sees no name of anything.
  await expect(phone.getByText(/Not let in|not paired/).first()).toBeVisible();
  await expect(phone.getByText("Whitethorn")).toHaveCount(0);

  const code = await makeCode(laptop);
  await expect(laptop.getByRole("img", { name: /Address and code/ })).toBeVisible();
  expect(await axeFindings(laptop)).toEqual([]);
  await phone.goto(`/join#${code}`);
  await expect(phone.getByLabel("Code on the laptop")).toHaveValue(code);
  expect(await axeFindings(phone)).toEqual([]);
  await pair(phone, code, "W's phone");
  await expect(phone.getByRole("link", { name: "Whitethorn", exact: true })).toBeVisible();
  // The code was for one phone.
  const other = await openPhone();
  const late = await other.newPage();
  await askIn(late, code, "Another");
  await expect(late.getByRole("alert")).toContainText("has let a phone in already");
  await other.close();

  await openCard(phone, horse, ["flex"]);
  const outing = await goIn(phone);
  await press(phone, "1");
  await expect
    .poll(async () => (await entriesOnServer(laptop, horse, outing)).filter(({ type }) => type === "ask").length)
    .toBe(1);
  await laptop.goto("/phones");
  await laptop.getByRole("button", { name: "Shut out W's phone" }).click();
  await expect(laptop.getByText(/shut out · last seen/)).toBeVisible();
  await press(phone, "0");
  await phone.goto("/waiting");
  await phone.getByRole("button", { name: "Send now" }).click();
  await expect(phone.getByText(/shut out on the laptop/).first()).toBeVisible();
  expect((await entriesOnServer(laptop, horse, outing)).filter(({ type }) => type === "ask")).toHaveLength(1);
  await phone.goto("/");
  // Of the yard it shows nothing; the outing it was in the middle of is its own.
  await expect(phone.getByRole("link", { name: "Whitethorn is in the pen: back to the outing" })).toBeVisible();
  await expect(phone.getByText(/shut out on the laptop/).first()).toBeVisible();
  await expect(phone.getByRole("link", { name: "Whitethorn", exact: true })).toHaveCount(0);

  await pair(phone, await makeCode(laptop), "W's phone again");
  await expect
    .poll(async () => (await entriesOnServer(laptop, horse, outing)).filter(({ type }) => type === "ask").length)
    .toBe(2);
  for (const one of contexts) await one.close();
});

test("the pen and the rail see each other's asks within two seconds, count one ask once, and the review shows the pair", async () => {
  test.setTimeout(400_000);
  const { laptop, pen, rail, contexts, horse, outing } = await threeOf("Wagtail");
  expect(await axeFindings(rail)).toEqual([]);
  await press(pen, "1");
  await expect(rail.getByRole("status", { name: "From the pen" })).toContainText("Gave · hint · quiet", {
    timeout: 2000,
  });
  await expect(near(rail)).toContainText("1 ask");
  await untilNoPair(rail);
  // Called out: near, hint, loose.
  await near(rail).tap();
  await rail.getByRole("group", { name: "How light" }).getByRole("button", { name: "hint" }).tap();
  await rail.getByRole("button", { name: "loose" }).tap();
  await expect(near(pen)).toContainText("2 asks", { timeout: 2000 });
  await untilNoPair(pen);
  // Both see one ask.
  await press(pen, "1");
  await rail.getByRole("button", { name: "watchful" }).tap();
  await expect(near(pen)).toContainText("3 asks");
  await expect(near(rail)).toContainText("3 asks");

  await pen.keyboard.press("End");
  await pen.keyboard.press("End");
  await expect(pen.getByRole("heading", { name: "Coming out" })).toBeVisible();
  await expect(rail.getByText("The outing was ended in the pen.")).toBeVisible();
  // Late, and counted all the same.
  await untilNoPair(rail);
  await rail.getByRole("button", { name: "quiet" }).tap();
  await expect.poll(async () => (await asks(laptop, horse, outing)).length).toBe(5);

  await laptop.goto(`/horses/${horse}/outings/${outing}/review`);
  const pairs = laptop.getByRole("region", { name: "Seen by two" });
  await expect(pairs).toContainText("Counts: Gave · hint · watchful, by Wagtail's rail");
  await expect(pairs).toContainText("Left out: Gave · hint · quiet, by Wagtail's pen");
  await expect(laptop.getByText(/4 asks/).first()).toBeVisible();
  expect(await axeFindings(laptop)).toEqual([]);
  // Who recorded what is told of every entry.
  const late = await laptop.context().newPage();
  await late.goto(`/horses/${horse}/outings/${outing}`);
  const entries = late.getByRole("list", { name: "Entries" });
  await expect(entries.getByText("on Wagtail's rail")).toHaveCount(3);
  await expect(entries.getByText("on Wagtail's pen").first()).toBeVisible();
  await late.close();
  await pairs.getByRole("button", { name: /^The other one/ }).click();
  await expect(pairs).toBeHidden();
  await expect.poll(async () => (await asks(laptop, horse, outing)).length).toBe(4);
  for (const one of contexts) await one.close();
});

test("cut from each other both go on; back again everything is there once, on both and on the server", async () => {
  test.setTimeout(400_000);
  const { laptop, pen, rail, contexts, horse, outing } = await threeOf("Woodcock");
  const [, penContext, railContext] = contexts as [BrowserContext, BrowserContext, BrowserContext];
  await press(pen, "1");
  await expect(near(rail)).toContainText("1 ask");
  await penContext.setOffline(true);
  await untilNoPair(rail);
  await rail.getByRole("button", { name: "quiet" }).tap();
  await untilNoPair(rail);
  await railContext.setOffline(true);
  await press(pen, "0");
  await rail.getByRole("button", { name: "tight" }).tap();
  await expect(rail.getByText(/On this device only/)).toBeVisible();
  await expect(near(pen)).toContainText("2 asks");
  await expect(near(rail)).toContainText("3 asks");
  await penContext.setOffline(false);
  await railContext.setOffline(false);
  // The third and the fourth were one ask: a moment apart, the same side.
  await expect(near(pen)).toContainText("3 asks", { timeout: 20_000 });
  await expect(near(rail)).toContainText("3 asks", { timeout: 20_000 });
  await expect.poll(async () => (await asks(laptop, horse, outing)).length, { timeout: 20_000 }).toBe(4);
  const ids = (await asks(laptop, horse, outing)).map(({ id }) => id);
  expect(new Set(ids).size).toBe(4);
  for (const one of contexts) await one.close();
});

const asks = async (page: Page, horse: string, outing: string): Promise<Record<string, unknown>[]> =>
  (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask");

test("a phone whose browser cleared its storage is told so, and what it had sent is there", async () => {
  const contexts = await Promise.all([openLaptop(), openPhone()]);
  const [laptop, phone] = (await pagesOf(contexts)) as [Page, Page];
  const horse = await addHorse(laptop, "Yew");
  await pair(phone, await makeCode(laptop), "C's phone");
  await openCard(phone, horse, ["flex"]);
  const outing = await goIn(phone);
  await press(phone, "1");
  await expect.poll(async () => (await asks(laptop, horse, outing)).length).toBe(1);
  await phone.goto("/waiting");
  const session = await phone.context().newCDPSession(phone);
  await session.send("Storage.clearDataForOrigin", {
    origin: phonesUrl,
    storageTypes: "indexeddb,local_storage,cache_storage,service_workers",
  });
  await phone.goto("/waiting");
  await expect(phone.getByRole("alert")).toContainText("The browser cleared what lay on this phone", {
    timeout: 15_000,
  });
  expect(await asks(laptop, horse, outing)).toHaveLength(1);
  // It is let in still, and goes on.
  await openCard(phone, horse, ["flex"]);
  const next = await goIn(phone);
  await press(phone, "1");
  await expect.poll(async () => (await asks(laptop, horse, next)).length).toBe(1);
  for (const one of contexts) await one.close();
});
