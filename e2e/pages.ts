import { randomUUID } from "node:crypto";
import AxeBuilder from "axe-core";
import { expect, type Locator, type Page } from "@playwright/test";
import type { StringView } from "@still-pine/contract/http";

/** Id of a horse of the demo yard. */
export async function horseId(page: Page, name: string): Promise<string> {
  const response = await page.request.get("/api/string");
  const view = (await response.json()) as StringView;
  const horse = view.horses.find((one) => one.name === name);
  if (!horse) throw new Error(`no horse ${name}`);
  return horse.id;
}

/**
 * Waits until a file that comes in was read: that is done at the least priority, so that where others keep the machine busy it comes
 * last.
 */
export async function isRead(dialog: Locator): Promise<void> {
  await expect(dialog.getByRole("button", { name: /^(Bring in|Bring it in|Nothing new)/ })).toBeVisible({
    timeout: 90_000,
  });
}

/** Adds a horse through the interface, from the string, and returns its id. */
export async function addHorseByForm(page: Page, name: string): Promise<string> {
  await page.goto("/");
  await page.getByRole("button", { name: "New horse" }).click();
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Foaled", { exact: true }).fill("2022");
  await page.getByRole("button", { name: "Add to the string" }).click();
  await expect(page.getByRole("link", { name, exact: true })).toBeVisible();
  return horseId(page, name);
}

/** Adds a horse as the form does, without the form: for what begins with a horse. Opens no page. @returns its id */
export async function addHorse(page: Page, name: string): Promise<string> {
  const id = randomUUID();
  const response = await page.request.post("/api/horses", {
    data: { id, name, foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" },
  });
  if (response.status() !== 201) throw new Error(`${name} was not added: ${await response.text()}`);
  return id;
}

export async function fillHead(
  page: Page,
  head: { day?: string; start: string; end: string; place?: string; handler?: string },
): Promise<void> {
  if (head.day) await page.getByLabel("Day", { exact: true }).fill(head.day);
  await page.getByLabel("Start").fill(head.start);
  await page.getByLabel("End").fill(head.end);
  await page.getByRole("combobox", { name: "Place" }).fill(head.place ?? "Round pen");
  await page.getByLabel("Handler").fill(head.handler ?? "M");
  await page.getByRole("tab", { name: "Asks" }).click();
}

/** A day before today, as the yard counts. */
export async function daysAgo(page: Page, days: number): Promise<string> {
  const { today } = (await (await page.request.get("/api/yard")).json()) as { today: string };
  const date = new Date(`${today}T12:00:00Z`);
  date.setUTCDate(date.getUTCDate() - days);
  return date.toISOString().slice(0, 10);
}

const WCAG = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"];

/** Runs axe in the page; returns what it found, in short. @param rules tags, or single rules */
export async function axeFindings(page: Page, rules: string[] = WCAG): Promise<string[]> {
  if (!(await page.evaluate(() => "axe" in window))) await page.evaluate(AxeBuilder.source);
  return page.evaluate(async (runOnly) => {
    const { axe } = window as unknown as {
      axe: {
        run(context: Document, options: object): Promise<{ violations: { id: string; nodes: { html: string }[] }[] }>;
      };
    };
    // Nobody asks what it found to be right, and to list that takes most of its time.
    const { violations } = await axe.run(document, { runOnly, resultTypes: ["violations"] });
    return violations.map((one) => `${one.id}: ${one.nodes.map((node) => node.html.slice(0, 160)).join(" | ")}`);
  }, rules);
}

/** Opens a horse's card and puts these steps on it instead of those it proposes. */
export async function openCard(page: Page, horse: string, steps: readonly string[]): Promise<void> {
  await page.goto(`/horses/${horse}/brief`);
  const understood = page.getByRole("button", { name: "Understood" });
  await page.getByRole("button", { name: "Into the pen" }).waitFor();
  if (await understood.isVisible()) await understood.click();
  const drop = page.getByRole("button", { name: /^Not today:/ });
  while ((await drop.count()) > 0) await drop.first().click();
  for (const step of steps) await page.getByLabel("Another step").selectOption(step);
  await page.getByRole("combobox", { name: "Place" }).fill("Round pen");
  await page.getByRole("combobox", { name: "Handler" }).fill("M");
}

/** The pen takes an equal press within a quarter of a second for the same one; this waits, by the page's own clock, until that is over. */
export async function untilAnotherPress(page: Page): Promise<void> {
  await passes(page, 260);
}

/** Two devices that record the same within three seconds saw one ask; this waits until a next one cannot be meant. */
export async function untilNoPair(page: Page): Promise<void> {
  await passes(page, 3100);
}

/** Waits until the page's own clock has gone on by so much. */
export async function passes(page: Page, milliseconds: number): Promise<void> {
  const since = await page.evaluate(() => performance.now());
  await page.waitForFunction(([from, most]) => performance.now() - from >= most, [since, milliseconds] as const);
}

/** From the card into the pen; returns the outing's id. */
export async function goIn(page: Page): Promise<string> {
  await page.getByRole("button", { name: "Into the pen" }).click();
  await page.getByRole("group", { name: /^Feel/ }).waitFor();
  return page.url().split("/").at(-1) ?? "";
}

/** The entries of an outing as the server has them, in their order, without those that were struck out. */
export async function entriesOnServer(page: Page, horse: string, outing: string): Promise<Record<string, unknown>[]> {
  const response = await page.request.get(`/api/horses/${horse}/outings/${outing}`);
  if (!response.ok()) return [];
  const { entries } = (await response.json()) as {
    entries: { current: Record<string, unknown>; voided: boolean }[];
  };
  return entries.filter(({ voided }) => !voided).map(({ current }) => current);
}

/** Waits until the pages of this browser open without a network, and what a day needs lies on the device. */
export async function isReadyAlone(page: Page, horses = 1): Promise<void> {
  await expect
    .poll(
      () => page.evaluate(async () => (await navigator.serviceWorker.getRegistration())?.active?.state ?? "not yet"),
      { timeout: 40_000 },
    )
    .toBe("activated");
  await expect
    .poll(
      () =>
        page.evaluate(async () => {
          if (!(await indexedDB.databases()).some(({ name }) => name === "still-pine.day")) return 0;
          const db = await new Promise<IDBDatabase>((resolve, reject) => {
            const asked = indexedDB.open("still-pine.day");
            asked.addEventListener("success", () => resolve(asked.result));
            asked.addEventListener("error", () => reject(asked.error));
          });
          const tx = db.transaction(["horses", "yard"]);
          const count = (store: string): Promise<number> =>
            new Promise((resolve) => {
              const asked = tx.objectStore(store).count();
              asked.addEventListener("success", () => resolve(asked.result));
            });
          const [kept, yard] = await Promise.all([count("horses"), count("yard")]);
          db.close();
          return yard === 1 ? kept : 0;
        }),
      { timeout: 30_000 },
    )
    .toBeGreaterThanOrEqual(horses);
}
