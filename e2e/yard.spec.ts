import { readFileSync, writeFileSync } from "node:fs";
import { expect, patient, test } from "./test";
import { addHorse, axeFindings, horseId, isRead } from "./pages";

test("two browsers change the settings: the second settles it field by field", async ({ page, browser }) => {
  await page.goto("/yard");
  const settings = page.getByRole("region", { name: "Settings" });
  await expect(settings.getByLabel("Name")).toHaveValue("Hill pony yard");
  const second = patient(await browser.newPage({ baseURL: new URL(page.url()).origin }));
  await second.goto("/yard");
  const theirs = second.getByRole("region", { name: "Settings" });
  await expect(theirs.getByLabel("Name")).toHaveValue("Hill pony yard");

  await settings.getByLabel("Words").selectOption("british");
  await settings.getByLabel("Units").selectOption("imperial");
  await settings.getByRole("button", { name: "Save the settings" }).click();
  await expect(settings.getByText("Saved.")).toBeVisible();

  await theirs.getByLabel("Name").fill("Hill yard");
  await theirs.getByRole("button", { name: "Save the settings" }).click();
  const choice = theirs.getByRole("group", { name: "Choose field by field" });
  await expect(choice).toContainText("imperial as it is now");
  expect(await axeFindings(second)).toEqual([]);
  // What was not touched there stays as somebody else made it; what was is theirs.
  await expect(choice.getByRole("group", { name: "Units" }).getByLabel("as it is now")).toBeChecked();
  await expect(choice.getByRole("group", { name: "Name" }).getByLabel("as you typed it")).toBeChecked();
  await choice.getByRole("group", { name: "Words" }).getByLabel("as you typed it").check();
  await choice.getByRole("button", { name: "Save these" }).click();
  await expect(theirs.getByLabel("Name")).toHaveValue("Hill yard");
  await expect(theirs.getByLabel("Units")).toHaveValue("imperial");
  await expect(theirs.getByLabel("Words")).toHaveValue("american");

  // As the other tests expect to find it.
  await second.goto("/yard");
  await theirs.getByLabel("Name").fill("Hill pony yard");
  await theirs.getByLabel("Units").selectOption("metric");
  await theirs.getByRole("button", { name: "Save the settings" }).click();
  await expect(theirs.getByText("Saved.")).toBeVisible();
  await second.close();
});

test("a place is renamed everywhere; a label that is taken, and one changed meanwhile, are named", async ({ page }) => {
  const id = await addHorse(page, "Placed");
  const send = (place: string, outing: string) =>
    page.request.post("/api/events", {
      data: {
        events: [
          {
            horse: id,
            outing,
            event: { id: `${outing}:start`, at: "2026-01-05T10:00:00Z", type: "outing-start", place },
          },
        ],
      },
    });
  await send("Old barn", "pl1");
  await send("New barn", "pl2");
  await page.goto("/yard");
  const days = page.getByRole("region", { name: "What your record says of days" });
  await expect(days).toContainText(/0\.\d\d \(likely between 0\.\d\d and 0\.\d\d\), from \d+ pairs of days/);
  await expect(days).toContainText("change no rule by themselves");
  const places = page.getByRole("region", { name: "Places" });
  await places.getByRole("button", { name: "Rename Old barn" }).click();
  await places.getByLabel("New label of Old barn").fill("New barn");
  await places.getByRole("button", { name: "Save" }).click();
  await expect(places.getByRole("alert")).toContainText('Another place has the label "New barn"');
  const rows = (await (await page.request.get("/api/places")).json()) as { id: string; label: string }[];
  const barn = rows.find((row) => row.label === "Old barn");
  await page.request.put(`/api/places/${barn?.id}`, { headers: { "If-Match": '"1"' }, data: { label: "Stone barn" } });
  await places.getByLabel("New label of Old barn").fill("Red barn");
  await places.getByRole("button", { name: "Save" }).click();
  const choice = places.getByRole("group", { name: "Choose field by field" });
  await choice.getByLabel("Red barn as you typed it").check();
  await choice.getByRole("button", { name: "Save these" }).click();
  await expect(places).toContainText("Red barn");
  await page.goto(`/horses/${id}`);
  await expect(page.getByRole("region", { name: "Outings" })).toContainText("red barn");
});

test("a photo put on an outing is seen, opened, and goes along in the archive and in again", async ({ page }, info) => {
  const id = await horseId(page, "Teasel");
  const { outings } = (await (await page.request.get(`/api/horses/${id}`)).json()) as { outings: { id: string }[] };
  await page.goto(`/horses/${id}/outings/${outings[0]?.id}`);
  const shot = await page.screenshot();
  await page.getByLabel("Photo or clip file").setInputFiles({ name: "pen.png", mimeType: "image/png", buffer: shot });
  const list = page.getByRole("list", { name: "Entries" });
  await expect(list).toContainText("Photo");
  await page
    .getByLabel("Photo or clip file")
    .setInputFiles({ name: "x.svg", mimeType: "image/svg+xml", buffer: Buffer.from("<svg/>") });
  await expect(page.getByRole("alert")).toContainText("no picture this browser can open");
  await page.goto(`/horses/${id}`);
  const gallery = page.getByRole("region", { name: "Photos and clips" });
  await expect(gallery.getByRole("link", { name: "Open the photo" })).toBeVisible();
  const drawn = await gallery
    .locator("img")
    .evaluate((image: HTMLImageElement) => image.decode().then(() => image.naturalWidth));
  expect(drawn).toBe(240);
  expect(await axeFindings(page)).toEqual([]);
  const photo = await page.request.get((await gallery.getByRole("link").getAttribute("href")) ?? "");
  expect(photo.headers()["content-type"]).toBe("image/jpeg");

  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "With photos" }).click(),
  ]);
  const file = info.outputPath("teasel.zip");
  await download.saveAs(file);
  await page.goto("/");
  await page.getByLabel("Record file").setInputFiles(file);
  const dialog = page.getByRole("dialog", { name: "What this file would bring" });
  await isRead(dialog);
  await expect(dialog.getByRole("row", { name: /Teasel/ })).toContainText("joins the one that is here");
  await expect(dialog.getByRole("button", { name: "Nothing new in it" })).toBeDisabled();
});

