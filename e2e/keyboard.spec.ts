import { expect, test, type Page } from "./test";
import { daysAgo, horseId } from "./pages";

/** Presses Tab until the focused element's name or id fits. */
async function tabTo(page: Page, wanted: RegExp): Promise<void> {
  for (let presses = 0; presses < 160; presses += 1) {
    await page.keyboard.press("Tab");
    const name = await page.evaluate(() => {
      const at = document.activeElement as HTMLElement | null;
      const label = at?.id
        ? document.querySelector(`label[for="${at.id}"]`)?.textContent
        : at?.closest("label")?.textContent;
      return [at?.getAttribute("aria-label"), label, at?.textContent].filter(Boolean).join(" ").trim();
    });
    if (wanted.test(name)) return;
  }
  throw new Error(`never reached ${wanted}`);
}

/** Types into the focused field; dates and times in the order of the language the browser is started with. */
async function typeInto(page: Page, text: string): Promise<void> {
  await page.keyboard.type(text);
}

test("the main job with the keyboard alone: add a horse, write up an outing, read why, correct an entry", async ({
  page,
}) => {
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Hill pony yard" })).toBeVisible();
  await page.keyboard.press("n");
  await expect(page.getByRole("dialog")).toBeVisible();
  await tabTo(page, /^Name/);
  await typeInto(page, "Rowan");
  await tabTo(page, /^Foaled/);
  await typeInto(page, "2023");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("link", { name: "Rowan", exact: true })).toBeVisible();
  const id = await horseId(page, "Rowan");

  await tabTo(page, /^Rowan$/);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(new RegExp(`/horses/${id}$`));
  await expect(page.getByRole("heading", { name: "Rowan", level: 1 })).toBeVisible();
  await page.keyboard.press("w");
  await expect(page.getByRole("heading", { name: "Write up an outing" })).toBeVisible();
  await expect(page).toHaveURL(new RegExp(id));
  const [year = "", month = "", day = ""] = (await daysAgo(page, 1)).split("-");
  await tabTo(page, /^Day/);
  await typeInto(page, `${month}${day}${year}`);
  await tabTo(page, /^Start/);
  await typeInto(page, "0900A");
  await tabTo(page, /^End/);
  await typeInto(page, "0915A");
  await tabTo(page, /^Place/);
  await typeInto(page, "Top yard");
  await tabTo(page, /^Handler/);
  await typeInto(page, "M");
  await tabTo(page, /^Plan$/);
  await page.keyboard.press("ArrowRight");
  await tabTo(page, /^Shares the pen$/);
  for (let n = 0; n < 6; n += 1) await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("radio", { name: "First touch" })).toBeChecked();
  await tabTo(page, /^Near/);
  await page.keyboard.press("ArrowRight");
  // The focus follows the arrow a moment later, sooner than a hand but not than this test.
  const off = page.getByRole("radio", { name: "Off (right)" });
  await expect(off).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(off).toHaveAttribute("data-state", "on");
  await tabTo(page, /^mood 1, quiet/);
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Enter");
  await expect(page.getByText("3 entered")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByText("2 entered")).toBeVisible();
  await tabTo(page, /^Save the outing/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Rowan: saved" })).toBeVisible();
  await expect(page.getByText("First touch, off side: untried → begun")).toBeVisible();

  await tabTo(page, /^The outing/);
  await page.keyboard.press("Enter");
  await tabTo(page, /^Correct: First touch, off side/);
  await page.keyboard.press("Enter");
  await tabTo(page, /^Answer/);
  await page.keyboard.type("tried");
  await page.keyboard.press("Enter");
  await tabTo(page, /^Save the correction/);
  await page.keyboard.press("Enter");
  await expect(page.getByText("answer to tried")).toBeVisible();
  await page.keyboard.press("h");
  await expect(page.getByRole("heading", { name: "Rowan", level: 1 })).toBeVisible();
  await tabTo(page, /^First touch/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("region", { name: "Reasons" })).toContainText("on the off side");
  for (const [key, heading] of [
    ["l", "Ledger"],
    ["y", "Yard"],
    ["s", "Hill pony yard"],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole("heading", { name: heading, level: 1 })).toBeVisible();
  }
});

test("single keys can be switched off; ? still shows them", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Hill pony yard" })).toBeVisible();
  await page.keyboard.press("?");
  await page.getByLabel("Single letters are keys").uncheck();
  await page.keyboard.press("Escape");
  await page.keyboard.press("w");
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await expect(page).toHaveURL(/\/$/);
});
