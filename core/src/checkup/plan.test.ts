import { describe, expect, it } from "vitest";
import { alwaysUnder, everythingUnder, loosePenStart, type Program } from "../programs";
import { gather, judgeGates, judgeGathered, whatNext } from "../readiness";
import { broughtUp, shortRecord, type ShortOuting } from "../readiness/cases/notation";
import { addDays, foldRecord, type Day, type HorseRecord, type RecordEvent } from "../record";
import { checkUpOf, planCheckUp, stagesSoFar } from ".";

const DAY_0 = "2026-01-10";
const SOON = addDays(DAY_0, -6);
const MUCH_LATER = addDays(DAY_0, 300);
const idsUnder = (...wanted: string[]): string[] => {
  const ids = new Set(wanted.flatMap((id) => [...everythingUnder(loosePenStart, id), id]));
  return loosePenStart.steps.map(({ id }) => id).filter((id) => ids.has(id));
};
const gatheredFrom = (outings: readonly ShortOuting[], program: Program = loosePenStart) =>
  gather(foldRecord(shortRecord(outings)), program);

const nobody = gatheredFrom([]);
const leads = gatheredFrom(broughtUp(loosePenStart, idsUnder("lead")));
const stepsOf = (gathered: typeof leads, day: Day, stages = stagesSoFar(gathered)) =>
  planCheckUp(gathered, { stages }, day);

describe("the plan of a check-up", () => {
  it("of a horse nobody knows tests all of first handling and the halter, twice a side, needs first, and spares nothing", () => {
    const plan = stepsOf(nobody, SOON);
    expect(stagesSoFar(nobody)).toEqual(["first-handling", "halter"]);
    expect(plan.spared).toEqual([]);
    const order = plan.tests.map(({ step }) => step);
    for (const { step, under, twice, held } of plan.tests) {
      expect([step, held]).toEqual([step, false]);
      if (!["tie", "walk-out", "company"].includes(step)) expect([step, twice]).toEqual([step, true]);
      for (const one of under) {
        // What lies in a later stage comes with it.
        if (order.includes(one))
          expect([step, one, order.indexOf(one) < order.indexOf(step)]).toEqual([step, one, true]);
      }
    }
    expect(plan.expected).toBeLessThan(plan.most);
  });

  it("spares what stands under a step that came clean lately, and says by which", () => {
    const plan = stepsOf(leads, SOON);
    expect(plan.spared.map(({ step }) => step)).toEqual(
      expect.arrayContaining(["first-touch", "halter-on", "give-halter"]),
    );
    for (const { step, by } of plan.spared)
      expect([step, alwaysUnder(loosePenStart, by).has(step)]).toEqual([step, true]);
    expect(plan.tests.map(({ step }) => step)).toContain("lead");
  });

  it("spares nothing after most of a year, and then asks once what he held", () => {
    const plan = stepsOf(leads, MUCH_LATER);
    expect(plan.spared).toEqual([]);
    const known = plan.tests.filter(({ held }) => held);
    expect(known.length).toBeGreaterThan(5);
    expect(
      known.filter(({ step, twice }) => twice && (leads.byId.get(step)?.bar.kind !== "ordinary") !== true),
    ).toEqual([]);
    // Before the road was known he would have taken more.
    expect(plan.expected).toBeLessThan(plan.most * 0.75);
  });

  it("asks what takes minutes, or stands behind a gate, only after all it rests on came clean", () => {
    const plan = stepsOf(gatheredFrom(broughtUp(loosePenStart, idsUnder("tie", "walk-out"))), MUCH_LATER);
    const order = plan.tests.map(({ step }) => step);
    for (const { step, guarded, needs } of plan.tests) {
      expect([step, guarded]).toEqual([step, ["tie", "walk-out", "company", "halter-on"].includes(step)]);
      if (!guarded) continue;
      for (const need of needs)
        expect([
          step,
          need.some((way) => way.every((one) => !order.includes(one) || order.indexOf(one) < order.indexOf(step))),
        ]).toEqual([step, true]);
    }
  });

  it("of just some steps takes along what they rest on and he never held", () => {
    const some = planCheckUp(leads, { steps: ["stand", "rope-over"] }, SOON).tests.map(({ step }) => step);
    expect(some.toSorted()).toEqual(["rope-over", "stand"]);
    const none = planCheckUp(nobody, { steps: ["give-halter"] }, SOON).tests.map(({ step }) => step);
    expect(none).toEqual(expect.arrayContaining([...alwaysUnder(loosePenStart, "give-halter"), "give-halter"]));
  });

  it("behind a gate takes nothing for granted that only waits for its check, even where just one step is named", () => {
    const saddled = gatheredFrom(broughtUp(loosePenStart, idsUnder("saddle")));
    const now = planCheckUp(saddled, { steps: ["saddle"] }, SOON);
    const later = planCheckUp(saddled, { steps: ["saddle"] }, MUCH_LATER);
    expect(now.tests.map(({ step }) => step)).toEqual(["saddle"]);
    expect(later.tests.map(({ step }) => step)).toEqual(
      expect.arrayContaining(["roller", "pad", "stand", "girth-rope"]),
    );
    expect(later.tests.at(-1)?.step).toBe("saddle");
    // Nothing outside of it is taken for more than it is.
    expect(later.known.filter(([, found]) => found === "holds")).toEqual([]);
  });

  it("asks nothing his program does not ask at his age", () => {
    const ready = gatheredFrom(broughtUp(loosePenStart, idsUnder("astride")));
    const stages = [...new Set(loosePenStart.steps.map(({ stage }) => stage))];
    const young = planCheckUp(ready, { stages }, MUCH_LATER, 30);
    expect(young.tooYoung).toEqual(expect.arrayContaining(["lean", "lie-over", "astride"]));
    expect(young.tests.some(({ step }) => ["lean", "lie-over", "foot-in", "astride", "led-ride"].includes(step))).toBe(
      false,
    );
    expect(planCheckUp(ready, { stages }, MUCH_LATER, 40).tests.map(({ step }) => step)).toContain("lean");
  });

  it("asks nothing that a person holds", () => {
    const record = shortRecord(broughtUp(loosePenStart, idsUnder("lead")), [
      { day: -7, type: "hold", step: "lead", reason: "sore" },
    ]);
    const plan = stepsOf(gather(foldRecord(record), loosePenStart), SOON);
    expect(plan.heldBack).toEqual(["lead"]);
    expect(plan.tests.map(({ step }) => step)).not.toContain("lead");
  });
});

