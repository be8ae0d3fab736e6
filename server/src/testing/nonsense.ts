import { ALL_ENDPOINTS, type Endpoint } from "@still-pine/contract/http";
import { Grammar } from "./grammar";
import { clipWithPosition, jpegWithPosition, pngOf, zipOf } from "./samples";
import { TEXTS, NUMBERS, FIELDS, TYPES } from "./odd-values";

/** Seeded nonsense for every route: random, and of the shapes that break servers. */

/** Every route, but the one that may lock all others: a pass phrase nonsense hit upon would leave nothing to throw at. */
const THROWN_AT = ALL_ENDPOINTS.filter(({ path }) => path !== "/pass-phrase");

/** A small seeded source of numbers on [0, 1) (Park and Miller's minimal standard generator, CACM 31, 1988). */
export function seeded(seed: number): () => number {
  let state = (seed % 2147483646) + 1;
  return () => {
    state = (state * 48271) % 2147483647;
    return (state - 1) / 2147483646;
  };
}

type Random = () => number;

/** An address holds no half of a surrogate pair. */
const wellFormed = (text: string): string => (/\p{Cs}/u.test(text) ? "half" : text);

export interface Nonsense {
  route: Endpoint;
  method: string;
  path: string;
  headers: Record<string, string>;
  body: Buffer | string | undefined;
}

/** What means something in the yard that nonsense is thrown at. */
const KNOWN = {
  horse: ["h1", "h2"],
  outing: ["o1", "o2"],
  step: ["flex", "share-space", "halter-on"],
  id: ["n1", "n2", "own-ours", "slips"],
  program: ["loose-pen-start", "own-ours"],
  media: ["m1"],
  timeZone: ["Europe/Dublin", "Pacific/Auckland", "America/St_Johns"],
  replaces: ["n1", "n2", "o1:start"],
  device: ["d1"],
};

export class NonsenseMaker {
  private readonly random: Random;
  private readonly grammar: Grammar;

  constructor(readonly seed: number) {
    this.random = seeded(seed);
    this.grammar = new Grammar(this.random, KNOWN, () => this.value(1));
  }

  next(): Nonsense {
    const route = this.pick(THROWN_AT);
    const method = this.chance(0.05)
      ? this.pick(["GET", "PUT", "POST", "DELETE", "PATCH", "HEAD"])
      : route.method.toUpperCase();
    const part = (_all: string, name: string): string =>
      this.chance(0.3)
        ? encodeURIComponent(wellFormed(this.grammar.parameter(route.method, route.path, name)))
        : this.part(name);
    const path = `/api${route.path.replace(/\{(\w+)\}/g, part)}${this.query(route)}`;
    const sendsBody = method !== "GET" && method !== "HEAD" && (route.body !== undefined || this.chance(0.1));
    const headers: Record<string, string> = {};
    if (route.versioned && this.chance(0.8))
      headers["If-Match"] = this.pick(['"1"', '"2"', '"999999999"', "*", '"x"', "1"]);
    if (this.chance(0.1))
      headers["Range"] = this.pick(["bytes=0-", "bytes=-1", "bytes=5-2", "bytes=0-9999999999", "x=1", "bytes=0-1,3-4"]);
    if (this.chance(0.05)) headers["Content-Encoding"] = this.pick(["gzip", "br", "deflate", "x"]);
    const body = sendsBody ? this.body(route) : undefined;
    if (body !== undefined)
      headers["Content-Type"] =
        this.chance(0.85) && route.body && route.body.type !== "*/*"
          ? route.body.type
          : this.pick(["application/json", "text/plain", "text/csv", "application/zip", "image/jpeg", "x/y", ""]);
    if (headers["Content-Type"] === "") delete headers["Content-Type"];
    return { route, method, path, headers, body };
  }

  private pick<Item>(items: readonly Item[]): Item {
    return items[Math.floor(this.random() * items.length)] as Item;
  }

  private chance(share: number): boolean {
    return this.random() < share;
  }

  /** What stands for a parameter of a path: something that is there, something foreign, or nonsense. */
  private part(name: string): string {
    if (this.chance(0.5)) return { horse: "h1", outing: "o1", step: "flex", media: "m1", label: "x" }[name] ?? "h1";
    const text = this.pick(TEXTS);
    if (this.chance(0.2)) return this.pick(["%", "%zz", "%00", "%ff", "..%2f..", "%E0%A4%A"]);
    return encodeURIComponent(wellFormed(text)) || "-";
  }

