import { mkdirSync, writeFileSync } from "node:fs";
import { expect, test, type Browser, type Page } from "@playwright/test";
import type { CheckUpView } from "@still-pine/contract/http";
import { inFull } from "@still-pine/core/evidence";
import { findStep, loosePenStart } from "@still-pine/core/programs";
import { startApplication, type Application } from "./application";
import { horseId } from "./pages";

/** Takes the pictures of docs/screenshots from a fresh demo yard whose clock stands still. Run by bin/screenshots. */

const FOLDER = new URL("../docs/screenshots/", import.meta.url).pathname;
const NOW = "2026-05-20T18:00:00Z";
let application: Application;

test.beforeAll(async () => {
  mkdirSync(FOLDER, { recursive: true });
  application = await startApplication({
    args: ["--phones"],
    // The ports a yard has, so that the picture shows what a yard sees.
    env: { STILLPINE_NOW: NOW, STILLPINE_PHONES_PORT: "7464", STILLPINE_ANNOUNCE: "no" },
  });
});
test.afterAll(() => application.stop());

/** Phones as a yard may have them. */
async function letPhonesIn(page: Page): Promise<void> {
  for (const name of ["M's phone", "Old tablet in the barn"]) {
    const { code } = (await (await page.request.post("/api/codes", { data: { rights: "all" } })).json()) as {
      code: string;
    };
    await page.request.post("/api/pair", { data: { code, name } });
  }
  const { devices } = (await (await page.request.get("/api/phones")).json()) as {
    devices: { id: string; name: string; version: number }[];
  };
  const old = devices.find(({ name }) => name.startsWith("Old"));
  await page.request.put(`/api/devices/${old?.id}`, {
    data: { name: old?.name, isIn: false },
    headers: { "If-Match": `"${old?.version}"` },
  });
}

/** A check-up as it may have gone: most of it holds, some came late, two are lost. */
async function checkUp(page: Page, horse: string): Promise<void> {
  const { plan } = (await (await page.request.get(`/api/horses/${horse}/check-up`)).json()) as CheckUpView;
  const start = Date.parse(NOW) - 50 * 60_000;
  let n = 0;
  const event = (fields: Record<string, unknown>) => {
    n += 1;
    return { id: `cu-${n}`, at: new Date(start + n * 9000).toISOString(), ...fields };
  };
  const lost = new Set(["head-down", "noise"]);
  const late = new Set(["flex", "follow-round", "pad"]);
  const asks = plan.tests
    .filter(({ guarded, under }) => !guarded && !under.some((one) => lost.has(one)))
    .flatMap(({ step, sides, twice }) =>
      sides.flatMap(({ side }) => {
        const [half, part] = side.split("-");
        const where = side === "none" ? {} : { side: half, ...(part ? { part } : {}) };
        const answers = lost.has(step)
          ? ["none", "none"]
          : late.has(step)
            ? ["none", "gave"]
            : twice
              ? ["gave", "gave"]
              : ["gave"];
        const known = findStep(loosePenStart, step);
        const asked = { type: "ask", v: 2, step, ...where, ...(known ? inFull(known) : {}), phase: 0, mood: 0 };
        return answers.map((answer) => event({ ...asked, answer }));
      }),
    );
  const steps = plan.tests.map(({ step }) => step);
  const held = plan.tests.flatMap((test) => (test.held ? [test.step] : []));
  const events = [
    event({ id: "cu:start", type: "outing-start", place: "Round pen", handler: "M" }),
    event({
      type: "check-up",
      steps,
      held,
      spared: plan.spared.map(({ step }) => step),
      expected: Math.round(plan.expected),
    }),
    ...asks,
  ];
  for (let at = 0; at < events.length; at += 200)
    await page.request.post("/api/events", {
      data: { events: events.slice(at, at + 200).map((one) => ({ horse, outing: "cu", event: one })) },
    });
}

