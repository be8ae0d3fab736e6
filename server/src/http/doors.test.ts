import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ALL_ENDPOINTS } from "@still-pine/contract/http";
import { Grammar } from "../testing/grammar";
import { NonsenseMaker, seeded } from "../testing/nonsense";
import { openPhones, type TestPhones } from "../testing/phones";
import { rawBytes, sendRaw } from "../testing/raw-bytes";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

/** Nonsense and strangers at every door: the laptop's, the phones' with and without a key, and the page that is not encrypted. */

const NOW = "2026-06-10T12:00:00.000Z";
/** Part of it here; bin/bench does all of it. */
const NONSENSE = Number(process.env["DOORS"] ?? 80);
const RAW = Number(process.env["RAW"] ?? 60);
const ROLES = Number(process.env["ROLES"] ?? 250);
const SEED = Number(process.env["DOORS_SEED"] ?? 20261201);
/** The only answers of these kinds that are none of a fault: come again, and the disk is full. */
const STATED: ReadonlySet<number> = new Set([503, 507]);

const { yard } = yardsForTests(NOW, 2);
/** One that nonsense may change, and one that nobody may. */
let home: TestYard;
let phones: TestPhones;
let kept: TestYard;
let keptPhones: TestPhones;
/** Everything that is not the helper's says so. */
const TELLTALE = /Telltale|Test yard/;

const note = (id: string, text: string): object => ({ id, at: "2026-06-10T09:00:00Z", type: "note", text });

beforeAll(async () => {
  home = yard(0);
  kept = yard(1);
  phones = await openPhones(home, () => NOW);
  keptPhones = await openPhones(kept, () => NOW);
  for (const one of [home, kept]) await fill(one);
});
afterAll(() => {
  phones?.close();
  keptPhones?.close();
});

async function fill(one: TestYard): Promise<void> {
  const horse = { foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };
  for (const [id, outing, word] of [
    ["h1", "o1", "Own"],
    ["h2", "o2", "Telltale"],
  ] as const) {
    await call(`${one.url}/api/horses`, "POST", { id, name: `${word} ${id}`, ...horse });
    const start = { id: `${outing}:start`, at: "2026-06-10T08:00:00Z", type: "outing-start" };
    const events = [
      { ...start, place: `${word} pen`, handler: `${word} person` },
      note(`${outing}-note`, `${word} note`),
    ];
    await call(`${one.url}/api/events`, "POST", { events: events.map((event) => ({ horse: id, outing, event })) });
  }
  await call(`${one.url}/api/events`, "POST", {
    events: [{ horse: "h2", outing: null, event: note("h2-note", "Telltale said of the horse") }],
  });
  const trouble = {
    name: "Telltale trouble",
    seen: ["slides"],
    body: [{ look: "Feet.", who: "farrier" }],
    steps: [{ step: "stand", why: "Telltale." }],
  };
  const put = await call(`${one.url}/api/troubles/telltale`, "PUT", trouble, { "If-Match": '"0"' });
  expect(put.status).toBeLessThan(300);
}

describe("nonsense by the published grammar, at the phones' door", () => {
  it.each([
    ["a stranger", null],
    ["a helper", { rights: "write", outing: "o1" }],
    ["a phone with all rights", { rights: "all" }],
  ] as const)(
    `from %s, ${NONSENSE} times, is never a fault, and tells a stranger nothing`,
    { timeout: 60_000 + NONSENSE * 200 },
    async (who, rights) => {
      const maker = new NonsenseMaker(SEED);
      let key = rights ? (await phones.pair(rights, who)).key : undefined;
      const faults: string[] = [];
      const statuses = new Map<number, number>();
      for (let n = 0; n < NONSENSE; n += 1) {
        const { method, path, headers, body } = maker.next();
        const { status, body: answer } = await phones.call(method, path, {
          body,
          headers,
          ...(key === undefined ? {} : { key }),
        });
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
        const text = JSON.stringify(answer);
        if (status >= 500 && !STATED.has(status))
          faults.push(`seed ${SEED}, ${n}: ${method} ${path} → ${status} ${text}`);
        if (rights?.rights !== "all" && TELLTALE.test(text))
          faults.push(`seed ${SEED}, ${n}: ${method} ${path} told ${text}`);
        // Nonsense that was right by chance may have shut this phone out.
        if (rights && status === 401) key = (await phones.pair(rights, who)).key;
      }
      expect(faults).toEqual([]);
      process.stdout.write(`${who}: ${NONSENSE} requests, ${JSON.stringify(Object.fromEntries(statuses))}\n`);
      expect(statuses.get(rights ? 200 : 401)).toBeGreaterThan(0);
    },
  );
});

