import type { Server } from "node:http";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createApp } from "../http/app";
import { listenTo } from "../testing/live";
import { openPhones } from "../testing/phones";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const { yard, another } = yardsForTests(NOW);
let home: TestYard;
/** Another server process on the same database. */
let second: { url: string; server: Server };

beforeAll(async () => {
  home = yard();
  let port = 0;
  const server = await new Promise<Server>((resolve) => {
    const listening = createApp({ db: home.db, port: () => port, now: () => NOW }).listen(0, "127.0.0.1", () =>
      resolve(listening),
    );
  });
  port = (server.address() as { port: number }).port;
  second = { url: `http://127.0.0.1:${port}`, server };
  await call(`${home.url}/api/horses`, "POST", {
    id: "h1",
    name: "Moss",
    foaled: "2023-05-01",
    foaledPrecision: "month",
    sex: "mare",
  });
});
afterAll(async () => {
  second?.server.closeAllConnections();
  await new Promise((resolve) => second?.server.close(resolve));
});

const START = { type: "outing-start", place: "Round pen", handler: "M", device: "pen", seq: 1 };
const begin = (outing: string) => send(outing, { ...START, id: `${outing}:start`, at: NOW });
const send = (outing: string, ...events: object[]) =>
  call(`${home.url}/api/events`, "POST", { events: events.map((event) => ({ horse: "h1", outing, event })) });
const note = (id: string, seq: number) => ({ id, at: NOW, type: "note", text: id, device: "pen", seq });

describe("what comes in of an outing", () => {
  it("is seen through another server within two seconds, in its order, with names for ids", async () => {
    await begin("o1");
    const seen = await listenTo(`${second.url}/api/outings/o1/live`);
    await seen.until(1);
    expect(seen.got[0]?.data).toMatchObject({ id: "o1:start", place: "Round pen", handler: "M" });
    await send("o1", note("a", 2), note("b", 3));
    await send("o1", note("c", 4));
    await seen.until(4);
    expect(seen.got.map(({ data }) => data.id)).toEqual(["o1:start", "a", "b", "c"]);
    // Sent twice, told once; of another outing, not told.
    await send("o1", note("c", 4));
    await begin("o-other");
    await send("o1", note("d", 5));
    await seen.until(5);
    expect(seen.got.at(-1)?.data.id).toBe("d");
    seen.close();
  });

  it("goes on after a break where it ended, by the last id, or by the one in the address", async () => {
    await begin("o2");
    const first = await listenTo(`${home.url}/api/outings/o2/live`);
    await send("o2", note("e", 2));
    await first.until(2);
    const lastId = first.got[1]?.id ?? "";
    first.close();
    await send("o2", note("f", 3), note("g", 4));
    for (const again of [
      await listenTo(`${second.url}/api/outings/o2/live`, lastId),
      await listenTo(`${second.url}/api/outings/o2/live?after=${lastId}`),
    ]) {
      await again.until(2);
      await send("o2", note("g", 4));
      expect(again.got.map(({ data }) => data.id)).toEqual(["f", "g"]);
      again.close();
    }
  });

  it("is not missed while the listening connection was lost", async () => {
    await begin("o3");
    const seen = await listenTo(`${second.url}/api/outings/o3/live`);
    await seen.until(1);
    await home.asOwner("select pg_terminate_backend(pid) from pg_stat_activity where query ilike 'listen%'");
    await send("o3", note("h", 2));
    await seen.until(2, 5000);
    await send("o3", note("i", 3));
    await seen.until(3);
    expect(seen.got.map(({ data }) => data.id)).toEqual(["o3:start", "h", "i"]);
    seen.close();
  });

  it("comes in order and once from six writers at a time", async () => {
    await begin("o4");
    const seen = await listenTo(`${second.url}/api/outings/o4/live`);
    const writers = Array.from({ length: 6 }, async (_none, writer) => {
      for (let n = 0; n < 20; n += 1) await send("o4", { ...note(`w${writer}-${n}`, n), device: `d${writer}` });
    });
    await Promise.all(writers);
    await seen.until(121, 5000);
    const ids = seen.got.map(({ id }) => Number(id));
    expect(ids).toEqual(ids.toSorted((a, b) => a - b));
    expect(new Set(seen.got.map(({ data }) => data.id)).size).toBe(121);
    seen.close();
  });

  it("ends for a phone that is shut out", async () => {
    const phones = await openPhones(home, () => NOW);
    try {
      const { key } = await phones.pair({ rights: "all" }, "watching");
      const stream = phones.stream("/api/outings/o1/live", key);
      await stream.opened;
      const [device] = (await call(`${home.url}/api/phones`, "GET")).body.devices;
      await call(
        `${second.url}/api/devices/${device.id}`,
        "PUT",
        { name: device.name, isIn: false },
        { "If-Match": `"${device.version}"` },
      );
      await expect(stream.ended).resolves.toBeUndefined();
    } finally {
      phones.close();
    }
  });
});

