import { EVENT_TYPES, type EventType, type Field } from "@still-pine/core/record";
import { expect, test, type Locator, type Page } from "./test";
import { addHorse, daysAgo, fillHead } from "./pages";

/** What a test types into each kind of field, and another value to correct it to. */
const SAMPLES: Record<string, readonly [string, string]> = {
  thing: ["a bag on the rail", "a bird"],
  text: ["stood square", "stood still"],
  reason: ["a stiff hock", "a cut knee"],
  cue: ["a lifted hand", "a kiss"],
  meaning: ["go out", "next gait"],
  taughtBy: ["M", "N"],
  helper: ["N", "M"],
  handler: ["M", "N"],
  place: ["Top yard", "Round pen"],
  gear: ["rope halter, stick", "rope halter"],
  weightKg: ["412 kg", "908 lb"],
  girthCm: ["175", "176"],
  lengthCm: ["160", "161"],
  heightCm: ["15.2", "14.3"],
  croupCm: ["15.3", "15.0"],
  reachM: ["1.5", "3 ft"],
  circleM: ["20", "15"],
  temperatureC: ["14", "15"],
  score: ["5.5", "6"],
  program: ["loose-pen-start", "loose-pen-start"],
  clean: ["2", "1"],
  count: ["3", "4"],
};

const isChosen = ({ is }: Field): boolean => ["choice", "yes-no", "step", "rung"].includes(is.kind);

/** What stands for a field: the first choice that is not empty, or a sample; `turn` 1 is another value. */
async function fillField(form: Locator, field: Field, turn: 0 | 1): Promise<void> {
  const control = form.getByLabel(new RegExp(`^${field.label.replace(/[()]/g, ".")}( \\(|$)`)).first();
  if (isChosen(field)) {
    const values = await control
      .locator("option")
      .evaluateAll((all) => all.map((one) => (one as HTMLOptionElement).value).filter(Boolean));
    await control.selectOption((turn === 1 ? values[1] : values[0]) ?? values[0] ?? "");
  } else if (field.is.kind === "day") await control.fill(turn === 0 ? "2026-07-01" : "2026-08-01");
  else if (field.is.kind !== "instant") await control.fill(SAMPLES[field.name]?.[turn] ?? (turn === 0 ? "2" : "3"));
}

const fieldsToFill = ({ type, fields }: EventType): Field[] =>
  fields.filter(({ name }) => type !== "head" || !name.endsWith("edAt"));

/** Fills every field of a type's form. A miss needs no mood, a series has to add up: the samples are right in themselves. */
async function fillForm(form: Locator, type: EventType): Promise<void> {
  for (const field of fieldsToFill(type)) {
    // How an ask was put is asked where it means something for its step.
    const label = form.getByLabel(field.label, { exact: true });
    if (field.since === undefined || (await label.count()) > 0) await fillField(form, field, 0);
  }
  // A standard is of a step that has all of one.
  if (type.type === "standard") await form.getByLabel("Step").selectOption("flex");
}

/** The field a correction changes: one that reads differently afterwards. */
function fieldToCorrect({ type, fields }: EventType): Field {
  const wanted: Record<string, string> = {
    ask: "mood",
    series: "clean",
    program: "reason",
    standard: "reason",
    head: "place",
  };
  const field = fields.find(({ name }) => name === wanted[type]) ?? fields[0];
  if (!field) throw new Error(`${type} has no field`);
  return field;
}

async function choose(page: Page, type: EventType): Promise<void> {
  const dialog = page.getByRole("dialog");
  const common = dialog.getByRole("radio", { name: type.name, exact: true });
  if ((await common.count()) > 0) await common.click();
  else await dialog.getByLabel("More kinds").selectOption({ label: type.name });
}

/** Enters, sees, corrects and strikes out one entry of a type. */
async function wholeLife(page: Page, type: EventType, list: Locator, button: string): Promise<void> {
  const before = await list.getByRole("button", { name: /^Correct: / }).count();
  await page.getByRole("button", { name: button }).click();
  await choose(page, type);
  const dialog = page.getByRole("dialog");
  await fillForm(dialog, type);
  await dialog.getByRole("button", { name: `Add: ${type.name.toLowerCase()}` }).click();
  await expect(dialog, type.type).toBeHidden();
  await expect(list.getByRole("button", { name: /^Correct: / })).toHaveCount(before + 1);

  // In an outing the entry comes last, of the horse it comes first.
  const items = list.locator(":scope > li");
  const entry = button === "Add an entry" ? items.last() : items.first();
  const field = fieldToCorrect(type);
  await entry.getByRole("button", { name: /^Correct: / }).click();
  await fillField(dialog, field, 1);
  await dialog.getByRole("button", { name: "Save the correction" }).click();
  await expect(dialog, type.type).toBeHidden();
  await expect(entry.getByRole("list", { name: "Corrections" }), type.type).toContainText(`${field.name} to`);
  await expect(entry).toContainText("first written:");
  await entry.getByRole("button", { name: /^Strike out: / }).click();
  await expect(entry.getByRole("list", { name: "Corrections" }), type.type).toContainText("struck out");
}