  private query({ query }: Endpoint): string {
    if (!query && !this.chance(0.1)) return "";
    const names = [...Object.keys(query?.shape ?? {}), "x"];
    const parts = Array.from({ length: Math.floor(this.random() * 4) }, () => {
      const text = this.chance(0.3) ? String(this.pick(NUMBERS)) : this.pick(TEXTS);
      const value = this.chance(0.1) ? this.pick(["%", "%00", "%ff"]) : encodeURIComponent(wellFormed(text));
      return `${this.pick(names)}${this.pick(["", "", "[]", "[a]", "[__proto__]"])}=${value}`;
    });
    return parts.length === 0 ? "" : `?${parts.join("&")}`;
  }

  private body(route: Endpoint): Buffer | string {
    const kind = this.random();
    if (kind < 0.1) return this.garbage();
    if (route.path.endsWith("archives")) return this.zip();
    if (route.path.includes("media")) return this.picture();
    if (route.path === "/csv") return this.csv();
    const byGrammar = this.chance(0.5)
      ? this.grammar.body(route.method, route.path, this.pick([0, 0, 1, 3]))
      : undefined;
    if (byGrammar !== undefined) return JSON.stringify(byGrammar);
    const value = route.path === "/records" && this.chance(0.7) ? this.record() : this.shaped(route);
    const text = JSON.stringify(value) ?? "null";
    if (this.chance(0.05)) return text.slice(0, Math.floor(text.length * this.random()));
    if (this.chance(0.02)) return `${"[".repeat(3000)}${"]".repeat(3000)}`;
    return text;
  }

  private shaped({ path }: Endpoint): unknown {
    if (this.chance(0.1)) return this.chance(0.7) ? this.object(0) : this.value(0);
    if (path === "/events")
      return { events: Array.from({ length: 1 + Math.floor(this.random() * 5) }, () => this.offered()) };
    return this.nearly(
      path.startsWith("/horses")
        ? {
            id: `h${Math.floor(this.random() * 4)}`,
            name: "Moss",
            foaled: "2023-05-01",
            foaledPrecision: "month",
            sex: "mare",
          }
        : path === "/yard"
          ? {
              name: "Yard",
              timeZone: this.pick(["Europe/Dublin", "Pacific/Auckland"]),
              units: "metric",
              words: "british",
            }
          : { label: this.pick(TEXTS) },
    );
  }

  /** A right object, often with one field made wrong. */
  private nearly(right: Record<string, unknown>): Record<string, unknown> {
    return this.chance(0.4) ? right : { ...right, [this.pick([...Object.keys(right), ...FIELDS])]: this.value(1) };
  }

  private offered(): unknown {
    const right = { horse: "h1", outing: this.chance(0.8) ? "o1" : null, event: this.event() };
    return this.chance(0.92) ? right : this.nearly(right);
  }

  /** An event that is nearly right. */
  private event(): Record<string, unknown> {
    const event: Record<string, unknown> = {
      id: this.chance(0.96) ? `n${Math.floor(this.random() * 300)}` : this.value(2),
      at: this.chance(0.85) ? "2026-06-01T10:00:00Z" : this.pick(TEXTS),
      type: this.chance(0.6) ? "ask" : this.chance(0.9) ? this.pick(TYPES) : this.value(2),
      step: "flex",
      side: "near",
      answer: "gave",
      phase: 1,
      mood: 1,
      text: "n",
      sign: "yawn",
      weightKg: 400,
      heightCm: 150,
      count: 3,
      clean: 2,
      first: "gave",
      worst: "none",
      replaces: `n${Math.floor(this.random() * 300)}`,
    };
    if (event["type"] === "correction") {
      if (this.chance(0.5)) event["void"] = true;
      else
        event["with"] = this.chance(0.5)
          ? { mood: this.pick([0, 1, 2, 9, null]), at: this.pick(TEXTS) }
          : this.object(1);
    }
    for (let n = Math.floor(this.random() * 3); n > 0; n -= 1) event[this.pick(FIELDS)] = this.value(1);
    return event;
  }

