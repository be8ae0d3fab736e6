import { beforeAll, describe, expect, it } from "vitest";
import { rebuildYard } from "../read-models/rebuild";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW);
let home: TestYard;
const horse = (id: string, name: string) => ({ id, name, foaled: "2022-05-01", foaledPrecision: "month", sex: "mare" });

beforeAll(async () => {
  home = yard();
  // In the order of their names they stand the other way round than in that of their ids.
  for (const [id, name] of [
    ["h-a", "Wren"],
    ["h-b", "Plover"],
    ["h-c", "Dunlin"],
  ] as const)
    await call(`${home.url}/api/horses`, "POST", horse(id, name));
});

interface Entry {
  horse: string;
  outing: string | null;
  event: Record<string, unknown>;
}
const send = (...events: Entry[]) => call(`${home.url}/api/events`, "POST", { events });
const ask = (id: string, at = "2026-06-09T09:01:00Z") => ({
  id,
  at,
  type: "ask",
  step: "flex",
  side: "near",
  phase: 1,
  answer: "gave",
  mood: 1,
});
const correction = (id: string, replaces: string, change: object, at = "2026-06-09T10:00:00Z") => ({
  id,
  at,
  type: "correction",
  replaces,
  ...change,
});
const resultsOf = ({ body }: { body: any }): string[] => body.results.map((one: any) => one.result);
const entryOf = async (of: string, outing: string, id: string): Promise<any> => {
  const { body } = await call(`${home.url}/api/horses/${of}/outings/${outing}`, "GET");
  return body.entries.find((one: any) => one.event.id === id);
};

describe("an outing", () => {
  it("is one horse's, whoever sends of it at the same moment", async () => {
    for (let n = 0; n < 20; n += 1) {
      const both = await Promise.all(
        ["h-a", "h-b"].map((id) =>
          send({ horse: id, outing: `race-${n}`, event: { id: `race-${n}-${id}`, at: NOW, type: "note", text: id } }),
        ),
      );
      expect(both.map(({ status }) => status).toSorted()).toEqual([200, 422]);
      const refused = both.find(({ status }) => status === 422);
      expect(refused?.body.errors[0]).toMatchObject({ expected: "an outing of the same horse" });
    }
    expect(await rebuildYard(home.db, home.yard, NOW)).toBe(3);
  });

  it("is nobody's by an entry that is refused, or that is stored elsewhere already", async () => {
    await send({ horse: "h-a", outing: "mine", event: ask("own-ask") });
    expect(resultsOf(await send({ horse: "h-a", outing: "free", event: ask("own-ask") }))).toEqual(["refused"]);
    expect(resultsOf(await send({ horse: "h-a", outing: "free", event: { ...ask("bad"), mood: 9 } }))).toEqual([
      "refused",
    ]);
    expect(resultsOf(await send({ horse: "h-b", outing: "free", event: ask("free-ask") }))).toEqual(["stored"]);
  });

  it("cannot be filed under another horse, not even by a statement", async () => {
    const insert = home.db.query(
      `insert into event (yard_id, id, horse_id, outing_id, at, type, body)
       values ($1, 'slipped', 'h-b', 'mine', now(), 'note', '{}')`,
      [home.yard.id],
    );
    await expect(insert).rejects.toThrow("violates foreign key constraint");
  });
});

