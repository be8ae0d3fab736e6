import { describe, expect, it } from "vitest";
import type { HorseRecord, Outing } from "@still-pine/core/record";
import { parseRecord } from "@still-pine/contract/record";
import { inTransaction } from "../db/pool";
import { rebuildHorses } from "../read-models/rebuild";
import { readModelsAsText } from "../testing/read-models";
import { yardsForTests } from "../testing/throw-away";
import { inPieces, storeRecord } from "./import";

const NOW = "2026-06-10T12:00:00.000Z";
const { yard } = yardsForTests(NOW);

const OUTINGS = 6;
/** More than is stored at a time, in all. */
const ASKS = 900;

/** A long record; of each outing the id and the day, the outings in any order. */
function longRecord(horse: string, days: readonly number[]): HorseRecord {
  const outings = days.map((day): unknown => {
    const from = Date.parse("2026-05-01T09:00:00Z") + day * 86_400_000;
    const at = (n: number): string => new Date(from + n * 9000).toISOString();
    const events = Array.from({ length: ASKS }, (_none, n) => ({
      id: `${horse}-${day}-${n}`,
      at: at(n),
      type: "ask",
      step: "flex",
      side: n % 2 ? "near" : "off",
      phase: 1,
      answer: n % 9 ? "gave" : "none",
      mood: 1,
    }));
    return { id: `${horse}-${day}`, startedAt: at(0), endedAt: at(ASKS), place: "Pen", handler: "M", events };
  });
  const read = parseRecord(
    {
      format: "still-pine/horse-record",
      version: 1,
      yard: { timeZone: "Europe/Dublin" },
      horse: { id: horse, name: horse, foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" },
      program: { id: "loose-pen-start" },
      horseEvents: [],
      outings: outings as Outing[],
    },
    NOW,
  );
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.record;
}

describe("a record that is stored in several parts", () => {
  const store = (record: HorseRecord, isPreview = false) =>
    inTransaction(yard().db, (client) => storeRecord(client, yard().yard, inPieces(record), NOW, isPreview));

  it("comes to what a rebuild comes to, in whatever order its outings stand; the second time nothing is new", async () => {
    const record = longRecord("long", [3, 0, 5, 1, 4, 2]);
    const stored = OUTINGS * (ASKS + 2);
    expect(await store(record)).toMatchObject({
      isNew: true,
      stored,
      alreadyThere: 0,
      outings: OUTINGS,
      conflicts: [],
    });
    const derived = await readModelsAsText(yard().db, "long");
    // A row for each ask, each outing and the horse; starts and ends are the outing's own.
    expect(derived).toHaveLength(OUTINGS * (ASKS + 2) + 1);
    await rebuildHorses(yard().db, yard().yard, ["long"], NOW);
    expect(await readModelsAsText(yard().db, "long")).toEqual(derived);
    expect(await store(record)).toMatchObject({ isNew: false, stored: 0, alreadyThere: stored, outings: 0 });
    expect(await readModelsAsText(yard().db, "long")).toEqual(derived);
  });

  it("says in a preview what it says when it is stored, and names what is in conflict wherever it stands", async () => {
    const record = longRecord("seen", [0, 1, 2, 3, 4, 5]);
    await store(longRecord("seen", [4]));
    const changed = { ...record, outings: record.outings.map((one) => ({ ...one, events: one.events.map(worse) })) };
    function worse(event: HorseRecord["horseEvents"][number]) {
      return event.id === "seen-4-7" ? { ...event, answer: "against" } : event;
    }
    const preview = await inTransaction(yard().db, async (client) => {
      const shown = await storeRecord(client, yard().yard, inPieces(changed as HorseRecord), NOW, true);
      await client.query("rollback");
      await client.query("begin");
      return shown;
    });
    expect(preview).toMatchObject({ stored: 5 * (ASKS + 2), alreadyThere: ASKS + 1, outings: 5 });
    expect(preview.conflicts.map(({ path }) => path)).toEqual(["seen-4-7"]);
    expect(await store(changed as HorseRecord)).toEqual(preview);
  });

  it("keeps an outing apart that another horse has under the same id, its start and end too", async () => {
    const named = (horse: string): HorseRecord => {
      const record = longRecord(horse, [1]);
      return { ...record, outings: record.outings.map((one) => ({ ...one, id: "shared" })) };
    };
    expect(await store(named("one"))).toMatchObject({ stored: ASKS + 2, conflicts: [] });
    expect(await store(named("two"))).toMatchObject({ stored: ASKS + 2, conflicts: [] });
    expect(await store(named("two"))).toMatchObject({ stored: 0, alreadyThere: ASKS + 2, conflicts: [] });
  });
});
