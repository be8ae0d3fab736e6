import { describe, expect, it } from "vitest";
import { PROGRAMS, SHIPPED, type Program } from "@still-pine/core/programs";
import { foldHorse, gatherOn, isInWork, judgeFold, restoreFold } from "@still-pine/core/readiness";
import { foldRecord, type HorseRecord } from "@still-pine/core/record";
import { buildDemoYard } from "@still-pine/core/simulated";
import type { YardView } from "@still-pine/contract/http";
import { composeBrief, composeCheckUp, type HorseRow } from "@still-pine/contract/views";
import { Goldens } from "./goldens";

const TODAY = "2026-06-10";
const yard: YardView = {
  name: "Yard",
  timeZone: "Europe/Dublin",
  units: "metric",
  words: "american",
  version: 1,
  today: TODAY,
  places: [],
  people: [],
};
let count = 0;
const demo = buildDemoYard(TODAY, (msecs) => `${msecs}-${(count += 1)}`);

/** A horse as if he had always gone by one program. */
const under = (record: HorseRecord, { id }: Program): HorseRecord => ({
  ...record,
  program: { id },
  horseEvents: record.horseEvents.filter(({ type }) => type !== "program"),
});

describe("the demo yard under the seven programs", () => {
  it("has the verdicts, the cards and the check-ups it had", async () => {
    const goldens = new Goldens("schools");
    for (const school of PROGRAMS)
      for (const record of demo) {
        const folded = foldRecord(under(record, school));
        const { outings } = folded;
        const fold = foldHorse(folded, school, isInWork(folded.ofHorse), SHIPPED);
        const standing = judgeFold(fold, outings.at(-1) ?? null, TODAY, SHIPPED);
        const row: HorseRow = { ...record.horse, programId: school.id, version: 1 };
        const gathered = gatherOn(restoreFold(fold, SHIPPED), outings.slice(-1));
        const say = (what: string, said: unknown): void =>
          goldens.add(`${school.id}, ${record.horse.name}, ${what}`, JSON.stringify(said, null, 1));
        const of = { yard, row, standing, today: TODAY };
        const { judgements, gates, next } = standing;
        say("verdicts", { judgements, gates, next });
        say("card", composeBrief({ ...of, outings }));
        say("check-up", composeCheckUp({ ...of, gathered, outings, asked: {} }));
        say(
          "check-up of all",
          composeCheckUp({ ...of, gathered, outings, asked: { upTo: school.steps.at(-1)?.stage } }),
        );
      }
    await expect(goldens.toString()).toMatchFileSnapshot("schools.json");
  });
});
