import { expect, test, type Page } from "./test";
import { addHorse, entriesOnServer, goIn, openCard, passes } from "./pages";

/** The pad, and ways of recording that have to be chosen first, and what they may not disturb. */
test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

const last = (page: Page) => page.getByRole("status", { name: "Last entry" });
const side = (page: Page, name: string) =>
  page.getByRole("group", { name: "Side" }).getByRole("button", { name: new RegExp(`^${name}`) });

async function choose(page: Page, ...names: string[]): Promise<void> {
  await page.getByRole("button", { name: "more" }).tap();
  await page.getByRole("button", { name: /^Settings/ }).tap();
  for (const name of names)
    await page
      .getByRole("button", { name, exact: true })
      .or(page.getByRole("switch", { name: new RegExp(`^${name}`) }))
      .tap();
  await page.getByRole("button", { name: "Close" }).tap();
}

async function inThePen(page: Page, name: string): Promise<{ horse: string; outing: string }> {
  const horse = await addHorse(page, name);
  await openCard(page, horse, ["flex", "lead"]);
  return { horse, outing: await goIn(page) };
}

test("the pad: anywhere on it counts, held it measures the wait, and a thumb that slides off records nothing", async ({
  page,
}) => {
  const where = await inThePen(page, "Tutsan");
  const pad = page.getByRole("group", { name: /^Feel/ });
  const box = await pad.boundingBox();
  if (!box) throw new Error("no pad");
  const wide = box.width / 5;
  const high = box.height / 5;
  // Between two cells.
  await page.mouse.click(box.x + wide * 4 + 1, box.y + high + 1);
  await expect(last(page)).toContainText("Gave · thought · quiet");
  await page.mouse.move(box.x + wide * 0.5, box.y + high * 4.5);
  // How long it was held by the page's own clock: a busy machine holds longer than was asked for.
  const held = await page.evaluateHandle(() => {
    const press = { from: 0, to: 0 };
    window.addEventListener("pointerdown", () => (press.from = performance.now()), { once: true, capture: true });
    window.addEventListener("pointerup", () => (press.to = performance.now()), { once: true, capture: true });
    return press;
  });
  await page.mouse.down();
  await passes(page, 1400);
  await page.mouse.move(box.x + wide * 3.5, box.y + high * 0.5, { steps: 4 });
  await page.mouse.up();
  await expect(last(page)).toContainText(/Gave · hint · loose · after \d+\.\d s/);
  const shown = Number(/after ([\d.]+) s/.exec(await last(page).innerText())?.[1]);
  expect(shown).toBeGreaterThanOrEqual(1.4);
  const { from, to } = await held.jsonValue();
  expect(Math.abs(shown - (to - from) / 1000)).toBeLessThan(0.2);
  await page.mouse.move(box.x + wide * 2.5, box.y + high * 2.5);
  await page.mouse.down();
  await page.mouse.move(box.x + wide * 2.5, box.y - 60);
  await page.mouse.up();
  await expect(page.getByRole("button", { name: /^Near/ })).toContainText("2 asks");
  await expect(last(page).getByLabel("kept")).toBeVisible();
  await page.keyboard.press("End");
  await page.keyboard.press("End");
  await expect
    .poll(async () => (await entriesOnServer(page, where.horse, where.outing)).filter(({ type }) => type === "ask"))
    .toMatchObject([
      { phase: 0, mood: 1 },
      { phase: 1, mood: 0, waitSeconds: expect.any(Number) as unknown as number },
    ]);
});

test("the side changes by a swipe, or by turning the phone face down and up, where that was chosen", async ({
  page,
}) => {
  await inThePen(page, "Sundew");
  const turn = (beta: number) =>
    page.evaluate((degrees) => {
      window.dispatchEvent(new DeviceOrientationEvent("deviceorientation", { beta: degrees, gamma: 0 }));
    }, beta);
  await turn(175);
  await turn(20);
  await expect(side(page, "Near")).toHaveAttribute("aria-pressed", "true");
  await choose(page, "By turning the phone face down and up");
  await turn(175);
  await expect(side(page, "Near")).toHaveAttribute("aria-pressed", "true");
  await turn(20);
  await expect(side(page, "Off")).toHaveAttribute("aria-pressed", "true");

  await choose(page, "By a swipe over near and off");
  const box = await side(page, "Near").boundingBox();
  if (!box) throw new Error("no side");
  await page.mouse.move(box.x + 20, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + 170, box.y + 30, { steps: 4 });
  await page.mouse.up();
  await expect(side(page, "Near")).toHaveAttribute("aria-pressed", "true");
});

