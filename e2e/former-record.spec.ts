import { spawnSync } from "node:child_process";
import { expect, test } from "./test";
import { broughtUp, shortRecord } from "../core/src/readiness/cases/notation";
import { loosePenStart } from "@still-pine/core/programs";
import { axeFindings } from "./pages";

const ASSESS = new URL("../bin/assess", import.meta.url).pathname;

/** A season as a build wrote it in which nobody could say a rung. */
function formerRecord(name: string): unknown {
  const record = shortRecord(broughtUp(loosePenStart, ["share-space", "face-up", "first-touch", "catch-rope"]));
  return {
    format: "still-pine/horse-record",
    version: 1,
    ...record,
    horse: { ...record.horse, id: "horse-of-before", name },
    outings: record.outings.map((outing) => ({
      ...outing,
      id: `before-${outing.id}`,
      events: outing.events.map(({ v: _v, ...event }) => {
        const { rung: _rung, ...former } = event as { rung?: string };
        return { ...former, id: `before-${event.id}` };
      }),
    })),
  };
}

test("a record from before rungs could be said is taken for the least, until somebody says step by step that it was asked in full", async ({
  page,
  request,
}) => {
  const brought = await request.post("/api/records", { data: formerRecord("Zizania") });
  expect(brought.ok(), await brought.text()).toBe(true);
  const { horses } = (await (await request.get("/api/string")).json()) as { horses: { id: string; name: string }[] };
  const id = horses.find(({ name }) => name === "Zizania")?.id ?? "";
  const wordOf = async (step: string): Promise<string> => {
    const view = (await (await request.get(`/api/horses/${id}`)).json()) as {
      judgements: { step: string; status: string }[];
    };
    const word = view.judgements.find((one) => one.step === step)?.status ?? "";
    const record = await (await request.get(`/api/horses/${id}/record`)).text();
    const assessed = spawnSync(ASSESS, ["--step", step, "-"], { encoding: "utf8", input: record });
    const { steps } = JSON.parse(assessed.stdout) as { steps: { status: string }[] };
    expect(steps[0]?.status).toBe(word);
    return word;
  };
  expect(await wordOf("share-space")).toBe("begun");

  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`/horses/${id}`);
  const section = page.getByRole("region", { name: "Asked in full?" });
  await expect(section.getByRole("listitem")).toHaveCount(4);
  await expect(section.getByRole("listitem").first()).toContainText("20 asks");
  await expect(section.getByRole("listitem").first()).toContainText("In full is: 30 seconds at 1 m");
  expect(await axeFindings(page)).toEqual([]);
  const button = section.getByRole("button", { name: "Shares the pen was asked in full" });
  await button.click();
  const said = page.getByRole("status", { name: "Shares the pen: asked in full" });
  await expect(said).toContainText("Shares the pen: begun → rusty");
  await expect(section.getByText("Asked in full", { exact: true })).toHaveCount(3);
  await expect(page.getByRole("region", { name: "Steps, side by side" })).toContainText(
    "20 entries of late say no rung",
  );
  expect(await wordOf("share-space")).toBe("rusty");

  await said.getByRole("button", { name: "Take it back" }).click();
  await expect(button).toBeVisible();
  expect(await wordOf("share-space")).toBe("begun");

  // On the step's own page the stair shows nothing while it is unsaid, and all of it once it was said; the word stands there to be struck out.
  await button.click();
  await section.getByRole("link", { name: "Turns to face" }).click();
  await expect(page.getByRole("region", { name: "How it grows" })).toContainText("do not say on which rung");
  await page.goto(`/horses/${id}/steps/share-space`);
  await expect(page.getByRole("region", { name: "How it grows" })).toContainText("20 asks say their rung.");
  await expect(page.getByRole("region", { name: "Said of this step" })).toContainText("Asked in full");
});
