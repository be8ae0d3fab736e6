import { describe, expect, it } from "vitest";
import { findStep, loosePenStart } from "../programs";
import type { AskEvent } from "../record";
import { Lines, type Exercise } from ".";

const planned = (step: string, from?: Exercise["from"]): Exercise => ({
  step,
  line: { count: 3, worth: "clean" },
  isNew: false,
  sticky: null,
  last: {},
  ...(from ? { from } : {}),
});
const plan = {
  program: loosePenStart,
  exercises: [planned("flag", { off: "half" }), planned("stick")],
  known: ["rope-over"],
};
const standardOf = (step: string): string | undefined => {
  const ladder = findStep(loosePenStart, step)?.ladder;
  return ladder?.rungs[ladder.standard]?.id;
};

describe("the lines of an outing", () => {
  it("begin on the card's rungs, each side on its own", () => {
    const lines = new Lines(plan);
    expect(lines.of("flag", "off").rung).toBe("half");
    expect(lines.of("flag", "near").rung).toBe(findStep(loosePenStart, "flag")?.ladder.rungs[0]?.id);
  });

  it("begin at the standard for what he knows, and at the smallest for what nobody planned", () => {
    const lines = new Lines(plan);
    expect(lines.of("rope-over", "near").rung).toBe(standardOf("rope-over"));
    expect(lines.of("sheet", "near").rung).not.toBe(standardOf("sheet"));
  });

  it("stay as they were changed, by exercise and side", () => {
    const lines = new Lines(plan);
    lines.change("flag", "near", { setting: "moving", rung: "half" });
    expect(lines.of("flag", "near")).toMatchObject({ setting: "moving", rung: "half" });
    expect(lines.of("stick", "near").setting).toBe("standing");
  });

  it("take to a side not worked yet what is in the hand, and neither rung nor standing or moving", () => {
    const lines = new Lines(plan);
    const before = lines.of("flag", "off");
    lines.change("flag", "near", { setting: "moving", part: "neck", rung: "open" });
    expect(lines.of("flag", "off")).toEqual({ ...before, part: "neck" });
  });

  it("are the same object until they are changed, for whoever draws them", () => {
    const lines = new Lines(plan);
    expect(lines.of("flag", "near")).toBe(lines.of("flag", "near"));
  });

  it("go on as they were kept", () => {
    const kept = new Lines(plan).change("flag", "near", { rung: "half" });
    expect(new Lines(plan, kept).of("flag", "near").rung).toBe("half");
  });

  it("of a step the program does not have say nothing", () => {
    expect(new Lines(plan).of("of another yard", "near")).toEqual({});
  });

  it("take over what another device's asks say, until this one says something itself", () => {
    const lines = new Lines(plan);
    const body = { type: "ask", v: 2, step: "flag", side: "near", answer: "gave", rung: "half", setting: "moving" };
    const ask = { id: "a", at: "2026-05-01T09:00:00Z", ...body } as AskEvent;
    lines.hear([ask]);
    expect(lines.of("flag", "near")).toEqual({ rung: "half", setting: "moving" });
    lines.change("flag", "near", { rung: "open" });
    lines.hear([ask]);
    expect(lines.of("flag", "near")).toEqual({ rung: "open", setting: "moving" });
    expect(lines.of("flag", "off").rung).toBe("half");
  });
});
