import { connect } from "node:net";
import { request } from "node:http";
import { beforeAll, describe, expect, it } from "vitest";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const HORSE = { id: "h1", name: "Moss", foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };
const { yard } = yardsForTests(NOW);
let home: TestYard;

beforeAll(async () => {
  home = yard();
  await call(`${home.url}/api/horses`, "POST", HORSE);
});

const ask = (id: string, more: object = {}) => ({
  id,
  at: "2026-06-09T10:00:00Z",
  type: "ask",
  step: "flex",
  side: "near",
  phase: 1,
  answer: "gave",
  mood: 1,
  ...more,
});
const send = (outing: string | null, ...events: object[]) =>
  call(`${home.url}/api/events`, "POST", { events: events.map((event) => ({ horse: "h1", outing, event })) });
const resultsOf = (answer: { body: any }) => answer.body.results.map((one: { result: string }) => one.result);

describe("events", () => {
  it("are stored once, whether sent again, in parts or in another order", async () => {
    expect(resultsOf(await send("o1", ask("e1"), ask("e2")))).toEqual(["stored", "stored"]);
    expect(resultsOf(await send("o1", ask("e2"), ask("e3"), ask("e1")))).toEqual([
      "already there",
      "stored",
      "already there",
    ]);
    const { rows } = await home.db.query("select count(*)::int as n from event where outing_id = 'o1'");
    expect(rows[0].n).toBe(3);
  });

  it("the same one twice in a batch is stored once", async () => {
    expect(resultsOf(await send("o1", ask("e4"), ask("e4")))).toEqual(["stored", "already there"]);
  });

  it("good ones are stored whatever the bad ones do, and each bad one says why", async () => {
    const answer = await send(
      "o1",
      ask("e5"),
      ask("e6", { phase: 9 }),
      ask("e7", { side: "left" }),
      ask("e8", { mood: undefined }),
      ask("e9", { step: "flex", side: "none" }),
    );
    expect(answer.status).toBe(422);
    expect(answer.headers.get("content-type")).toContain("application/problem+json");
    expect(resultsOf(answer)).toEqual(["stored", "refused", "refused", "refused", "refused"]);
    expect(answer.body.errors.map((one: { path: string }) => one.path)).toEqual([
      "events[1].event.phase",
      "events[2].event.side",
      "events[3].event.mood",
      "events[4].event.side",
    ]);
    expect(answer.body.errors[0]).toMatchObject({ expected: "one of 0, 1, 2, 3, 4", found: "9" });
  });

  it("the same id with other content is refused and leaves the first alone", async () => {
    const answer = await send("o1", ask("e1", { phase: 2 }));
    expect(resultsOf(answer)).toEqual(["refused"]);
    expect(answer.body.errors[0].expected).toContain('"id":"e1","at":"2026-06-09T10:00:00Z","type":"ask"');
    expect(answer.body.errors[0].found).toContain('"phase":2');
    expect(answer.body.errors[0].found).toContain("other content under the same id");
    const { rows } = await home.db.query("select body->>'phase' as phase from event where id = 'e1'");
    expect(rows[0].phase).toBe("1");
  });

  it("of an unknown horse or of another horse's outing are refused; an end before its start counts as the start", async () => {
    await call(`${home.url}/api/horses`, "POST", { ...HORSE, id: "h2" });
    const stranger = await call(`${home.url}/api/events`, "POST", {
      events: [
        { horse: "h9", outing: "o9", event: ask("x1") },
        { horse: "h2", outing: "o1", event: ask("x2") },
      ],
    });
    expect(stranger.body.errors.map((one: { path: string }) => one.path)).toEqual([
      "events[0].horse",
      "events[1].outing",
    ]);
    const ends = await send(
      "o2",
      { id: "o2:start", at: "2026-06-09T10:00:00Z", type: "outing-start" },
      { id: "o2:end", at: "2026-06-09T09:00:00Z", type: "outing-end" },
    );
    expect(resultsOf(ends)).toEqual(["stored", "stored"]);
    const seen = await call(`${home.url}/api/horses/h1/outings/o2`, "GET");
    expect(seen.body.outing).toMatchObject({
      startedAt: "2026-06-09T10:00:00.000Z",
      endedAt: "2026-06-09T10:00:00.000Z",
    });
  });

  it("that correct must leave a right event and name one of this horse", async () => {
    const fix = (id: string, replaces: string, more: object) => ({
      id,
      at: NOW,
      type: "correction",
      replaces,
      ...more,
    });
    const answer = await send(
      "o1",
      fix("c1", "e1", { with: { phase: 7 } }),
      fix("c2", "c2", { void: true }),
      fix("c5", "gone", { with: { mood: 17 } }),
      fix("c3", "e2", {}),
      fix("c4", "e2", { with: { mood: 0 } }),
    );
    expect(resultsOf(answer)).toEqual(["refused", "refused", "refused", "refused", "stored"]);
    expect(answer.body.errors[0]).toMatchObject({ path: "events[0].event.with.phase", found: "7" });
    expect(answer.body.errors[1]).toMatchObject({ path: "events[1].event.replaces", found: "itself" });
    expect(answer.body.errors[2]).toMatchObject({ path: "events[2].event.with.mood", found: "17" });
    expect(answer.body.errors[3].expected).toContain("void: true");
  });

  it("with text no database can hold, or a year out of range, are refused and never a fault", async () => {
    const note = (id: string, text: string, more: object = {}) => ({ id, at: NOW, type: "note", text, ...more });
    const answer = await send(
      "o1",
      note("n1", "a\0b"),
      note("n2", "\ud800"),
      note("n3", "fine", { extra: { deep: ["\0"] } }),
      note("n4", "ok"),
    );
    expect(resultsOf(answer)).toEqual(["refused", "refused", "refused", "stored"]);
    const deep = JSON.parse(`${"[".repeat(500)}${"]".repeat(500)}`) as unknown;
    expect((await send("o1", note("n6", "deep", { extra: deep }))).body.errors[0].expected).toContain(
      "at most 64 levels",
    );
    expect((await send("o1", note("n5", "old", { at: "0000-01-01T00:00:00Z" }))).status).toBe(422);
  });

  it("later than now are stored, and marked", async () => {
    const { status, body } = await send("o1", ask("f1", { at: "2026-07-01T10:00:00Z" }), ask("f2"));
    expect([status, body.results]).toEqual([
      200,
      [
        { id: "f1", result: "stored", warning: "clock-suspect" },
        { id: "f2", result: "stored" },
      ],
    ]);
  });

  it("say what they changed in words", async () => {
    const asked = { v: 2, type: "ask", step: "share-space", rung: "1m-30s", answer: "gave", mood: 1 };
    const good = (id: string, at: string) => ({ id, at, ...asked });
    await send("s1", ...[1, 2, 3, 4, 5].map((n) => good(`s1-${n}`, `2026-06-08T10:0${n}:00Z`)), {
      id: "s1:start",
      at: "2026-06-08T10:00:00Z",
      type: "outing-start",
      place: "Pen",
      handler: "A",
    });
    const answer = await send("s2", ...[1, 2, 3, 4, 5].map((n) => good(`s2-${n}`, `2026-06-09T16:0${n}:00Z`)));
    expect(answer.body.changes).toEqual([
      {
        horse: "h1",
        changes: [
          expect.objectContaining({
            from: "coming",
            to: "steady",
            better: true,
            text: "Shares the pen: coming → steady",
          }),
        ],
      },
    ]);
  });

  it("cannot be changed or dropped in place, not even by hand", async () => {
    for (const statement of ["update event set type = 'x'", "delete from event", "truncate event", "delete from media"])
      await expect(home.db.query(statement)).rejects.toThrow("permission denied");
    for (const statement of ["update event set type = 'x'", "delete from event", "truncate event"])
      await expect(home.asOwner(statement)).rejects.toThrow("is not changed in place");
  });
});

