import { expect, test, type Page } from "./test";
import { addHorse, axeFindings, entriesOnServer, goIn, openCard, untilAnotherPress } from "./pages";

/** The line over the pad, by touch, on a phone held upright. */
test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

const line = (page: Page) => page.getByRole("group", { name: "How it is asked" });
const rung = (page: Page) => line(page).getByRole("button", { name: /^Rung:/ });
const coach = (page: Page) => page.getByRole("status", { name: "The coach" });
const cell = (page: Page, name: string) => page.getByRole("button", { name: new RegExp(`^${name}(;|$)`) });
const tap = (page: Page, name: string | RegExp) => page.getByRole("button", { name }).tap();
const exercise = (page: Page, name: string) =>
  page.getByRole("group", { name: "Exercises" }).getByRole("button", { name });

/** Buttons of the page that are in sight and smaller than a glove needs. */
const tooSmall = (page: Page): Promise<string[]> =>
  page.getByRole("main").evaluate((main) =>
    [...main.querySelectorAll("button")].flatMap((button) => {
      const { width, height } = button.getBoundingClientRect();
      return width > 0 && (width < 63.5 || height < 63.5)
        ? [`${button.textContent} ${Math.round(width)}x${Math.round(height)}`]
        : [];
    }),
  );

/** The phone sleeps so long, and its browser is gone meanwhile; then the pen is opened again. */
async function sleeps(page: Page, time: string): Promise<void> {
  await page.clock.fastForward(time);
  await page.reload();
  await expect(page.getByRole("group", { name: "The watch runs" })).toBeVisible();
}

test("the line begins at the smallest, goes up by one press as the coach says, turns by one press, and every ask says it", async ({
  page,
}) => {
  const horse = await addHorse(page, "Larch");
  await openCard(page, horse, ["flag", "yield-hind"]);
  const outing = await goIn(page);
  await expect(rung(page)).toHaveAccessibleName("Rung: rolled, touched");
  await expect(line(page).getByRole("button", { name: "Down a rung" })).toBeDisabled();

  // Three good ones, and the coach names the next rung; the key it means is one press.
  for (let n = 0; n < 3; n += 1) {
    await cell(page, "quiet").tap();
    await untilAnotherPress(page);
  }
  await expect(coach(page)).toContainText("On to: rolled, stroked.");
  await tap(page, "Up a rung");
  await expect(rung(page)).toHaveAccessibleName("Rung: rolled, stroked");
  // Standing turns to moving by one press; a part of him opens its list.
  await tap(page, /^Standing or moving\?/);
  await expect(line(page).getByRole("button", { name: "Standing or moving? moving" })).toBeVisible();
  await tap(page, /^Where on him\?/);
  await expect(page.getByRole("region", { name: "Where on him?" })).toBeVisible();
  expect(await tooSmall(page)).toEqual([]);
  await tap(page, "neck");
  await cell(page, "loose").tap();
  await untilAnotherPress(page);

  // The other side takes along the place, not the rung; coming back it is as it was.
  const side = (name: RegExp) => page.getByRole("group", { name: "Side" }).getByRole("button", { name });
  await side(/^Off/).tap();
  await expect(rung(page)).toHaveAccessibleName("Rung: rolled, touched");
  await cell(page, "over").tap();
  await untilAnotherPress(page);
  await side(/^Near/).tap();
  await expect(rung(page)).toHaveAccessibleName("Rung: rolled, stroked");
  // Down to the one he could stand, by the whole ladder.
  await rung(page).tap();
  await page.getByRole("region", { name: "Which rung?" }).getByRole("button", { name: "Half open" }).tap();
  await expect(rung(page)).toHaveAccessibleName("Rung: half open");
  expect(await tooSmall(page)).toEqual([]);
  expect(await axeFindings(page)).toEqual([]);

  // It is there again after a reload, and the server has it with every ask.
  await page.reload();
  await expect(rung(page)).toHaveAccessibleName("Rung: half open");
  const said = async (): Promise<unknown[]> =>
    (await entriesOnServer(page, horse, outing))
      .filter(({ type }) => type === "ask")
      .map(({ v, rung: one, setting, part, mood }) => [v, one, setting, part ?? null, mood]);
  await expect.poll(said).toEqual([
    [2, "rolled-touched", "standing", null, 1],
    [2, "rolled-touched", "standing", null, 1],
    [2, "rolled-touched", "standing", null, 1],
    [2, "rolled-stroked", "moving", "neck", 0],
    [2, "rolled-touched", "standing", "neck", 4],
  ]);
});

