import { beforeAll, describe, expect, it } from "vitest";
import { isFault, NonsenseMaker, throwAt } from "../testing/nonsense";
import { readModelsAsText } from "../testing/read-models";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";
import { rebuildYard } from "../read-models/rebuild";

const NOW = "2026-06-10T12:00:00Z";
/** A seeded tenth here; bin/bench throws all of it. */
const REQUESTS = Number(process.env["NONSENSE"] ?? 600);
const SEED = Number(process.env["NONSENSE_SEED"] ?? 20261201);
const statuses = new Map<number, number>();

const event = (more: object): object => ({ id: "f1", at: "2026-06-01T10:00:00Z", step: "flex", side: "near", ...more });
const asBatch = (more: object): object => ({ events: [{ horse: "h1", outing: "o1", event: event(more) }] });

/** What the harness found, kept with the seed it was found by. */
const FOUND: readonly [seed: number, what: string, body: object][] = [
  [95028, "a type named like something every object has", asBatch({ type: "constructor" })],
];
const { yard } = yardsForTests(NOW);
let home: TestYard;
beforeAll(async () => {
  home = yard();
  await call(`${home.url}/api/horses`, "POST", {
    id: "h1",
    name: "Moss",
    foaled: "2023-05-01",
    foaledPrecision: "month",
    sex: "mare",
  });
});

async function faultsOf(seed: number, requests: number): Promise<string[]> {
  const maker = new NonsenseMaker(seed);
  const faults: string[] = [];
  for (let n = 0; n < requests; n += 1) {
    const one = maker.next();
    const { status, text } = await throwAt(home.url, one);
    statuses.set(status, (statuses.get(status) ?? 0) + 1);
    if (isFault(status))
      faults.push(
        `seed ${seed}, request ${n}: ${one.method} ${one.path} → ${status} ${text.slice(0, 200)} ${String(one.body).slice(0, 400)}`,
      );
  }
  return faults;
}

describe("nonsense", () => {
  it(
    `at every route, ${REQUESTS} times, is never a fault`,
    async () => {
      expect(await faultsOf(SEED, REQUESTS)).toEqual([]);
      process.stdout.write(
        `nonsense: seed ${SEED}, ${REQUESTS} requests, no fault; statuses ${JSON.stringify(Object.fromEntries(statuses))}\n`,
      );
      // Nonsense that never gets anywhere would prove little.
      expect([...statuses.keys()]).toEqual(expect.arrayContaining([200, 201, 400, 404, 412, 415, 422]));
    },
    REQUESTS * 60,
  );

  it.each(FOUND)("of seed %d is no fault any more: %s", async (_seed, _what, body) => {
    const { status } = await call(`${home.url}/api/events`, "POST", body);
    expect(isFault(status)).toBe(false);
  });

  it("leaves a yard that can be read, exported and rebuilt to the same", async () => {
    for (const path of ["string", "horses/h1", "horses/h1/record", "archive", "ledger", "ledger/sums", "ledger.csv"])
      expect([path, (await fetch(`${home.url}/api/${path}`)).status]).toEqual([path, 200]);
    const grown = await readModelsAsText(home.db);
    await rebuildYard(home.db, { ...home.yard, ...(await currentYard()) }, NOW);
    expect(await readModelsAsText(home.db)).toEqual(grown);
  });
});

/** The settings may have been changed by nonsense that was right by chance. */
async function currentYard(): Promise<{ timeZone: string }> {
  return (await call(`${home.url}/api/yard`, "GET")).body as { timeZone: string };
}