describe("horses", () => {
  it("sent twice are one; the same id with other fields is refused", async () => {
    const again = await call(`${home.url}/api/horses`, "POST", HORSE);
    expect(again.status).toBe(200);
    expect((await call(`${home.url}/api/horses`, "POST", { ...HORSE, name: "Other" })).status).toBe(409);
  });

  it("name every field that is wrong", async () => {
    const answer = await call(`${home.url}/api/horses`, "POST", {
      id: "",
      name: " ",
      foaled: "2023-02-30",
      foaledPrecision: "week",
      sex: "cow",
    });
    expect(answer.status).toBe(400);
    expect(answer.body.errors.map((one: { path: string }) => one.path)).toEqual([
      "name",
      "foaled",
      "foaledPrecision",
      "sex",
      "id",
    ]);
  });

  it("are changed only by who saw the last version", async () => {
    const { id: _id, ...fields } = HORSE;
    const put = (version: string | null, name: string) =>
      call(`${home.url}/api/horses/h2`, "PUT", { ...fields, name }, version === null ? {} : { "If-Match": version });
    expect((await put('"1"', "Two")).body).toEqual({ id: "h2", version: 2 });
    const late = await put('"1"', "Three");
    expect(late.status).toBe(412);
    expect(late.body.current).toMatchObject({ name: "Two", version: 2 });
    expect(late.body.yours).toMatchObject({ name: "Three" });
    expect((await put(null, "Four")).status).toBe(428);
    expect((await call(`${home.url}/api/horses/none`, "PUT", fields, { "If-Match": '"1"' })).status).toBe(404);
  });

  it("are never answered from a cache: what was stored a moment ago is there", async () => {
    const { headers } = await call(`${home.url}/api/horses/h1`, "GET");
    expect([headers.get("cache-control"), headers.get("etag")]).toEqual(["no-store", null]);
    const again = await fetch(`${home.url}/api/horses/h1`, { headers: { "If-None-Match": '"1"' } });
    expect(again.status).toBe(200);
  });

  it("keep the foaling day they were given, whatever the server's zone", async () => {
    const { rows } = await home.db.query("select foaled from horse where id = 'h1'");
    expect(rows[0].foaled).toBe("2023-05-01");
  });

  it("that do not exist are 404 on every page of theirs", async () => {
    for (const path of [
      "horses/x",
      "horses/x/record",
      "horses/x/steps/flex",
      "horses/h1/steps/nothing",
      "horses/h1/outings/none",
      "nothing",
    ])
      expect([path, (await call(`${home.url}/api/${path}`, "GET")).status]).toEqual([path, 404]);
  });
});

