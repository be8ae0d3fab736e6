import { describe, expect, it } from "vitest";
import { SHIPPED, loosePenStart } from "../programs";
import { foldRecord } from "../record";
import { describeChanges } from "./changes";
import { explainStep } from "./explain";
import { gather } from "./gather";
import { judgeRecord } from "./judge";
import { eveningOf, shortRecord, steadyIds, steadyOutings, type ShortOuting } from "./cases/notation";

const first = SHIPPED.known("loose-pen-start", 1);
if (!first) throw new Error("no first version");
const judged = (outings: ShortOuting[], day: number) => judgeRecord(shortRecord(outings), first, eveningOf(day));
const flexUnder = steadyOutings(first, steadyIds(first, "under", "flex"));

describe("what new entries changed", () => {
  it("is said for each side and for the step, up or down, and nothing else", () => {
    const before = judged([...flexUnder, [0, "flex near 1g1x4; flex off 1g1x4"]], 0);
    const after = judged(
      [...flexUnder, [0, "flex near 1g1x4; flex off 1g1x4"], [1, "flex near 1g1x4; flex off 1t1"]],
      1,
    );
    expect(describeChanges(before, after, loosePenStart)).toEqual([
      {
        step: "flex",
        side: "near",
        from: "coming",
        to: "steady",
        better: true,
        text: "Lateral flexion, near side: coming → steady",
      },
    ]);
    expect(describeChanges(after, after, loosePenStart)).toEqual([]);
    // A trail leaves untried steps out.
    const flex = after.filter(({ step }) => step === "flex");
    expect(describeChanges([], flex, loosePenStart).map(({ from, to, side }) => [side, from, to])).toEqual([
      ["near", "untried", "steady"],
      ["off", "untried", "coming"],
      [undefined, "untried", "coming"],
    ]);
    expect(describeChanges(after, before, loosePenStart)[0]?.better).toBe(false);
  });
});

describe("the asks behind a verdict", () => {
  const record = shortRecord([
    [0, "flex near 1g1 1n 1g1 2g1; flex off 1u1"],
    [1, "flex near 1g1 1g1?1; flex near s4/3gt11"],
  ]);
  const folded = foldRecord(record);
  const asks = explainStep(folded, gather(folded, first, "flex"), "flex");

  it("come latest outing first, each with what it counted as and what it weighs now", () => {
    expect(asks.map((ask) => [ask.outing, ask.side, ask.worth, ask.cold])).toEqual([
      ["o1", "near", "clean", true],
      ["o1", "near", "practice", false],
      ["o1", "near", "series", false],
      ["o0", "near", "clean", false],
      ["o0", "near", "miss", false],
      ["o0", "near", "clean", false],
      ["o0", "near", "miss", false],
      ["o0", "off", "neutral", false],
    ]);
    // Later in another outing: one ask and a series of four at its half, three in all.
    expect(asks[3]?.clean).toBeCloseTo(0.8, 6);
    expect([asks[2]?.clean, asks[2]?.not]).toEqual([1.5, 0.5]);
  });

  it("sum up to the side's weights", () => {
    const flex = judgeRecord(record, first, eveningOf(1)).find((one) => one.step === "flex");
    const near = asks.filter((ask) => ask.side === "near");
    expect(near.reduce((sum, ask) => sum + ask.clean, 0)).toBeCloseTo(flex?.sides.near?.weightClean ?? 0, 5);
    expect(near.reduce((sum, ask) => sum + ask.not, 0)).toBeCloseTo(flex?.sides.near?.weightNot ?? 0, 5);
  });

  it("of a long history are all shown on request, and only the ones that carry weight otherwise", () => {
    const long = foldRecord(
      shortRecord(Array.from({ length: 60 }, (_, day): ShortOuting => [day, "flex near 1g1x10"])),
    );
    expect(explainStep(long, gather(long, first, "flex"), "flex")).toHaveLength(600);
    const evidence = gather(long, first).steps.find((one) => one.step.id === "flex")?.sides[0]?.evidence;
    expect(evidence?.entries.length).toBeLessThan(400);
    const share = judgeRecord(
      shortRecord(Array.from({ length: 60 }, (_, day): ShortOuting => [day, "flex near 1g1x10"])),
      first,
      eveningOf(59),
    )
      .find((one) => one.step === "flex")
      ?.findings.find((one) => one.code === "clean-share");
    // 0.8^(k/6) ≥ 0.2 while k ≤ 43.3, and an outing of ten weighs 5.5: the last eight.
    expect(share?.evidence).toHaveLength(80);
  });

  it("of an unknown step are none", () => {
    expect(explainStep(folded, gather(folded, first), "piaffe")).toEqual([]);
  });
});
