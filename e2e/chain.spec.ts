import { expect, test, type Page } from "./test";
import { addHorse, axeFindings, goIn, untilAnotherPress } from "./pages";

/** A card's chain, by touch, on a phone held upright. */
test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

const coach = (page: Page) => page.getByRole("status", { name: "The coach" });
const piece = (page: Page, name: string) =>
  page.getByRole("group", { name: "Exercises" }).getByRole("button", { name: new RegExp(`^${name}`) });

async function ask(page: Page, feel: string, times = 1): Promise<void> {
  for (let n = 0; n < times; n += 1) {
    await page.getByRole("button", { name: new RegExp(`^${feel}(;|$)`) }).tap();
    await untilAnotherPress(page);
  }
}

async function upToTheStandard(page: Page, rungs: number): Promise<void> {
  const rung = page.getByRole("button", { name: /^Rung:/ });
  for (let n = 0; n < rungs; n += 1) {
    const before = (await rung.getAttribute("aria-label")) ?? "";
    await page.getByRole("button", { name: "Up a rung" }).tap();
    await expect(rung).not.toHaveAttribute("aria-label", before);
  }
}

test("a first day with a chain: pieces open as what they rest on is good, one closes again, and the review says so", async ({
  page,
}) => {
  const horse = await addHorse(page, "Chestnut");
  await page.goto(`/horses/${horse}/brief`);
  const edge = page.getByRole("list", { name: "At the edge" }).getByRole("listitem");
  await expect(edge.first()).toContainText("Shares the pen");
  expect(await edge.count()).toBeGreaterThanOrEqual(6);
  const waits = (name: string) => edge.filter({ has: page.getByText(name, { exact: true }) });
  await expect(waits("Turns to face")).toContainText("once Shares the pen is good today");
  await expect(waits("First touch")).toContainText("once Shares the pen and Turns to face are good today");
  await page.getByRole("button", { name: "Understood" }).tap();
  await page.getByRole("combobox", { name: "Place" }).fill("Round pen");
  await page.getByRole("combobox", { name: "Handler" }).fill("M");
  await goIn(page);

  await expect(piece(page, "Turns to face")).toContainText("after Shares the pen");
  await expect(piece(page, "First touch")).toContainText("after Shares the pen");
  expect(await axeFindings(page)).toEqual([]);
  await upToTheStandard(page, 3);
  await ask(page, "quiet", 2);
  await expect(piece(page, "Turns to face")).toContainText("after Shares the pen");
  await ask(page, "quiet");
  await expect(coach(page)).toContainText("Good for today. Open now: Turns to face.");
  await expect(piece(page, "Turns to face")).toContainText("0 of 3");
  await expect(piece(page, "Catching rope")).toContainText("0 of 3");
  await expect(piece(page, "First touch")).toContainText("after Turns to face");

  // The next link, and the one after it.
  await piece(page, "Turns to face").tap();
  await upToTheStandard(page, 2);
  await ask(page, "hint, quiet", 3);
  await expect(coach(page)).toContainText("Open now: First touch.");
  await expect(piece(page, "First touch")).toContainText("0 · 0 of 3");

  // Taken up before what it rests on was asked at all: it goes on, and the coach says what is first.
  await expect(piece(page, "Turns in and through")).toContainText("after Moves off freely");
  await piece(page, "Turns in and through").tap();
  await ask(page, "hint, quiet");
  await expect(coach(page)).toContainText("First Moves off freely, until it is good today.");

  // A miss ends it: what rests on that closes again.
  await piece(page, "Turns to face").tap();
  await page.getByRole("button", { name: "tried", exact: true }).tap();
  await ask(page, "hint, quiet");
  await expect(piece(page, "First touch")).toContainText("back to Turns to face");
  await piece(page, "First touch").tap();
  await ask(page, "quiet");
  await expect(coach(page)).toContainText("Turns to face was missed today: back to it first.");

  await page.getByRole("button", { name: "more" }).tap();
  await page.getByRole("button", { name: "End the outing" }).tap();
  const opened = page.getByRole("region", { name: "What opened" });
  await expect(opened.getByRole("listitem").first()).toContainText(
    "Shares the pen good for today: Turns to face, Catching rope and Moves off freely opened.",
  );
  await expect(opened).toContainText("Shares the pen and Turns to face good for today: First touch opened.");
  await expect(opened).toContainText("Turns to face was missed: First touch closed again.");
  await expect(opened).toContainText("Stayed shut: Turns in and through");
  await expect(page.getByRole("region", { name: "Finish lines" })).toContainText("Not taken up: Catching rope");
  expect(await axeFindings(page)).toEqual([]);

  // The judge says the same: what is good today, and what was begun on trust.
  await page.goto(`/horses/${horse}/steps/share-space`);
  await expect(page.getByText("Good today: the last asks came clean")).toBeVisible();
  await page.goto(`/horses/${horse}/steps/first-touch`);
  await expect(page.getByText("Begun on trust.")).toContainText("Turns to face: not good today, and not steady");
});
