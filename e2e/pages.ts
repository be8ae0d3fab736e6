import AxeBuilder from "axe-core";
import { expect, type Page } from "@playwright/test";
import type { StringView } from "@still-pine/contract/http";

/** Id of a horse of the demo yard. */
export async function horseId(page: Page, name: string): Promise<string> {
  const response = await page.request.get("/api/string");
  const view = (await response.json()) as StringView;
  const horse = view.horses.find((one) => one.name === name);
  if (!horse) throw new Error(`no horse ${name}`);
  return horse.id;
}

/** Adds a horse through the interface and returns its id. */
export async function addHorse(page: Page, name: string): Promise<string> {
  await page.goto("/");
  await page.getByRole("button", { name: "New horse" }).click();
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Foaled", { exact: true }).fill("2022");
  await page.getByRole("button", { name: "Add to the string" }).click();
  await expect(page.getByRole("link", { name, exact: true })).toBeVisible();
  return horseId(page, name);
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
}

/** A day before today, as the yard counts. */
export async function daysAgo(page: Page, days: number): Promise<string> {
  const { today } = (await (await page.request.get("/api/yard")).json()) as { today: string };
  const date = new Date(`${today}T12:00:00Z`);
  date.setUTCDate(date.getUTCDate() - days);
  return date.toISOString().slice(0, 10);
}

/** Runs axe in the page; returns what it found, in short. */
export async function axeFindings(page: Page): Promise<string[]> {
  await page.evaluate(AxeBuilder.source);
  return page.evaluate(async () => {
    const { axe } = window as unknown as {
      axe: {
        run(context: Document, options: object): Promise<{ violations: { id: string; nodes: { html: string }[] }[] }>;
      };
    };
    const { violations } = await axe.run(document, {
      runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
    });
    return violations.map((one) => `${one.id}: ${one.nodes.map((node) => node.html.slice(0, 160)).join(" | ")}`);
  });
}