describe("raw bytes", () => {
  it(`at every door, ${RAW} times each, end nothing`, { timeout: 60_000 + RAW * 1500 }, async () => {
    const doors: [name: string, port: number, isTls: boolean][] = [
      ["the laptop's", Number(new URL(home.url).port), false],
      ["the phones', unencrypted", Number(new URL(phones.door.address).port), false],
      ["the phones'", Number(new URL(phones.door.address).port), true],
      ["the page to trust", Number(new URL(phones.door.trustAddress ?? "").port), false],
    ];
    const faults: string[] = [];
    let answered = 0;
    for (const [name, port, isTls] of doors)
      for (let from = 0; from < RAW; from += 10) {
        const seeds = Array.from({ length: Math.min(10, RAW - from) }, (_none, n) => SEED + from + n);
        const statuses = await Promise.all(seeds.map((seed) => sendRaw(port, rawBytes(seed), isTls)));
        answered += statuses.filter((status) => status !== null).length;
        // A version of HTTP that is not spoken here is said by 505.
        statuses.forEach((status, n) => {
          if (status !== null && status >= 500 && status !== 505 && status !== 501 && !STATED.has(status))
            faults.push(`${name}, seed ${seeds[n]}: ${status}`);
        });
      }
    expect(faults).toEqual([]);
    expect(answered).toBeGreaterThan(RAW);
    process.stdout.write(`raw bytes: ${RAW} at each of 4 doors from seed ${SEED}, ${answered} answered, no fault\n`);
    expect((await call(`${home.url}/api/yard`, "GET")).status).toBe(200);
    expect((await phones.call("GET", "/api/hello")).status).toBe(200);
    expect((await fetch(`http://127.0.0.1:${new URL(phones.door.trustAddress ?? "").port}/`)).status).toBe(200);
  });
});