test("a record that comes in is shown first: new, there already, in conflict; then it is brought in", async ({
  page,
}, info) => {
  const id = await addHorse(page, "Comer");
  const note = { id: "cm1", at: "2026-01-05T10:00:00Z", type: "note", text: "first" };
  await page.request.post("/api/events", { data: { events: [{ horse: id, outing: null, event: note }] } });
  const record = JSON.parse(await (await page.request.get(`/api/horses/${id}/record`)).text()) as {
    horseEvents: object[];
  };
  record.horseEvents = [
    { ...note, text: "another" },
    { ...note, id: "cm2", text: "second" },
  ];
  const file = info.outputPath("comer.json");
  writeFileSync(file, JSON.stringify(record));
  await page.goto("/");
  await page.getByLabel("Record file").setInputFiles(file);
  const dialog = page.getByRole("dialog");
  await isRead(dialog);
  await expect(dialog.getByRole("region", { name: "In conflict" })).toContainText("1 in conflict");
  await expect(dialog.getByRole("region", { name: "In conflict" })).toContainText(
    "2026-01-05, here: “first”; in the file: “another”",
  );
  expect(await axeFindings(page)).toEqual([]);
  await dialog.getByRole("button", { name: "Bring in what is new" }).click();
  await expect(page.getByRole("dialog", { name: "It is in" })).toContainText("was joined");
  const after = await (await page.request.get(`/api/horses/${id}/record`)).text();
  expect(after).toContain('"second"');
  expect(after).not.toContain('"another"');

  writeFileSync(file, "{ not json");
  await page.getByRole("button", { name: "Done" }).click();
  await page.getByLabel("Record file").setInputFiles(file);
  await expect(page.getByRole("dialog").getByRole("alert")).toContainText("The file is not JSON");
});

test("weights come in from a CSV, shown first", async ({ page }, info) => {
  await addHorse(page, "Scales");
  await page.goto("/yard");
  const file = info.outputPath("weights.csv");
  writeFileSync(file, "horse,day,weight_kg\nScales,2026-01-05,401\nNobody,2026-01-05,402\n");
  await page.getByLabel("CSV file").setInputFiles(file);
  const dialog = page.getByRole("dialog");
  await isRead(dialog);
  await expect(dialog).toContainText("1 new, 0 there already, 1 refused.");
  await expect(dialog).toContainText("line 3, horse: expected a horse of this yard");
  await dialog.getByRole("button", { name: "Bring it in" }).click();
  await expect(page.getByRole("dialog", { name: "It is in" })).toContainText("1 new");
});

test("the ledger is narrowed down, kept in its address, followed to an outing, and taken out as CSV", async ({
  page,
}) => {
  await page.goto("/ledger");
  const table = page.getByRole("table", { name: "Ledger" });
  await expect(table.getByRole("row").nth(1)).not.toContainText("…");
  const filter = page.getByRole("form", { name: "Filter" });
  await filter.getByLabel("Horse").selectOption("Plover");
  await filter.getByLabel("Step").selectOption("Lateral flexion");
  await filter.getByLabel("Side").selectOption("off");
  await expect(page).toHaveURL(/horse=.*&step=flex&side=off/);
  await expect(page.getByLabel("Sums")).toContainText(/near\s*0/);
  await expect(table.getByRole("row").nth(1)).toContainText("Lateral flexion, off side");
  await page.reload();
  await expect(filter.getByLabel("Step")).toHaveValue("flex");
  await expect(table.getByRole("row").nth(1)).toContainText("Plover");
  const rows = Number((await table.getAttribute("aria-rowcount")) ?? 0) - 1;
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "CSV" }).click(),
  ]);
  const csv = readFileSync(await download.path(), "utf8");
  expect(csv.trimEnd().split("\r\n")).toHaveLength(rows + 1);
  // The last row by the keyboard: End in the scrolled region.
  await page.getByRole("region", { name: "Rows" }).focus();
  await page.keyboard.press("End");
  await expect(table.getByRole("row").last()).toHaveAttribute("aria-rowindex", String(rows + 1));
  await expect(table.getByRole("row").last()).toContainText("Plover");
  await table.getByRole("row").last().getByRole("link").click();
  await expect(page.getByRole("list", { name: "Entries" })).toContainText("Lateral flexion, off side");
});