/** The record with a check-up as its last outing. */
function withCheckUp(text: string, steps: readonly string[]): HorseRecord {
  const record = shortRecord([[-6, text]]);
  const [outing] = record.outings;
  if (!outing) throw new Error("no outing");
  const said = { id: "said", at: outing.startedAt, type: "check-up", steps, spared: ["share-space"], expected: 7 };
  return { ...record, outings: [{ ...outing, events: [said as unknown as RecordEvent, ...outing.events] }] };
}

describe("what a check-up found", () => {
  const record = withCheckUp(
    "face-up 1g1x2; first-touch near -g1x2; first-touch off -n1 -g1; swap-sides near 1n1x2; catch-rope -g1x2",
    ["face-up", "catch-rope", "first-touch", "swap-sides", "body-rub"],
  );
  const folded = foldRecord(record);
  const [outing] = folded.outings;
  const result = outing && checkUpOf(outing, loosePenStart);

  it("is by step: holds, rusty where it came late, hole where it did not come, and not tested what rests on that", () => {
    expect(result?.found.map(({ step, found, spared }) => [step, found, spared])).toEqual([
      ["face-up", "holds", false],
      ["catch-rope", "holds", false],
      ["first-touch", "rusty", false],
      ["swap-sides", "hole", false],
      ["body-rub", "not-tested", false],
      ["share-space", "holds", true],
    ]);
  });

  it("says what to mend, each after what it rests on", () => {
    expect(result?.mend).toEqual(["first-touch", "swap-sides"]);
    expect([result?.asks, result?.expected]).toEqual([10, 7]);
  });

  it("is nothing where the outing was no check-up", () => {
    const [plain] = foldRecord(shortRecord([[-6, "face-up 1g1x2"]])).outings;
    expect(plain && checkUpOf(plain, loosePenStart)).toBeNull();
  });
});

describe("a step clean in a check-up", () => {
  const text = "share-space -g1x2; face-up 1g1x2; catch-rope -g1x2";
  const steps = ["share-space", "face-up", "catch-rope"];
  const checked = gather(foldRecord(withCheckUp(text, steps)), loosePenStart);
  const worked = gatheredFrom([[-6, text]]);
  const mayBegin = (gathered: typeof leads, day: Day): string[] =>
    whatNext(gathered, judgeGathered(gathered, day), day).work.map(({ step }) => step);

  it("counts as held for going on: the steps above may start; in a plain outing the same asks are not enough", () => {
    expect(mayBegin(checked, SOON)).toEqual(expect.arrayContaining(["move-off", "first-touch", "rope-lead"]));
    expect(mayBegin(worked, SOON)).not.toContain("first-touch");
  });

  it("has the word its evidence gives it, and opens no gate", () => {
    const words = (gathered: typeof leads) => judgeGathered(gathered, SOON).map(({ step, status }) => [step, status]);
    expect(words(checked)).toEqual(words(worked));
    const gate = judgeGates(checked, SOON).find((one) => one.gate === "halter");
    expect(gate?.needs.map(({ met }) => met)).toEqual([false, false, false]);
  });

  it("counts until it is missed again, or a month is over", () => {
    const missed = withCheckUp(text, steps);
    const later = shortRecord([[-5, "face-up 1n1; catch-rope -n1"]]).outings.map((one) => ({ ...one, id: "o9" }));
    const gathered = gather(foldRecord({ ...missed, outings: [...missed.outings, ...later] }), loosePenStart);
    expect(mayBegin(gathered, addDays(DAY_0, -5))).not.toContain("first-touch");
    expect(mayBegin(checked, addDays(DAY_0, 40))).not.toContain("first-touch");
  });
});