test("what was wrong is two presses; what a fright became is one; the same again takes it back", async ({ page }) => {
  const horse = await addHorse(page, "Damson");
  await openCard(page, horse, ["yield-hind"]);
  const outing = await goIn(page);
  await cell(page, "hint, quiet").tap();
  await tap(page, "fault");
  await expect(page.getByRole("region", { name: "What was wrong?" })).toContainText("Gave · hint · quiet");
  expect(await tooSmall(page)).toEqual([]);
  expect(await axeFindings(page)).toEqual([]);
  await tap(page, "crosses behind");
  await tap(page, "fault");
  await expect(page.getByRole("button", { name: "crosses behind" })).toHaveAttribute("aria-pressed", "true");
  await tap(page, /^One more bump/);
  await tap(page, /^One more bump/);
  await tap(page, "keep 2");
  await tap(page, "fright");
  await tap(page, "a jump");
  await tap(page, "faced it");
  await tap(page, "held till quiet");
  expect(await tooSmall(page)).toEqual([]);
  await tap(page, /^Quiet again/);
  const said = async (): Promise<unknown[]> =>
    (await entriesOnServer(page, horse, outing)).flatMap(({ type, fault, helps, held, size, step, side }) =>
      type === "ask" ? [[fault, helps]] : type === "startle" ? [[size, held, step, side]] : [],
    );
  await expect.poll(said).toEqual([
    ["crosses-behind", 2],
    [3, "until-quiet", "yield-hind", "near"],
  ]);
});

test("something long runs a watch over a locked phone; ended by the horse it is a miss; a forgotten one is asked in the review", async ({
  page,
}) => {
  await page.clock.install();
  const horse = await addHorse(page, "Spindle");
  await openCard(page, horse, ["tie", "stand"]);
  const outing = await goIn(page);
  const runs = page.getByRole("group", { name: "The watch runs" });
  await rung(page).tap();
  await page
    .getByRole("region", { name: "Which rung?" })
    .getByRole("button", { name: "2 minutes, a person beside" })
    .tap();
  await tap(page, "Start the watch");
  await sleeps(page, "02:30");
  await expect(runs).toContainText("2:3");
  await expect(runs).toContainText("2 minutes, a person beside");
  expect(await tooSmall(page)).toEqual([]);
  expect(await axeFindings(page)).toEqual([]);
  await cell(page, "quiet").tap();
  await expect(line(page)).toBeVisible();
  // Standing: he leaves before the person does.
  await exercise(page, "Stands where put").tap();
  await tap(page, "Start the watch");
  await expect(runs).toContainText("0:0");
  await tap(page, "he ended it");
  await cell(page, "thought, watchful").tap();
  await expect(line(page)).toBeVisible();
  // And one that nobody ends.
  await tap(page, "Start the watch");
  await expect(runs).toBeVisible();
  await tap(page, "more");
  await tap(page, "End the outing");
  const forgotten = page.getByRole("region", { name: /the watch was started and never ended/ });
  await forgotten.getByLabel("How long was it really (seconds)").fill("long");
  await forgotten.getByRole("button", { name: /^phase 0.*mood 1/ }).tap();
  await expect(forgotten).toContainText("Say how many seconds it was, from 0 to 600.");
  await forgotten.getByLabel("How long was it really (seconds)").fill("75");
  await forgotten.getByRole("button", { name: /^phase 0.*mood 1/ }).tap();
  await expect(forgotten).toHaveCount(0);
  const said = async (): Promise<unknown[]> =>
    (await entriesOnServer(page, horse, outing))
      .filter(({ type }) => type === "ask")
      .map(({ step, answer, rung: one, dose, endedBy }) => [step, answer, one, endedBy === "horse" || dose, endedBy]);
  await expect.poll(said).toEqual([
    ["tie", "gave", "2min", 2.5, "person"],
    ["stand", "none", "1m-10s", true, "horse"],
    ["stand", "gave", "1m-10s", 75, "person"],
  ]);
});

