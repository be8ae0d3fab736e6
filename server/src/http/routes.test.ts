import { Validator } from "@seriousme/openapi-schema-validator";
import { beforeAll, describe, expect, it } from "vitest";
import { SCHOOLS } from "@still-pine/core/programs";
import { z } from "zod";
import { ANY_ROUTE_REFUSES, openApi, ALL_ENDPOINTS, type Endpoint } from "@still-pine/contract/http";
import { canonical } from "@still-pine/contract/record";
import { createApp } from "./app";
import { clipWithPosition, jpegWithPosition, zipOf } from "../testing/samples";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const HORSE = { id: "h1", name: "Moss", foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };
const ASK = {
  id: "a1",
  at: "2026-06-09T10:00:00Z",
  type: "ask",
  step: "flex",
  side: "near",
  phase: 1,
  answer: "gave",
  mood: 1,
};
const START = { id: "o1:start", at: "2026-06-09T10:00:00Z", type: "outing-start", place: "Pen", handler: "M" };
const { id: _id, ...HORSE_FIELDS } = HORSE;
const TROUBLE = {
  name: "Weaves",
  seen: ["sways at the door"],
  body: [{ look: "Stable hours and mates.", who: "vet" }],
  steps: [{ step: "company", why: "He may be alone." }],
};
const DRAFT = { ...SCHOOLS[0], id: "own-p1", name: "Ours" };

const { yard } = yardsForTests(NOW);
let home: TestYard;
let ids: Record<string, string>;
beforeAll(async () => {
  home = yard();
  await call(`${home.url}/api/horses`, "POST", HORSE);
  await call(`${home.url}/api/events`, "POST", {
    events: [START, ASK].map((event) => ({ horse: "h1", outing: "o1", event })),
  });
  await send("put", "/horses/h1/media/m1", { body: jpegWithPosition() });
  await send("put", "/media/m1/thumbnail", { body: jpegWithPosition() });
  const { body: made } = await call(`${home.url}/api/codes`, "POST", { rights: "all" });
  await call(`${home.url}/api/pair`, "POST", { code: made.code, name: "Phone" });
  const first = async (kind: string): Promise<string> => (await call(`${home.url}/api/${kind}`, "GET")).body[0].id;
  ids = {
    horse: "h1",
    outing: "o1",
    step: "flex",
    media: "m1",
    program: "own-p1",
    trouble: "t1",
    places: await first("places"),
    people: await first("people"),
    device: (await call(`${home.url}/api/phones`, "GET")).body.devices[0].id,
  };
});

interface Sent {
  body?: string | Buffer;
  headers?: Record<string, string>;
}

async function send(method: string, path: string, { body, headers = {} }: Sent = {}) {
  const response = await fetch(`${home.url}/api${path}`, {
    method: method.toUpperCase(),
    headers,
    ...(body === undefined ? {} : { body: typeof body === "string" ? body : new Uint8Array(body) }),
  });
  // A stream has no end; that it began is what counts here.
  const isStream = (response.headers.get("content-type") ?? "").startsWith("text/event-stream");
  if (isStream) await response.body?.cancel();
  const bytes = isStream ? Buffer.alloc(0) : Buffer.from(await response.arrayBuffer());
  return { status: response.status, type: response.headers.get("content-type") ?? "", bytes };
}

const record = (horse = HORSE): string =>
  JSON.stringify({
    format: "still-pine/horse-record",
    version: 1,
    yard: { timeZone: "Europe/Dublin" },
    horse,
    program: { id: "loose-pen-start" },
    horseEvents: [],
    outings: [],
  });

/** A right body for every route that takes one. */
const BODIES: Record<string, string | Buffer> = {
  "put /yard": JSON.stringify({ name: "Yard", timeZone: "Europe/Dublin", units: "imperial", words: "british" }),
  "put /troubles/{trouble}": JSON.stringify(TROUBLE),
  "put /programs/{program}/draft": JSON.stringify({ file: DRAFT }),
  "put /places/{label}": JSON.stringify({ label: "Round pen" }),
  "put /people/{label}": JSON.stringify({ label: "N" }),
  "post /horses": JSON.stringify({ ...HORSE, id: "h2" }),
  "put /horses/{horse}": JSON.stringify(HORSE_FIELDS),
  "post /events": JSON.stringify({ events: [{ horse: "h1", outing: "o1", event: { ...ASK, id: "a2" } }] }),
  "post /records": record({ ...HORSE, id: "h3" }),
  "post /archives": zipOf([{ name: "record.json", content: Buffer.from(record({ ...HORSE, id: "h4" })) }]),
  "post /csv": "horse_id,day,weight_kg\r\nh1,2026-06-01,400\r\n",
  "put /horses/{horse}/media/{media}": clipWithPosition(),
  "put /media/{media}/thumbnail": jpegWithPosition(),
  "post /codes": JSON.stringify({ rights: "write", outing: "o1" }),
  "post /unlock": JSON.stringify({ phrase: "x" }),
  "put /pass-phrase": JSON.stringify({ phrase: null }),
  "put /devices/{device}": JSON.stringify({ name: "Phone", isIn: true }),
  "put /outings/{outing}/plan": JSON.stringify({
    horse: "h1",
    exercises: [],
    known: [],
    caps: { workingMinutes: 20, inHandMinutes: 40 },
  }),
};

