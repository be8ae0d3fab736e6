import { expect, test } from "./test";
import { axeFindings, horseId } from "./pages";

const SIZES = [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
] as const;

/** Views by what is looked at together; each is opened once and looked through at both sizes, by day and at dusk. */
const VIEWS: Record<string, (horse: string, outing: string) => string[]> = {
  "of the horses": (id, outing) => [
    "/",
    `/horses/${id}`,
    `/horses/${id}/steps/head-rub`,
    `/horses/${id}/steps/group`,
    `/horses/${id}/map?as=map&step=halter-on`,
    `/horses/${id}/map?as=list&step=halter-on`,
    `/horses/${id}/outings/${outing}`,
    `/horses/${id}/check-up`,
  ],
  "of the yard": (id) => [
    `/write-up?horse=${id}`,
    "/ledger",
    "/yard",
    "/programs",
    "/programs/marker-and-reward",
    `/programs/compare?with=loose-pen-start,weanling-course&horse=${id}`,
    `/troubles?horse=${id}&trouble=spooks`,
  ],
};

for (const [which, viewsOf] of Object.entries(VIEWS))
  test(`axe finds nothing on any view ${which}, and nothing runs off the side, at both sizes, by day and at dusk`, async ({
    page,
  }) => {
    test.slow();
    const id = await horseId(page, "Bracken");
    const { outings } = (await (await page.request.get(`/api/horses/${id}`)).json()) as { outings: { id: string }[] };
    for (const view of viewsOf(id, outings[0]?.id ?? "")) {
      await page.goto(view);
      await expect(page.locator("h1")).not.toHaveText("String");
      await expect(
        page
          .getByRole("img")
          .or(page.getByRole("list", { name: "Entries" }))
          .or(page.getByRole("table", { name: "Ledger" }))
          .or(page.getByRole("region", { name: "People" }))
          .or(page.getByRole("button", { name: "Bring in a program" }))
          .or(page.getByRole("region", { name: /^(The road|On Bracken|The steps under it|In this order)$/ }))
          .first(),
      ).toBeVisible();
      for (const size of SIZES) {
        await page.setViewportSize(size);
        const where = `${view} at ${size.width}`;
        await page.emulateMedia({ colorScheme: "light" });
        // A map or a chart takes its new size a moment after the page has, and until then its parts lie over each other.
        await expect.poll(() => axeFindings(page), { message: where }).toEqual([]);
        await expect
          .poll(
            () => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth),
            {
              message: where,
            },
          )
          .toBe(0);
        // Of the hour of the day nothing hangs but colours.
        await page.emulateMedia({ colorScheme: "dark" });
        expect([where, await axeFindings(page, ["color-contrast"])]).toEqual([where, []]);
      }
    }
  });

test("axe finds nothing in the dialogs and on each tab of the write-up", async ({ page }) => {
  const id = await horseId(page, "Plover");
  await page.goto("/");
  await page.getByRole("button", { name: "New horse" }).click();
  await expect(page.getByLabel("Name")).toBeVisible();
  expect(await axeFindings(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await page.goto(`/write-up?horse=${id}`);
  for (const tab of ["Plan", "Asks", "Series", "Signs", "Note", "Mishap", "More"]) {
    await page.getByRole("tab", { name: tab }).click();
    expect([tab, await axeFindings(page)]).toEqual([tab, []]);
  }
});

test("axe finds nothing in the forms of an entry, on the outing's page and on the horse's", async ({ page }) => {
  const id = await horseId(page, "Plover");
  await page.goto(`/horses/${id}`);
  await page.getByRole("button", { name: "Write something of him" }).click();
  await expect(page.getByRole("dialog").getByRole("button", { name: /^Add: / })).toBeVisible();
  expect(await axeFindings(page)).toEqual([]);
});

test("an unknown address and an unknown horse say so", async ({ page }) => {
  await page.goto("/nowhere");
  await expect(page.getByRole("heading", { name: "No such page" })).toBeVisible();
  await page.goto("/horses/nobody");
  await expect(page.getByRole("alert")).toContainText("There is no such horse in this yard.");
});

test("a page and a worker carry the rules of what may be loaded; what a page loads carries its type alone", async ({
  page,
}) => {
  const rules = async (path: string): Promise<(string | undefined)[]> => {
    const headers = (await page.request.get(path)).headers();
    return [headers["content-security-policy"], headers["x-content-type-options"]];
  };
  const fetched: string[] = [];
  page.on("request", (request) => fetched.push(new URL(request.url()).pathname));
  const { horses } = (await (await page.request.get("/api/string")).json()) as { horses: { id: string }[] };
  await page.goto(`/horses/${horses[0]?.id}/map`);
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  await expect.poll(() => fetched.filter((path) => path.includes("worker"))).toHaveLength(1);
  const ofWorkers = fetched.filter((path) => path.includes("worker"));
  const script = fetched.find((path) => path.startsWith("/assets/index-") && path.endsWith(".js"));
  expect(await rules("/")).toEqual([expect.stringContaining("default-src 'self'"), "nosniff"]);
  expect(await rules(ofWorkers[0] ?? "")).toEqual([expect.stringContaining("default-src 'self'"), "nosniff"]);
  expect(await rules(script ?? "")).toEqual([undefined, "nosniff"]);
});