describe("a correction", () => {
  it("of another horse's entry changes nothing, whichever came first", async () => {
    const strange = correction("strange", "later", { void: true });
    expect(resultsOf(await send({ horse: "h-b", outing: null, event: strange }))).toEqual(["stored"]);
    await send({ horse: "h-a", outing: "scoped", event: ask("later") });
    expect(await entryOf("h-a", "scoped", "later")).toMatchObject({ voided: false, corrections: [] });
    const after = await send({
      horse: "h-b",
      outing: null,
      event: correction("strange-2", "later", { void: true }),
    });
    expect(after.body.errors[0]).toMatchObject({ expected: "an event of this horse's record" });
    // Nor through a correction that is the other horse's own.
    const chained = correction("strange-3", "strange", { with: { mood: 4 } });
    expect(resultsOf(await send({ horse: "h-b", outing: null, event: chained }))).toEqual(["stored"]);
    expect((await entryOf("h-a", "scoped", "later")).current.mood).toBe(1);
  });

  it("is judged in effective order, not in that of its coming", async () => {
    const series = (id: string) => ({
      id,
      at: "2026-06-09T09:00:00Z",
      type: "series",
      step: "flex",
      side: "near",
      count: 5,
      clean: 3,
      first: "gave",
      worst: "none",
      phase: 1,
      mood: 1,
    });
    await send({ horse: "h-a", outing: "order", event: series("s1") });
    const at = (hour: number): string => `2026-06-09T${String(hour).padStart(2, "0")}:00:00Z`;
    const correct = async (event: object): Promise<string | undefined> =>
      resultsOf(await send({ horse: "h-a", outing: "order", event: event as Record<string, unknown> }))[0];
    // Ten of which eight: said at noon. Earlier that day somebody had said two clean ones; that fits, and changes nothing now.
    expect(await correct(correction("c-noon", "s1", { with: { count: 10, clean: 8 } }, at(12)))).toBe("stored");
    expect(await correct(correction("c-nine", "s1", { with: { count: 2, clean: 2 } }, at(9)))).toBe("stored");
    expect((await entryOf("h-a", "order", "s1")).current).toMatchObject({ count: 10, clean: 8 });
    // Nine of which eight fits what noon said; four does not.
    expect(await correct(correction("c-one", "s1", { with: { count: 9 } }, at(13)))).toBe("stored");
    expect(await correct(correction("c-two", "s1", { with: { count: 4 } }, at(14)))).toBe("refused");
    expect((await entryOf("h-a", "order", "s1")).current).toMatchObject({ count: 9, clean: 8 });
  });

  it("that would take a mood away is refused however it is sent", async () => {
    await send({ horse: "h-a", outing: "moods", event: ask("m1") });
    const away = correction("m-away", "m1", { with: { mood: null } }, "2026-06-09T09:30:00Z");
    const other = correction("m-other", "m1", { with: { mood: 2 } }, "2026-06-09T09:20:00Z");
    for (const events of [[away], [other, away], [away, other]]) {
      const { body } = await send(...events.map((event) => ({ horse: "h-a", outing: "moods", event })));
      expect(body.results.find((one: any) => one.id === "m-away").result).toBe("refused");
    }
    expect((await entryOf("h-a", "moods", "m1")).current.mood).toBe(2);
  });

  it("that makes an early one count which does not fit has that one struck out", async () => {
    await send({ horse: "h-a", outing: "early", event: ask("e1") });
    const [first, second] = [
      correction("e-second", "e-first", { with: { mood: null } }, "2026-06-09T11:00:00Z"),
      correction("e-first", "e1", { with: { mood: 2 } }),
    ];
    expect(resultsOf(await send({ horse: "h-a", outing: "early", event: first }))).toEqual(["stored"]);
    expect(resultsOf(await send({ horse: "h-a", outing: "early", event: second }))).toEqual(["stored"]);
    const entry = await entryOf("h-a", "early", "e1");
    expect(entry.current.mood).toBe(2);
    expect(entry.corrections.map((one: any) => [one.event.id, one.undone])).toEqual([
      ["e-first", false],
      ["e-second", true],
      ["e-second:unfit", false],
    ]);
  });

  it("of the time to nothing is no fault, and leaves the time", async () => {
    await send({ horse: "h-a", outing: "timed", event: ask("t1") });
    const answer = await send({
      horse: "h-a",
      outing: "timed",
      event: correction("t-away", "t1", { with: { at: null } }),
    });
    expect(answer.status).toBeLessThan(500);
    expect((await entryOf("h-a", "timed", "t1")).current.at).toBe("2026-06-09T09:01:00Z");
    const early = correction("t-early", "t2", { with: { at: null } });
    expect((await send({ horse: "h-a", outing: "timed", event: early })).status).toBe(200);
    expect((await send({ horse: "h-a", outing: "timed", event: ask("t2") })).status).toBe(200);
    expect((await call(`${home.url}/api/horses/h-a`, "GET")).status).toBe(200);
  });
});

describe("a chain of thousands of corrections", () => {
  it("is sent, shown and undone like any other", async () => {
    const MANY = 4500;
    await send({ horse: "h-c", outing: "long", event: ask("l0") });
    for (let from = 0; from < MANY; from += 500)
      expect(
        (
          await send(
            ...Array.from({ length: 500 }, (_, n) => ({
              horse: "h-c",
              outing: "long",
              event: correction(`l${from + n + 1}`, `l${from + n}`, { void: true }),
            })),
          )
        ).status,
      ).toBe(200);
    const page = await call(`${home.url}/api/horses/h-c/outings/long`, "GET");
    expect(page.status).toBe(200);
    expect(page.body.entries[0]).toMatchObject({ voided: false });
    expect(page.body.entries[0].corrections).toHaveLength(MANY);
  });
});

describe("locks", () => {
  it("are taken in one order: nothing waits for what waits for it", async () => {
    const deadlocks = async (): Promise<number> =>
      Number(
        (await home.db.query("select deadlocks from pg_stat_database where datname = current_database()")).rows[0]
          .deadlocks,
      );
    const before = await deadlocks();
    const zone = async (n: number): Promise<number> => {
      const { body } = await call(`${home.url}/api/yard`, "GET");
      const timeZone = n % 2 === 0 ? "Europe/Paris" : "Europe/Dublin";
      const fields = { name: "Y", timeZone, units: "metric", words: "american" };
      return (await call(`${home.url}/api/yard`, "PUT", fields, { "If-Match": `"${body.version}"` })).status;
    };
    const batch = (n: number) =>
      send(
        ...["h-a", "h-b"].map((id) => ({
          horse: id,
          outing: null,
          event: { id: `lock-${n}-${id}`, at: NOW, type: "note", text: "n" },
        })),
      );
    for (let n = 0; n < 5; n += 1) {
      const [changed, ...sent] = await Promise.all([zone(n), batch(3 * n), batch(3 * n + 1), batch(3 * n + 2)]);
      expect([changed, ...sent.map(({ status }) => status)]).toEqual([200, 200, 200, 200]);
    }
    expect(await deadlocks()).toBe(before);
  });
});
