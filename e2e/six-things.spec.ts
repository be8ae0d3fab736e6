import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { expect, patient, test } from "./test";
import { findStep, loosePenStart } from "@still-pine/core/programs";
import { addHorse, addHorseByForm, daysAgo, fillHead, horseId, isRead } from "./pages";

const ASSESS = new URL("../bin/assess", import.meta.url).pathname;

test("the string shows each horse with its age, days, last outing, trail and what it waits on", async ({ page }) => {
  await page.goto("/");
  const row = (name: string) => page.getByRole("row").filter({ has: page.getByRole("rowheader", { name }) });
  await expect(row("Bracken")).toContainText("24 in 33");
  await expect(row("Bracken")).toContainText("First halter 2/3");
  await expect(row("Bracken")).toContainText("yesterday");
  await expect(row("Plover").getByRole("link", { name: "Yields the hindquarters" })).toBeVisible();
  await expect(row("Lapwing").getByRole("link", { name: "Stands at the block" })).toBeVisible();
  await expect(row("Sedge").getByLabel(/^First handling: \d+ of \d+ steady, 1 slipped$/)).toBeVisible();
});

test("the string is sorted, filtered and searched, and the address keeps it", async ({ page }) => {
  await page.goto("/");
  const names = page.getByRole("table", { name: "Horses in work" }).getByRole("rowheader");
  await expect(names.first()).toContainText("Sedge");
  await page.getByLabel("Sorted by").selectOption("name");
  await expect(names.first()).toContainText("Bracken");
  await page.getByLabel("Shown", { exact: true }).selectOption("slipped");
  await expect(names.filter({ hasText: "Curlew" })).toBeVisible();
  await expect(names.filter({ hasText: "Teasel" })).toBeHidden();
  await page.getByLabel("Shown", { exact: true }).selectOption("all");
  await expect(page).not.toHaveURL(/show=/);
  await page.getByRole("searchbox").fill("block");
  await expect(names.filter({ hasText: "Lapwing" })).toBeVisible();
  await expect(names.filter({ hasText: "Bracken" })).toBeHidden();
  await page.reload();
  await expect(names.filter({ hasText: "Lapwing" })).toBeVisible();
  await expect(names.filter({ hasText: "Bracken" })).toBeHidden();
  await page.getByRole("searchbox").fill("nobody at all");
  await expect(page.getByText("No horse in work is like that.")).toBeVisible();
});

test("a horse is added, changed, taken out of work and brought back", async ({ page }) => {
  await addHorseByForm(page, "Whin");
  await page.getByRole("button", { name: "More for Whin" }).click();
  await page.getByRole("menuitem", { name: "Change name, age or sex" }).click();
  await page.getByLabel("Name").fill("");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Give the horse a name.")).toBeVisible();
  await page.getByLabel("Name").fill("Whinberry");
  await page.getByLabel("Sex").selectOption("gelding");
  await page.getByRole("button", { name: "Save" }).click();
  const link = page.getByRole("link", { name: "Whinberry", exact: true });
  await expect(link).toBeVisible();

  await page.getByRole("button", { name: "More for Whinberry" }).click();
  await page.getByRole("menuitem", { name: "Take out of work" }).click();
  const resting = page.getByRole("region", { name: "Out of work" });
  await expect(resting.getByRole("link", { name: "Whinberry" })).toBeVisible();
  await resting.getByRole("button", { name: "Back in work" }).click();
  // Of many horses only those in sight are drawn.
  await page.getByRole("searchbox").fill("Whinberry");
  await expect(
    page.getByRole("table", { name: "Horses in work" }).getByRole("link", { name: "Whinberry", exact: true }),
  ).toBeVisible();
});

test("the horse form names every field that is missing or wrong, beside it", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New horse" }).click();
  await page.getByRole("button", { name: "Add to the string" }).click();
  await expect(page.locator("#name-note")).toHaveText("Give the horse a name.");
  await expect(page.locator("#foaled-note")).toHaveText("Say when it was foaled, from 1980 on.");
  await page.getByLabel("Name").fill("Later");
  await page.getByLabel("Foaled", { exact: true }).fill("2150");
  await page.getByRole("button", { name: "Add to the string" }).click();
  await expect(page.locator("#foaled-note")).toHaveText("That day has not come yet.");
});

