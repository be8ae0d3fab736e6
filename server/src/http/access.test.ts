import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ALL_ENDPOINTS, type Endpoint } from "@still-pine/contract/http";
import { openPhones, type TestPhones } from "../testing/phones";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";
import { may, type Actor } from "../access/actor";

let clock = Date.parse("2026-06-10T12:00:00Z");
const now = (): string => new Date(clock).toISOString();
const pass = (minutes: number): number => (clock += minutes * 60_000);

const { yard } = yardsForTests(now, 2);
let home: TestYard;
let phones: TestPhones;
beforeAll(async () => {
  home = yard();
  phones = await openPhones(home, now);
  const horse = { foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };
  for (const [id, outing] of [
    ["h1", "o1"],
    ["h2", "o2"],
  ] as const) {
    await call(`${home.url}/api/horses`, "POST", { id, name: `Secret ${id}`, ...horse });
    const event = { id: `${outing}:start`, at: now(), type: "outing-start", place: "Hidden pen", handler: "Nobody" };
    await call(`${home.url}/api/events`, "POST", { events: [{ horse: id, outing, event }] });
  }
});
afterAll(() => phones?.close());

const ask = (id: string, more: object = {}) => ({
  id,
  at: now(),
  type: "ask",
  step: "flex",
  side: "near",
  phase: 1,
  answer: "gave",
  mood: 1,
  device: "helper",
  seq: 1,
  ...more,
});
const batch = (event: object, outing = "o1", horse = "h1") => ({ events: [{ horse, outing, event }] });
const codeFor = async (rights: object): Promise<string> =>
  (await call(`${home.url}/api/codes`, "POST", rights)).body.code;
const tryCode = (code: string, sent: { key?: string; from?: string } = {}) =>
  phones.call("POST", "/api/pair", { body: { code, name: "A phone" }, ...sent });

const pathOf = (route: Endpoint, outing = "o1"): string =>
  `/api${route.path.replace(/\{(\w+)\}/g, (_all, name: string) => ({ horse: "h1", outing })[name] ?? "x")}`;
const bodyOf = (route: Endpoint): unknown => (route.body?.type === "application/json" ? {} : undefined);

/** Words that would give the yard away. */
const SECRETS = /Secret|Hidden pen|Nobody|"h1"|"o1"|Test yard|Dublin/;

