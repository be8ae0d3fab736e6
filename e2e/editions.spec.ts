import { expect, test, type Page } from "./test";

/** A horse put on the first edition's version, who steps up and back since some days; what lies under it was asked too. */
function formerRecord(id: string, name: string): object {
  const day = (ago: number): string => new Date(Date.now() - ago * 86_400_000).toISOString().slice(0, 10);
  const steps: [step: string, rung: string, side: string][] = [
    ["share-space", "1m-30s", "none"],
    ["give-halter", "gives", "near"],
    ["give-halter", "gives", "off"],
    ["step-up-back", "4", "none"],
  ];
  return {
    format: "still-pine/horse-record",
    version: 1,
    yard: { timeZone: "Europe/Dublin" },
    horse: { id, name, foaled: "2022-05-01", foaledPrecision: "month", sex: "mare" },
    program: { id: "loose-pen-start", version: 2 },
    horseEvents: [
      { id: `${id}-hold`, at: `${day(1)}T18:00:00Z`, type: "hold", step: "step-up-back", reason: "A sore mouth." },
    ],
    outings: [5, 4, 3, 2].map((ago) => ({
      id: `${id}-${ago}`,
      startedAt: `${day(ago)}T09:00:00Z`,
      endedAt: `${day(ago)}T09:30:00Z`,
      place: "Round pen",
      handler: "M",
      events: steps.flatMap(([step, rung, side], index) =>
        [0, 1, 2, 3].map((n) => ({
          id: `${id}-${ago}-${index}-${n}`,
          at: `${day(ago)}T09:${String(index * 5 + n).padStart(2, "0")}:00Z`,
          type: "ask",
          v: 2,
          step,
          side,
          rung,
          answer: "gave",
          ...(step === "share-space" ? {} : { phase: 1 }),
          mood: 1,
        })),
      ),
    })),
  };
}

const stepPage = (horse: string, step: string): string => `/horses/${horse}/steps/${step}`;

test("a horse goes on by his edition until the offered version is taken, what it changes shown before", async ({
  page,
  request,
}) => {
  const horse = `former-${Date.now()}`;
  expect((await request.post("/api/records", { data: formerRecord(horse, "Wagtail") })).status()).toBe(201);

  await page.goto(stepPage(horse, "step-up-back"));
  await expect(page.getByRole("heading", { name: "Steps up and back", level: 1 })).toBeVisible();
  await page.goto(`/horses/${horse}`);
  await page.getByRole("link", { name: /version 3 is offered/ }).click();

  const his = page.getByRole("region", { name: "On Wagtail" });
  await his.getByRole("button", { name: "Take this version for Wagtail …" }).click();
  const ask = page.getByRole("dialog", { name: "Wagtail to Loose pen start, version 3" });
  await expect(ask).toContainText("Steps up and back: now 2 steps");
  await expect(ask).toContainText("Steps up and Steps back");
  await expect(ask).toContainText("New on that road: 1");
  await expect(ask).toContainText("Turns on the hocks");
  await expect(ask).toContainText("Left behind, kept in his record: 0");
  await ask.getByRole("button", { name: "Take it for Wagtail" }).click();

  await expect(page).toHaveURL(new RegExp(`/horses/${horse}$`));
  await expect(page.getByRole("link", { name: "what others would say" })).toBeVisible();
  await expect(page.getByRole("link", { name: /is offered/ })).toHaveCount(0);
  for (const [step, name] of [
    ["step-up", "Steps up"],
    ["step-back", "Steps back"],
  ] as const) {
    await page.goto(stepPage(horse, step));
    await expect(page.getByRole("heading", { name, level: 1 })).toBeVisible();
    // What was asked of the pair is asked of each, and who held the pair holds both.
    await expect(page.getByRole("main")).toContainText("A sore mouth.");
    await expect(page.getByRole("region", { name: "How it grows" })).toContainText(/4 steps.*the standard/);
    await expect(page.getByRole("region", { name: "How it grows" }).getByRole("link")).toHaveCount(3);
  }

  // The record says what he goes by, and where he was put on it.
  const record = await (await request.get(`/api/horses/${horse}/record`)).json();
  expect(record.program).toEqual({ id: "loose-pen-start", version: 2 });
  expect(record.horseEvents.at(-1)).toMatchObject({ type: "program", programVersion: 3 });
});

async function putDraft(page: Page, id: string, name: string): Promise<void> {
  const file = {
    id,
    version: 1,
    name,
    about: "Ours, from before.",
    stop: ["flex", "yield-hind"],
    needs: { lead: [["step-up-back", "rope-lead"]] },
  };
  const answer = await page.request.put(`/api/programs/${id}/draft`, {
    data: { file },
    headers: { "If-Match": '"0"' },
  });
  expect(answer.status()).toBeLessThan(300);
}

test("a draft on the first edition is offered the second, with what it changes; taken, taken back, taken again", async ({
  page,
}) => {
  const id = `own-${Date.now()}`;
  await putDraft(page, id, "Old ways");
  await page.goto(`/programs/${id}/edit`);
  const offer = page.getByRole("region", { name: "A newer edition of the catalogue" });
  await expect(offer).toContainText("Steps up and back: now 2 steps");
  await expect(offer).toContainText("New on the road: 1");
  await expect(offer).toContainText("Turns on the hocks");
  await offer.getByRole("button", { name: "Take the newer edition" }).click();
  await expect(offer).toHaveCount(0);
  await page.getByRole("button", { name: "Take back" }).click();
  await expect(offer).toBeVisible();
  await page.getByRole("button", { name: "Again" }).click();
  await expect(offer).toHaveCount(0);
  await expect(page.getByRole("region", { name: "What is wrong" })).toContainText("Sound");
  await expect(page.getByRole("status", { name: "Saving" })).toHaveText("Draft, kept at the yard.");
  await page.reload();
  await expect(page.getByRole("region", { name: "What is wrong" })).toContainText("Sound");
  await expect(offer).toHaveCount(0);
});