/** What is right for these depends on what was done before; access.test.ts does it. */
const IN_ITS_PLACE = new Set(["post /unlock"]);

const keyOf = ({ method, path }: Endpoint): string => `${method} ${path}`;
const pathWith = (route: Endpoint, instead?: string): string =>
  route.path.replace(/\{(\w+)\}/g, (_all, name: string) => {
    if (instead !== undefined) return instead;
    if (route.method === "put" && name === "media" && route.path.startsWith("/horses")) return "m2";
    return ids[name === "label" ? (route.path.split("/")[1] ?? "") : name] ?? "";
  });

const typeOf = ({ body }: Endpoint): Record<string, string> =>
  body ? { "Content-Type": body.type === "*/*" ? "application/octet-stream" : body.type } : {};

const versionOf = async (route: Endpoint): Promise<string> => {
  if (route.path === "/yard") return `"${home.yard.version}"`;
  return '"1"';
};

async function right(route: Endpoint): Promise<Sent> {
  // Wrong codes of the tests before make no pause here.
  await home.asOwner("delete from pairing_miss");
  let body = BODIES[keyOf(route)];
  if (route.path.startsWith("/troubles/")) {
    await home.asOwner("delete from trouble");
    await send("put", "/troubles/t1", {
      body: JSON.stringify(TROUBLE),
      headers: { "Content-Type": "application/json", "If-Match": '"0"' },
    });
  }
  if (route.path.startsWith("/programs/")) {
    await home.asOwner("delete from program_draft");
    await send("put", "/programs/own-p1/draft", {
      body: JSON.stringify({ file: DRAFT }),
      headers: { "Content-Type": "application/json", "If-Match": '"0"' },
    });
  }
  if (route.path === "/pair") {
    const made = await call(`${home.url}/api/codes`, "POST", { rights: "all" });
    body = JSON.stringify({ code: made.body.code, name: "Phone" });
  }
  return {
    ...(body === undefined ? {} : { body }),
    headers: { ...typeOf(route), ...(route.versioned ? { "If-Match": await versionOf(route) } : {}) },
  };
}

/** Whether an answer is one that OpenAPI tells of, in its shape; what is wrong with it otherwise. */
function whyNot(route: Endpoint, { status, type, bytes }: Awaited<ReturnType<typeof send>>): string | null {
  const documented = [...Object.keys(route.answers).map(Number), ...ANY_ROUTE_REFUSES, ...(route.refuses ?? [])];
  if (!documented.includes(status)) return `${status} is not documented: ${bytes.toString().slice(0, 300)}`;
  const schema = route.answers[status];
  if (schema === "") return bytes.length === 0 ? null : "content where there is none";
  if (schema === undefined) {
    if (!type.startsWith("application/problem+json")) return `a refusal as ${type}`;
    const problem = JSON.parse(bytes.toString()) as { status: number; detail: string };
    return problem.status === status && problem.detail.length > 5 ? null : "a problem without its status or a sentence";
  }
  if (typeof schema === "string")
    return schema === "*/*" || type.startsWith(schema) ? null : `${type} instead of ${schema}`;
  const body: unknown = JSON.parse(bytes.toString());
  const parsed = schema.safeParse(body);
  if (!parsed.success) return z.prettifyError(parsed.error);
  // A field the schema does not tell of would be dropped by it.
  return canonical(parsed.data) === canonical(body) ? null : "fields that are not documented";
}

interface Layers {
  stack: { route?: { path: string; methods: Record<string, boolean> }; handle?: Partial<Layers> }[];
}