for (const [suffix, width, height, colorScheme] of [["", 1280, 800, "light"]] as const)
  test.describe("laptop", () => {
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
        await shootAtRest(page, `${FOLDER}${name}${suffix}.png`);
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
      await page.locator(".react-flow__node").first().waitFor();
      await shoot("map");
      await page.goto(`/horses/${plover}/steps/yield-hind`);
      await page.getByRole("region", { name: "Reasons" }).waitFor();
      // The last of the reasons, and under them the ladder as a stair.
      await page
        .getByRole("region", { name: "How it grows" })
        .evaluate((stair) => stair.scrollIntoView({ block: "end" }));
      await shoot("step");
      await page.goto(`/write-up?horse=${plover}`);
      await page.getByRole("button", { name: /^As usual/ }).click();
      for (const cell of [/^mood 1, quiet/, /^phase 1, hint; mood 2/, /^phase 1, hint; mood 2/])
        await page.getByRole("button", { name: cell }).click();
      await page.getByRole("group", { name: /How it usually was/ }).scrollIntoViewIfNeeded();
      await shoot("write-up");
      await page.evaluate(() => localStorage.removeItem("still-pine.drafts"));
      await page.goto("/ledger?side=off");
      await page.getByRole("row").nth(1).getByRole("link").waitFor();
      await shoot("ledger");
      await page.goto("/yard");
      await page.getByRole("region", { name: "People" }).getByRole("listitem").first().waitFor();
      await shoot("yard");
      await page.goto("/programs/learning-theory-start");
      await page.getByRole("region", { name: "Weeks at a glance" }).waitFor();
      await shoot("program");
      const heron = await horseId(page, "Heron");
      await page.goto(
        `/programs/compare?with=loose-pen-start,in-hand-classical-start,learning-theory-start&horse=${heron}`,
      );
      await page.getByRole("region", { name: "On Heron" }).waitFor();
      await shoot("compare");
      await page.goto("/programs/approach-and-stand");
      await page.getByRole("button", { name: "Make a copy of your own" }).click();
      await page.getByRole("button", { name: "Take Lowers the head from the road" }).click();
      await page.getByText("Not to be published as it is").waitFor();
      await shoot("program-edit");
      const curlew = await horseId(page, "Curlew");
      await page.goto(`/troubles?horse=${curlew}&trouble=pulls-back`);
      await page.getByRole("region", { name: "The steps under it" }).waitFor();
      await shoot("where-to-look");
      await checkUp(page, curlew);
      await page.goto(`/horses/${curlew}/check-up`);
      await page.getByRole("region", { name: "What the check-up found" }).waitFor();
      await shoot("check-up");
      await letPhonesIn(page);
      await page.goto("/phones");
      await page.getByRole("button", { name: "Make a code" }).click();
      await page.getByLabel(/^Code /).waitFor();
      await shoot("phones");
      await page.close();
    });
  });

/** The helper's screen on that outing. */
async function shootRail(browser: Browser, outing: string): Promise<void> {
  const context = await browser.newContext({
    baseURL: application.url,
    viewport: { width: 390, height: 844 },
    colorScheme: "light",
    reducedMotion: "reduce",
  });
  const page = await context.newPage();
  await page.clock.install({ time: new Date(NOW) });
  await expect
    .poll(async () => (await page.request.get(`/api/outings/${outing}/rail`)).status(), { timeout: 20_000 })
    .toBe(200);
  await page.goto(`/rail/${outing}`);
  await page.getByRole("group", { name: "How light" }).waitFor();
  await page.clock.runFor(4000);
  await page.getByText("With the pen").waitFor();
  await page.getByRole("group", { name: "How light" }).getByRole("button", { name: "hint" }).click();
  await page.getByRole("button", { name: "quiet" }).click();
  await page.clock.runFor(2000);
  await shootAtRest(page, `${FOLDER}rail-phone.png`);
  await context.close();
}

/** Takes a picture once two in a row are the same. */
async function shootAtRest(page: Page, file: string): Promise<void> {
  let before = await page.screenshot();
  await expect
    .poll(async () => {
      const now = await page.screenshot();
      const isAtRest = now.equals(before);
      before = now;
      return isAtRest;
    })
    .toBe(true);
  writeFileSync(file, before);
}