test("every type of entry of an outing is entered, seen, corrected and struck out on the outing's page", async ({
  page,
}) => {
  test.setTimeout(400_000);
  const id = await addHorse(page, "Every");
  await page.goto(`/write-up?horse=${id}`);
  await fillHead(page, { day: await daysAgo(page, 1), start: "10:00", end: "10:30" });
  await page.getByRole("button", { name: "Save the outing" }).click();
  await page.getByRole("link", { name: "The outing" }).click();
  await expect(page.getByRole("button", { name: "Add an entry" })).toBeVisible();
  const list = page.getByRole("list", { name: "Entries" });
  const types = EVENT_TYPES.filter((type) => type.byHand && type.of !== "horse");
  expect(types.length).toBeGreaterThan(13);
  for (const type of types) await wholeLife(page, type, list, "Add an entry");
  await expect(list.getByText("struck out,")).toHaveCount(types.length);
});

test("every type of entry of a horse is entered, seen, corrected and struck out on the horse's page", async ({
  page,
}) => {
  test.setTimeout(400_000);
  const id = await addHorse(page, "Whole");
  await page.goto(`/horses/${id}`);
  const list = page.getByRole("list", { name: "Of the horse" });
  const types = EVENT_TYPES.filter((type) => type.byHand && type.of !== "outing");
  expect(types.length).toBeGreaterThan(10);
  for (const type of types) await wholeLife(page, type, list, "Write something of him");
  await expect(list.getByText("struck out,")).toHaveCount(types.length);
});

test("every type of entry of an outing is entered in the write-up, seen there and on the outing's page", async ({
  page,
}) => {
  test.setTimeout(400_000);
  const id = await addHorse(page, "Written");
  await page.goto(`/write-up?horse=${id}`);
  await fillHead(page, { day: await daysAgo(page, 1), start: "10:00", end: "10:30" });
  await page.getByText("More: helper, gear, weather").click();
  const head = page.getByRole("region", { name: "The outing" });
  await head.getByLabel("Gear").fill("rope halter, 14 ft rope");
  await head.getByLabel("Temperature (°C)").fill("57 F");
  await head.getByLabel("Caught", { exact: true }).selectOption("came");
  await head.getByLabel("Seconds to catch").fill("a while");
  await page.getByText("More about the next ask").click();
  const entries = page.getByRole("region", { name: "Entries" });
  await entries.getByLabel("Wait (seconds)").fill("1.5");
  await entries.getByRole("radio", { name: "walks away" }).click();
  await page.getByRole("button", { name: /^mood 1, quiet/ }).click();
  await page.getByRole("tab", { name: "More" }).click();
  const rare = EVENT_TYPES.filter(
    (type) => type.byHand && type.of === "outing" && !["ask", "series", "sign", "mishap", "head"].includes(type.type),
  );
  for (const type of rare) {
    await page.getByRole("radio", { name: type.name, exact: true }).click();
    await fillForm(page.getByRole("tabpanel"), type);
    await page.getByRole("button", { name: `Add: ${type.name.toLowerCase()}` }).click();
  }
  await expect(page.getByText(`${rare.length + 1} entered`)).toBeVisible();
  await page.getByRole("button", { name: "Save the outing" }).click();
  await expect(page.getByText("A number from 0 to 21600.").first()).toBeVisible();
  await head.getByLabel("Seconds to catch").fill("40");
  await page.getByRole("button", { name: "Save the outing" }).click();
  await expect(page.getByRole("heading", { name: "Written: saved" })).toBeVisible();
  await page.getByRole("link", { name: "The outing" }).click();
  const list = page.getByRole("list", { name: "Entries" });
  await expect(list.locator(":scope > li")).toHaveCount(rare.length + 1);
  await expect(list).toContainText("walks away, wait 1.5 s");
  await expect(list).toContainText("Startled at a bag on the rail");
  // What was typed comes back as typed, whatever the yard's units.
  await expect(page.getByRole("region", { name: "The outing" })).toContainText("Temperature 57 °F");
  await expect(page.getByRole("region", { name: "The outing" })).toContainText("Seconds to catch 40 s");
});

