import { describe, expect, it } from "vitest";
import { inFlight } from "../testing/in-flight";
import { fillYard } from "../testing/yards";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

/** A few here; `bin/bench yards` runs two thousand. */
const RUNS = Number(process.env["YARDS"] ?? 2);
const SEED = Number(process.env["YARDS_SEED"] ?? 1);
const { yard, another } = yardsForTests("2026-06-10T12:00:00.000Z");

const exported = async ({ url }: TestYard): Promise<Buffer> =>
  Buffer.from(await (await fetch(`${url}/api/archive`)).arrayBuffer());

async function wrongIn(seed: number): Promise<string[]> {
  const from = await another();
  const to = await another();
  try {
    await fillYard(from.url, seed);
    const out = await exported(from);
    const response = await fetch(`${to.url}/api/archives`, {
      method: "POST",
      headers: { "Content-Type": "application/zip" },
      body: new Uint8Array(out),
    });
    const body = (await response.json()) as any;
    if (response.status !== 201) return [`seed ${seed}: ${response.status} ${JSON.stringify(body).slice(0, 500)}`];
    if (body.aside.length > 0) return [`seed ${seed}: set aside ${JSON.stringify(body.aside[0])}`];
    return (await exported(to)).equals(out) ? [] : [`seed ${seed}: goes out otherwise than it came in`];
  } finally {
    await from.close();
    await to.close();
  }
}

describe("any yard", () => {
  it("goes out, comes into an empty one, and goes out the same", { timeout: 90_000 + RUNS * 10_000 }, async () => {
    const wrong = (await inFlight(2, RUNS, (index) => wrongIn(SEED + index))).flat();
    console.log(`${RUNS} yards from seed ${SEED}, ${wrong.length} wrong`);
    expect(wrong).toEqual([]);
  });
});

describe("what could not come back in", () => {
  it.each([
    ["a NUL in a draft", "PUT", "/programs/own-n/draft", { file: { name: "a\0b" } }, 400],
    ["half a character in a trouble", "PUT", "/troubles/t", { name: "\ud800", seen: [], body: [], steps: [] }, 400],
    ["lists in lists in a draft", "PUT", "/programs/own-d/draft", { file: { name: "d", deep: deep(100) } }, 400],
    ["a draft's id of 300 signs", "PUT", `/programs/own-${"x".repeat(300)}/draft`, { file: { name: "x" } }, 400],
    [
      "a foaling day to come",
      "POST",
      "/horses",
      { id: "f", name: "F", foaled: "2199-05-01", foaledPrecision: "day", sex: "mare" },
      400,
    ],
  ])("%s is refused at the door", async (_what, method, path, body, status) => {
    const { url } = yard();
    const answer = await call(`${url}/api${path}`, method, body, { "If-Match": '"0"' });
    expect([answer.status, answer.body.errors.length]).toEqual([status, expect.any(Number)]);
  });
});

function deep(levels: number): unknown {
  let value: unknown = 1;
  for (let n = 0; n < levels; n += 1) value = [value];
  return value;
}
