import { spawnSync } from "node:child_process";
import { expect, test, type APIRequestContext, type Page } from "./test";
import { loosePenStart } from "@still-pine/core/programs";
import { stepName } from "@still-pine/core/readiness";
import { startOnCopy } from "./application";
import { axeFindings, horseId } from "./pages";

const ASSESS = new URL("../bin/assess", import.meta.url).pathname;

/** What the screen says is the least, line by line. */
async function leastOnScreen(page: Page): Promise<string[]> {
  return page.getByRole("region", { name: "What would open it" }).getByRole("listitem").allTextContents();
}

for (const [horse, step] of [
  ["Lapwing", "block"],
  ["Bracken", "head-rub"],
  ["Plover", "yield-hind"],
] as const)
  test(`why ${step} of ${horse} is not steady and the least that would do is said within two clicks, and by bin/assess`, async ({
    page,
  }) => {
    const name = stepName(loosePenStart, step);
    await page.goto("/");
    await page.getByRole("link", { name: horse, exact: true }).click();
    await expect(page.getByRole("heading", { name: horse, level: 1 })).toBeVisible();
    await page.getByRole("region", { name: "What is next" }).getByRole("link", { name, exact: true }).click();
    await expect(page.getByRole("heading", { name, level: 1 })).toBeVisible();
    const least = await leastOnScreen(page);
    expect(least.length).toBeGreaterThan(0);
    const unmet = page
      .getByRole("region", { name: "Reasons" })
      .getByRole("listitem")
      .filter({ has: page.getByLabel("Not met") });
    const reasons = await unmet.locator("p").first().allTextContents();
    expect(reasons.length).toBeGreaterThan(0);

    const record = await page.request.get(`/api/horses/${await horseId(page, horse)}/record`);
    const { status, stdout } = spawnSync(ASSESS, ["--step", step, "--explain", "-"], {
      encoding: "utf8",
      input: await record.text(),
    });
    expect(status).toBe(0);
    for (const text of least) expect(stdout).toContain(`- ${text}`);
    for (const text of reasons) expect(stdout).toContain(`NOT  ${text}`);
  });

test("a step is found from anywhere by any word for it, with one chord", async ({ page }) => {
  await page.goto(`/horses/${await horseId(page, "Heron")}`);
  await expect(page.getByRole("heading", { name: "Heron", level: 1 })).toBeVisible();
  await page.keyboard.press("Control+k");
  await expect(page.getByRole("combobox", { name: "Find a step" })).toBeFocused();
  await page.keyboard.type("surcingle");
  await expect(page.getByRole("option", { name: /^Steady: Roller/ })).toBeVisible();
  expect(await axeFindings(page)).toEqual([]);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Roller", level: 1 })).toBeVisible();
  await expect(page.getByRole("link", { name: "Heron" })).toBeVisible();
});

test("the map is walked and read with the keyboard alone", async ({ page }) => {
  await page.goto(`/horses/${await horseId(page, "Heron")}`);
  await expect(page.getByRole("heading", { name: "Heron", level: 1 })).toBeVisible();
  await page.keyboard.press("m");
  const first = page.getByRole("button", { name: "Shares the pen, steady" });
  await expect(first).toBeVisible();
  for (let n = 0; n < 140 && !(await first.evaluate((node) => node === document.activeElement)); n += 1)
    await page.keyboard.press("Tab");
  await expect(first).toBeFocused();
  await page.keyboard.press("ArrowRight");
  const here = page.locator(".react-flow__node:focus");
  await expect(here).toHaveCount(1);
  await expect(here).not.toHaveAttribute("data-id", "share-space");
  const id = await here.getAttribute("data-id");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(new RegExp(`step=${id}`));
  await expect(page.locator("main")).toContainText(stepName(loosePenStart, id ?? ""));
  await expect(page.locator(".step-edge-lit").first()).toBeAttached();
  await page.keyboard.press("Escape");
  await expect(page).not.toHaveURL(/step=/);
});

