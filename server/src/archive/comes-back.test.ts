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

/** What does not hold of a yard that goes out, comes into an empty one, and goes out again. */
async function wrongIn(seed: number, fill = (url: string): Promise<void> => fillYard(url, seed)): Promise<string[]> {
  const from = await another();
  const to = await another();
  try {
    await fill(from.url);
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
  it("a correction that named another horse's entry before that was there, and changes nothing", async () => {
    const send = (url: string, horse: string, event: object) =>
      call(`${url}/api/events`, "POST", { events: [{ horse, outing: null, event }] });
    const at = "2026-05-03T09:00:00Z";
    const fill = async (url: string): Promise<void> => {
      for (const id of ["a", "b"])
        await call(`${url}/api/horses`, "POST", {
          id,
          name: id,
          foaled: "2022-05-01",
          foaledPrecision: "day",
          sex: "mare",
        });
      const early = await send(url, "b", { id: "c", at, type: "correction", replaces: "n", void: true });
      const named = await send(url, "a", { id: "n", at, type: "note", text: "stays" });
      const again = await send(url, "b", { id: "c", at, type: "correction", replaces: "n", void: true });
      const late = await send(url, "b", { id: "d", at, type: "correction", replaces: "n", void: true });
      expect([early, named, again, late].map(({ body }) => body.results?.[0].result)).toEqual([
        "stored",
        "stored",
        "already there",
        "refused",
      ]);
    };
    expect(await wrongIn(0, fill)).toEqual([]);
  });

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
