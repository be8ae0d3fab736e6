import { describe, expect, it } from "vitest";
import { findStep, loosePenStart, type Step } from "../programs";
import type { AskEvent } from "../record";
import { stairOf, type AskOnStair } from "./stair";

const flag = findStep(loosePenStart, "flag") as Step;
let count = 0;
const ask = (day: string, side: "near" | "off", more: Partial<AskEvent>): AskOnStair => ({
  side,
  day,
  event: {
    id: `e${(count += 1)}`,
    at: `${day}T08:00:00Z`,
    v: 2,
    type: "ask",
    step: "flag",
    side,
    answer: "gave",
    mood: 1,
    ...more,
  },
});

describe("a step's stair", () => {
  it("shows on each rung the last clean ask of it or of a higher one, by side", () => {
    const { rungs, unsaid, said } = stairOf(flag, [
      ask("2026-05-03", "near", { rung: "half", setting: "standing" }),
      ask("2026-05-05", "near", { rung: "rolled-stroked", setting: "moving", tool: "flag" }),
      ask("2026-05-06", "near", { rung: "open", mood: 3 }),
      ask("2026-05-04", "off", { rung: "rolled-touched", tool: "none" }),
      ask("2026-05-07", "off", {}),
    ]);
    const days = rungs.map(({ id, sides }) => [id, ...sides.map(([, shown]) => shown?.day ?? null)]);
    expect(days.slice(0, 4)).toEqual([
      ["rolled-touched", "2026-05-05", "2026-05-04"],
      ["rolled-stroked", "2026-05-05", null],
      ["half", "2026-05-03", null],
      ["open", null, null],
    ]);
    expect(rungs.filter(({ isStandard }) => isStandard).map(({ id }) => id)).toEqual(["open"]);
    expect([said, unsaid]).toEqual([4, 1]);
    expect(rungs[0]?.sides[0]?.[1]).toMatchObject({
      settings: ["standing", "moving"],
      withTool: true,
      withoutTool: false,
    });
    expect(rungs[0]?.sides[1]?.[1]).toMatchObject({ settings: [], withTool: false, withoutTool: true });
  });

  it("has nothing on it where no ask says its rung", () => {
    const { rungs, unsaid } = stairOf(flag, [
      ask("2026-05-03", "near", {}),
      ask("2026-05-03", "off", { v: 1, rung: "open" }),
    ]);
    expect(rungs.flatMap(({ sides }) => sides.flatMap(([, shown]) => shown ?? []))).toEqual([]);
    expect(unsaid).toBe(2);
  });
});
