import { mkdirSync } from "node:fs";
import { test, type Page } from "@playwright/test";
import type { HorseView } from "@still-pine/contract/http";
import type { HorseRecord, RecordEvent } from "@still-pine/core/record";
import { startApplication, type Application } from "./application";
import { daysAgo, fillHead, horseId } from "./pages";

/** Takes the pictures of docs/screenshots from a fresh demo yard whose clock stands still. Run by bin/screenshots. */

const FOLDER = new URL("../docs/screenshots/", import.meta.url).pathname;
const NOW = "2026-05-20T18:00:00Z";
let application: Application;

test.beforeAll(async () => {
  mkdirSync(FOLDER, { recursive: true });
  application = await startApplication({ env: { STILLPINE_NOW: NOW } });
});
test.afterAll(() => application.stop());

/** A record as it might come back from another yard: an entry more, and one that says something else. */
async function fileToBringIn(page: Page, horse: string): Promise<string> {
  const text = await (await page.request.get(`/api/horses/${horse}/record`)).text();
  const record = JSON.parse(text) as HorseRecord;
  const [outing] = record.outings;
  const [first] = outing?.events ?? [];
  if (!outing || !first) throw new Error("the demo horse has no outing");
  outing.events[0] = { ...first, mood: 3 } as RecordEvent;
  outing.events.push({ id: "from-elsewhere", at: outing.endedAt, type: "note", text: "Stood for the farrier." });
  return JSON.stringify(record);
}

for (const [suffix, width, height, colorScheme] of [
  ["", 1280, 800, "light"],
  ["-phone-dusk", 390, 844, "dark"],
] as const)
  test.describe(suffix || "laptop", () => {
    test.use({ viewport: { width, height }, colorScheme });

    test("pictures", async ({ browser }) => {
      test.setTimeout(240_000);
      const page = await browser.newPage({
        baseURL: application.url,
        viewport: { width, height },
        colorScheme,
        reducedMotion: "reduce",
      });
      // The browser's clock stands where the yard's stands.
      await page.clock.setFixedTime(new Date(NOW));
      const shoot = async (name: string): Promise<void> => {
        await page.waitForTimeout(600);
        await page.screenshot({ path: `${FOLDER}${name}${suffix}.png` });
      };
      await page.goto("/");
      await page.getByRole("list", { name: "Trail by stage" }).first().waitFor();
      await shoot("string");
      const plover = await horseId(page, "Plover");
      await page.goto(`/horses/${await horseId(page, "Lapwing")}`);
      await page.getByRole("region", { name: "Feel over time" }).waitFor();
      await shoot("horse");
      await page.goto(`/horses/${await horseId(page, "Heron")}/map?step=saddle-work`);
      await page.getByText("Works under the saddle").first().waitFor();
      await shoot("map");
      await page.goto(`/horses/${plover}/steps/yield-hind`);
      await page.getByRole("region", { name: "Reasons" }).waitFor();
      await shoot("step");
      await page.goto(`/write-up?horse=${plover}`);
      await fillHead(page, { day: await daysAgo(page, 1), start: "09:00", end: "09:35" });
      await page.getByText("Yields the hindquarters", { exact: true }).click();
      for (const cell of [
        /^phase 1, hint; mood 1/,
        /^phase 1, hint; mood 1/,
        /^phase 0, thought; mood 1/,
        /^phase 1, hint; mood 3/,
      ])
        await page.getByRole("button", { name: cell }).click();
      await page.getByRole("group", { name: /Record an ask/ }).scrollIntoViewIfNeeded();
      await shoot("write-up");
      const { outings } = (await (await page.request.get(`/api/horses/${plover}`)).json()) as HorseView;
      await page.evaluate(() => localStorage.removeItem("still-pine.drafts"));
      await page.goto(`/horses/${plover}/outings/${outings[0]?.id}`);
      await page.getByRole("list", { name: "Entries" }).waitFor();
      if (suffix === "") {
        // A correction, then one of that correction: the chain is what the picture is of.
        const entry = page.getByRole("list", { name: "Entries" }).locator(":scope > li").nth(1);
        await entry.getByRole("button", { name: /^Correct:/ }).click();
        await page.getByRole("dialog").getByLabel("Mood").selectOption("2");
        await page.getByRole("button", { name: "Save the correction" }).click();
        await entry.getByText(/mood to 2/).waitFor();
        await entry.getByRole("button", { name: /^Undo:/ }).click();
        await entry.getByText("undid that").waitFor();
        await entry.getByRole("button", { name: /^Correct:/ }).click();
        await page.getByRole("dialog").getByLabel("Fault").selectOption("leans");
        await page.getByRole("button", { name: "Save the correction" }).click();
        await entry.getByText(/fault to leans/).waitFor();
      }
      await shoot("outing");

      await page.goto("/ledger?side=off");
      await page.getByRole("row").nth(1).getByRole("link").waitFor();
      await shoot("ledger");
      await page.goto("/yard");
      await page.getByRole("region", { name: "People" }).getByRole("listitem").first().waitFor();
      await shoot("yard");
      await page.goto("/");
      await page.getByLabel("Record file").setInputFiles({
        name: "plover-record.json",
        mimeType: "application/json",
        buffer: Buffer.from(await fileToBringIn(page, plover)),
      });
      await page.getByRole("region", { name: "In conflict" }).waitFor();
      await shoot("import");
      await page.close();
    });
  });
