import fc from "fast-check";
import { beforeAll, describe, expect, it } from "vitest";
import { readModelsAsText } from "../testing/read-models";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";
import { inTransaction } from "../db/pool";
import { takeEvents } from "../recording/take-events";
import { addHorse, rebuildHorses } from "./rebuild";

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW, 2);
let first: TestYard;
let second: TestYard;
beforeAll(() => {
  first = yard(0);
  second = yard(1);
});

/** A history takes some forty requests; a failed one is reported as it is, shrinking would take minutes. */
const RUNS = { numRuns: 14, endOnFailure: true };

type Offered = { horse: string; outing: string | null; event: Record<string, unknown> };

const askArb = fc.record({
  outing: fc.nat({ max: 3 }),
  step: fc.constantFrom("share-space", "flex", "first-touch"),
  side: fc.constantFrom("near", "off"),
  answer: fc.constantFrom("gave", "gave", "gave", "none"),
  mood: fc.constantFrom(0, 1, 1, 3),
  second: fc.nat({ max: 40 }),
  device: fc.constantFrom(undefined, "a", "b"),
});
const historyArb = fc.record({
  asks: fc.array(askArb, { minLength: 1, maxLength: 25 }),
  corrections: fc.array(
    fc.record({
      of: fc.nat({ max: 40 }),
      in: fc.constantFrom(null, 0, 1, 2, 3),
      how: fc.constantFrom("void", "mood", "head", "unfit"),
    }),
    { maxLength: 8 },
  ),
  rests: fc.array(fc.constantFrom("rest", "return"), { maxLength: 3 }),
  order: fc.array(fc.nat(), { minLength: 60, maxLength: 60 }),
  parts: fc.integer({ min: 1, max: 6 }),
});
type History = typeof historyArb extends fc.Arbitrary<infer T> ? T : never;

/** A history as events: four outings on three days with heads, asks by two devices, corrections of anything from anywhere. */
function eventsOf({ asks, corrections, rests }: History, key: string): Offered[] {
  const outing = (n: number): string => `${key}-o${n}`;
  const dayOf = (n: number): string => `2026-06-0${n === 3 ? 3 : n + 1}`;
  const of = (place: number | null, event: Record<string, unknown>): Offered => ({
    horse: key,
    outing: place === null ? null : outing(place),
    event: { ...event, id: `${key}-${String(event["id"])}` },
  });
  const events: Offered[] = [0, 1, 2, 3].flatMap((n) => [
    of(n, {
      id: `s${n}`,
      at: `${dayOf(n)}T1${n}:00:00.000Z`,
      type: "outing-start",
      place: `pen ${n % 2}`,
      handler: "M",
    }),
    of(n, { id: `e${n}`, at: `${dayOf(n)}T1${n}:30:00.000Z`, type: "outing-end" }),
  ]);
  asks.forEach((ask, n) => {
    const hasSide = ask.step !== "share-space";
    events.push(
      of(ask.outing, {
        id: `a${n}`,
        at: `${dayOf(ask.outing)}T1${ask.outing}:05:${String(ask.second).padStart(2, "0")}.000Z`,
        type: "ask",
        step: ask.step,
        ...(hasSide ? { side: ask.side } : {}),
        ...(ask.step === "flex" ? { phase: 1 } : {}),
        answer: ask.answer,
        mood: ask.mood,
        ...(ask.device ? { device: ask.device, seq: n } : {}),
      }),
    );
  });
  rests.forEach((type, n) => events.push(of(null, { id: `r${n}`, at: `2026-06-05T0${n}:00:00.000Z`, type })));
  corrections.forEach(({ of: target, in: place, how }, n) => {
    const aim =
      target < asks.length ? `a${target}` : how === "head" ? `s${target % 4}` : `c${target % corrections.length}`;
    const change = {
      void: { void: true },
      mood: { with: { mood: 2 } },
      head: { with: { at: `2026-06-0${(target % 3) + 1}T09:00:00.000Z`, place: "field" } },
      // Fits a series, not an ask; what it corrects may come later.
      unfit: { with: { phase: null, answer: "gave", mood: null } },
    }[how];
    events.push(
      of(place, {
        id: `c${n}`,
        at: `2026-06-06T0${n}:00:00.000Z`,
        type: "correction",
        replaces: `${key}-${aim}`,
        ...change,
      }),
    );
  });
  return events;
}

/** In the order of the history's own numbers, in as many parts as it says. */
function inParts(events: readonly Offered[], { order, parts }: History, turn: number): Offered[][] {
  const shuffled = events
    .map((event, index) => ({ event, rank: ((order[index % order.length] ?? 0) * (turn + 7)) % 9973 }))
    .toSorted((a, b) => a.rank - b.rank)
    .map(({ event }) => event);
  const size = Math.ceil(shuffled.length / parts);
  return Array.from({ length: parts }, (_, n) => shuffled.slice(n * size, (n + 1) * size)).filter(
    (one) => one.length > 0,
  );
}

