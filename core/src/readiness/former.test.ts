import { describe, expect, it } from "vitest";
import { everythingUnder, loosePenStart, SHIPPED } from "../programs";
import { foldRecord, type HorseRecord } from "../record";
import { broughtUp, eveningOf, shortRecord, type ShortAbout, type ShortOuting } from "./cases/notation";
import { bringUp, foldHorse, gather, judgeFold, judgeRecord, readAbout } from ".";
import { saveGathered, restoreGathered } from "./saved";

const BACK = "halter";

/** Steps under a gate and behind it, brought up; said as a build wrote it that could not say a rung. */
function formerOutings(): ShortOuting[] {
  const gate = loosePenStart.gates.find(({ id }) => id === BACK);
  if (!gate) throw new Error("no gate");
  const ids = new Set(gate.before.flatMap((id) => [...everythingUnder(loosePenStart, id), id]));
  return broughtUp(loosePenStart, [...ids]);
}

const asFormer = (record: HorseRecord): HorseRecord => ({
  ...record,
  outings: record.outings.map((outing) => ({
    ...outing,
    events: outing.events.map((event) => {
      if (event.type !== "ask") return event;
      const { rung: _rung, v: _v, ...former } = event;
      return former;
    }),
  })),
});

const recordOf = (about: ShortAbout[] = [], more: ShortOuting[] = []): HorseRecord =>
  asFormer(shortRecord([...formerOutings(), ...more], about));

describe("asks of a time in which nobody could say their rung", () => {
  const today = "2026-01-04";

  it("leave a gate behind him that was behind him by what they were taken for", () => {
    const standing = standingOf(recordOf());
    expect(standing.gates.find(({ gate }) => gate === BACK)?.behind).toBe(true);
    expect(standing.judgements.filter(({ status }) => status === "steady").length).toBeLessThan(
      standingOf(shortRecord(formerOutings())).judgements.filter(({ status }) => status === "steady").length,
    );
    expect(standing.next.gate).not.toBe(BACK);
  });

  it("are told step by step, with their days, until somebody says that they were asked in full", () => {
    const { formerAsks } = standingOf(recordOf());
    const [first] = formerAsks;
    expect(formerAsks.length).toBeGreaterThan(3);
    expect(first).toMatchObject({
      step: "share-space",
      rung: "1m-30s",
      asks: 20,
      from: "2025-12-31",
      to: "2026-01-03",
    });
    const said = standingOf(recordOf([{ day: 0, type: "in-full", step: "share-space" }]));
    expect(said.formerAsks.map(({ step }) => step)).not.toContain("share-space");
    const word = (one: typeof said) => one.judgements.find(({ step }) => step === "share-space")?.status;
    expect([word(standingOf(recordOf())), word(said)]).toEqual(["begun", "steady"]);
  });

  it("are kept and gone on from as if all were read anew", () => {
    const folded = foldRecord(recordOf([], [[1, "flex near 1g1x3"]]));
    const program = loosePenStart;
    const whole = gather(folded, program);
    const half = gather({ ...folded, outings: folded.outings.slice(0, 2) }, program);
    const saved = JSON.parse(JSON.stringify(saveGathered(half))) as ReturnType<typeof saveGathered>;
    const restored = restoreGathered(program, half.about, saved);
    expect(saveGathered(restored)).toEqual(saveGathered(half));
    expect(whole.former?.outings).toBe(folded.outings.length);
  });

  it("are read anew as soon as it is said, or taken back", () => {
    const before = foldRecord(recordOf());
    const fold = foldHorse(before, loosePenStart, true, SHIPPED);
    const said = foldRecord(recordOf([{ day: 0, type: "in-full", step: "share-space" }]));
    const fresh = { inWork: true, outings: before.outings.slice(-1), isNew: () => false };
    const about = readAbout(said.ofHorse, said.timeZone);
    expect(bringUp(fold, { ...fresh, about: readAbout(before.ofHorse, before.timeZone) }, SHIPPED)).not.toBeNull();
    expect(bringUp(fold, { ...fresh, about }, SHIPPED)).toBeNull();
  });

  function standingOf(record: HorseRecord) {
    const folded = foldRecord(record);
    const fold = foldHorse(folded, loosePenStart, true, SHIPPED);
    const standing = judgeFold(fold, folded.outings.at(-1) ?? null, today, SHIPPED);
    const judged = judgeRecord(record, standing.program, eveningOf(-6));
    expect(standing.judgements.map(({ step, status }) => [step, status])).toEqual(
      judged.map(({ step, status }) => [step, status]),
    );
    return standing;
  }
});
