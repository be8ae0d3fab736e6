import { readFileSync } from "node:fs";
import { brotliCompressSync, deflateSync, gzipSync } from "node:zlib";
import fc from "fast-check";
import { beforeAll, describe, expect, it } from "vitest";
import { judgeRecord } from "@still-pine/core/readiness";
import { loosePenStart } from "@still-pine/core/programs";
import { buildDemoYard } from "@still-pine/core/simulated";
import { parseRecord, recordToText } from "@still-pine/contract/record";
import type { HorseRecord } from "@still-pine/core/record";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW, 2);
let first: TestYard;
let second: TestYard;
beforeAll(() => {
  first = yard(0);
  second = yard(1);
});

const send = (yard: TestYard, text: string) => call(`${yard.url}/api/records`, "POST", text);
const exported = async (yard: TestYard, horse: string): Promise<string> =>
  (await fetch(`${yard.url}/api/horses/${horse}/record`)).text();
const demo = (): HorseRecord[] => {
  let n = 0;
  return buildDemoYard("2026-06-10", (msecs) => `id-${msecs}-${(n += 1)}`);
};
const judged = (text: string): string => {
  const parsed = parseRecord(JSON.parse(text), NOW);
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  return JSON.stringify(judgeRecord(parsed.record, loosePenStart, NOW));
};

/** The events behind a verdict are on a step's own page, not on the horse's. */
const withoutEvidence = (judgements: string): unknown =>
  JSON.parse(judgements, (key, value: unknown) => (key === "evidence" ? [] : value));