const horse = (id: string) => ({ id, name: "Any", foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" });
let runs = 0;

async function sendAll(yard: TestYard, key: string, history: History, turn: number): Promise<string[]> {
  expect((await call(`${yard.url}/api/horses`, "POST", horse(key))).status).toBe(201);
  const refused: string[] = [];
  for (const part of inParts(eventsOf(history, key), history, turn)) {
    const { body } = await call(`${yard.url}/api/events`, "POST", { events: part });
    refused.push(...body.results.filter((one: any) => one.result === "refused").map((one: any) => one.id));
  }
  return refused;
}

describe("read models", () => {
  it("are the same as a rebuild, whatever came in which order", async () => {
    await fc.assert(
      fc.asyncProperty(historyArb, async (history) => {
        const key = `h${(runs += 1)}`;
        await sendAll(first, key, history, 0);
        const grown = await readModelsAsText(first.db, key);
        await rebuildHorses(first.db, first.yard, [key], NOW);
        expect(await readModelsAsText(first.db, key)).toEqual(grown);
      }),
      RUNS,
    );
  });

  it("and the verdicts do not depend on the order in which events came", async () => {
    await fc.assert(
      fc.asyncProperty(historyArb, async (whole) => {
        const key = `h${(runs += 1)}`;
        // An unfit correction is refused where what it corrects is known, and struck out where it comes first: same verdicts.
        const history = { ...whole, corrections: whole.corrections.filter(({ how }) => how !== "unfit") };
        const refused = [await sendAll(first, key, history, 1), await sendAll(second, key, history, 2)];
        expect(refused[0]?.toSorted()).toEqual(refused[1]?.toSorted());
        const views = await Promise.all(
          [first, second].map(async (yard) => (await call(`${yard.url}/api/horses/${key}`, "GET")).body),
        );
        for (const field of ["judgements", "outings", "entries"] as const)
          expect(views[0][field]).toEqual(views[1][field]);
        const [a, b] = await Promise.all(
          [first, second].map(async (yard) => (await fetch(`${yard.url}/api/horses/${key}/record`)).text()),
        );
        expect(a).toBe(b);
      }),
      RUNS,
    );
  });

  it("strike out a correction that came first and does not fit, and say so", async () => {
    const { body } = await call(`${first.url}/api/horses`, "POST", horse("early"));
    expect(body.id).toBe("early");
    const send = (outing: string | null, event: object) =>
      call(`${first.url}/api/events`, "POST", { events: [{ horse: "early", outing, event }] });
    const correction = { id: "ec", at: NOW, type: "correction", replaces: "ea", with: { mood: null } };
    expect((await send("eo", correction)).body.results[0].result).toBe("stored");
    // Another that came first and fits stays.
    const fits = { id: "ef", at: "2026-06-10T12:00:01Z", type: "correction", replaces: "ea", with: { tool: "flag" } };
    expect((await send("eo", fits)).body.results[0].result).toBe("stored");
    const ask = {
      id: "ea",
      at: "2026-06-09T10:00:00Z",
      type: "ask",
      step: "flex",
      side: "near",
      phase: 1,
      answer: "gave",
      mood: 1,
    };
    expect((await send("eo", ask)).body.results[0].result).toBe("stored");
    const { entries } = (await call(`${first.url}/api/horses/early/outings/eo`, "GET")).body;
    expect(entries[0]).toMatchObject({ current: { mood: 1, tool: "flag" }, voided: false });
    expect(entries[0].corrections.map((one: any) => [one.event.id, one.undone])).toEqual([
      ["ec", true],
      ["ec:unfit", false],
      ["ef", false],
    ]);
  });

  it("count days by the zone of the moment at which they are written, not of the one at which a request began", async () => {
    const before = second.yard;
    const body = { name: "Y", timeZone: "Pacific/Auckland", units: "metric", words: "british" };
    const { version } = (await call(`${second.url}/api/yard`, "GET")).body;
    expect((await call(`${second.url}/api/yard`, "PUT", body, { "If-Match": `"${version}"` })).status).toBe(200);
    // The next day already there, where the yard is now.
    const event = { id: "late", at: "2026-06-09T20:00:00Z", type: "note", text: "n" };
    const horse = { id: "zone", name: "Z", foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" } as const;
    await inTransaction(second.db, (client) => addHorse(client, before, horse, { id: "loose-pen-start" }, NOW));
    await takeEvents(second.db, before, [{ horse: "zone", outing: "zone-1", event }], NOW);
    const derived = await readModelsAsText(second.db, "zone");
    expect(derived.find((line) => line.startsWith("outing"))).toContain('"day": "2026-06-10"');
    await rebuildHorses(second.db, before, ["zone"], NOW);
    expect(await readModelsAsText(second.db, "zone")).toEqual(derived);
  });
});