describe("a stream that is open", () => {
  it("is there for whoever only asks whether it is", async () => {
    await begin("o7");
    const response = await fetch(`${home.url}/api/outings/o7/live`, { method: "HEAD" });
    expect([response.status, response.headers.get("content-type")]).toEqual([
      200,
      expect.stringContaining("text/event-stream"),
    ]);
    expect(await response.text()).toBe("");
  });

  it("ends for a helper whose time has run out, with nothing more", async () => {
    let hours = 0;
    const clock = (): string => new Date(Date.parse(NOW) + hours * 3_600_000).toISOString();
    const phones = await openPhones(home, clock);
    try {
      await begin("o6");
      const { key } = await phones.pair({ rights: "write", outing: "o6" }, "for a day");
      const stream = phones.stream("/api/outings/o6/live", key);
      await stream.opened;
      await expect.poll(() => stream.text()).toContain("o6:start");
      hours = 25;
      await send("o6", note("after-hours", 5));
      await expect(stream.ended).resolves.toBeUndefined();
      expect(stream.text()).not.toContain("after-hours");
    } finally {
      phones.close();
    }
  });

  it("ends on the laptop when it is locked by a pass phrase", async () => {
    const locked = await another();
    const horse = { id: "h1", name: "Moss", foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };
    await call(`${locked.url}/api/horses`, "POST", horse);
    const event = { id: "s", at: NOW, type: "outing-start", place: "Pen", handler: "M" };
    await call(`${locked.url}/api/events`, "POST", { events: [{ horse: "h1", outing: "o1", event }] });
    const stream = await fetch(`${locked.url}/api/outings/o1/live`);
    const ended = stream.text();
    const set = await call(`${locked.url}/api/pass-phrase`, "PUT", { phrase: "seven quiet mares" });
    expect(set.status).toBe(204);
    await expect(ended).resolves.toContain('"s"');
    expect((await fetch(`${locked.url}/api/outings/o1/live`)).status).toBe(401);
  });
});

describe("joining an outing", () => {
  it("the list tells of those that run; whoever joins gets what it set out with and every event so far", async () => {
    await begin("o5");
    await send("o5", note("k", 2));
    const running = (await call(`${home.url}/api/running`, "GET")).body as { outing: string }[];
    expect(running.find(({ outing }) => outing === "o5")).toEqual({
      outing: "o5",
      horse: "h1",
      horseName: "Moss",
      startedAt: "2026-06-10T12:00:00.000Z",
      place: "Round pen",
      handler: "M",
    });
    const rail = () => call(`${second.url}/api/outings/o5/rail`, "GET");
    expect((await rail()).body).toMatchObject({ horseName: "Moss", plan: null, isOver: false });
    const plan = {
      horse: "h1",
      exercises: [
        { step: "flex", line: { count: 3, worth: "clean" }, isNew: true, sticky: "off", last: { near: { asks: 4 } } },
      ],
      known: ["catch"],
      caps: { workingMinutes: 20, inHandMinutes: 40 },
    };
    expect((await call(`${home.url}/api/outings/o5/plan`, "PUT", plan)).status).toBe(204);
    await call(`${home.url}/api/outings/o5/plan`, "PUT", { ...plan, known: [] });
    const { body } = await rail();
    expect(body.plan).toEqual(plan);
    expect(body.events.map(({ id }: { id: string }) => id)).toEqual(["o5:start", "k"]);
    await send("o5", { id: "o5:end", at: NOW, type: "outing-end", device: "pen", seq: 3 });
    expect((await rail()).body.isOver).toBe(true);
    const after = (await call(`${home.url}/api/running`, "GET")).body as { outing: string }[];
    expect(after.some(({ outing }) => outing === "o5")).toBe(false);
  });
});