describe("every route, for everybody who may not use it", () => {
  it.each(
    ALL_ENDPOINTS.filter(({ right }) => right !== "open").map(
      (route) => [`${route.method} ${route.path}`, route] as const,
    ),
  )("a stranger: %s", async (_name, route) => {
    for (const key of [undefined, "made-up"]) {
      const { status, body } = await phones.call(route.method.toUpperCase(), pathOf(route), {
        body: bodyOf(route),
        ...(key ? { key } : {}),
      });
      expect(status).toBe(401);
      expect(JSON.stringify(body)).not.toMatch(SECRETS);
    }
  });

  it("a stranger cannot tell what there is from what there is not, nor which way it is written", async () => {
    const answers = await Promise.all(
      [
        "/api/nothing",
        "/api/horses/h1",
        "/api/horses/none",
        "/API/String",
        "/api//string",
        "/api/%73tring/",
        "/api/",
      ].map((path) => phones.call("GET", path)),
    );
    expect(new Set(answers.map(({ status, body }) => `${status} ${body.detail}`)).size).toBe(1);
    expect(answers[0]?.status).toBe(401);
  });

  it("open routes tell a stranger nothing of the yard", async () => {
    for (const route of ALL_ENDPOINTS.filter(({ right }) => right === "open")) {
      const { status, body } = await phones.call(route.method.toUpperCase(), pathOf(route), { body: bodyOf(route) });
      expect([route.path, [200, 400].includes(status)]).toEqual([route.path, true]);
      expect(JSON.stringify(body)).not.toMatch(SECRETS);
      expect(JSON.stringify(body)).not.toContain(home.yard.id);
    }
  });

  it("a helper: each route that is not theirs, and theirs for another outing, is refused and tells nothing", async () => {
    const { key } = await phones.pair({ rights: "write", outing: "o1" }, "helper");
    const theirs = new Set(["open", "write"]);
    for (const route of ALL_ENDPOINTS) {
      const isTheirs = theirs.has(route.right ?? "all");
      const { status } = await phones.call(route.method.toUpperCase(), pathOf(route), { key, body: bodyOf(route) });
      expect([route.method, route.path, status === 403]).toEqual([route.method, route.path, !isTheirs]);
      if (!isTheirs || !route.path.includes("{outing}")) continue;
      const other = await phones.call(route.method.toUpperCase(), pathOf(route, "o2"), { key, body: bodyOf(route) });
      expect([route.path, other.status]).toEqual([route.path, 403]);
      expect(JSON.stringify(other.body)).not.toMatch(/h2|Secret/);
    }
  });

  it("a phone with all rights does not give them on, nor locks the laptop; the laptop may do everything", async () => {
    const { key } = await phones.pair({ rights: "all" }, "phone");
    expect((await phones.call("GET", "/api/string", { key })).status).toBe(200);
    expect((await phones.call("POST", "/api/codes", { key, body: { rights: "all" } })).status).toBe(403);
    expect((await phones.call("POST", "/api/codes", { key, body: { rights: "write", outing: "o1" } })).status).toBe(
      201,
    );
    expect((await phones.call("PUT", "/api/pass-phrase", { key, body: { phrase: null } })).status).toBe(403);
    const everybody: Actor[] = [
      { kind: "stranger" },
      { kind: "device", id: "d", recorder: "r", name: "n", expiresAt: 0, rights: "write", outing: "o" },
      { kind: "device", id: "d", recorder: "r", name: "n", expiresAt: 0, rights: "all" },
      { kind: "laptop" },
    ];
    const table = (["open", "write", "all", "laptop"] as const).map((right) => everybody.map((one) => may(one, right)));
    expect(table).toEqual([
      [true, true, true, true],
      [false, true, true, true],
      [false, false, true, true],
      [false, false, false, true],
    ]);
  });
});

