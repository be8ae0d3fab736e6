import { readFileSync } from "node:fs";
import { expect, patient, test, type Page } from "./test";
import { startOnCopy } from "./application";
import { addHorse, axeFindings, entriesOnServer, goIn, isRead, openCard } from "./pages";

/** A program made one's own: changed by mouse and by keyboard, broken on purpose, published, gone by, carried to another yard. */

const wrong = (page: Page) => page.getByRole("region", { name: "What is wrong" });
const rows = (page: Page) => page.getByRole("region", { name: "The road" }).getByRole("button", { name: /^Move / });
const roadOf = async (page: Page): Promise<string[]> =>
  (await rows(page).evaluateAll((all) => all.map((one) => one.getAttribute("aria-label") ?? ""))).map((one) =>
    one.replace("Move ", ""),
  );
const isKept = (page: Page) =>
  expect(page.getByRole("status", { name: "Saving" })).toHaveText("Draft, kept at the yard.");

test("a copy is re-ordered by mouse and by keyboard, broken five ways, published, gone by, taken to an empty yard", async ({
  page,
  browser,
}) => {
  test.setTimeout(400_000);
  await page.setViewportSize({ width: 1280, height: 1400 });
  await page.goto("/programs/approach-and-stand");
  await page.getByRole("button", { name: "Make a copy of your own" }).click();
  await expect(wrong(page)).toContainText("Sound:");
  await page.getByLabel("Name", { exact: true }).fill("Our quiet way");
  expect(await axeFindings(page)).toEqual([]);
  const before = await roadOf(page);

  // By mouse: the third step before the second.
  const handle = await rows(page).nth(3).boundingBox();
  const target = await rows(page).nth(2).boundingBox();
  if (!handle || !target) throw new Error("no rows");
  await page.mouse.move(handle.x + 10, handle.y + 10);
  await page.mouse.down();
  await page.mouse.move(target.x + 10, target.y + 14, { steps: 12 });
  await page.mouse.move(target.x + 10, target.y + 6, { steps: 4 });
  await page.mouse.up();
  const byMouse = [...before];
  byMouse.splice(2, 0, ...byMouse.splice(3, 1));
  await expect.poll(() => roadOf(page)).toEqual(byMouse);

  // By keyboard: the fifth step two places down.
  await rows(page).nth(4).focus();
  await page.keyboard.press("Space");
  // Where the step is by now is told to whoever does not see it.
  const said = page.locator("[id^=DndLiveRegion]");
  for (const place of [4, 5, 6]) {
    await expect(said).toHaveText(
      place === 4 ? `${byMouse[4]} is taken up.` : `${byMouse[4]} goes to the place of ${byMouse[place]}.`,
    );
    if (place < 6) await page.keyboard.press("ArrowDown");
  }
  await page.keyboard.press("Space");
  const byKeys = [...byMouse];
  byKeys.splice(6, 0, ...byKeys.splice(4, 1));
  await expect.poll(() => roadOf(page)).toEqual(byKeys);
  await page.getByRole("button", { name: "Take back" }).click();
  await expect.poll(() => roadOf(page)).toEqual(byMouse);
  await page.getByRole("button", { name: "Again" }).click();
  await expect.poll(() => roadOf(page)).toEqual(byKeys);

  // Broken on purpose; each is named, and cannot be published.
  const publish = page.getByRole("button", { name: "Publish …" });
  const open = async (name: string): Promise<void> => {
    await page
      .getByRole("button", { name: new RegExp(`^${name} `) })
      .first()
      .click();
  };
  const broken = async (why: string | RegExp, doIt: () => Promise<void>): Promise<void> => {
    await doIt();
    await expect(wrong(page)).toContainText(why);
    await expect(publish).toBeDisabled();
    await page.getByRole("button", { name: "Take back" }).click();
    await expect(wrong(page)).toContainText("Sound:");
  };
  await broken("The gate First tying asks for “Lowers the head”, which is not on the road.", () =>
    page.getByRole("button", { name: "Take Lowers the head from the road" }).click(),
  );
  await open("Catching rope");
  await broken("needs that do not lead back to the step itself", async () => {
    await page.getByLabel("Catching rope rests also on").selectOption({ label: "Halter on and off" });
  });
  await open("Stands where put");
  await broken("at least what the catalogue asks of “Stands where put”, a safety step", async () => {
    await page.getByLabel("Mood at most").selectOption("3");
  });
  await broken("at least what the catalogue asks of “Stands where put”, a safety step", async () => {
    await page.getByLabel(/^At least, seconds/).fill("5");
  });
  await page.getByRole("button", { name: "A step of your own" }).click();
  const form = page.getByRole("dialog", { name: "A step of your own" });
  await form.getByLabel("What it is called").fill("Sits on him bareback");
  await form.getByLabel("Stage").selectOption({ label: "First rides" });
  await broken("in this stage somebody sits on him", () =>
    form.getByRole("button", { name: "Put it on the road" }).click(),
  );

  // A step of one's own that is sound; on the graph it is seen as well.
  await page.getByRole("button", { name: "A step of your own" }).click();
  await form.getByLabel("What it is called").fill("Stands in the river");
  await form.getByLabel("Stage").selectOption({ label: "Getting used to things" });
  await form.getByText("What the rules have to know of it").click();
  await form.getByLabel("he is led").check();
  await form.getByRole("button", { name: "Put it on the road" }).click();
  await page.getByRole("button", { name: /^Stands in the river / }).click();
  await page.getByLabel("Stands in the river rests also on").selectOption({ label: "Leads on a slack rope" });
  // Not all of another step: as far as one of its rungs, and moving too.
  await page.getByLabel("Stands in the river rests also on").selectOption({ label: "Sheet or tarpaulin" });
  await page.getByLabel("Sheet or tarpaulin: as far as").selectOption({ label: "as far as half open" });
  await page.getByLabel("Sheet or tarpaulin: how he goes").selectOption({ label: "moving too" });
  await expect(
    page.getByRole("button", { name: "Rests no more on Sheet or tarpaulin (as far as half open, moving too)" }),
  ).toBeVisible();
  // A step of one's own guards a person until somebody says otherwise; nobody is on him here, so that may be.
  const guards = page.getByLabel(/^It guards a person/);
  await expect(guards).toBeChecked();
  await guards.uncheck();
  await expect(guards).not.toBeChecked();
  await page.getByLabel("At a fright").selectOption({ label: "smaller" });
  await expect(wrong(page)).toContainText("Sound:");
  await isKept(page);
  // With no step open the graph begins at the beginning.
  await page.getByRole("button", { name: /^Stands in the river / }).click();
  await page.getByRole("button", { name: "As a graph" }).click();
  await expect(page.locator(".react-flow__node", { hasText: "Stands in the river" })).toBeAttached();
  // On the graph a line is drawn by mouse, and taken away by the keyboard.
  const line = page.locator('.react-flow__edge[data-id="catch-rope head-rub"]');
  const dot = async (step: string, kind: "source" | "target"): Promise<{ x: number; y: number }> => {
    const box = await page.locator(`.react-flow__node[data-id="${step}"] .react-flow__handle.${kind}`).boundingBox();
    if (!box) throw new Error(`no dot at ${step}`);
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  // The graph has come to rest where two looks at it find the same.
  let [from, to] = [await dot("catch-rope", "source"), await dot("head-rub", "target")];
  await expect
    .poll(async () => {
      const before = [from, to];
      [from, to] = [await dot("catch-rope", "source"), await dot("head-rub", "target")];
      return JSON.stringify(before) === JSON.stringify([from, to]);
    })
    .toBe(true);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x + 3, to.y + 2, { steps: 12 });
  await page.mouse.move(to.x, to.y);
  await page.mouse.up();
  await expect(line).toHaveCount(1);
  await line.focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Delete");
  await expect(line).toHaveCount(0);
  await page.getByRole("button", { name: "As a list" }).click();

  await publish.click();
  const dialog = page.getByRole("dialog", { name: "Publish Our quiet way" });
  await expect(dialog.getByRole("region", { name: "What it changes" })).toContainText(
    "Nothing: no horse goes by it yet",
  );
  expect(await axeFindings(page)).toEqual([]);
  await dialog.getByRole("button", { name: "Publish it" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Our quiet way");
  const { published } = await (await page.request.get("/api/programs")).json();
  const ours = (published as { ownSteps?: { marks?: string[] }[]; needs?: Record<string, unknown[]> }[]).at(-1);
  expect(ours?.ownSteps?.map(({ marks }) => marks)).toEqual([["led"]]);
  expect(Object.values(ours?.needs ?? {}).flat()).toContainEqual({ step: "sheet", rung: "half", setting: "moving" });
  const own = decodeURIComponent(page.url().split("/").at(-1) ?? "");

  // A horse goes by it, and its card says so.
  const horse = await addHorse(page, "Whitebeam");
  await page.goto(`/programs/compare?with=${own},loose-pen-start&horse=${horse}`);
  const column = page.getByRole("listitem").filter({ hasText: "Our quiet way" });
  await column.getByRole("button", { name: "Move Whitebeam to it …" }).click({ timeout: 10_000 });
  await page.getByRole("button", { name: "Move Whitebeam to Our quiet way" }).click({ timeout: 10_000 });
  await expect(page.getByText("Goes by")).toContainText("Our quiet way");
  await page.goto(`/horses/${horse}/map`);
  await expect(page.getByText("Stands in the river").first()).toBeAttached();

  // What is written down of the step of one's own is named in the outing, in the ledger and in what can be corrected.
  const river = await page.evaluate(
    async () =>
      ((await (await fetch("/api/programs")).json()) as { published: { ownSteps?: { id: string }[] }[] }).published.at(
        -1,
      )?.ownSteps?.[0]?.id,
  );
  const at = (minute: number): string => new Date(Date.now() - (90 - minute) * 60_000).toISOString();
  const sent = await page.request.post("/api/events", {
    data: {
      events: [
        { id: "river:start", at: at(0), type: "outing-start", place: "Ford", handler: "M" },
        { id: "river:ask", at: at(1), type: "ask", step: river, side: "near", phase: 1, answer: "gave", mood: 1 },
        { id: "river:end", at: at(30), type: "outing-end" },
      ].map((event) => ({ horse, outing: "river", event })),
    },
  });
  expect(sent.status()).toBe(200);
  await page.goto(`/horses/${horse}/outings/river`);
  await expect(page.getByText("asks: stands in the river")).toBeVisible();
  const entry = page.getByRole("list", { name: "Entries" }).getByRole("listitem").filter({ hasText: "gave" });
  await expect(entry).toContainText("Stands in the river, near side: gave · phase 1 (coming), quiet");
  await entry.getByRole("button", { name: /^Correct/ }).click();
  await expect(page.getByRole("dialog").getByLabel("Step")).toHaveValue(river ?? "");
  await page.keyboard.press("Escape");
  await page.goto(`/ledger?horse=${horse}&step=${river}`);
  await expect(page.getByRole("row").filter({ hasText: "Stands in the river, near side" })).toBeVisible();

  // A new version says first what it changes; a step taken up again is another word for nobody here, but what is next may be.
  await page.goto(`/programs/${own}`);
  await page.getByRole("button", { name: "Change it" }).click();
  await page.getByLabel("In a sentence or two").fill("Quiet, and by the river.");
  await isKept(page);
  await publish.click();
  await page.getByRole("dialog").getByRole("button", { name: "Publish it" }).click();
  await expect(page).toHaveURL(new RegExp(`/programs/${own}$`));
  await expect(page.getByText("Quiet, and by the river.")).toBeVisible();

  // Out as a file, into an empty yard, out again: the same.
  const saved = async (from: Page): Promise<Record<string, unknown>> => {
    const download = from.waitForEvent("download");
    await from.getByRole("button", { name: "As a file" }).click();
    return JSON.parse(readFileSync(await (await download).path(), "utf8")) as Record<string, unknown>;
  };
  const file = await saved(page);
  expect([file["name"], file["version"]]).toEqual(["Our quiet way", 2]);
  const elsewhere = await startOnCopy("empty");
  try {
    const there = patient(await browser.newPage({ baseURL: elsewhere.url, serviceWorkers: "block" }));
    await there.goto("/programs");
    const bring = async (content: string): Promise<void> =>
      there
        .getByLabel("Program file")
        .setInputFiles({ name: "p.json", mimeType: "application/json", buffer: Buffer.from(content) });
    await bring("{ not json");
    await expect(there.getByRole("alert")).toContainText("The file is not JSON");
    await bring(JSON.stringify({ ...file, road: ["no-such-step"], needs: { "share-space": [{ step: 7 }] } }));
    await expect(there.getByRole("alert")).toContainText("needs.share-space[0]");
    await bring(`{"__proto__":{"id":"x"},"id":"own-x","steps":${"[".repeat(400)}${"]".repeat(400)}}`);
    await expect(there.getByRole("alert")).toContainText("cannot be read as a program");
    await bring(JSON.stringify(file));
    await expect(wrong(there)).toContainText("Sound:");
    expect(await saved(there)).toEqual(file);
    await there.getByRole("button", { name: "Publish …" }).click();
    await there.getByRole("dialog").getByRole("button", { name: "Publish it" }).click();
    await expect(there.getByRole("heading", { level: 1 })).toHaveText("Our quiet way");

    // His record takes the program along: what is there already stays, what is new comes with him.
    const record = await (await page.request.get(`/api/horses/${horse}/record`)).body();
    await there.goto("/");
    await there
      .getByLabel("Record file")
      .first()
      .setInputFiles({ name: "whitebeam.json", mimeType: "application/json", buffer: record });
    const coming = there.getByRole("dialog", { name: "What this file would bring" });
    await isRead(coming);
    await expect(coming).toContainText('the program "Our quiet way", version 1, is here with other content');
    await expect(coming).toContainText('the program "Our quiet way", version 2, comes along');
    await coming.getByRole("button", { name: "Bring it in" }).click();
    await there.getByRole("dialog", { name: "It is in" }).getByRole("link", { name: "Whitebeam" }).click();
    await expect(there.getByText("Goes by")).toContainText("Our quiet way");
    expect(await (await there.request.get(`/api/horses/${horse}/record`)).json()).toMatchObject({
      programs: [{ version: 1 }, { version: 2, about: "Quiet, and by the river." }],
    });
  } finally {
    await elsewhere.stop();
  }
});

test("a horse whose program is not here is not judged; he is recorded all the same, and goes by another one after one press", async ({
  page,
}) => {
  const horse = await addHorse(page, "Siskin");
  const chosen = { id: "lost-1", at: "2026-05-01T08:00:00Z", type: "program", program: "own-lost", programVersion: 3 };
  const sent = await page.request.post("/api/events", { data: { events: [{ horse, outing: null, event: chosen }] } });
  expect(sent.ok()).toBe(true);
  await page.goto("/");
  await expect(page.getByRole("row", { name: /Siskin/ })).toContainText("own-lost, is not here: nothing is judged");
  await openCard(page, horse, ["flex"]);
  const notHere = page.getByRole("region", { name: "Program not here" });
  await expect(notHere).toContainText("Siskin goes by the program own-lost, and it is not here.");
  expect(await axeFindings(page)).toEqual([]);
  const outing = await goIn(page);
  await expect(page.getByText("His program is not here: no coach.")).toBeVisible();
  for (const key of ["1", "1", "1", "0", "1", "1"]) await page.keyboard.press(key);
  await page.keyboard.press("End");
  await page.keyboard.press("End");
  await expect(page.getByRole("heading", { name: "Coming out" })).toBeVisible();
  await expect
    .poll(async () => (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask").length)
    .toBe(3);
  await expect(page.getByRole("status", { name: "Verdicts" })).toContainText("nothing is judged until it is");
  await page.goto(`/horses/${horse}/steps/flex`);
  await expect(notHere).toBeVisible();
  await page.goto(`/horses/${horse}`);
  await expect(notHere).toBeVisible();
  await expect(page.getByRole("heading", { name: "What is next" })).toBeHidden();
  await notHere.getByRole("button", { name: "Loose pen start" }).click();
  await expect(notHere).toBeHidden();
  // What was recorded meanwhile is judged now.
  await page.goto(`/horses/${horse}/steps/flex`);
  await expect(page.getByRole("region", { name: "Reasons" })).toBeVisible();
  await expect(page.getByRole("region", { name: "What would open it" })).toBeVisible();
});
