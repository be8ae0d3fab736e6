import { describe, expect, it } from "vitest";
import { DEFAULT_NUMBERS, loosePenStart, type JudgeNumbers, type Step } from "../programs";
import { inFull, NOTHING_SAID, SideEvidence, watchOf } from "../evidence";
import { addDays, foldRecord, type Answer } from "../record";
import { randomFrom } from "../random";
import { barOf } from "./bar";
import { gather } from "./gather";
import { holdsOnItsOwn } from "./rules";
import { judgeGathered } from "./judge";
import { shortRecord } from "./cases/notation";
import { findingInWords } from "./words";

const flex = loosePenStart.steps.find(({ id }) => id === "flex") as Step;
const RIDER = barOf([{ kind: "rider" }], DEFAULT_NUMBERS);
const ORDINARY = barOf([], DEFAULT_NUMBERS);

/** Whether a side has the word after each outing of these answers, one outing a day. */
function wordsAfter(
  outings: readonly (readonly Answer[])[],
  bar = ORDINARY,
  numbers: JudgeNumbers = DEFAULT_NUMBERS,
): boolean[] {
  const side = new SideEvidence(flex, numbers, watchOf(flex, []));
  let holds = false;
  return outings.map((answers, outing) => {
    const day = addDays("2026-01-05", outing);
    answers.forEach((answer, n) =>
      side.ask(
        { type: "ask", v: 2, ...inFull(flex), id: `${outing}-${n}`, at: "", step: "flex", answer, phase: 1, mood: 1 },
        outing,
        day,
        outing > 0,
      ),
    );
    side.close(NOTHING_SAID, "near");
    holds = holdsOnItsOwn({ bar }, side, numbers, holds);
    return holds;
  });
}

describe("a word", () => {
  it("is never lost, nor earned later, by one miss more that came clean instead", () => {
    const random = randomFrom(5);
    let turned = 0;
    for (let history = 0; history < 150; history += 1) {
      const share = 0.5 + random() * 0.5;
      const outings = Array.from({ length: 20 }, () =>
        Array.from({ length: 4 }, (): Answer => (random() < share ? "gave" : random() < 0.5 ? "none" : "against")),
      );
      const missed = outings.flatMap((answers, outing) =>
        answers.flatMap((answer, n) => (answer === "gave" ? [] : [[outing, n] as const])),
      );
      const [outing, n] = missed[Math.floor(random() * missed.length)] ?? [0, 0];
      const better = outings.map((answers, at) =>
        answers.map((answer, place): Answer => (at === outing && place === n ? "gave" : answer)),
      );
      for (const bar of [ORDINARY, RIDER]) {
        const [before, after] = [wordsAfter(outings, bar), wordsAfter(better, bar)];
        before.forEach((holds, at) => expect([history, at, holds && !after[at]]).toEqual([history, at, false]));
        turned += after.filter((holds, at) => holds !== before[at]).length;
      }
    }
    expect(turned).toBeGreaterThan(50);
  });

  it("is earned four days long before a rider, and by twelve asks of three a day", () => {
    const clean = (asks: number, outings: number): Answer[][] =>
      Array.from({ length: outings }, () => Array.from({ length: asks }, (): Answer => "gave"));
    expect(wordsAfter(clean(3, 5), RIDER)).toEqual([false, false, false, true, true]);
    expect(wordsAfter(clean(4, 3))).toEqual([false, true, true]);
    expect(wordsAfter(clean(3, 3))).toEqual([false, false, true]);
  });
});

describe("a program that asks for more first asks", () => {
  it("does not keep a word longer by that: two missed running take it all the same", () => {
    const good = Array.from({ length: 8 }, (): Answer[] => ["gave", "gave", "gave", "gave"]);
    const cold: Answer[] = ["tried", "gave", "gave", "gave"];
    const words = wordsAfter([...good, cold, cold], ORDINARY, { ...DEFAULT_NUMBERS, colds: 6 });
    expect(words.slice(-4)).toEqual([true, true, true, false]);
  });
});

describe("a mishap", () => {
  const good = (day: number): [number, string] => [day, "yield-fore near 1g1x5; yield-fore off 1g1x5"];
  const judged = (side?: "near" | "off") => {
    const record = shortRecord([good(0), good(1), good(2), good(3)]);
    const last = record.outings.at(-1);
    const [at, later] = ["2026-01-13T10:30:00.000Z", "2026-01-13T10:31:00.000Z"];
    last?.events.push(
      { id: "spurt", at, type: "spurt", edge: "start", step: "yield-fore", ...(side ? { side } : {}) },
      { id: "mishap", at: later, type: "mishap", kind: "kick", severity: 2, personHurt: false },
    );
    const judgement = judgeGathered(gather(foldRecord(record), loosePenStart), "2026-01-13").find(
      ({ step }) => step === "yield-fore",
    );
    const relaxed = judgement?.findings.filter(({ code, met }) => code === "relaxed" && !met) ?? [];
    return relaxed.map((finding) => [finding.side, finding.evidence, findingInWords(finding, loosePenStart)]);
  };

  it("counts on the side in hand", () => {
    expect(judged("off")).toEqual([
      ["off", ["mishap"], "Tight, over, shut down or a mishap, 1 time in the last two outings on the off side."],
    ]);
  });

  it("with a step of which nobody said the side counts on both", () => {
    const record = shortRecord([[0, "yield-fore near 1g1"]]);
    record.outings[0]?.events.splice(
      0,
      1,
      { id: "spurt", at: "2026-01-10T10:00:01.000Z", type: "spurt", edge: "start", step: "yield-fore" },
      { id: "mishap", at: "2026-01-10T10:00:02.000Z", type: "mishap", kind: "kick", severity: 2, personHurt: false },
    );
    const [state] = gather(foldRecord(record), loosePenStart).steps.filter(({ step }) => step.id === "yield-fore");
    expect(state?.sides.map(({ evidence }) => evidence.visits.at(-1)?.upset)).toEqual([["mishap"], ["mishap"]]);
  });
});