describe("the yard's time zone", () => {
  it("decides which day an outing was; another zone counts every day anew", async () => {
    await call(`${home.url}/api/horses`, "POST", { ...HORSE, id: "zoned" });
    const lateAsk = (id: string, at: string) => ({ id, at, type: "ask", step: "share-space", answer: "gave", mood: 1 });
    await call(`${home.url}/api/events`, "POST", {
      events: [
        { horse: "zoned", outing: "z1", event: lateAsk("z1a", "2026-06-01T22:30:00Z") },
        { horse: "zoned", outing: "z2", event: lateAsk("z2a", "2026-06-01T23:30:00Z") },
      ],
    });
    const days = async () => {
      const { outings, horse } = (await call(`${home.url}/api/horses/zoned`, "GET")).body;
      const { rows } = (await call(`${home.url}/api/ledger?horse=zoned&kind=ask`, "GET")).body;
      return [outings.map((one: any) => one.day), rows.map((one: any) => one.day), horse.workDays];
    };
    // Dublin is an hour ahead in summer (Standard Time (Amendment) Act 1971, from memory).
    expect(await days()).toEqual([["2026-06-02", "2026-06-01"], ["2026-06-02", "2026-06-01"], 2]);
    const settings = { name: "Test yard", timeZone: "America/New_York", units: "metric", words: "american" };
    const put = (body: object, version: number) =>
      call(`${home.url}/api/yard`, "PUT", body, { "If-Match": `"${version}"` });
    expect((await put(settings, 1)).status).toBe(200);
    expect(await days()).toEqual([["2026-06-01", "2026-06-01"], ["2026-06-01", "2026-06-01"], 1]);
    expect((await put({ ...settings, timeZone: "Europe/Dublin" }, 2)).status).toBe(200);
    expect(await days()).toEqual([["2026-06-02", "2026-06-01"], ["2026-06-02", "2026-06-01"], 2]);
    expect((await put({ ...settings, timeZone: "Nowhere/Else" }, 3)).body.errors[0].expected).toContain(
      "a time zone such as",
    );
  });
});

