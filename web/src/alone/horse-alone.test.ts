import { describe, expect, it } from "vitest";
import type { HorsePack, PackView } from "@still-pine/contract/http";
import { summarize, toOuting, BRIEF_OUTINGS } from "@still-pine/contract/views";
import { SHIPPED } from "@still-pine/core/programs";
import { foldHorse, isInWork, judgeFold } from "@still-pine/core/readiness";
import { foldRecord, type HorseRecord, type Outing, type RecordEvent } from "@still-pine/core/record";
import { buildDemoYard, DEMO_YARD } from "@still-pine/core/simulated";
import { standAlone, type OwnEvent } from "./horse-alone";

const NOW = "2026-05-20T18:00:00Z";
const yard: PackView = {
  yard: { id: "y", name: "Yard", timeZone: DEMO_YARD.timeZone, units: "metric", words: "american", version: 1 },
  place: [["p1", "Round pen"]],
  person: [["m", "M"]],
  horses: [],
};
/** A yard whose places and people have no ids yet: what is recorded is what is judged. */
const bare: PackView = { ...yard, place: [], person: [] };
let count = 0;
const horses = buildDemoYard("2026-05-20", (msecs) => `${msecs}-${String((count += 1)).padStart(6, "0")}`).filter(
  ({ outings }) => outings.length > 3,
);

/** What the server would give a phone of a record, without its last outings. */
function packOf(record: HorseRecord, late: number): { pack: HorsePack; own: OwnEvent[] } {
  const known = { ...record, outings: record.outings.slice(0, record.outings.length - late) };
  const folded = foldRecord(known);
  const fold = foldHorse(folded, record.program, isInWork(folded.ofHorse), SHIPPED);
  const { id, name, foaled, foaledPrecision, sex } = record.horse;
  const labels = { place: new Map(yard.place), person: new Map(yard.person) };
  const pack: HorsePack = {
    mark: "1",
    row: { id, name, foaled, foaledPrecision, sex, programId: record.program.id, version: 1 },
    fold: { ...fold },
    ofHorse: [...record.horseEvents],
    outings: known.outings.slice(-BRIEF_OUTINGS).map((outing) => ({ id: outing.id, events: eventsOf(outing) })),
    diary: {
      outings: folded.outings
        .toReversed()
        .slice(0, 5)
        .map((outing) => summarize(outing, labels)),
      total: known.outings.length,
    },
  };
  const own = record.outings
    .slice(record.outings.length - late)
    .flatMap((outing) => eventsOf(outing).map((event) => ({ outing: outing.id, event })));
  return { pack, own };
}

function eventsOf({ id, startedAt, endedAt, events, ...head }: Outing): RecordEvent[] {
  return [
    { ...head, id: `${id}:start`, at: startedAt, type: "outing-start" } as RecordEvent,
    ...events,
    { id: `${id}:end`, at: endedAt, type: "outing-end" } as RecordEvent,
  ];
}

const wholeOf = (record: HorseRecord) => {
  const shaped = { ...record, outings: record.outings.map((outing) => toOuting(outing.id, eventsOf(outing))) };
  const folded = foldRecord(shaped);
  const fold = foldHorse(folded, record.program, isInWork(folded.ofHorse), SHIPPED);
  return { folded, standing: judgeFold(fold, folded.outings.at(-1) ?? null, "2026-05-20", SHIPPED) };
};

describe("a horse on a phone that is alone", () => {
  it("there are demo horses with long and short records to try it on", () => {
    expect(horses.length).toBeGreaterThan(3);
    expect(Math.max(...horses.map(({ outings }) => outings.length))).toBeGreaterThan(BRIEF_OUTINGS);
  });

  it.each(horses.map((record) => [record.horse.name, record] as const))(
    "%s: with nothing, one or three outings recorded here, the verdicts are the server's",
    (_name, record) => {
      const whole = wholeOf(record);
      for (const late of [0, 1, 3]) {
        const { pack, own } = packOf(record, late);
        const alone = standAlone(bare, pack, own, NOW);
        expect(alone.isBehind).toBe(false);
        expect(alone.standing).toEqual(whole.standing);
        expect(alone.judged.at(-1)).toEqual(whole.folded.outings.at(-1));
      }
    },
  );

  it("sent meanwhile and in the pack already, an entry counts once", () => {
    const [record] = horses;
    if (!record) throw new Error("no demo horse");
    const { pack } = packOf(record, 0);
    const { own } = packOf(record, 1);
    expect(standAlone(bare, pack, own, NOW).standing).toEqual(wholeOf(record).standing);
  });

  it("where an older outing is changed here, verdicts stay the last known ones, and say so", () => {
    const record = horses.toSorted((a, b) => b.outings.length - a.outings.length)[0];
    if (!record) throw new Error("no demo horse");
    const { pack } = packOf(record, 0);
    const old = record.outings.at(-4);
    const ask = old?.events.find(({ type }) => type === "ask");
    const own = [
      {
        outing: old?.id ?? "",
        event: { id: "c", at: NOW, type: "correction", replaces: ask?.id, void: true } as RecordEvent,
      },
    ];
    const alone = standAlone(yard, pack, own, NOW);
    expect(alone.isBehind).toBe(true);
    expect(alone.standing).toEqual(wholeOf(record).standing);
    expect(alone.before()).toBeNull();
  });

  it("a place said by its label is the place the yard knows by its id", () => {
    const [record] = horses;
    if (!record) throw new Error("no demo horse");
    const { pack } = packOf(record, 0);
    const start = { id: "o:start", at: NOW, type: "outing-start", place: "Round pen", handler: "N" } as RecordEvent;
    const alone = standAlone(yard, pack, [{ outing: "o", event: start }], NOW);
    expect(alone.judged.at(-1)?.head).toMatchObject({ place: "p1", handler: "N" });
    expect(alone.folded.outings.at(-1)?.head).toMatchObject({ place: "Round pen", handler: "N" });
  });
});