/** Every route of a router and those within it, written as in the catalogue. */
function routesOf({ stack }: Layers): string[] {
  return stack.flatMap(({ route, handle }) => {
    const within = handle?.stack ? routesOf({ stack: handle.stack }) : [];
    const own = route
      ? Object.keys(route.methods).map((method) => `${method} ${route.path.replace(/:(\w+)/g, "{$1}")}`)
      : [];
    return [...own, ...within];
  });
}

describe("the OpenAPI document", () => {
  it("is valid OpenAPI 3.1, and is the one that is served", async () => {
    const { valid, errors } = await new Validator().validate(openApi() as Record<string, unknown>);
    expect(errors ?? []).toEqual([]);
    expect(valid).toBe(true);
    expect((await call(`${home.url}/api/openapi.json`, "GET")).body).toEqual(JSON.parse(JSON.stringify(openApi())));
  });

  it("tells of every route the server has, and of no other", async () => {
    const app = createApp({ db: home.db, port: () => 1, now: () => NOW });
    const served = routesOf((app as unknown as { router: Layers }).router);
    expect(served.toSorted()).toEqual(ALL_ENDPOINTS.map((route) => keyOf(route)).toSorted());
  });
});

describe.each(ALL_ENDPOINTS.map((route) => [keyOf(route), route] as const))("%s", (_key, route) => {
  if (!IN_ITS_PLACE.has(keyOf(route)))
    it("right: as documented, and not refused", async () => {
      const answer = await send(route.method, pathWith(route), await right(route));
      expect(whyNot(route, answer)).toBeNull();
      expect([answer.status < 300, answer.bytes.toString().slice(0, 300)]).toEqual([true, expect.any(String)]);
    });

  it("from a foreign page: 403", async () => {
    const sent = await right(route);
    const answer = await send(route.method, pathWith(route), {
      ...sent,
      headers: { ...sent.headers, Origin: "http://evil.example" },
    });
    expect([answer.status, whyNot(route, answer)]).toEqual([403, null]);
  });

  if (route.parameters)
    it("of what is not there: 404 or 412", async () => {
      const answer = await send(route.method, pathWith(route, "nobody"), await right(route));
      expect([answer.status, whyNot(route, answer)]).toEqual([404, null]);
    });

  if (route.path.includes("{horse}/"))
    it("of another horse's: 404, or the horse's own", async () => {
      const path = pathWith(route).replace("/horses/h1", "/horses/h2");
      const answer = await send(route.method, path, await right(route));
      expect(whyNot(route, answer)).toBeNull();
      if (route.path.includes("{outing}")) expect(answer.status).toBe(404);
    });

  it("malformed: refused as documented, never a fault", async () => {
    const bodies: (string | Buffer | undefined)[] = route.body
      ? ["", "{", "[]", "null", '{"a":1}', Buffer.from([0, 255, 1]), '"\\ud800"']
      : [undefined];
    const queries = route.query
      ? ["?x=%00", "?limit=0", "?limit=x", "?from=2026-13-01", "?kind[]=a", "?preview=2", "?skip=-1", "?after=%7B"]
      : ["", "?x=%00", "?%"];
    const paths = route.parameters
      ? [pathWith(route), pathWith(route, "%00"), pathWith(route, "%ff"), pathWith(route, "x".repeat(3000))]
      : [pathWith(route)];
    const addresses = paths.flatMap((path) => ["", ...queries].map((query) => `${path}${query}`));
    // Every body at the right address, and at every other address one of them after the other.
    const tries = [
      ...bodies.map((body) => [addresses[0] ?? "", body] as const),
      ...addresses.slice(1).map((address, index) => [address, bodies[index % bodies.length]] as const),
    ];
    for (const [address, body] of tries) {
      const sent = { ...(await right(route)), ...(body === undefined ? {} : { body }) };
      const answer = await send(route.method, address, sent);
      expect([address, String(body), whyNot(route, answer)]).toEqual([address, String(body), null]);
    }
  });

  if (route.versioned)
    it("without the version that was seen 428; with an old one 412 and both to choose from", async () => {
      const { body = "" } = await right(route);
      const bare = await send(route.method, pathWith(route), { body, headers: typeOf(route) });
      expect([bare.status, whyNot(route, bare)]).toEqual([428, null]);
      const old = await send(route.method, pathWith(route), {
        body,
        headers: { ...typeOf(route), "If-Match": '"99"' },
      });
      expect([old.status, whyNot(route, old)]).toEqual([412, null]);
      const problem = JSON.parse(old.bytes.toString()) as { current: object; yours: object };
      expect(Object.keys(problem.current)).toEqual([...Object.keys(problem.yours), "version"]);
    });
});