describe("only its own pages", () => {
  const raw = (headers: Record<string, string>): Promise<number> =>
    new Promise((resolve, reject) => {
      const { port } = new URL(home.url);
      const asked = request({ host: "127.0.0.1", port, path: "/api/string", headers, setHost: false }, (response) => {
        response.resume();
        resolve(response.statusCode ?? 0);
      });
      asked.on("error", reject);
      asked.end();
    });

  it("are answered: a foreign Host, Origin or site gets 403", async () => {
    const { port } = new URL(home.url);
    expect(await raw({ host: `127.0.0.1:${port}` })).toBe(200);
    expect(await raw({ host: `localhost:${port}`, origin: `http://localhost:${port}` })).toBe(200);
    expect(await raw({ host: "evil.example" })).toBe(403);
    expect(await raw({ host: `127.0.0.1:1` })).toBe(403);
    expect(await raw({ host: `127.0.0.1:${port}`, origin: "http://evil.example" })).toBe(403);
    expect(await raw({ host: `127.0.0.1:${port}`, origin: "null" })).toBe(403);
    expect(await raw({ host: `127.0.0.1:${port}`, "sec-fetch-site": "cross-site", "sec-fetch-mode": "no-cors" })).toBe(
      403,
    );
  });

  it("get a strict content policy and no sniffing", async () => {
    const { headers } = await call(`${home.url}/api/yard`, "GET");
    expect(headers.get("content-security-policy")).toContain("script-src 'self'");
    expect(headers.get("x-content-type-options")).toBe("nosniff");
    expect(headers.get("x-powered-by")).toBeNull();
  });
});

describe("bad bodies", () => {
  it("broken JSON, an empty batch and one of 501 are 400", async () => {
    expect((await call(`${home.url}/api/events`, "POST", "{")).status).toBe(400);
    expect((await call(`${home.url}/api/events`, "POST", { events: [] })).status).toBe(400);
    expect(
      (
        await call(`${home.url}/api/events`, "POST", {
          events: Array.from({ length: 501 }, (_, n) => ({ horse: "h1", outing: "o", event: ask(`b${n}`) })),
        })
      ).body.errors[0].expected,
    ).toBe("at most 500");
  });

  it("a body over a megabyte, and a record of 600 MB by its size alone, are 413 with the limit named", async () => {
    const large = await call(`${home.url}/api/events`, "POST", { events: [], filler: "x".repeat(1_100_000) });
    expect([large.status, large.body.detail]).toEqual([413, expect.stringContaining("1 MB")]);
    const answer = await new Promise<string>((resolve) => {
      const { port } = new URL(home.url);
      const socket = connect(Number(port), "127.0.0.1", () =>
        socket.write(
          `POST /api/records HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: application/json\r\nContent-Length: 629145600\r\n\r\n{`,
        ),
      );
      socket.once("data", (data) => {
        socket.destroy();
        resolve(data.toString());
      });
    });
    expect(answer).toContain("413");
    expect(answer).toContain("256 MB");
  });
});