test("a standard is adjusted, a step is held and overridden, each with its reason; nonsense is refused beside its field", async ({
  page,
}) => {
  const id = await horseId(page, "Rush");
  await page.goto(`/horses/${id}/steps/pick-up`);
  const dialog = page.getByRole("dialog");
  await page.getByRole("button", { name: "Override" }).click();
  await dialog.getByRole("button", { name: "Let the next steps start" }).click();
  await expect(dialog).toContainText("Say this one.");
  await dialog.getByLabel("Reason").fill("known at his last yard");
  await dialog.getByRole("button", { name: "Let the next steps start" }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole("region", { name: "Reasons" })).toContainText("“known at his last yard”");
  await expect(page.getByText("Begun", { exact: true }).first()).toBeVisible();

  await page.getByRole("button", { name: "Hold", exact: true }).click();
  await dialog.getByLabel("Reason").fill("tender behind");
  await dialog.getByRole("button", { name: "Hold this step" }).click();
  await expect(dialog).toContainText("Say this one.");
  await dialog.getByLabel("Who holds it").fill("M");
  await dialog.getByRole("button", { name: "Hold this step" }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText("Held", { exact: true }).first()).toBeVisible();

  await page.getByRole("button", { name: "Adjust standard" }).click();
  await dialog.getByLabel("Dose at least").fill("-1");
  await dialog.getByLabel("Reason").fill("still small");
  await dialog.getByRole("button", { name: "Adjust the standard" }).click();
  await expect(dialog.getByRole("alert")).toBeVisible();
  await dialog.getByLabel("Dose at least").fill("10");
  await dialog.getByRole("button", { name: "Adjust the standard" }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText(/10 seconds/).first()).toBeVisible();
  await expect(page.getByText(/His own; the program's is: .*30 seconds/)).toBeVisible();

  // Struck out again, so that the demo yard is as it was.
  for (let left = 3; left > 0; left -= 1) {
    await page
      .getByRole("button", { name: /^Strike out: / })
      .first()
      .click();
    await expect(page.getByRole("button", { name: /^Strike out: / })).toHaveCount(left - 1);
  }
});

const bad = async (request: APIRequestContext, horse: string, event: object) => {
  const response = await request.post("/api/events", {
    data: {
      events: [{ horse, outing: null, event: { id: `bad-${Math.random()}`, at: "2026-01-01T10:00:00Z", ...event } }],
    },
  });
  const { errors } = (await response.json()) as { errors?: { path: string; expected: string }[] };
  return [response.status(), errors?.map(({ path }) => path.replace("events[0].event.", ""))];
};

test("a step adjusted into nonsense, an override without a reason and a hold by nobody are refused with the field", async ({
  request,
  page,
}) => {
  const id = await horseId(page, "Teasel");
  const reason = "because";
  expect(await bad(request, id, { type: "standard", step: "flex", phase: 7, reason })).toEqual([422, ["phase"]]);
  expect(await bad(request, id, { type: "standard", step: "flex", dose: -1, reason })).toEqual([422, ["dose"]]);
  expect(await bad(request, id, { type: "standard", step: "flex", dose: 0, reason })).toEqual([422, ["dose"]]);
  expect(await bad(request, id, { type: "standard", step: "head-rub", phase: 1, reason })).toEqual([422, ["phase"]]);
  expect(await bad(request, id, { type: "standard", step: "flag", dose: 4, reason })).toEqual([422, ["dose"]]);
  expect(await bad(request, id, { type: "override", step: "flex" })).toEqual([422, ["reason"]]);
  expect(await bad(request, id, { type: "hold", step: "flex", reason })).toEqual([422, ["by"]]);
});

interface Written {
  horse: { id: string; name: string; foaled: string; foaledPrecision: string; sex: string };
  horseEvents: object[];
  outings: { id: string; events: object[] }[];
}

/** Another horse with the same latest outings, under other ids and another name; a row looks the same after a few outings as after many. */
async function writeDownAgain(request: APIRequestContext, record: Written | undefined, n: number): Promise<void> {
  if (!record) throw new Error("no record");
  const OUTINGS = 4;
  const { horse, horseEvents, outings } = JSON.parse(
    JSON.stringify({ ...record, outings: record.outings.slice(-OUTINGS) }).replaceAll(
      /"(id|replaces)":"([^"]+)"/g,
      (_all, field: string, id: string) => `"${field}":"${id}-${n}"`,
    ),
  ) as Written;
  const { id, name, foaled, foaledPrecision, sex } = horse;
  const added = await request.post("/api/horses", {
    data: { id, name: `${name} ${String(n).padStart(2, "0")}`, foaled, foaledPrecision, sex },
  });
  expect(added.status()).toBe(201);
  const events = [
    ...horseEvents.map((event) => ({ horse: id, outing: null, event })),
    ...outings.flatMap((outing) => outing.events.map((event) => ({ horse: id, outing: outing.id, event }))),
  ];
  const answer = await request.post("/api/events", { data: { events } });
  const { results } = (await answer.json()) as { results: { result: string }[] };
  expect(results.filter(({ result }) => result !== "stored")).toEqual([]);
}

test("sixty horses are a row each on a laptop, cards on a phone, and axe finds nothing", async ({ browser }) => {
  test.setTimeout(400_000);
  const application = await startOnCopy("demo");
  try {
    const context = await browser.newContext({ baseURL: application.url });
    const page = await context.newPage();
    const { horses } = (await (await page.request.get("/api/string")).json()) as {
      horses: { id: string; name: string }[];
    };
    const records = await Promise.all(
      horses.map(async ({ id }) => (await (await page.request.get(`/api/horses/${id}/record`)).json()) as Written),
    );
    for (let n = 0; n < 52; n += 1) await writeDownAgain(page.request, records[n % records.length], n);
    for (const [colorScheme, viewport] of [
      ["light", { width: 1280, height: 800 }],
      ["dark", { width: 390, height: 844 }],
    ] as const) {
      await page.emulateMedia({ colorScheme });
      await page.setViewportSize(viewport);
      await page.goto("/");
      await expect(page.getByText("60 of 60 horses shown")).toBeAttached();
      expect(await axeFindings(page)).toEqual([]);
      const wide = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(wide).toBe(0);
      if (viewport.width < 1000) continue;
      // Rows in sight on a laptop, of a row a horse.
      const rows = page.getByRole("table", { name: "Horses in work" }).getByRole("row");
      const seen = await rows.evaluateAll(
        (all) =>
          all.filter(
            (row) => row.hasAttribute("aria-rowindex") && row.getBoundingClientRect().bottom <= window.innerHeight,
          ).length,
      );
      expect(seen).toBeGreaterThanOrEqual(24);
    }
    await context.close();
  } finally {
    await application.stop();
  }
});
