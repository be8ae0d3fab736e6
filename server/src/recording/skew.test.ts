import { beforeAll, describe, expect, it } from "vitest";
import type { HorseView, OutingView } from "@still-pine/contract/http";
import { readModelsAsText } from "../testing/read-models";
import { rebuildYard } from "../read-models/rebuild";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const YEAR = 365 * 86_400;
const { yard } = yardsForTests(NOW);
let home: TestYard;

/** So many seconds after eleven that day, by a clock that is out. */
const at = (second: number, behindSeconds = 0): string =>
  new Date(Date.parse("2026-06-10T11:00:00Z") + (second - behindSeconds) * 1000).toISOString();
const ask = (id: string, device: string, seq: number, when: string) => ({
  id,
  at: when,
  type: "ask",
  step: "flex",
  side: "near",
  phase: 1,
  answer: "gave",
  mood: 1,
  device,
  seq,
});

beforeAll(async () => {
  home = yard();
  await call(`${home.url}/api/horses`, "POST", {
    id: "h1",
    name: "Moss",
    foaled: "2023-05-01",
    foaledPrecision: "month",
    sex: "mare",
  });
});
const send = (...events: object[]) =>
  call(`${home.url}/api/events`, "POST", { events: events.map((event) => ({ horse: "h1", outing: "o1", event })) });
const outing = async (): Promise<OutingView> => (await call(`${home.url}/api/horses/h1/outings/o1`, "GET")).body;

describe("a phone a year in the past, and another that is right", () => {
  it("before its clock was measured the outing lies where the phone said; afterwards where it was", async () => {
    await send(
      { id: "o1:start", at: at(0, YEAR), type: "outing-start", place: "Pen", handler: "M", device: "old", seq: 1 },
      ask("a1", "old", 2, at(30, YEAR)),
    );
    expect((await outing()).outing.day).toBe("2025-06-10");
    await send(ask("b1", "right", 1, at(20)), ask("b2", "right", 2, at(60)));
    const skew = {
      id: "s1",
      at: at(90, YEAR),
      type: "clock-skew",
      of: "old",
      behindSeconds: YEAR,
      device: "old",
      seq: 3,
    };
    await send(skew, ask("a2", "old", 4, at(100, YEAR)));
    const view = await outing();
    expect(view.outing).toMatchObject({ day: "2026-06-10", startedAt: "2026-06-10T11:00:00.000Z", asks: 4 });
    const order = view.entries.filter(({ event }) => event.type === "ask").map(({ event }) => event.id);
    expect(order).toEqual(["b1", "a1", "b2", "a2"]);
    const horse = (await call(`${home.url}/api/horses/h1`, "GET")).body as HorseView;
    expect(horse.horse.lastOuting).toBe("2026-06-10");
  });

  it("what was recorded stays as it was said, and what is derived is the same when it is made anew", async () => {
    const { rows } = await home.db.query("select body->>'at' as at from event where id = 'a1'");
    expect(rows[0].at).toBe(at(30, YEAR));
    const grown = await readModelsAsText(home.db);
    await rebuildYard(home.db, home.yard, NOW);
    expect(await readModelsAsText(home.db)).toEqual(grown);
  });

  it("the record goes out with the time it was, and comes in as the same", async () => {
    const text = await (await fetch(`${home.url}/api/horses/h1/record`)).text();
    const record = JSON.parse(text) as { outings: { startedAt: string }[] };
    expect(record.outings.map(({ startedAt }) => startedAt)).toEqual(["2026-06-10T11:00:00.000Z"]);
    expect(text).toContain(at(30, YEAR));
    const again = await call(`${home.url}/api/records`, "POST", text);
    expect([again.status, again.body.horses[0].conflicts]).toEqual([200, []]);
  });
});
