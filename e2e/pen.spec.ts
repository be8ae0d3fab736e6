import { expect, test, type Page } from "./test";
import { addHorse, axeFindings, daysAgo, entriesOnServer, goIn, openCard, untilAnotherPress } from "./pages";

/** Recording live, on a phone held upright. */
test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

const STEPS = ["flex", "yield-hind", "lead", "give-halter"] as const;
const coach = (page: Page) => page.getByRole("status", { name: "The coach" });
const last = (page: Page) => page.getByRole("status", { name: "Last entry" });
const cell = (page: Page, name: string) => page.getByRole("button", { name: new RegExp(`^${name}(;|$)`) });
const exercise = (page: Page, name: string | RegExp) =>
  page.getByRole("group", { name: "Exercises" }).getByRole("button", { name });
const isKept = (page: Page) => expect(last(page).getByLabel("kept")).toBeVisible();

/** A finger that counts. */
function finger() {
  const count = { taps: 0 };
  const tap = async (target: ReturnType<Page["getByRole"]>): Promise<void> => {
    count.taps += 1;
    await target.tap();
  };
  return { count, tap };
}

test("a whole outing by touch: card, fetching, forty asks one tap each, a fright, go back, undo, leave it, finish easy, review", async ({
  page,
}) => {
  test.setTimeout(400_000);
  const horse = await addHorse(page, "Sorrel");
  await openCard(page, horse, STEPS);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Work day 1, calendar day 1");
  await expect(page.getByRole("region", { name: "Cautions" })).toContainText("Lateral flexion.");
  await page.getByRole("button", { name: "Start the watch" }).tap();
  await expect(page.getByRole("button", { name: /He is caught ?0:0[1-9]/ })).toBeVisible();
  await page.getByRole("button", { name: "He is caught" }).tap();
  await page.getByRole("group", { name: "Caught" }).getByRole("button", { name: "walked off" }).tap();
  const outing = await goIn(page);

  const { count, tap } = finger();
  let asks = 0;
  /** Another side or exercise is one tap of its own; an ask is one tap on the pad. */
  const ask = async (feel: string, expected?: string | RegExp): Promise<void> => {
    const before = count.taps;
    await tap(cell(page, feel));
    asks += 1;
    expect(count.taps - before).toBe(1);
    await isKept(page);
    if (expected) await expect(coach(page)).toContainText(expected);
    await untilAnotherPress(page);
  };
  const side = (name: "Near" | "Off") => page.getByRole("group", { name: "Side" }).getByRole("button", { name });

  /** He was asked for all of it: the line begins at the smallest. */
  const toStandard = async (smallest: string): Promise<void> => {
    const rung = page.getByRole("button", { name: /^Rung:/ });
    await expect(rung).toHaveAccessibleName(`Rung: ${smallest}`);
    for (let says = ""; !says.endsWith("the standard");) {
      await page.getByRole("button", { name: "Up a rung" }).tap();
      await expect(rung).not.toHaveAttribute("aria-label", says || `Rung: ${smallest}`);
      says = (await rung.getAttribute("aria-label")) ?? "";
    }
  };

  // Nothing is on record of this horse: what he is worked at lies behind the gate of the first halter, and it is said why.
  await expect(coach(page)).toContainText("First halter is shut, and this lies behind it.");
  await coach(page).tap();
  await page.getByRole("button", { name: "He knows it from elsewhere; it is not on record." }).tap();
  await expect(coach(page)).toContainText("Go on");
  await toStandard("a lean");
  await ask("ask, quiet", "It took more. From the least again.");
  await ask("hint, quiet");
  await ask("hint, quiet", "Go on");
  await ask("hint, quiet", "Enough here. Now one good one: off side.");
  await tap(side("Off"));
  await toStandard("a lean");
  for (const feel of ["hint, watchful", "hint, quiet", "hint, quiet"]) await ask(feel);
  await ask("thought, loose", "Leave it");

  await tap(exercise(page, /^Yields the hind/));
  await toStandard("1 step");
  await ask("hint, quiet");
  await ask("hint, tight", "Light but tight. Until it is quiet.");
  await ask("ask, tight", "Go back");
  await tap(coach(page));
  await expect(page.getByRole("list", { name: "It rests on" }).getByRole("listitem")).toHaveCount(2);
  await tap(page.getByRole("button", { name: "Close" }));
  for (let n = 0; n < 3; n += 1) await ask("hint, quiet");
  await tap(side("Near"));
  await tap(page.getByRole("button", { name: "fright" }));
  await tap(page.getByRole("button", { name: "a jump" }));
  await expect(coach(page)).toContainText("Go back");
  await tap(page.getByRole("button", { name: /^Quiet again/ }));
  await ask("hint, quiet", "Go back");
  await ask("hint, quiet", "It scared him today");
  for (let n = 0; n < 2; n += 1) await ask("hint, loose");

  // A wrong tap, taken back: the ask before it is the last one again.
  await ask("firm, over", "Go back");
  await tap(page.getByRole("button", { name: "undo" }));
  asks -= 1;
  await expect(last(page)).toContainText("Gave · hint · loose");

  await tap(exercise(page, /^Leads/));
  for (let n = 0; n < 6; n += 1) await ask("hint, quiet");
  await tap(side("Off"));
  for (let n = 0; n < 6; n += 1) await ask("hint, loose");
  await tap(exercise(page, /^Gives to the halter/));
  for (let n = 0; n < 4; n += 1) await ask("hint, quiet");
  await tap(page.getByRole("button", { name: "none", exact: true }));
  await expect(last(page)).toContainText("None · hint · quiet");
  await tap(side("Near"));
  for (let n = 0; n < 5; n += 1) await ask("hint, quiet");
  await tap(page.getByRole("button", { name: "more" }));
  await tap(page.getByRole("button", { name: "Tired" }));
  await tap(page.getByRole("button", { name: "stumbles" }));
  await expect(coach(page)).toContainText("Finish easy");
  await tap(exercise(page, /^Lateral flexion/));
  await ask("thought, loose", "That was the good one. Out.");
  expect(asks).toBeGreaterThanOrEqual(40);

  await tap(page.getByRole("button", { name: "more" }));
  await tap(page.getByRole("button", { name: "End the outing" }));
  await expect(page.getByRole("status", { name: "Verdicts" })).toContainText("Lateral flexion: untried → coming");
  const lines = page.getByRole("region", { name: "Finish lines" });
  await expect(lines.getByRole("row", { name: /Lateral flexion.*near reached/ })).toBeVisible();

  // What one tap left open is told now.
  const tell = page.getByRole("region", { name: "Still to tell" });
  await tell.getByLabel("At what").fill("a pheasant");
  await tell.getByRole("button", { name: "That is how it was" }).tap();
  await expect(tell).toBeHidden();
  await page.getByRole("region", { name: "Next time" }).getByLabel("In words").fill("Near side first, smaller.");
  await page.getByRole("button", { name: "Keep it for the next card" }).tap();
  await expect(page.getByText("It stands on the next card.")).toBeVisible();

  await expect.poll(async () => (await entriesOnServer(page, horse, outing)).length).toBeGreaterThan(asks);
  const entries = await entriesOnServer(page, horse, outing);
  expect(entries.filter(({ type }) => type === "ask")).toHaveLength(asks);
  expect(entries.find(({ type }) => type === "startle")).toMatchObject({ thing: "a pheasant", size: 3 });
  await page.goto(`/horses/${horse}/brief`);
  const card = page.getByRole("region", { name: "Last time" });
  await expect(card).toContainText("Near side first, smaller.");
  await expect(card).toContainText("jumped at a pheasant");
  await expect(card).toContainText(/walked off, \d s/);
  await expect(page.getByRole("list", { name: "At the edge" })).toContainText("the last review said so");
});

