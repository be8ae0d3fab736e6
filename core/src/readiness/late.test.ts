import { describe, expect, it } from "vitest";
import { loosePenStart, type Standard } from "../programs";
import { judgeRecord } from "./judge";
import { broughtUp, eveningOf, shortRecord, steadyIds } from "./cases/notation";
import { findingInWords } from "./words";

/** The loose pen start, with something more asked of a flexion. */
const withStandard = (more: Partial<Standard>) => ({
  ...loosePenStart,
  steps: loosePenStart.steps.map((step) =>
    step.id === "flex" ? { ...step, standard: { ...step.standard, ...more } } : step,
  ),
});

/** The judgement of a flexion on four days of these asks on each side. */
function judged(near: string, more: Partial<Standard>) {
  const program = withStandard(more);
  const days = [0, 1, 2, 3].map((day): [number, string] => [day, `flex near ${near}; flex off 1g1^3sx4`]);
  const record = shortRecord([...broughtUp(program, steadyIds(program, "under", "flex")), ...days]);
  const judgement = judgeRecord(record, program, eveningOf(3)).find(({ step }) => step === "flex");
  if (!judgement) throw new Error("no flexion");
  return { ...judgement, program };
}

describe("an answer that comes late", () => {
  it("is said where most that were timed are, and spoils nothing", () => {
    const { status, findings, program } = judged("1g1^3s+4x3 1g1^3s+1", { within: 2 });
    expect(status).toBe("steady");
    const late = findings.filter(({ code }) => code === "late");
    expect(late.map(({ side, have, need, met }) => [side, have, need, met])).toEqual([["near", 6, 2, false]]);
    const [one] = late;
    expect(one && findingInWords(one, program)).toContain("took longer than 2 s from the cue");
  });

  it("is not said where half were in time, nobody timed them, or the step names no seconds", () => {
    for (const [near, more] of [
      ["1g1^3s+4x2 1g1^3s+2x2", { within: 2 }],
      ["1g1^3sx4", { within: 2 }],
      ["1g1^3s+9x4", {}],
      // A miss is no answer that came late.
      ["1n1^3s+9 1g1^3s+1x3", { within: 2 }],
    ] as const)
      expect(judged(near, more).findings.map(({ code }) => code)).not.toContain("late");
  });

  it("is not said to be spoiled where another thing made it a miss", () => {
    const { findings } = judged("3g1^3s+4x4", { within: 2 });
    const codes = findings.filter(({ side }) => side === "near").map(({ code }) => code);
    expect(codes).toContain("late");
    expect(codes).not.toContain("spoiled");
  });

  it("is not clean where the program says so, and is said to be spoiled", () => {
    const { status, sides, findings } = judged("1g1^3s+4x2 1g1^3s+1x2", { within: 2, lateSpoils: true });
    expect([status, sides.near?.status, sides.off?.status]).toEqual(["begun", "begun", "steady"]);
    expect(findings.some(({ code, side }) => code === "spoiled" && side === "near")).toBe(true);
  });
});