test("words are spoken only where that was chosen; the coach can be off", async ({ page }) => {
  await page.addInitScript(() => {
    const said: string[] = [];
    Object.assign(globalThis, { said });
    Object.defineProperty(globalThis, "speechSynthesis", {
      value: { cancel: () => undefined, speak: (one: SpeechSynthesisUtterance) => said.push(one.text) },
    });
  });
  const said = () => page.evaluate(() => (globalThis as unknown as { said: string[] }).said);
  await inThePen(page, "Tormentil");
  await page.keyboard.press("1");
  await page.keyboard.press("1");
  await expect(last(page).getByLabel("kept")).toBeVisible();
  expect(await said()).toEqual([]);
  await choose(page, "Spoken words");
  await page.keyboard.press("2");
  await page.keyboard.press("3");
  await expect.poll(said).toEqual(["Stay. Light but tight. Until it is quiet.", "Gave · ask · tight"]);
  await choose(page, "Off");
  await expect(page.getByText("The coach is off.")).toBeVisible();
  await page.keyboard.press("2");
  await page.keyboard.press("4");
  await expect.poll(said).toHaveLength(3);
});

test("two fingers widen the timeline; what was typed for next time stays while taps are mended", async ({ page }) => {
  const where = await inThePen(page, "Woodruff");
  for (const key of ["1", "1", "2", "2", "End", "End"]) await page.keyboard.press(key);
  const marks = page.getByRole("listbox", { name: "Entries in time" });
  await expect(marks.getByRole("option")).toHaveCount(2);
  const width = () =>
    marks
      .locator("svg")
      .first()
      .evaluate((one) => one.clientWidth);
  // What is told of sending comes above it, and moves it no more then.
  await expect(page.getByRole("status", { name: "What waits here" })).toContainText(/^Sent/);
  await expect(page.getByRole("status", { name: "Verdicts" })).toBeVisible();
  const narrow = await width();
  const session = await page.context().newCDPSession(page);
  // The page may still move under the fingers while it settles; then they take hold anew.
  await expect(async () => {
    await marks.scrollIntoViewIfNeeded();
    const box = await marks.boundingBox();
    if (!box) throw new Error("no timeline");
    const touch = (type: "touchStart" | "touchMove" | "touchEnd", apart: number) =>
      session.send("Input.dispatchTouchEvent", {
        type,
        touchPoints:
          type === "touchEnd"
            ? []
            : [-1, 1].map((way, id) => ({ x: box.x + box.width / 2 + (way * apart) / 2, y: box.y + 90, id })),
      });
    await touch("touchStart", 60);
    for (const apart of [80, 110, 150]) await touch("touchMove", apart);
    await touch("touchEnd", 0);
    await expect.poll(width, { timeout: 1000 }).toBeGreaterThan(narrow * 1.5);
  }).toPass({ timeout: 15_000 });

  const next = page.getByRole("region", { name: "Next time" });
  await next.getByLabel("In words").fill("Off side first.");
  await marks.focus();
  await page.keyboard.press("End");
  await page.keyboard.press("Delete");
  await expect(marks.getByRole("option")).toHaveCount(1);
  await expect(next.getByLabel("In words")).toHaveValue("Off side first.");
  await next.getByRole("button", { name: "Keep it for the next card" }).tap();
  await expect
    .poll(async () => (await entriesOnServer(page, where.horse, where.outing)).map(({ type }) => type))
    .toContain("next-time");
});

test("an outing that ends on a device without room keeps its page until everything is sent", async ({ page }) => {
  const where = await inThePen(page, "Yarrowhill");
  await page.route("**/api/events", (route) => route.abort());
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException("no room", "QuotaExceededError");
    };
  });
  for (const key of ["1", "1", "2", "1", "End", "End"]) await page.keyboard.press(key);
  await expect(page.getByRole("alert")).toContainText(/This device is full: \d+ entries are only in this page/);
  // Elsewhere in the application and back: the same session still holds them.
  await page.getByRole("link", { name: "To its review" }).tap();
  await page.unroute("**/api/events");
  await expect
    .poll(
      async () => (await entriesOnServer(page, where.horse, where.outing)).filter(({ type }) => type === "ask").length,
      { timeout: 30_000 },
    )
    .toBe(2);
});