test("a whole outing by keys alone, as a numeric pad types them, and by the simulated remote", async ({ page }) => {
  const horse = await addHorse(page, "Juniper");
  await openCard(page, horse, ["flex", "rope-over"]);
  const outing = await goIn(page);
  const keys = async (...pressed: string[]): Promise<void> => {
    for (const key of pressed) await page.keyboard.press(key);
  };
  // Two keys before anything could be drawn between them: a quick hand on a slow phone.
  await page.evaluate(() => {
    for (const key of ["1", "1"]) window.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
  });
  await isKept(page);
  await expect(last(page)).toContainText("Gave · hint · quiet");
  await keys("2");
  await expect(last(page)).toContainText("Phase 2, ask; mood?");
  await keys("2", "5");
  await expect(last(page)).toContainText("Tried · ask · watchful");
  await keys("7", "1", "1");
  await expect(last(page)).toContainText("None · hint · quiet");
  await keys("9");
  await expect(page.getByRole("button", { name: /^Off/ })).toHaveAttribute("aria-pressed", "true");
  await keys("ArrowUp", "ArrowRight", "Enter");
  await expect(last(page)).toContainText("Gave · thought · loose");
  await keys("*", "3");
  await expect(last(page)).toContainText("Fright: a jump");
  await keys(".");
  await expect(last(page)).toContainText("quiet after");
  await keys("+");
  await expect(exercise(page, /^Rope/)).toHaveAttribute("aria-pressed", "true");
  // A step without phases takes one digit.
  await keys("1", "e", "o", "t", "3", "-", "/");
  await page.getByRole("button", { name: "nobody" }).waitFor();
  await keys("d", "d");
  await expect(last(page)).toContainText("Stood 1 s");

  await page.getByRole("button", { name: "more" }).tap();
  await page.getByRole("button", { name: /^Settings/ }).tap();
  await page.getByRole("switch", { name: /simulated remote/ }).tap();
  await page.getByRole("button", { name: "Close" }).tap();
  const remote = page.getByRole("region", { name: "Simulated remote" });
  await remote.getByRole("button", { name: "Key 2" }).tap();
  await expect(last(page)).toContainText("Gave · watchful");
  await keys("End", "End");
  await page.getByRole("region", { name: "Finish lines" }).waitFor();

  await expect
    .poll(async () => (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask").length)
    .toBe(6);
  const entries = await entriesOnServer(page, horse, outing);
  const asks = entries.filter(({ type }) => type === "ask");
  expect(asks.map(({ step, side, answer, phase, mood }) => [step, side, answer, phase, mood])).toEqual([
    ["flex", "near", "gave", 1, 1],
    ["flex", "near", "tried", 2, 2],
    ["flex", "near", "none", 1, 1],
    ["flex", "off", "gave", 0, 0],
    ["rope-over", "off", "gave", undefined, 1],
    ["rope-over", "off", "gave", undefined, 2],
  ]);
  const types = entries.map(({ type }) => type);
  for (const type of ["sign", "offer", "tired", "mishap", "dwell", "startle"]) expect(types).toContain(type);
});

test("a key can be given to something else, and all of them switched off", async ({ page }) => {
  const horse = await addHorse(page, "Medlar");
  await openCard(page, horse, ["flex"]);
  await goIn(page);
  await page.getByRole("button", { name: "more" }).tap();
  await page.getByRole("button", { name: /^Settings/ }).tap();
  await page.getByText("Which key does what").tap();
  await page.getByRole("button", { name: "Key for: Record where the pad stands" }).tap();
  await page.keyboard.press("x");
  await page.getByRole("button", { name: "Close" }).tap();
  await page.keyboard.press("x");
  await expect(last(page)).toContainText("Gave · hint · quiet");
  await page.reload();
  await page.keyboard.press("x");
  await page.getByRole("button", { name: "more" }).tap();
  await page.getByRole("button", { name: /^Settings/ }).tap();
  await page.getByRole("switch", { name: /^Keys of a remote/ }).tap();
  await page.getByRole("button", { name: "Close" }).tap();
  await page.keyboard.press("4");
  await page.keyboard.press("4");
  await expect(last(page)).toContainText("Gave · hint · quiet");
});

test("from memory a typical outing, six exercises on both sides, is written up with at most thirty taps", async ({
  page,
}) => {
  const horse = await addHorse(page, "Bramble");
  const steps = ["flex", "yield-hind", "lead", "give-halter", "yield-fore", "body-rub"];
  const day = await daysAgo(page, 3);
  const event = (id: string, fields: object) => ({
    horse,
    outing: `${horse}-1`,
    event: { id: `${horse}-${id}`, at: `${day}T09:30:00Z`, ...fields },
  });
  const answer = await page.request.post("/api/events", {
    data: {
      events: [
        { ...event("s", { type: "outing-start", place: "Round pen", handler: "M" }) },
        event("n", { type: "next-time", steps }),
        event("a", { type: "ask", step: "flex", side: "near", answer: "gave", phase: 1, mood: 1 }),
        event("e", { type: "outing-end", at: `${day}T10:00:00Z` }),
      ],
    },
  });
  expect(answer.status()).toBe(200);
  await page.goto(`/write-up?horse=${horse}`);
  const { count, tap } = finger();
  const begun = Date.now();
  await tap(page.getByRole("button", { name: /^As usual: just now, 30 min, Round pen, with M/ }));
  const sides = steps.length * 2;
  for (let n = 0; n < sides; n += 1) {
    await expect(page.getByText(`${n + 1} of ${sides}`)).toBeVisible();
    if (n % 5 === 1) await tap(page.getByRole("button", { name: "most good" }));
    // Where he is touched there are no phases.
    await tap(page.getByRole("button", { name: /^(phase 1, hint; )?mood 1/ }));
  }
  await tap(page.getByRole("button", { name: "Save the outing" }));
  await expect(page.getByRole("status", { name: "What changed" })).toContainText("Lateral flexion");
  expect(count.taps).toBeLessThanOrEqual(30);
  expect(Date.now() - begun).toBeLessThan(60_000);
  const { outings } = (await (await page.request.get(`/api/horses/${horse}`)).json()) as {
    outings: { id: string }[];
  };
  const entries = await entriesOnServer(page, horse, outings[0]?.id ?? "");
  expect(entries.filter(({ type }) => type === "series")).toHaveLength(sides);
});

test("nothing in the pen is smaller than 64 pixels or paler than 7 to 1, early, in a fright and near the cap, by day and at dusk", async ({
  page,
}) => {
  test.setTimeout(400_000);
  const horse = await addHorse(page, "Foxglove");
  await openCard(page, horse, ["flex", "leg-rub", "rope-over"]);
  await goIn(page);
  const look = async (): Promise<void> => {
    expect(await axeFindings(page, ["color-contrast-enhanced"])).toEqual([]);
    const small = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>("main.pen button, main.pen a")].flatMap((one) => {
        const { width, height } = one.getBoundingClientRect();
        return Math.min(width, height) < 63.5 ? [`${one.innerText} ${width} × ${height}`] : [];
      }),
    );
    expect(small).toEqual([]);
    // Nothing lies beside the screen.
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  };
  for (const colorScheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme });
    await look();
    await cell(page, "hint, quiet").tap();
    await look();
    await page.getByRole("button", { name: "none", exact: true }).tap();
    await page.getByRole("button", { name: "fright" }).tap();
    await look();
    await page.getByRole("button", { name: "away" }).tap();
    await look();
    await page.getByRole("button", { name: /^Quiet again/ }).tap();
    await exercise(page, /^Leg rub|^Legs/).tap();
    await look();
    await page.getByRole("button", { name: "mishap" }).tap();
    await look();
    await page.getByRole("button", { name: /A person is hurt/ }).tap();
    await look();
    await page.getByRole("button", { name: "Close" }).tap();
    await page.getByRole("button", { name: "more" }).tap();
    await look();
    await page.getByRole("button", { name: /^Settings/ }).tap();
    await look();
    await page.getByRole("button", { name: "Close" }).tap();
    await exercise(page, /^Lateral flexion/).tap();
  }
});