  private record(): unknown {
    const record: Record<string, unknown> = {
      format: "still-pine/horse-record",
      version: 1,
      yard: { timeZone: this.chance(0.9) ? "Europe/Dublin" : this.value(2) },
      horse: {
        id: this.chance(0.7) ? "h1" : this.value(2),
        name: "N",
        foaled: "2023-01-01",
        foaledPrecision: "day",
        sex: "mare",
      },
      program: { id: "loose-pen-start" },
      horseEvents: this.chance(0.8) ? [this.event()] : this.value(1),
      outings: [
        {
          id: this.chance(0.8) ? "o1" : this.value(2),
          startedAt: "2026-06-01T10:00:00Z",
          endedAt: this.chance(0.8) ? "2026-06-01T11:00:00Z" : this.pick(TEXTS),
          place: this.chance(0.8) ? "pen" : this.value(2),
          events: [this.event(), this.event()],
        },
      ],
    };
    if (this.chance(0.3)) record[this.pick([...Object.keys(record), "x"])] = this.value(1);
    return record;
  }

  private csv(): string {
    const cell = (): string =>
      this.pick([...TEXTS, "Moss", "400", '"', "=1+1", "2026-06-01", "feet", "a,b", '"unclosed']);
    const rows = Array.from({ length: Math.floor(this.random() * 5) }, () =>
      [cell(), cell(), cell(), cell()].join(","),
    );
    return [this.pick(["horse,day,weight_kg,text", "horse_id,at,care,due_on", "x,y", cell()]), ...rows].join(
      this.pick(["\n", "\r\n"]),
    );
  }

  private picture(): Buffer {
    const whole = this.pick([
      jpegWithPosition(),
      pngOf(8, 8),
      pngOf(100_000, 100_000),
      clipWithPosition(),
      clipWithPosition("x", "heic"),
    ]);
    if (this.chance(0.4)) return whole.subarray(0, Math.floor(whole.length * this.random()));
    if (this.chance(0.4)) {
      const broken = Buffer.from(whole);
      for (let n = 0; n < 5; n += 1)
        broken[Math.floor(this.random() * broken.length)] = Math.floor(this.random() * 256);
      return broken;
    }
    return whole;
  }

  private zip(): Buffer {
    const record = Buffer.from(JSON.stringify(this.record()));
    const parts = this.pick([
      [{ name: "record.json", content: record }],
      [
        { name: "record.json", content: record },
        { name: "media/m9.jpg", content: this.picture() },
      ],
      [{ name: "../../escape.json", content: record }],
      [{ name: "/etc/passwd", content: record }],
      [{ name: "record.json", content: record, mode: 0o120777 }],
      [{ name: "record.json", content: Buffer.alloc(2_000_000) }],
      [{ name: "record.json", content: record, saysSize: 3 }],
      [{ name: "yard.json", content: record }],
      [
        { name: "record.json", content: record },
        { name: "record.json", content: record },
      ],
      Array.from({ length: 50 }, (_, n) => ({ name: `horses/${n}/record.json`, content: record })),
      [],
    ]);
    const zip = zipOf(parts);
    if (this.chance(0.3)) return zip.subarray(0, Math.floor(zip.length * this.random()));
    return zip;
  }

  private garbage(): Buffer {
    return Buffer.from(Array.from({ length: Math.floor(this.random() * 200) }, () => Math.floor(this.random() * 256)));
  }

  private value(depth: number): unknown {
    const kind = Math.floor(this.random() * (depth > 3 ? 5 : 7));
    if (kind === 0) return this.pick(TEXTS);
    if (kind === 1) return this.pick(NUMBERS);
    if (kind === 2) return this.pick([true, false, null]);
    if (kind === 3) return this.pick(TYPES);
    if (kind === 4) return String.fromCharCode(...Array.from({ length: 8 }, () => Math.floor(this.random() * 65536)));
    if (kind === 5) return Array.from({ length: Math.floor(this.random() * 4) }, () => this.value(depth + 1));
    return this.object(depth + 1);
  }

  private object(depth: number): Record<string, unknown> {
    const object: Record<string, unknown> = {};
    for (let n = Math.floor(this.random() * 6); n > 0; n -= 1) object[this.pick(FIELDS)] = this.value(depth + 1);
    return object;
  }
}

/** Sends one piece of nonsense; the status, and what came back as text. */
export async function throwAt(
  url: string,
  { method, path, headers, body }: Nonsense,
): Promise<{ status: number; text: string }> {
  const response = await fetch(`${url}${path}`, {
    method,
    headers,
    ...(body === undefined ? {} : { body: typeof body === "string" ? body : new Uint8Array(body) }),
  });
  // A stream of events has no end of its own.
  if (response.headers.get("content-type")?.startsWith("text/event-stream")) {
    await response.body?.cancel();
    return { status: response.status, text: "" };
  }
  return { status: response.status, text: await response.text() };
}

/** Statuses a server must never answer nonsense with. */
export const isFault = (status: number): boolean => status >= 500;