describe("what a helper writes down", () => {
  const asHelper = async () => {
    const { key, recorder } = await phones.pair({ rights: "write", outing: "o1" }, "helper");
    return {
      send: (body: object) => phones.call("POST", "/api/events", { key, body }),
      own: { device: recorder },
      recorder,
    };
  };

  it("is taken for their outing, under their device, and verdicts are kept from them", async () => {
    const { send, own, recorder } = await asHelper();
    const good = await send(batch(ask("k1", own)));
    expect([good.status, good.body]).toEqual([200, { results: [{ id: "k1", result: "stored" }], changes: [] }]);
    const skew = { id: "k2", at: now(), type: "clock-skew", behindSeconds: 9e8, ...own, seq: 2 };
    const refusals: [object, string][] = [
      [batch(ask("k2", own), "o2", "h2"), "events[0].outing"],
      [batch(ask("k2", own), "o1", "h2"), "events[0].outing"],
      [batch(ask("k2", own), "o1", "no-such-horse"), "events[0].outing"],
      [batch(ask("k2", { device: "phone" })), "events[0].event.device"],
      [batch(ask("k2", { device: undefined })), "events[0].event.device"],
      [batch({ id: "k2", at: now(), type: "outing-end", ...own, seq: 2 }), "events[0].event.type"],
      [batch({ id: "k2", at: now(), type: "head", ...own, seq: 2, place: "X" }), "events[0].event.type"],
      [batch({ ...skew, of: "phone" }), "events[0].event.of"],
      [
        batch({ id: "k2", at: now(), type: "correction", ...own, seq: 2, replaces: "o1:start", void: true }),
        "events[0].event.replaces",
      ],
    ];
    for (const [body, path] of refusals) {
      const { status, body: problem } = await send(body);
      expect([status, problem.errors[0].path, JSON.stringify(problem)]).toEqual([
        422,
        path,
        expect.not.stringMatching(/Secret/),
      ]);
    }
    const undo = { id: "k3", at: now(), type: "correction", ...own, seq: 3, replaces: "k1", void: true };
    expect((await send(batch(undo))).status).toBe(200);
    expect((await send(batch({ ...skew, id: "k4", of: recorder, behindSeconds: 1 }))).status).toBe(200);
  });

  it("under an id that is taken is refused without a word of what is stored there", async () => {
    const note = { id: "diary", at: now(), type: "note", text: "Secret: lame behind" };
    await call(`${home.url}/api/events`, "POST", { events: [{ horse: "h2", outing: "o2", event: note }] });
    const { send, own } = await asHelper();
    const { status, body } = await send(batch(ask("diary", own)));
    expect([status, body.errors[0].path, body.errors[0].expected]).toEqual([
      422,
      "events[0].event.id",
      "an id of its own: this one is taken",
    ]);
    expect(JSON.stringify(body)).not.toMatch(/Secret|lame|h2|o2/);
    // Of their own outing they are told.
    await send(batch(ask("theirs", own)));
    const again = await send(batch(ask("theirs", { ...own, mood: 2 })));
    expect(again.body.errors[0].expected).toContain('"mood":1');
  });

  it("strikes out nothing of others: not what is to come, not by an entry that is refused, not of another outing", async () => {
    const { send, own } = await asHelper();
    const strike = (id: string, replaces: string) => ({
      horse: "h1",
      outing: "o1",
      event: { id, at: now(), type: "correction", ...own, seq: 9, replaces, void: true },
    });
    // The owner's phone will send it once it is back on the network.
    const refused = { horse: "h1", outing: "o1", event: ask("owners-own", { ...own, mood: 9 }) };
    const first = await send({ events: [refused, strike("v1", "owners-own")] });
    expect(first.body.results.map((one: any) => one.result)).toEqual(["refused", "refused"]);
    await call(`${home.url}/api/events`, "POST", batch(ask("owners-own", { device: "owner" })));
    const { body } = await call(`${home.url}/api/horses/h1/outings/o1`, "GET");
    expect(body.entries.find((one: any) => one.event.id === "owners-own")).toMatchObject({
      voided: false,
      corrections: [],
    });
    await call(`${home.url}/api/events`, "POST", batch(ask("elsewhere", own), "o2", "h2"));
    expect((await send({ events: [strike("v2", "elsewhere")] })).body.results[0].result).toBe("refused");
    const both = { events: [{ horse: "h1", outing: "o1", event: ask("mine", own) }, strike("v3", "mine")] };
    expect((await send(both)).body.results.map((one: any) => one.result)).toEqual(["stored", "stored"]);
  });

  it("is under a name the yard gave; whoever comes back with a key keeps the name it has", async () => {
    const { recorder: owners } = await phones.pair({ rights: "all" }, "owner");
    const code = await codeFor({ rights: "write", outing: "o1" });
    const claimed = await phones.call("POST", "/api/pair", { body: { code, name: "Sly", recorder: owners } });
    expect([claimed.status, claimed.body.recorder === owners]).toEqual([201, false]);
    const { key, recorder } = await phones.pair({ rights: "write", outing: "o1" }, "back again");
    const again = await tryCode(await codeFor({ rights: "write", outing: "o1" }), { key });
    expect(again.body.recorder).toBe(recorder);
    // What a phone with all rights wrote under its own name before it was let in comes in under that name.
    const { key: all } = await phones.pair({ rights: "all" }, "late");
    const before = batch(ask("before-pairing", { device: "its-old-name" }));
    expect((await phones.call("POST", "/api/events", { key: all, body: before })).status).toBe(200);
  });
});