test("the rung of an ask is said in the write-up, stays for the next, is mended in the review and stands on the step's stair", async ({
  page,
}) => {
  const id = await addHorse(page, "Rungs");
  await page.goto(`/write-up?horse=${id}`);
  await fillHead(page, { day: await daysAgo(page, 1), start: "10:00", end: "10:30" });
  const rungs = page.getByRole("tabpanel").getByRole("radiogroup", { name: /^Rung/ });
  await expect(page.getByRole("tabpanel")).toContainText("Rung not said");
  await rungs.getByRole("radio", { name: "10 seconds at 3 m" }).click();
  const quiet = page.getByRole("button", { name: /^mood 1, quiet/ });
  await quiet.click();
  await quiet.click();
  const entered = page.getByRole("region", { name: "Entered so far" }).getByRole("listitem");
  await expect(entered.filter({ hasText: "gave · quiet · 10 seconds at 3 m" })).toHaveCount(2);
  // What would have spoiled this one is not said of another step's.
  await page.getByRole("tabpanel").getByRole("radio", { name: "walks away" }).click();
  await page.getByRole("tabpanel").getByText("First touch", { exact: true }).click();
  await quiet.click();
  await expect(entered).toHaveCount(3);
  await expect(entered.filter({ hasText: "walks away" })).toHaveCount(0);
  await page.getByRole("button", { name: "Save the outing" }).click();
  await page.getByRole("link", { name: "The outing" }).click();
  await expect(page.getByRole("list", { name: "Entries" })).toContainText("10 seconds at 3 m");

  await page.goto(`${page.url()}/review`);
  await page.getByRole("listbox", { name: "Entries in time" }).focus();
  await page.keyboard.press("ArrowRight");
  const chosen = page.getByRole("region", { name: "The chosen entry" });
  await expect(chosen.getByRole("radio", { name: "10 seconds at 3 m" })).toBeChecked();
  await chosen.getByRole("radio", { name: "30 seconds at 1 m · standard" }).click();
  await expect(chosen.getByRole("radio", { name: "30 seconds at 1 m · standard" })).toBeChecked();

  await page.goto(`/horses/${id}/steps/share-space`);
  const stair = page.getByRole("region", { name: "How it grows" });
  await expect(stair.getByRole("listitem").filter({ hasText: "the standard" })).not.toContainText("not shown");
  await expect(stair).toContainText("2 asks say their rung.");
  const table = page.getByRole("table");
  await expect(table.getByRole("row").filter({ hasText: "10 seconds at 3 m" })).toContainText("practice");
  await expect(table.getByRole("row").filter({ hasText: "30 seconds at 1 m" })).toContainText("clean");
});

test("15.2 stays 15.2 hands, in a yard of pounds and inches too", async ({ page }) => {
  const id = await addHorse(page, "Hands");
  await page.goto(`/horses/${id}`);
  const add = async (kind: string, label: RegExp, value: string): Promise<void> => {
    await page.getByRole("button", { name: "Write something of him" }).click();
    const dialog = page.getByRole("dialog");
    await dialog.getByRole("radio", { name: kind }).click();
    await dialog.getByLabel(label).fill(value);
    await dialog.getByRole("button", { name: /^Add: / }).click();
    await expect(dialog).toBeHidden();
  };
  const list = page.getByRole("list", { name: "Of the horse" });
  await page.getByRole("button", { name: "Write something of him" }).click();
  await page.getByRole("dialog").getByRole("radio", { name: "Height" }).click();
  await page
    .getByRole("dialog")
    .getByLabel(/^Withers/)
    .fill("15.4");
  await page
    .getByRole("dialog")
    .getByRole("button", { name: /^Add: / })
    .click();
  await expect(page.getByRole("dialog")).toContainText("a hand has four inches");
  await page.keyboard.press("Escape");
  // A tape's girth and length propose a weight, which one press takes over.
  await page.getByRole("button", { name: "Write something of him" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("radio", { name: "Weight and girth" }).click();
  await dialog.getByLabel(/^Girth/).fill("180 cm");
  await dialog.getByLabel(/^Length/).fill("160 cm");
  await dialog.getByRole("button", { name: /^Take / }).click();
  await expect(dialog.getByLabel("Weighed by")).toHaveValue("tape");
  await expect(dialog.getByLabel(/^Weight/)).not.toHaveValue("");
  await page.keyboard.press("Escape");
  await add("Height", /^Withers/, "15.2");
  await add("Weight and girth", /^Weight/, "900 lb");
  await expect(list).toContainText("withers 15.2 hands");
  await expect(list).toContainText("weight 900 lb");
  const record = (await (await page.request.get(`/api/horses/${id}/record`)).json()) as {
    horseEvents: Record<string, unknown>[];
  };
  expect(record.horseEvents).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ heightCm: 157.48, typed: { heightCm: "15.2 hands" } }),
      expect.objectContaining({ weightKg: 408.2331, typed: { weightKg: "900 lb" } }),
    ]),
  );
  // Correcting another field leaves both alone.
  await list.getByRole("button", { name: /^Correct: Height/ }).click();
  await page
    .getByRole("dialog")
    .getByLabel(/^Croup/)
    .fill("15.3");
  await page.getByRole("button", { name: "Save the correction" }).click();
  await expect(list).toContainText("withers 15.2 hands, croup 15.3 hands");
});