describe("who may not", () => {
  /** All that is not the helper's, as text. */
  const foreign = async (): Promise<string> => {
    const { rows } = await kept.asOwner(
      `select to_jsonb(e)::text as line from event e where horse_id <> 'h1' or outing_id is distinct from 'o1'
       union all select to_jsonb(h)::text from horse h union all select to_jsonb(y)::text from yard y
       union all select to_jsonb(t)::text from trouble t union all select to_jsonb(o)::text from outing_owner o
       union all select to_jsonb(l)::text from ledger l where horse_id <> 'h1' order by 1`,
    );
    return rows.map(({ line }: { line: string }) => line).join("\n");
  };

  /** Most events a helper sends get no further than the first look; as their own, at a known id, they do. */
  function asTheirOwn(body: unknown, device: string, n: number): void {
    const { events } = (body ?? {}) as {
      events?: { horse: unknown; outing: unknown; event: Record<string, unknown> }[];
    };
    if (!Array.isArray(events)) return;
    for (const [index, one] of events.entries()) {
      if (typeof one?.event !== "object" || one.event === null) continue;
      Object.assign(one.event, { device, seq: n * 10 + index });
      if (n % 3 > 0) Object.assign(one, { horse: "h1", outing: "o1" });
      if (n % 3 > 1)
        one.event = { ...note(String(one.event["id"]), "Written by the helper"), device, seq: n * 10 + index };
    }
  }

  it(
    `is told nothing and changes nothing, in ${ROLES} tries at foreign and guessed ids`,
    { timeout: 60_000 + ROLES * 200 },
    async () => {
      const before = await foreign();
      const random = seeded(SEED);
      const pick = <Item>(items: readonly Item[]): Item => items[Math.floor(random() * items.length)] as Item;
      const helper = await keptPhones.pair({ rights: "write", outing: "o1" }, "helper");
      const gone = await keptPhones.pair({ rights: "all" }, "gone");
      const { body: list } = await call(`${kept.url}/api/phones`, "GET");
      const device = list.devices.find((one: { name: string }) => one.name === "gone");
      const { status: shutOut } = await call(
        `${kept.url}/api/devices/${device.id}`,
        "PUT",
        { name: "gone", isIn: false },
        { "If-Match": `"${device.version}"` },
      );
      expect(shutOut).toBe(200);
      const actors: [name: string, key: string | undefined][] = [
        ["stranger", undefined],
        ["made up", "AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA"],
        ["shut out", gone.key],
        ["helper", helper.key],
      ];
      const known = {
        horse: ["h2", "h2", "h1", "h3"],
        outing: ["o2", "o2", "o1", "o3"],
        id: ["o2-note", "h2-note", "o2:start", "o1-note", "telltale", "fresh"],
        replaces: ["o2-note", "h2-note", "o2:start", "o1-note"],
        device: [helper.recorder, gone.recorder, device.id as string, "d"],
        media: ["m1", "m2"],
        trouble: ["telltale"],
        program: ["own-telltale", "loose-pen-start"],
        place: ["Guessed pen"],
        handler: ["Guessed person"],
      };
      const grammar = new Grammar(random, known, () => pick(["h2", "o2-note", 1, null]));
      const wrong: string[] = [];
      const statuses = new Map<number, number>();
      for (let n = 0; n < ROLES; n += 1) {
        const [who, key] = pick(actors);
        // A helper's one way to write is tried as often as all others together.
        const route =
          random() < 0.5
            ? pick(ALL_ENDPOINTS)
            : (ALL_ENDPOINTS.find(({ path }) => path === "/events") ?? pick(ALL_ENDPOINTS));
        const path = `/api${route.path.replace(/\{(\w+)\}/g, (_all, name: string) => encodeURIComponent(grammar.parameter(route.method, route.path, name)))}`;
        const body = grammar.body(route.method, route.path, pick([0, 0, 1]));
        if (who === "helper" && route.path === "/events") asTheirOwn(body, helper.recorder, n);
        const {
          status,
          body: answer,
          headers,
        } = await keptPhones.call(route.method.toUpperCase(), path, {
          ...(body === undefined ? {} : { body: JSON.stringify(body) }),
          ...(key === undefined ? {} : { key }),
          headers: route.versioned ? { "If-Match": '"1"' } : {},
        });
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
        const said = JSON.stringify([answer, headers]);
        const right = route.right ?? "all";
        const isTheirs = right === "open" || (who === "helper" && right === "write");
        const sent = `seed ${SEED}, ${n}, ${who}: ${route.method} ${path} ${JSON.stringify(body)?.slice(0, 300)} → ${status} ${said.slice(0, 300)}`;
        if (TELLTALE.test(said)) wrong.push(`told: ${sent}`);
        if (!isTheirs && status !== 401 && status !== 403) wrong.push(`let in: ${sent}`);
        if (status >= 500 && !STATED.has(status)) wrong.push(`fault: ${sent}`);
      }
      expect(wrong).toEqual([]);
      expect(await foreign()).toBe(before);
      process.stdout.write(
        `roles: ${ROLES} requests from seed ${SEED}, nothing told; ${JSON.stringify(Object.fromEntries(statuses))}\n`,
      );
      expect(
        Math.min(statuses.get(200) ?? 0, statuses.get(401) ?? 0, statuses.get(403) ?? 0, statuses.get(422) ?? 0),
      ).toBeGreaterThan(0);
    },
  );
});