describe("a record out and in", () => {
  it("of the demo yard gives the same verdicts, and the same bytes on the second export", async () => {
    for (const record of demo()) {
      const text = recordToText(record);
      expect((await send(first, text)).status).toBe(201);
      const once = await exported(first, record.horse.id);
      expect((await send(second, once)).status).toBe(201);
      expect(await exported(second, record.horse.id)).toBe(once);
      expect(judged(once)).toBe(judged(text));
      const screen = await call(`${second.url}/api/horses/${record.horse.id}`, "GET");
      expect(screen.body.judgements).toEqual(withoutEvidence(judged(text)));
    }
  });

  it("of the documentation comes in as it stands there, and goes out again", async () => {
    const read = (name: string): string => readFileSync(new URL(`../../../docs/${name}`, import.meta.url), "utf8");
    const inWords = /```json\n([\s\S]*?)```/.exec(read("record-format.md"))?.[1] ?? "";
    const shortOne = JSON.parse(inWords);
    expect((await send(first, inWords)).status).toBe(201);
    expect(JSON.parse(await exported(first, shortOne.horse.id))).toEqual(shortOne);
    // The long one has every type; it is of the same horse, and its outing says more.
    const long = JSON.parse(read("example-record.json"));
    const other = JSON.stringify({ ...long, horse: { ...long.horse, id: "h-long" } })
      .replaceAll('"e-', '"l-')
      .replaceAll('"o-1"', '"lo-1"');
    const answer = await send(first, other);
    expect([answer.status, answer.body.errors ?? []]).toEqual([201, []]);
    expect(JSON.parse(await exported(first, "h-long"))).toEqual(JSON.parse(other));
  });

  it("that names no version of its program is read by the newest, and says so from then on", async () => {
    const record = { ...JSON.parse(recordToText(demo()[0] as HorseRecord)) };
    const goesOut = async (id: string, program: object): Promise<unknown> => {
      const own = { ...record, horse: { ...record.horse, id }, horseEvents: [], outings: [], program };
      expect((await send(first, JSON.stringify(own))).status).toBe(201);
      return JSON.parse(await exported(first, id)).program;
    };
    expect(await goesOut("h-new", { id: "loose-pen-start" })).toEqual({ id: "loose-pen-start", version: 3 });
    expect(await goesOut("h-old", { id: "loose-pen-start", version: 2 })).toEqual({
      id: "loose-pen-start",
      version: 2,
    });
    expect(await goesOut("h-odd", { id: "loose-pen-start", version: "old" })).toEqual({
      id: "loose-pen-start",
      version: 3,
    });
  });

  it("keeps unknown types, unknown fields and unknown steps at every level", async () => {
    const record = {
      format: "still-pine/horse-record",
      version: 1,
      colour: "bay",
      yard: { timeZone: "Europe/Dublin", club: 3 },
      horse: {
        id: "odd",
        name: "Odd",
        foaled: "2023-05-01",
        foaledPrecision: "day",
        sex: "mare",
        brand: { z: 1, a: [1, { y: 2, b: 3 }] },
      },
      program: { id: "loose-pen-start", version: 3, colour: 1 },
      horseEvents: [{ id: "w1", at: NOW, type: "girth-lines", kg: 312.5 }],
      outings: [
        {
          id: "odd-1",
          startedAt: "2026-06-09T10:00:00+01:00",
          endedAt: "2026-06-09T10:30:00+01:00",
          place: "Field",
          handler: "B",
          mist: true,
          events: [
            {
              id: "odd-e1",
              at: "2026-06-09T10:01:00+01:00",
              type: "ask",
              step: "piaffe",
              answer: "gave",
              mood: 1,
              wind: "N",
            },
            { id: "odd-e2", at: "2026-06-09T10:02:00+01:00", type: "whistle", size: 3 },
            {
              id: "odd-e3",
              at: "2026-06-09T10:03:00+01:00",
              type: "correction",
              replaces: "odd-e1",
              with: { wind: "S" },
            },
          ],
        },
      ],
    };
    expect((await send(first, JSON.stringify(record))).status).toBe(201);
    const once = await exported(first, "odd");
    expect(JSON.parse(once)).toEqual(record);
    await send(second, once);
    expect(await exported(second, "odd")).toBe(once);
  });

  it("joins a horse it belongs to: what is there stays, what is new is added, twice changes nothing", async () => {
    const [record] = demo();
    if (!record) throw new Error("no demo");
    const whole = {
      ...record,
      horse: { ...record.horse, id: "joined" },
      horseEvents: [],
      outings: record.outings.map((outing) => ({
        ...outing,
        id: `j-${outing.id}`,
        events: outing.events.map((event) => ({ ...event, id: `j-${event.id}` })),
      })),
    };
    const half = { ...whole, outings: whole.outings.slice(0, 4) };
    expect((await send(first, recordToText(half))).body.horses[0]).toMatchObject({ isNew: true });
    const rest = await send(first, recordToText(whole));
    expect(rest.body.horses[0]).toMatchObject({
      isNew: false,
      alreadyThere: half.outings.reduce((sum, one) => sum + one.events.length + 2, 0),
    });
    expect((await send(first, recordToText(whole))).body.horses[0]).toMatchObject({ stored: 0 });
    const changed = {
      ...whole,
      outings: whole.outings.map((outing) => ({
        ...outing,
        events: outing.events.map((event) => (event.type === "ask" ? { ...event, mood: 4 as const } : event)),
      })),
    };
    const conflict = await send(first, recordToText(changed));
    expect(conflict.status).toBe(409);
    expect(conflict.body.errors[0].found).toContain("other content under the same id");
    expect(judged(await exported(first, "joined"))).toBe(judged(recordToText(whole)));
  });

  it("of any sound record gives the same bytes on the second export", async () => {
    let run = 0;
    const event = fc.record({
      type: fc.constantFrom("ask", "note", "future"),
      second: fc.nat({ max: 59 }),
      device: fc.constantFrom(undefined, "a", "b"),
      extra: fc.dictionary(
        fc.stringMatching(/^[a-z]{1,6}$/),
        fc.oneof(fc.integer(), fc.stringMatching(/^[\wäö ]{0,9}$/), fc.boolean(), fc.constant(null)),
        { maxKeys: 3 },
      ),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(fc.array(event, { maxLength: 6 }), { maxLength: 3 }), async (outings) => {
        const key = `p${(run += 1)}`;
        const record = {
          yard: { timeZone: "Europe/Dublin" },
          horse: { id: key, name: "Any", foaled: "2022-01-01", foaledPrecision: "year", sex: "stallion" },
          program: { id: "loose-pen-start" },
          horseEvents: [],
          outings: outings.map((events, o) => ({
            id: `${key}-${o}`,
            startedAt: `2026-06-0${o + 1}T10:00:00.000Z`,
            endedAt: `2026-06-0${o + 1}T10:30:00.000Z`,
            events: events.map(({ type, second, device, extra }, e) => ({
              zzz: extra,
              ...(type === "ask"
                ? { step: "flex", side: "off", phase: 1, answer: "gave", mood: 1 }
                : type === "note"
                  ? { text: "n" }
                  : {}),
              id: `${key}-${o}-${e}`,
              at: `2026-06-0${o + 1}T10:00:${String(second).padStart(2, "0")}.000Z`,
              type,
              ...(device ? { device, seq: e } : {}),
            })),
          })),
        } as HorseRecord;
        const text = recordToText(record);
        expect((await send(first, text)).status).toBe(201);
        const once = await exported(first, key);
        await send(second, once);
        expect(await exported(second, key)).toBe(once);
        expect(judged(once)).toBe(judged(text));
      }),
      { numRuns: 15 },
    );
  });

  it("that is no record is refused with every problem", async () => {
    expect((await send(first, "{")).body.detail).toContain("line 1, column 2: expected JSON");
    const bad = await send(first, JSON.stringify({ format: "other", version: 1 }));
    expect([bad.status, bad.body.errors[0]]).toEqual([
      422,
      expect.objectContaining({ path: "format", found: '"other"' }),
    ]);
  });

  it("comes in packed too; what bursts, or is damaged, is refused", async () => {
    const post = (body: Buffer, encoding: string) =>
      fetch(`${first.url}/api/records?preview=1`, {
        method: "POST",
        headers: { "Content-Type": "application/json", "Content-Encoding": encoding },
        body: new Uint8Array(body),
      });
    const text = recordToText({
      yard: { timeZone: "Europe/Dublin" },
      horse: { id: "packed", name: "P", foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" },
      program: { id: "loose-pen-start" },
      horseEvents: [],
      outings: [],
    });
    expect((await post(gzipSync(text), "gzip")).status).toBe(200);
    const answers = await Promise.all([
      post(gzipSync(Buffer.alloc(64 * 1024 * 1024, "[")), "gzip"),
      post(gzipSync(text).subarray(0, 40), "gzip"),
      post(brotliCompressSync(text).subarray(0, 40), "br"),
      post(deflateSync(text).subarray(0, 40), "deflate"),
      ...["gzip", "br", "deflate"].map((encoding) => post(Buffer.from(`o1\n${text}`), encoding)),
      post(Buffer.from(text), "zstd"),
    ]);
    expect(answers.map(({ status }) => status)).toEqual([422, 400, 400, 400, 400, 400, 400, 415]);
  });

  it("of nothing but brackets is refused before it is taken apart", { timeout: 30_000 }, async () => {
    const { status, body } = await send(first, `[${"[],".repeat(7_000_000)}[]]`);
    expect([status, body.detail]).toEqual([422, expect.stringContaining("million lists and objects")]);
  });
});
