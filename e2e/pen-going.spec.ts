import { expect, test, type Page } from "./test";
import { addHorse, axeFindings, entriesOnServer, goIn, openCard, untilAnotherPress } from "./pages";

/** Gait and frame over the pad, by touch, on a phone held upright, and by keys. */
test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

const tap = (page: Page, name: string | RegExp) => page.getByRole("button", { name }).tap();
const cell = (page: Page, name: string) => page.getByRole("button", { name: new RegExp(`^${name}(;|$)`) });
const last = (page: Page) => page.getByRole("status", { name: "Last entry" });
const going = (page: Page) => page.getByRole("group", { name: "Rein, gait and frame" });

/** What was said of how he goes, as it stands, and the asks with it. */
const said = async (page: Page, horse: string, outing: string): Promise<unknown[]> =>
  (await entriesOnServer(page, horse, outing)).flatMap(
    ({ type, step, side, gait, frame, direction, work, unasked, back, rung }) =>
      type === "ask"
        ? [[step, side, rung, gait ?? null]]
        : type === "gait"
          ? [[gait, direction, work, unasked ? back : "asked"]]
          : type === "frame"
            ? [[frame, direction, work]]
            : [],
  );

test("on the line the rein, gait and frame are one press each; an unasked canter is brought back; the review has the minutes", async ({
  page,
}) => {
  const horse = await addHorse(page, "Tormentil");
  await openCard(page, horse, ["circle-trot", "stretch"]);
  const outing = await goIn(page);
  await expect(going(page).getByRole("button", { name: /^Left 0/ })).toBeVisible();
  const small = await going(page)
    .getByRole("button")
    .evaluateAll((buttons) =>
      buttons.flatMap((button) => {
        const { width, height } = button.getBoundingClientRect();
        return width < 63.5 || height < 63.5 ? [button.textContent] : [];
      }),
    );
  expect(small).toEqual([]);
  expect(await axeFindings(page)).toEqual([]);
  await tap(page, "He goes in trot");
  await expect(last(page)).toContainText("Trot, left rein");
  await cell(page, "hint, quiet").tap();
  await untilAnotherPress(page);
  await tap(page, "canter, not asked");
  await tap(page, /^Brought back/);
  // He is in the trot again, on the left.
  await expect(going(page).getByRole("button", { name: /^Left 0.*trot/ })).toBeVisible();
  await expect(going(page).getByRole("button", { name: "He goes in canter" })).toBeVisible();
  // It spoils the ask it fell into: with none after it, the one before.
  await tap(page, /^Left 0/);
  await cell(page, "hint, quiet").tap();
  await untilAnotherPress(page);
  // What was wrong is still of that ask, though a frame was seen since.
  await page
    .getByRole("group", { name: "Exercises" })
    .getByRole("button", { name: /Long and low/ })
    .tap();
  await tap(page, "He goes in trot");
  await expect(last(page)).toContainText("Trot, right rein");
  await cell(page, "hint, loose").tap();
  await untilAnotherPress(page);
  await tap(page, "reaches down");
  await expect(last(page)).toContainText("Stretches, right rein");
  await tap(page, "fault");
  await expect(page.getByRole("region", { name: "What was wrong?" })).toContainText("Gave · hint · loose");
  await tap(page, "Close");
  await tap(page, "hollow");
  await tap(page, "more");
  await tap(page, "End the outing");
  const table = page.getByRole("region", { name: "How long in each gait" });
  await expect(table.getByRole("row", { name: /^trot/i })).toContainText(/\d:\d\d.*\d:\d\d/);
  await expect(table.getByRole("row", { name: /^canter/i })).toContainText(/\d:\d\d–/);
  await expect(table.getByRole("columnheader", { name: "Left rein" })).toBeVisible();
  await expect
    .poll(() => said(page, horse, outing))
    .toEqual([
      ["trot", "near", "line", "asked"],
      ["circle-trot", "near", "1", null],
      ["canter", "near", "line", "brought"],
      ["circle-trot", "off", "1", null],
      ["trot", "off", "line", "asked"],
      // Where the step wants to know it every ask says the gait.
      ["stretch", "off", "half", "trot"],
      ["stretches", "off", "line"],
      ["hollow", "off", "line"],
    ]);
});

test("by keys alone: up and down a gait, reaching down, hollow, a canter nobody asked for and its end", async ({
  page,
}) => {
  const horse = await addHorse(page, "Wayland");
  await openCard(page, horse, ["trot-ride", "flex"]);
  const outing = await goIn(page);
  for (const key of ["g", "s", "l"]) await page.keyboard.press(key);
  await page.keyboard.press("n");
  await expect(page.getByRole("group", { name: "Canter, not asked for" })).toBeVisible();
  await untilAnotherPress(page);
  await page.keyboard.press("n");
  await page.keyboard.press("h");
  await expect(last(page)).toContainText("Walk, left rein");
  // Where he does not travel they say nothing.
  for (const key of ["+", "g", "s", "n"]) await page.keyboard.press(key);
  await expect(page.getByRole("group", { name: "Side" })).toBeVisible();
  await expect(last(page)).toContainText("Walk, left rein");
  await expect
    .poll(() => said(page, horse, outing))
    .toEqual([
      ["trot", "near", "ridden", "asked"],
      ["stretches", "near", "ridden"],
      ["hollow", "near", "ridden"],
      ["canter", "near", "ridden", "brought"],
      ["walk", "near", "ridden", "asked"],
    ]);
});
