import { describe, expect, it } from "vitest";
import { buildDemoYard, DEMO_YARD } from "@still-pine/core/simulated";
import { inPieces, storeRecord } from "../recording/import";
import { inTransaction } from "../db/pool";
import { takeEvents } from "../recording/take-events";
import { yardsForTests } from "../testing/throw-away";
import { isNothingButDemo } from "./seed";

const NOW = "2026-06-10T12:00:00.000Z";
const { yard } = yardsForTests(NOW);

describe("a yard is nothing but the demo", () => {
  it("until somebody writes in it; one from before this was kept is told by its horses and times", async () => {
    const { db, yard: home, asOwner } = yard();
    let n = 0;
    const [record] = buildDemoYard("2026-06-10", () => `id-${(n += 1)}`);
    if (!record) throw new Error("no demo");
    await inTransaction(db, (client) => storeRecord(client, home, inPieces(record), NOW));
    const isDemo = (): Promise<boolean> => isNothingButDemo(db, home.id);
    // Neither its name nor its number of horses is the demo's, and nothing was kept of how it was made.
    expect(await isDemo()).toBe(false);
    await asOwner("update yard set name = $1", [DEMO_YARD.name]);
    expect(await isDemo()).toBe(false);
    await asOwner("update yard set demo_until = (select max(arrival) from event)");
    expect(await isDemo()).toBe(true);
    const event = { id: "mine", at: "2026-06-01T10:00:00Z", type: "note", text: "mine" };
    await takeEvents(db, home, [{ horse: record.horse.id, outing: null, event }], NOW);
    expect(await isDemo()).toBe(false);
  });
});
