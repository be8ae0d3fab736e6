import { describe, expect, it } from "vitest";
import { findStep, loosePenStart, PROGRAMS, refsOf, type Step } from "../programs";
import { CHIP_VALUES, chipsOf } from "../programs/chips";
import type { AskEvent } from "../record";
import {
  beginLine,
  bodyOfPress,
  changeLine,
  isUnderLine,
  lineOnSide,
  rungBeside,
  rungReached,
  timed,
  turned,
  watchUnit,
} from ".";

function stepOf(id: string): Step {
  const step = findStep(loosePenStart, id);
  if (!step) throw new Error(`no step ${id}`);
  return step;
}

describe("the line over the pad", () => {
  it("begins on the smallest rung, standing, with what the step is usually done", () => {
    expect(beginLine(stepOf("flag"))).toEqual({ rung: "rolled-touched", setting: "standing" });
    expect(beginLine(stepOf("stick"))).toMatchObject({ setting: "standing", tool: "stick" });
  });

  it("begins on the rung the card names, and on the smallest where the ladder has none of that name", () => {
    expect(beginLine(stepOf("flag"), "half").rung).toBe("half");
    expect(beginLine(stepOf("flag"), "of another yard").rung).toBe("rolled-touched");
  });

  it("leaves unsaid what nobody said: which part of him, how he goes, how far off", () => {
    for (const { steps } of PROGRAMS)
      for (const step of steps)
        expect(Object.keys(beginLine(step)).filter((name) => !["rung", "setting", "tool"].includes(name))).toEqual([]);
  });

  it("goes up and down one rung at a time, and no farther than the ladder", () => {
    const flag = stepOf("flag");
    const line = beginLine(flag);
    expect(rungBeside(flag, line, -1)).toBeNull();
    const up = rungBeside(flag, line, 1);
    expect(up).toBe(flag.ladder.rungs[1]?.id);
    expect(rungBeside(flag, { rung: up ?? "" }, -1)).toBe(line.rung);
    expect(rungBeside(flag, { rung: flag.ladder.rungs.at(-1)?.id ?? "" }, 1)).toBeNull();
    expect(rungBeside(flag, {}, 1)).toBe(flag.ladder.rungs[0]?.id);
  });

  it("changes one thing at a time, and a word can be taken back", () => {
    const line = beginLine(stepOf("flag"));
    const moving = changeLine(line, { setting: "moving" });
    expect([moving.setting, moving.rung, line.setting]).toEqual(["moving", line.rung, "standing"]);
    expect(changeLine(moving, { setting: undefined })).toEqual({ rung: line.rung });
  });

  it("turns a chip of two from one word to the other, from unsaid to the first", () => {
    expect(["setting", "manner"].map((chip) => turned(chip as "setting", {}))).toEqual(["standing", "still"]);
    expect(turned("setting", { setting: "standing" })).toBe("moving");
    expect(turned("setting", { setting: "moving" })).toBe("standing");
  });

  it("takes what is in the hand to the other side, not the rung", () => {
    const near = changeLine(beginLine(stepOf("stick"), "swung"), { tool: "whip", setting: "moving" });
    expect(lineOnSide(near, beginLine(stepOf("stick")))).toEqual({
      ...beginLine(stepOf("stick")),
      tool: "whip",
    });
  });

  it("is said by every ask under it, and an ask under another line is not of it", () => {
    const flag = stepOf("flag");
    const line = changeLine(beginLine(flag), { part: "neck" });
    const body = bodyOfPress({ press: "ask", answer: "gave", mood: 1 }, { step: "flag", side: "near", more: line }, 0);
    const ask = { id: "a", at: "2026-05-01T09:00:00Z", ...body } as AskEvent;
    expect(body).toMatchObject({ rung: line.rung, setting: "standing", part: "neck" });
    expect(isUnderLine(ask, flag, line)).toBe(true);
    expect(isUnderLine(ask, flag, changeLine(line, { part: undefined }))).toBe(false);
    expect(isUnderLine(ask, flag, changeLine(line, { rung: "half" }))).toBe(false);
  });

  it("can say all that any step of any program needs of another one", () => {
    for (const { steps } of PROGRAMS)
      for (const { id, needs } of steps)
        for (const { step, setting, parts = [] } of refsOf(needs)) {
          const needed = steps.find((one) => one.id === step);
          if (!needed) continue;
          const chips = chipsOf(needed);
          if (setting !== undefined) expect([id, step, chips]).toEqual([id, step, expect.arrayContaining(["setting"])]);
          if (parts.length > 0) expect([id, step, chips]).toEqual([id, step, expect.arrayContaining(["part"])]);
          for (const part of parts) expect(CHIP_VALUES.part).toContain(part);
        }
  });
});

describe("what a watch came to", () => {
  const rung = (step: string, meant: string, amount: number): string | undefined =>
    rungReached(stepOf(step), { rung: meant }, amount);

  it("is the highest rung its time reached, of those at the same place", () => {
    expect(rung("stand", "1m-60s", 59)).toBe("1m-10s");
    expect(rung("stand", "1m-60s", 60)).toBe("1m-60s");
    expect(rung("stand", "rope-60s", 90)).toBe("rope-60s");
    expect(rung("share-space", "3m-10s", 300)).toBe("3m-10s");
  });

  it("is never more than was meant: a minute above the fence is no minute above him, a long hand on his back no leaning", () => {
    expect(rung("above", "pen", 60)).toBe("pen");
    expect(rung("above", "fence", 600)).toBe("fence");
    expect(rung("lean", "hand", 45)).toBe("hand");
    expect(rung("tie", "2min", 11)).toBe("2min");
    expect(rung("tie", "10min-moved", 11)).toBe("10min-moved");
    expect(rung("tie", "of another yard", 11)).toBe("comes-forward");
    // What is no matter of time is reached as soon as it is there.
    expect(rung("load", "fore-feet", 0.1)).toBe("fore-feet");
  });

  it("is the smallest where it came to none", () => {
    expect(rung("saddle-alone", "30min", 0.5)).toBe("5min");
    expect(rung("stand", "1m-60s", 4)).toBe("1m-10s");
  });

  it("is timed where the standard is in minutes, or thirty seconds and more", () => {
    expect(["tie", "stand", "catch-rope", "flex", "yield-hind"].map((id) => watchUnit(stepOf(id)))).toEqual([
      "minutes",
      "seconds",
      null,
      null,
      null,
    ]);
  });

  it("says no more time than it was", () => {
    expect([timed(0, 59_999, "seconds"), timed(0, 119_999, "minutes"), timed(5, 0, "seconds")]).toEqual([59, 1.9, 0]);
  });
});