/** The outing that is recorded live: its card, the pen early, in a fright and near the cap, and its review. */
for (const [suffix, width, height, colorScheme] of [
  ["", 1280, 800, "light"],
  ["-phone", 390, 844, "light"],
  ["-phone-dusk", 390, 844, "dark"],
] as const)
  test(`an outing ${suffix || "on a laptop"}`, async ({ browser }) => {
    test.setTimeout(240_000);
    const isDusk = colorScheme === "dark";
    const page = await browser.newPage({
      baseURL: application.url,
      viewport: { width, height },
      colorScheme,
      reducedMotion: "reduce",
    });
    page.setDefaultTimeout(10_000);
    await page.clock.install({ time: new Date(NOW) });
    const shoot = async (name: string): Promise<void> => {
      await page.clock.runFor(1500);
      await shootAtRest(page, `${FOLDER}${name}${suffix}.png`);
    };
    const coach = page.getByRole("status", { name: "The coach" });
    const exercises = page.getByRole("group", { name: "Exercises" });
    const press = async (...cells: string[]): Promise<void> => {
      for (const cell of cells) {
        await page.clock.runFor(14_000);
        await page.getByRole("button", { name: new RegExp(`^${cell}(;|$)`) }).click();
      }
    };
    const side = (name: string) => page.getByRole("group", { name: "Side" }).getByRole("button", { name });
    await page.goto(`/horses/${await horseId(page, isDusk ? "Sedge" : suffix === "" ? "Plover" : "Heron")}/brief`);
    await page.getByRole("button", { name: "Understood" }).click();
    // The chain: what may be worked, and what may follow it.
    await page.getByRole("list", { name: "At the edge" }).evaluate((list) => list.scrollIntoView({ block: "center" }));
    if (suffix === "") await shoot("card");
    await page.getByRole("button", { name: "Into the pen" }).click();
    await page.getByRole("group", { name: /^Feel/ }).waitFor();
    const cold = await exercises.getByRole("button").first().innerText();
    if (cold.startsWith("Shares")) await press("loose");
    await exercises
      .getByRole("button", { name: /^Yields the hind|^Lateral flexion|^Works under|^Gives/ })
      .first()
      .click();
    await press("hint, quiet", "hint, watchful", "hint, quiet");
    await coach.waitFor();
    if (suffix === "-phone") {
      await shoot("pen");
      await shootRail(browser, page.url().split("/").at(-1) ?? "");
    }
    if ((await page.getByRole("group", { name: "Side" }).count()) > 0) await side("Off").click();
    await page.clock.runFor(300);
    await press("ask, quiet", "hint, quiet");
    await page.getByRole("button", { name: "fright" }).click();
    await page.clock.runFor(300);
    await page.getByRole("button", { name: "a jump" }).click();
    await page.clock.runFor(12_000);
    await page.getByRole("button", { name: /^Quiet again/ }).click();
    await press("hint, quiet", "hint, quiet", "hint, loose");
    for (let n = 0; n < 4; n += 1) {
      await exercises
        .getByRole("button")
        .nth(n % 3)
        .click();
      await page.clock.runFor(300);
      const sides = page.getByRole("group", { name: "Side" });
      const pad = page.getByRole("group", { name: /^Feel/ });
      for (const name of ["Near", "Off"]) {
        if ((await sides.count()) > 0) await side(name).click();
        else if (name === "Off") continue;
        await page.clock.runFor(40_000);
        for (let ask = 0; ask < 2; ask += 1) {
          await page.clock.runFor(30_000);
          const hasPhase = (await pad.getByRole("button").count()) === 25;
          await pad
            .getByRole("button")
            .nth(hasPhase ? 8 : 3)
            .click();
        }
      }
    }
    // Near the cap, and not at it.
    await page.clock.runFor((isDusk ? 31 : 12) * 60_000);
    if (suffix === "") await shoot("pen");
    if (isDusk) await page.route("**/api/**", (route) => route.abort());
    await page.keyboard.press("End");
    await page.keyboard.press("End");
    await page.getByRole("region", { name: "Finish lines" }).waitFor();
    // Its clock stands still otherwise, and with it whatever waits for a moment to pass.
    await expect(async () => {
      await page.clock.runFor(1000);
      await expect(page.getByText(/ → |No word changed/).first()).toBeVisible({ timeout: 250 });
    }).toPass();
    if (isDusk) {
      // What it ended with waits here: the network went away before the end.
      await page.getByRole("link", { name: /On this device only/ }).click();
      await page.getByRole("heading", { name: "Room on this device" }).waitFor();
      await shoot("waiting");
      return page.close();
    }
    await page.getByRole("listbox").focus();
    for (let n = 0; n < 3; n += 1) await page.keyboard.press("ArrowRight");
    await page.getByRole("region", { name: "Timeline" }).scrollIntoViewIfNeeded();
    if (suffix === "") await shoot("review");
    await page.close();
  });