describe("pairing", () => {
  it("a code lets one phone in, once, within five minutes; as it is typed does not matter", async () => {
    const code = await codeFor({ rights: "all" });
    expect(code).toMatch(/^[2-9A-HJ-NP-Z]{4}-[2-9A-HJ-NP-Z]{4}$/);
    const first = await tryCode(` ${code.toLowerCase().replace("-", " ")} `);
    expect([first.status, first.body]).toEqual([
      201,
      {
        yard: home.yard.id,
        name: "A phone",
        rights: "all",
        outing: null,
        expiresAt: expect.any(String),
        recorder: expect.any(String),
      },
    ]);
    expect(first.headers["set-cookie"]?.[0]).toMatch(
      /^__Host-still-pine=[\w-]{43}; Path=\/; Expires=[^;]+; HttpOnly; Secure; SameSite=Strict$/,
    );
    const again = await tryCode(code);
    expect([again.status, again.key, again.body.detail]).toEqual([410, undefined, expect.stringContaining("already")]);
    const late = await codeFor({ rights: "all" });
    pass(5);
    expect((await tryCode(late)).status).toBe(410);
    pass(6);
  });

  it("keys and codes lie in the database as hashes alone", async () => {
    const code = await codeFor({ rights: "all" });
    const { key } = await tryCode(code);
    const { rows } = await home.asOwner(
      "select d::text, (select string_agg(c::text, '') from pairing_code c) as c from device d",
    );
    const all = JSON.stringify(rows);
    expect(all.length).toBeGreaterThan(100);
    expect(all).not.toContain(key);
    expect(all).not.toContain(code);
    expect(all).not.toContain(code.replace("-", ""));
  });

  it("five wrong tries from one place, even all at once, make a pause there that grows, and none elsewhere", async () => {
    const code = await codeFor({ rights: "all" });
    const from = "127.0.0.3";
    const flood = await Promise.all(Array.from({ length: 40 }, (_none, n) => tryCode(`GUES-S${n + 200}`, { from })));
    const count = (status: number): number => flood.filter((one) => one.status === status).length;
    expect([count(422), count(429)]).toEqual([5, 35]);
    const paused = await tryCode(code, { from });
    expect([paused.status, paused.headers["retry-after"], paused.body.detail]).toEqual([
      429,
      "300",
      expect.stringContaining("5 minutes"),
    ]);
    // Whoever was not wrong is not kept out, and the code is good still.
    expect((await tryCode(code)).status).toBe(201);
    pass(5);
    expect((await tryCode("GUES-S999", { from })).status).toBe(422);
    const longer = await tryCode("GUES-S999", { from });
    expect([longer.status, longer.headers["retry-after"]]).toEqual([429, "600"]);
    pass(10);
    expect((await tryCode(await codeFor({ rights: "all" }), { from })).status).toBe(201);
    // Who got in begins anew.
    expect((await tryCode("GUES-S998", { from })).body.detail).toContain("4 more tries");
  });

  it("a thousand wrong codes from everywhere end those that are open", async () => {
    const code = await codeFor({ rights: "all" });
    await home.asOwner(
      `insert into pairing_miss (yard_id, id, at, door, origin)
       select $1, gen_random_uuid(), $2, 'code', 'network ' || n from generate_series(1, 999) n`,
      [home.yard.id, now()],
    );
    expect((await tryCode("GUES-S777", { from: "127.0.0.4" })).status).toBe(422);
    expect((await tryCode(code)).status).toBe(410);
    await home.asOwner("delete from pairing_miss");
  });

  it("a phone that is shut out is out at once, and what it was sending is taken whole or not at all", async () => {
    const { key, recorder } = await phones.pair({ rights: "all" }, "soon-out");
    const { devices } = (await call(`${home.url}/api/phones`, "GET")).body as {
      devices: { id: string; name: string; version: number; state: string }[];
    };
    const device = devices.find(({ name }) => name === "soon-out");
    if (!device) throw new Error("the phone is not in the list");
    const batches = Array.from({ length: 24 }, (_none, n) => ({
      events: Array.from({ length: 20 }, (_event, m) => ({
        horse: "h1",
        outing: "o1",
        event: ask(`s${n}-${m}`, { device: recorder, seq: n * 20 + m }),
      })),
    }));
    const sending = batches.map((body) => phones.call("POST", "/api/events", { key, body }));
    const shut = call(
      `${home.url}/api/devices/${device.id}`,
      "PUT",
      { name: "soon-out", isIn: false },
      { "If-Match": `"${device.version}"` },
    );
    const answers = await Promise.all(sending);
    expect((await shut).status).toBe(200);
    expect(new Set(answers.map(({ status }) => status))).toContain(401);
    const { rows } = await home.db.query("select body->>'id' as id from event where body->>'device' = $1", [recorder]);
    const taken = answers.flatMap(({ status }, n) => (status === 200 ? [n] : []));
    expect(rows).toHaveLength(taken.length * 20);
    const after = await phones.call("GET", "/api/string", { key });
    expect([after.status, after.body.why]).toEqual([401, "withdrawn"]);
    expect((await phones.call("GET", "/api/hello", { key })).body).toMatchObject({
      who: "stranger",
      why: "withdrawn",
      yard: null,
    });
    const again = await tryCode(await codeFor({ rights: "all" }));
    const resent = await phones.call("POST", "/api/events", { key: again.key ?? "", body: batches[0] });
    expect(resent.status).toBe(200);
  });

  it("a key nobody used for half a year has ended; one that is used lives on; a helper's is good for a day", async () => {
    const { key: used } = await phones.pair({ rights: "all" }, "used");
    const { key: unused } = await phones.pair({ rights: "all" }, "unused");
    const { key: helper } = await phones.pair({ rights: "write", outing: "o1" }, "for-a-day");
    pass(25 * 60);
    expect((await phones.call("GET", "/api/outings/o1/rail", { key: helper })).body.why).toBe("expired");
    for (let days = 1; days < 200; days += 50) {
      expect((await phones.call("GET", "/api/yard", { key: used })).status).toBe(200);
      pass(50 * 24 * 60);
    }
    expect((await phones.call("GET", "/api/yard", { key: unused })).body.why).toBe("expired");
    expect((await phones.call("GET", "/api/hello", { key: used })).body.who).toBe("all");
  });

  it("a key of one yard opens no other, and a device that means another yard is told so and sends nothing", async () => {
    const { key } = await phones.pair({ rights: "all" }, "mine");
    const other = await openPhones(yard(1), now);
    try {
      const answer = await other.call("GET", "/api/string", { key });
      expect([answer.status, answer.body.why]).toEqual([401, "unknown"]);
    } finally {
      other.close();
    }
    const headers = { "Still-Pine-Yard": yard(1).yard.id };
    const elsewhere = await phones.call("POST", "/api/events", { key, headers, body: batch(ask("other-yard")) });
    expect([elsewhere.status, elsewhere.body.why]).toEqual([401, "other-yard"]);
    const onLaptop = await call(`${home.url}/api/events`, "POST", batch(ask("other-yard")), headers);
    expect([onLaptop.status, onLaptop.body.why]).toEqual([401, "other-yard"]);
    const { rowCount } = await home.db.query("select 1 from event where id = 'other-yard'");
    expect(rowCount).toBe(0);
  });
});

describe("the certificate", () => {
  it("is trusted through the yard's authority alone, by the name, and the way to trust it tells nothing else", async () => {
    const trust = `http://127.0.0.1:${new URL(phones.door.trustAddress ?? "").port}`;
    const page = await (await fetch(`${trust}/`)).text();
    expect(page).toContain(phones.door.fingerprint);
    expect(page).not.toMatch(SECRETS);
    const certificate = await fetch(`${trust}/still-pine-yard.crt`);
    expect(certificate.headers.get("content-type")).toBe("application/x-x509-ca-cert");
    expect((await fetch(`${trust}/api/string`)).status).toBe(404);
    expect((await fetch(`${trust}/`, { method: "POST" })).status).toBe(405);
    // Every call above was made over TLS with this authority alone as trusted.
    expect((await phones.call("GET", "/api/hello")).body).toMatchObject({
      product: "still-pine",
      door: "phones",
      who: "stranger",
    });
    const foreign = await phones.call("GET", "/api/hello", { headers: { Host: "elsewhere.example" } });
    expect(foreign.status).toBe(403);
    const page2 = await phones.call("GET", "/api/hello", { headers: { Origin: "https://elsewhere.example" } });
    expect(page2.status).toBe(403);
  });
});
