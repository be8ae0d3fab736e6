import { beforeAll, describe, expect, it } from "vitest";
import { recordToText } from "@still-pine/contract/record";
import type { HorseRecord } from "@still-pine/core/record";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const { yard } = yardsForTests("2026-06-10T12:00:00Z");
let home: TestYard;
beforeAll(async () => {
  home = yard();
});

describe("a record's export", () => {
  it.each([
    ["in one piece", 20],
    ["outing by outing, when it is long", 110],
  ])("%s gives the same bytes as the record in memory", async (how, outings) => {
    const record: HorseRecord = {
      yard: { timeZone: "Europe/Dublin" },
      horse: { id: how, name: "Long", foaled: "2003-05-01", foaledPrecision: "day", sex: "gelding" },
      program: { id: "loose-pen-start", version: 2 },
      horseEvents: [{ id: `${how}-n`, at: "2026-01-01T10:00:00Z", type: "note", text: "of the horse" }],
      outings: Array.from({ length: outings }, (_, o) => ({
        id: `${how}-${o}`,
        startedAt: new Date(Date.UTC(2026, 0, 1 + (o % 60), 10, o % 7)).toISOString(),
        endedAt: new Date(Date.UTC(2026, 0, 1 + (o % 60), 12)).toISOString(),
        place: "Pen",
        events: Array.from({ length: 40 }, (_, n) => ({
          id: `${how}-${o}-${n}`,
          at: new Date(Date.UTC(2026, 0, 1 + (o % 60), 11, 0, 40 - n)).toISOString(),
          type: "ask" as const,
          step: "share-space",
          answer: "gave" as const,
          mood: 1 as const,
        })),
      })),
    };
    const text = recordToText(record);
    expect((await call(`${home.url}/api/records`, "POST", text)).status).toBe(201);
    const out = await (await fetch(`${home.url}/api/horses/${encodeURIComponent(how)}/record`)).text();
    expect(out === text).toBe(true);
  });
});