test("two people change one horse: the second chooses between the two", async ({ page, browser }) => {
  const id = await addHorse(page, "Yarrow");
  await page.goto("/");
  await page.getByRole("button", { name: "More for Yarrow", exact: true }).click();
  await page.getByRole("menuitem", { name: "Change name, age or sex" }).click();
  const other = patient(await browser.newPage({ baseURL: new URL(page.url()).origin }));
  const answer = await other.request.put(`/api/horses/${id}`, {
    headers: { "If-Match": '"1"' },
    data: { name: "Yarrow Two", foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" },
  });
  expect(answer.status()).toBe(200);
  await page.getByLabel("Name").fill("Yarrow Three");
  await page.getByRole("button", { name: "Save" }).click();
  const choice = page.getByRole("group", { name: "Choose field by field" });
  await expect(choice).toContainText("Yarrow Two as it is now");
  await choice.getByLabel("Yarrow Three as you typed it").check();
  await choice.getByRole("button", { name: "Save these" }).click();
  await expect(page.getByRole("link", { name: "Yarrow Three", exact: true })).toBeVisible();
  await other.close();
});

test("a horse whose quarters go over may come forward off a rope while the gate of first tying is shut", async ({
  page,
}) => {
  await page.goto(`/horses/${await horseId(page, "Rush")}`);
  const next = page.getByRole("region", { name: "What is next" });
  await next.getByText(/^and \d+ more that could be begun$/).click();
  await expect(next.getByRole("listitem").filter({ hasText: "Stands tied" })).toHaveText(
    "Stands tied (as far as: line through a ring, held, moved side to side; First tying stands before more)",
  );
  await next.getByRole("link", { name: "Stands tied" }).click();
  const stair = page.getByRole("region", { name: "How it grows" });
  await expect(stair.getByRole("listitem").filter({ hasText: "2 minutes, a person beside" }).first()).toContainText(
    "First tying stands before it",
  );
});

test("a horse's road shows every step and gate; a step shows its reasons, the rule, its asks and what would open it", async ({
  page,
}) => {
  await page.goto(`/horses/${await horseId(page, "Plover")}`);
  const road = page.getByRole("region", { name: "The road" });
  await expect(
    road.getByRole("img", { name: /^Lateral flexion: steady; near side steady, off side steady$/ }),
  ).toBeVisible();
  await expect(road.getByRole("img")).toHaveCount(90);
  await road.getByRole("button", { name: /Gate: First tying/ }).click();
  await expect(page.getByRole("dialog")).toContainText("Steps alone open no gate");
  await page.keyboard.press("Escape");
  const next = page.getByRole("region", { name: "What is next" });
  await expect(next.getByRole("listitem").first()).toContainText("Yields the hindquarters");
  await expect(next.getByRole("listitem").first()).toContainText("the next gate asks for it: first tying");
  await next.getByRole("link", { name: "Yields the hindquarters" }).click();
  await expect(page.getByRole("region", { name: "Reasons" })).toContainText("Light but tight on the near side");
  await expect(page.getByRole("region", { name: "What would open it" })).toContainText(
    /about \d+ quiet outings of three or four clean asks on the near side/,
  );
  await page
    .getByText(/^the rule and the \d+ asks it rests on$/)
    .first()
    .click();
  await expect(page.getByText(/From an even start, Beta\(1, 1\)/).first()).toBeVisible();
  await page.getByRole("region", { name: "Asks", exact: true }).getByRole("link").first().click();
  await expect(page.getByRole("list", { name: "Entries" })).toContainText("Yields the hindquarters, near side");
  await expect(page.getByRole("region", { name: "Verdicts then and now" })).toContainText("Begun");
});

test("an outing written up changes the verdicts before one's eyes; undo and correction are seen in its history", async ({
  page,
}) => {
  const id = await addHorse(page, "Fern");
  for (const [ago, presses] of [
    [2, 4],
    [1, 4],
  ] as const) {
    await page.goto(`/write-up?horse=${id}`);
    await fillHead(page, { day: await daysAgo(page, ago), start: "10:00", end: "10:20" });
    await page.getByRole("radio", { name: "30 seconds at 1 m · standard" }).click();
    for (let n = 0; n < presses; n += 1) await page.getByRole("button", { name: /^mood 1, quiet/ }).click();
    await page.getByRole("button", { name: "Save the outing" }).click();
    await expect(page.getByRole("heading", { name: "Fern: saved" })).toBeVisible();
    await expect(
      page.getByRole("region", { name: "What changed" }).or(page.getByRole("status", { name: "What changed" })),
    ).toContainText(ago === 2 ? "Shares the pen: untried → coming" : "Shares the pen: coming → steady");
  }
  await expect(page.getByRole("img", { name: "Shares the pen: steady" }).first()).toBeVisible();

  // A sign, a note, a mishap and a series, each one entry; the second outing of the day.
  await page.getByRole("button", { name: "Another outing" }).click();
  await fillHead(page, { day: await daysAgo(page, 1), start: "15:00", end: "15:30" });
  await page.getByText("Changes eyes", { exact: true }).click();
  await page.getByRole("radio", { name: "Off (right)" }).click();
  await page.getByRole("radio", { name: "tried" }).click();
  await page.getByRole("button", { name: /^phase 2, ask; mood 2/ }).click();
  await expect(page.getByRole("radio", { name: "gave" })).toHaveAttribute("data-state", "on");
  await page.getByRole("tab", { name: "Series" }).click();
  await page.getByLabel("How many clean").fill("9");
  await page.getByRole("button", { name: /^phase 1, hint; mood 1/ }).click();
  await expect(page.getByText("At most the 6 asked.")).toBeVisible();
  await page.getByLabel("How many clean").fill("5");
  await page.getByRole("button", { name: /^phase 1, hint; mood 1/ }).click();
  await page.getByRole("tab", { name: "Signs" }).click();
  await page.getByRole("button", { name: "long breath" }).click();
  await page.getByRole("tab", { name: "Mishap" }).click();
  await page.getByLabel("What happened").selectOption("barge");
  await page.getByLabel("What led to it").fill("the gate banged");
  await page.getByRole("button", { name: "Add the mishap" }).click();
  await page.getByRole("tab", { name: "Note" }).click();
  await page.getByRole("textbox", { name: "Note" }).fill("Better after the wait.");
  await page.getByRole("button", { name: "Save the outing" }).click();
  await page.getByRole("link", { name: "The outing" }).click();
  const entries = page.getByRole("list", { name: "Entries" });
  await expect(entries).toContainText("Changes eyes, off side: tried · phase 2 (ask), watchful");
  await expect(entries).toContainText("6 from memory, 5 clean, first gave, worst gave");
  await expect(entries).toContainText("Sign: long breath");
  await expect(entries).toContainText("Mishap: barge, severity 1; the gate banged");
  await expect(entries).toContainText("“Better after the wait.”");

  await entries.getByRole("button", { name: /^Correct: Changes eyes, off side: tried/ }).click();
  await page.getByRole("dialog").getByLabel("Answer").selectOption("gave");
  await page.getByRole("dialog").getByLabel("Mood").selectOption("1");
  await page.getByRole("button", { name: "Save the correction" }).click();
  await expect(entries).toContainText("first written: Changes eyes, off side: tried · phase 2 (ask), watchful");
  await expect(entries).toContainText("answer to gave, mood to 1");
  await entries.getByRole("button", { name: /^Strike out: Sign: long breath/ }).click();
  await expect(entries).toContainText("struck out");
  await page.getByRole("button", { name: "Undo the correction" }).click();
  await expect(entries.getByRole("button", { name: /^Strike out: Sign: long breath/ })).toBeVisible();
  await expect(entries).toContainText("undid that");

  // One of the first outing of the day taken back: share-space falls, and says so.
  await page.goto(`/horses/${id}`);
  await page.getByRole("link", { name: /10:00/ }).first().click();
  await entries
    .getByRole("button", { name: /^Strike out: Shares the pen/ })
    .first()
    .click();
  await expect(entries.getByText("struck out,")).toHaveCount(1);
  await expect(page.getByRole("status", { name: "Corrected" })).toContainText("Shares the pen: steady → coming");
});

test("the exported record, assessed on the command line, says what the screen says", async ({ page }) => {
  test.setTimeout(400_000);
  const id = await horseId(page, "Bracken");
  await page.goto(`/horses/${id}`);
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Export" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("bracken-record.json");
  const file = await download.path();
  const run = spawnSync(ASSESS, [file], { encoding: "utf8" });
  expect(run.stderr).toBe("");
  const { steps } = JSON.parse(run.stdout) as {
    steps: { step: string; status: string; sides: Record<string, { status: string }> }[];
  };
  const seen = await page
    .getByRole("region", { name: "The road" })
    .getByRole("img")
    .evaluateAll((prints) => prints.map((print) => print.getAttribute("aria-label") ?? ""));
  const words = new Map(
    seen.map((label) => [label.replace(/(, work is here)?:.*/, ""), label.replace(/^[^:]*: /, "")]),
  );
  const said = steps.flatMap(({ step, status, sides }): [string, string][] => {
    const known = findStep(loosePenStart, step);
    if (!known || (loosePenStart.optional.includes(step) && status === "untried")) return [];
    const each = Object.entries(sides).filter(([side]) => side !== "none");
    const spoken = each.map(
      ([side, one]) => `${side.replace("-", " ")}${side.includes("-") ? "" : " side"} ${one.status}`,
    );
    return [[known.name, each.length > 0 ? `${status}; ${spoken.join(", ")}` : status]];
  });
  expect(said.length).toBeGreaterThan(80);
  expect([...words].toSorted()).toEqual(said.toSorted());

  // In again, and out again: nothing new, the same bytes.
  const text = readFileSync(file, "utf8");
  await page.goto("/");
  await page.getByLabel("Record file").setInputFiles(file);
  const dialog = page.getByRole("dialog", { name: "What this file would bring" });
  await isRead(dialog);
  await expect(dialog.getByRole("row", { name: /Bracken/ })).toContainText("joins the one that is here");
  await expect(dialog.getByRole("button", { name: "Nothing new in it" })).toBeDisabled();
  await dialog.getByRole("button", { name: "Leave it" }).click();
  expect(await (await page.request.get(`/api/horses/${id}/record`)).text()).toBe(text);
});

test("nothing typed is lost by a reload, a missing field or a server that is away", async ({ page }) => {
  const id = await addHorse(page, "Clover");
  await page.goto(`/write-up?horse=${id}`);
  await page.getByRole("button", { name: /^mood 0, loose/ }).click();
  await page.getByLabel("Start").fill("10:30");
  await page.getByLabel("End").fill("10:10");
  await page.getByRole("tab", { name: "Note" }).click();
  await page.getByRole("textbox", { name: "Note" }).fill("half a sen");
  await page.reload();
  await expect(page.getByText("1 entered")).toBeVisible();
  await expect(page.getByLabel("Start")).toHaveValue("10:30");
  await page.getByRole("tab", { name: "Note" }).click();
  await expect(page.getByRole("textbox", { name: "Note" })).toHaveValue("half a sen");
  await page.getByRole("button", { name: "Save the outing" }).click();
  await expect(page.locator("#end-note")).toHaveText("Must be after the start, 10:30.");
  await expect(page.locator("#place-note")).toHaveText("Say where.");
  await fillHead(page, { day: await daysAgo(page, 1), start: "10:30", end: "10:50" });

  // The server stores it, and its answer is lost on the way, until it is back.
  let away = true;
  await page.route("**/api/events", async (route) => {
    if (!away) return route.continue();
    await route.fetch();
    await route.abort();
  });
  await page.getByRole("button", { name: "Save the outing" }).click();
  await expect(page.getByRole("heading", { name: "Clover: saved" })).toBeVisible();
  await expect(page.getByText("Kept on this device.")).toBeVisible();
  await expect(page.getByRole("link", { name: /On this device only: 4/ })).toBeVisible();
  away = false;
  // Sent again by itself, it is what is stored already.
  await expect(page.getByRole("link", { name: /^Sent \d/ })).toBeVisible({ timeout: 20_000 });
  const record = (await (await page.request.get(`/api/horses/${id}/record`)).json()) as {
    outings: { events: unknown[] }[];
  };
  expect(record.outings.map((outing) => outing.events.length)).toEqual([2]);

  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("heading", { name: "Undone: every entry is struck out" })).toBeVisible();
  await page.getByRole("link", { name: "The outing" }).click();
  await expect(page.getByText("struck out,")).toHaveCount(2);
});