test("axe finds nothing on the card, in the pen and in the review", async ({ page }) => {
  const horse = await addHorse(page, "Speedwell");
  await openCard(page, horse, ["flex"]);
  expect(await axeFindings(page)).toEqual([]);
  await goIn(page);
  await cell(page, "hint, quiet").tap();
  await isKept(page);
  expect(await axeFindings(page)).toEqual([]);
  await page.keyboard.press("End");
  await page.keyboard.press("End");
  await page.getByRole("region", { name: "Finish lines" }).waitFor();
  await page.getByRole("listbox").focus();
  await page.keyboard.press("ArrowRight");
  await page.getByRole("region", { name: "The chosen entry" }).waitFor();
  expect(await axeFindings(page)).toEqual([]);
});

test("the review by keyboard: an entry is chosen, fixed, dropped, brought back, and one that was missed is added", async ({
  page,
}) => {
  const horse = await addHorse(page, "Campion");
  await openCard(page, horse, ["flex"]);
  const outing = await goIn(page);
  await page.keyboard.press("1");
  await page.keyboard.press("1");
  await page.keyboard.press("2");
  await page.keyboard.press("1");
  await isKept(page);
  await page.keyboard.press("End");
  await page.keyboard.press("End");
  const marks = page.getByRole("listbox", { name: "Entries in time" });
  await expect(marks.getByRole("option")).toHaveCount(2);
  await marks.focus();
  await page.keyboard.press("ArrowRight");
  const chosen = page.getByRole("region", { name: "The chosen entry" });
  await expect(chosen).toContainText("gave · hint · quiet");
  await chosen.getByRole("radio", { name: "tried" }).press("Enter");
  await expect(chosen).toContainText("tried · hint · quiet");
  await marks.focus();
  await page.keyboard.press("End");
  await page.keyboard.press("Delete");
  await expect(marks.getByRole("option")).toHaveCount(1);
  await page.getByText("1 struck out; they stay in the record").press("Enter");
  await page.getByRole("button", { name: "Bring back" }).press("Enter");
  await expect(marks.getByRole("option")).toHaveCount(2);
  await page.getByText("Add an ask that was missed").press("Enter");
  await page
    .getByRole("group", { name: "Add the ask" })
    .getByRole("button", { name: /^phase 0, thought; mood 0/ })
    .press("Enter");
  await expect(marks.getByRole("option")).toHaveCount(3);
  await expect
    .poll(async () => (await entriesOnServer(page, horse, outing)).filter(({ type }) => type === "ask"))
    .toMatchObject([
      { answer: "tried", phase: 1 },
      { answer: "gave", phase: 2 },
      { answer: "gave", phase: 0 },
    ]);
});
