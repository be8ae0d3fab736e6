import { readdirSync, readFileSync, readlinkSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { SHIPPED } from "@still-pine/core/programs";
import { seeded } from "../testing/nonsense";
import { Refusal } from "../refusals/refusal";
import { readRecord, type RecordFile } from "./record-file";
import { ItemsOnDisk } from "./items-on-disk";

const NOW = "2026-06-10T12:00:00Z";
const EXAMPLE = readFileSync(new URL("../../../docs/example-record.json", import.meta.url), "utf8");
const IN_PIECES = 0;
const SPOILT = 150;

/** A text as a file that comes in pieces of so many bytes. */
function fileOf(text: string | Buffer, size = 7): RecordFile {
  const bytes = Buffer.from(text);
  return {
    bytes: bytes.length,
    async *open() {
      await Promise.resolve();
      for (let from = 0; from < bytes.length; from += size) yield bytes.subarray(from, from + size);
    },
  };
}

/** All that reading a file comes to, as plain data. */
async function told(text: string, wholeMost: number | undefined, name?: string): Promise<unknown> {
  try {
    const { horseEvents, outings, close, ...rest } = await readRecord(fileOf(text), SHIPPED, NOW, name, wholeMost);
    const read = { ...rest, ok: true, horseEvents: [...horseEvents], outings: [...outings] };
    // Gone through again it is the same.
    expect([...outings]).toEqual(read.outings);
    await close();
    return JSON.parse(JSON.stringify({ ...read, record: undefined }));
  } catch (cause) {
    if (!(cause instanceof Refusal)) throw cause;
    return { why: cause.why, errors: cause.extra.errors };
  }
}

type Json = Record<string | number, unknown>;

const ODD: readonly unknown[] = [
  undefined,
  null,
  "",
  "\0",
  "\ud800",
  "line\u2028separator \u00e9 \u{1f40e}",
  -1,
  1e300,
  true,
  [],
  {},
  [[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]],
  JSON.parse('{"__proto__":{"type":"ask"},"constructor":1}'),
  "2062-05-01T08:00:00Z",
  "not-a-step",
  "correction",
];

/** The example with up to three of its places spoilt: put in, left out, doubled or in another order. */
function spoilt(seed: number): string {
  const random = seeded(seed);
  const below = (most: number): number => Math.floor(random() * most);
  const record = JSON.parse(EXAMPLE) as Json;
  for (let left = 1 + below(3); left > 0; left -= 1) {
    let at: Json = record;
    for (let depth = below(5); depth > 0; depth -= 1) {
      const inner = Object.values(at).filter((one) => typeof one === "object" && one !== null);
      at = (inner[below(inner.length)] as Json | undefined) ?? at;
    }
    const keys = Object.keys(at);
    const key = keys[below(keys.length)] ?? "new";
    const how = random();
    if (Array.isArray(at) && how < 0.4) at.splice(below(at.length), 0, at[below(at.length)], ODD[below(ODD.length)]);
    else if (Array.isArray(at) && how < 0.6) at.reverse();
    else if (how < 0.7 && !Array.isArray(at)) delete at[key];
    else at[key] = ODD[below(ODD.length)];
  }
  const fields = Object.entries(record);
  return JSON.stringify(Object.fromEntries(random() < 0.3 ? fields.toReversed() : fields));
}

describe("a record file read piece by piece", () => {
  it("says what it says when it is read at once", async () => {
    expect(await told(EXAMPLE, IN_PIECES)).toEqual(await told(EXAMPLE, undefined));
  });

  it(`says so however it is spoilt, in ${SPOILT} ways, alone and in an archive`, async () => {
    const outcomes = { taken: 0, refused: 0 };
    for (let seed = 1; seed <= SPOILT; seed += 1) {
      const text = spoilt(seed);
      for (const name of [undefined, "horses/h/record.json"]) {
        const whole = await told(text, undefined, name);
        expect(await told(text, IN_PIECES, name), `seed ${seed}: ${text.slice(0, 300)}`).toEqual(whole);
        if ((whole as { why?: string }).why === undefined) outcomes.taken += 1;
        else outcomes.refused += 1;
      }
    }
    // Neither a file that nothing was done to, nor one of which nothing is left.
    expect(Math.min(outcomes.taken, outcomes.refused)).toBeGreaterThan(SPOILT / 3);
  });

  it.each([
    ["is cut off", EXAMPLE.slice(0, EXAMPLE.length / 2)],
    ["has a comma too many", EXAMPLE.replace(/\}\s*\]/, "},]")],
    ["goes on after its end", `${EXAMPLE}{}`],
    ["is bytes of something else", "\u0001\u0002PK"],
  ])("that %s is no JSON, and where is said", async (_how, text) => {
    await expect(readRecord(fileOf(text), SHIPPED, NOW, undefined, IN_PIECES)).rejects.toThrow(
      /The file is not JSON: something is wrong at or after (line \d+, column \d+|its end)/,
    );
  });

  it("with two lists of outings is refused: one of them would be lost", async () => {
    const twice = EXAMPLE.trimEnd().replace(/\}$/, ',"outings":[]}');
    expect(await told(twice, IN_PIECES)).toEqual({
      why: "refused",
      errors: [{ path: "outings", expected: "one list", found: "two lists" }],
    });
  });
});

describe("what is laid down", () => {
  it("comes back as often as it is wanted, and has no name on the disk meanwhile", async () => {
    const names = (): string[] =>
      readdirSync("/proc/self/fd").flatMap((fd) => {
        try {
          const name = readlinkSync(`/proc/self/fd/${fd}`);
          return name.includes("still-pine-out-") ? [name] : [];
        } catch {
          return [];
        }
      });
    const laid = await ItemsOnDisk.open<{ n: number; text: string }>();
    const items = Array.from({ length: 500 }, (_none, n) => ({ n, text: "\u2028\n\u00e9".repeat(n * 13) }));
    for (const item of items) laid.add(item);
    expect([...laid]).toEqual(items);
    laid.add({ n: -1, text: "one more" });
    expect([...laid]).toEqual([...items, { n: -1, text: "one more" }]);
    expect(names()).toEqual([expect.stringMatching(/ \(deleted\)$/)]);
    await laid.close();
  });
});
