import { beforeAll, describe, expect, it } from "vitest";
import type { HorsePack, PackView } from "@still-pine/contract/http";
import { BRIEF_OUTINGS } from "@still-pine/contract/views";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW);
let home: TestYard;

const send = (outing: string | null, ...events: object[]) =>
  call(`${home.url}/api/events`, "POST", { events: events.map((event) => ({ horse: "h1", outing, event })) });
const day = (n: number): string => `2026-05-${String(n + 1).padStart(2, "0")}T10:00:00Z`;
const markOf = async (): Promise<string> =>
  ((await call(`${home.url}/api/pack`, "GET")).body as PackView).horses[0]?.mark ?? "";

beforeAll(async () => {
  home = yard();
  await call(`${home.url}/api/horses`, "POST", {
    id: "h1",
    name: "Moss",
    foaled: "2023-05-01",
    foaledPrecision: "month",
    sex: "mare",
  });
  for (let n = 0; n < 25; n += 1)
    await send(
      `o${n}`,
      { id: `o${n}:start`, at: day(n), type: "outing-start", place: "Round pen", handler: "M" },
      { id: `a${n}`, at: day(n), type: "ask", step: "flex", side: "near", phase: 1, answer: "gave", mood: 1 },
    );
});

describe("what a phone keeps of a horse", () => {
  it("is his last outings with every correction of theirs, wherever it stands, and what was gathered before", async () => {
    await send(null, { id: "c1", at: NOW, type: "correction", replaces: "a24", with: { mood: 3 } });
    const { body } = (await call(`${home.url}/api/horses/h1/pack`, "GET")) as { body: HorsePack };
    expect(body.outings.map(({ id }) => id)).toEqual(Array.from({ length: BRIEF_OUTINGS }, (_none, n) => `o${n + 5}`));
    const ids = body.outings.at(-1)?.events.map(({ id }) => id) ?? [];
    expect(ids.toSorted()).toEqual(["a24", "c1", "o24:start"]);
    expect(body.diary.total).toBe(25);
    expect(body.row).toMatchObject({ id: "h1", name: "Moss", version: 1 });
    // People and places by id, as the judge reads them.
    const start = body.outings[0]?.events.find(({ type }) => type === "outing-start") as { place?: string } | undefined;
    const { body: pack } = (await call(`${home.url}/api/pack`, "GET")) as { body: PackView };
    expect(pack.place).toContainEqual([start?.place, "Round pen"]);
    expect(pack.troubles).toBeUndefined();
  });

  it("is with the troubles the yard has added", async () => {
    const trouble = {
      name: "Will not cross the ford",
      seen: ["water"],
      body: [{ look: "Feet and shoes.", who: "farrier" }],
      steps: [{ step: "lead", why: "He has to come along." }],
    };
    await call(`${home.url}/api/troubles/ford`, "PUT", trouble, { "If-Match": '"0"' });
    const { body: pack } = (await call(`${home.url}/api/pack`, "GET")) as { body: PackView };
    expect(pack.troubles).toEqual([{ ...trouble, id: "ford", version: 1 }]);
  });

  it("has another mark with every entry and every change of the horse, and the same while nothing happens", async () => {
    const marks = [await markOf(), await markOf()];
    await send("o24", { id: "n1", at: NOW, type: "note", text: "n" });
    marks.push(await markOf());
    await send("o24", { id: "n1", at: NOW, type: "note", text: "n" });
    marks.push(await markOf());
    await call(
      `${home.url}/api/horses/h1`,
      "PUT",
      { name: "Moss II", foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" },
      { "If-Match": '"1"' },
    );
    marks.push(await markOf());
    const [first, again, more, same, renamed] = marks;
    expect([again === first, more === first, same === more, renamed === more]).toEqual([true, false, true, false]);
  });

  it("the marks are read from an index, however many entries there are", async () => {
    await home.asOwner("analyze event");
    const { rows } = await home.asOwner(
      "explain select max(e.arrival) from event e where e.yard_id = $1 and e.horse_id = 'h1'",
      [home.yard.id],
    );
    const plan = rows.map((row) => row["QUERY PLAN"]).join("\n");
    expect(plan).toContain("event_by_arrival");
  });
});