test("a shut gate within a ladder is said on the card and before the ask, and the coach goes no higher than the rung before it", async ({
  page,
}) => {
  await page.clock.install();
  const horse = await addHorse(page, "Spurge");
  await page.goto(`/horses/${horse}/brief`);
  await page.getByLabel("Another step").selectOption("tie");
  const today = page.getByRole("region", { name: "Today" });
  const held = "line through a ring, held, moved side to side";
  await expect(today).toContainText(`as far as: ${held}; First tying stands before more`);
  await expect(today).toContainText(`3 clean on each side, ${held}`);
  await openCard(page, horse, ["tie"]);
  await goIn(page);
  await rung(page).tap();
  const rungs = page.getByRole("region", { name: "Which rung?" });
  await expect(rungs.getByRole("button", { name: "2 minutes, a person beside" })).toContainText("First tying is shut");
  // More than the gate lets him do is told as soon as it is meant, and the coach names what may be.
  await rungs.getByRole("button", { name: "2 minutes, a person beside" }).tap();
  await expect(coach(page)).toContainText(`First tying is shut: no more than this. Back to: ${held}.`);
  expect(await tooSmall(page)).toEqual([]);
  await tap(page, "Down a rung");
  await expect(rung(page)).toHaveAccessibleName(`Rung: ${held}`);
  await expect(coach(page)).not.toContainText("First tying");
  // The test moves this page's clock; a server that is reached would measure that it is wrong, and take it back.
  await page.context().setOffline(true);
  for (let n = 0; n < 2; n += 1) {
    await tap(page, "Start the watch");
    await page.clock.fastForward("01:10");
    await cell(page, "quiet").tap();
    await untilAnotherPress(page);
  }
  await expect(coach(page)).toContainText("First tying stands before more of it. Now the off side.");
});

test("afterwards the review says rung and feet of one ask, or of all of an exercise and side at once", async ({
  page,
}) => {
  const horse = await addHorse(page, "Privet");
  await openCard(page, horse, ["flag"]);
  const outing = await goIn(page);
  for (let n = 0; n < 3; n += 1) {
    await cell(page, "quiet").tap();
    await untilAnotherPress(page);
  }
  await page.getByRole("group", { name: "Side" }).getByRole("button", { name: /^Off/ }).tap();
  await cell(page, "quiet").tap();
  await untilAnotherPress(page);
  await tap(page, "more");
  await tap(page, "End the outing");
  const marks = page.getByRole("listbox", { name: "Entries in time" });
  await expect(marks.getByRole("option")).toHaveCount(4);
  await marks.focus();
  await page.keyboard.press("ArrowRight");
  const chosen = page.getByRole("region", { name: "The chosen entry" });
  await chosen.getByRole("checkbox", { name: "Say rung and feet of all 3 asks of this exercise and side" }).check();
  await chosen.getByRole("radio", { name: "moving" }).tap();
  await expect(chosen.getByRole("radio", { name: "moving" })).toBeChecked();
  await chosen.getByRole("radio", { name: "half open" }).tap();
  await expect(chosen.getByRole("radio", { name: "half open" })).toBeChecked();
  // What spoiled one of them did not spoil the others.
  await chosen.getByRole("radio", { name: "braces" }).tap();
  await expect
    .poll(async () =>
      (await entriesOnServer(page, horse, outing))
        .filter(({ type }) => type === "ask")
        .map(({ side, rung: one, setting, fault }) => [side, one, setting, fault ?? null]),
    )
    .toEqual([
      ["near", "half", "moving", "braces"],
      ["near", "half", "moving", null],
      ["near", "half", "moving", null],
      ["off", "rolled-touched", "standing", null],
    ]);
});

test("the line, the watch and what was wrong, by keys alone", async ({ page }) => {
  const horse = await addHorse(page, "Wayfarer");
  await openCard(page, horse, ["flag", "stand"]);
  const outing = await goIn(page);
  for (const key of ["u", "Home", "Insert", "z", "1", "Delete"]) await page.keyboard.press(key);
  await expect(page.getByRole("status", { name: "Last entry" })).toContainText("3 braces");
  for (const key of ["3", "p", "9", "+", "y"]) await page.keyboard.press(key);
  await expect(page.getByRole("group", { name: "The watch runs" })).toBeVisible();
  for (const key of ["0", "1"]) await page.keyboard.press(key);
  await expect(line(page)).toBeVisible();
  await expect
    .poll(async () =>
      (await entriesOnServer(page, horse, outing))
        .filter(({ type }) => type === "ask")
        .map(({ step, rung: one, setting, fault, helps, endedBy }) => [step, one, setting, fault, helps, endedBy]),
    )
    .toEqual([
      ["flag", "rolled-stroked", "moving", "braces", 1, undefined],
      ["stand", "1m-10s", undefined, undefined, undefined, "person"],
    ]);
});
