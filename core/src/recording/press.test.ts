import { describe, expect, it } from "vitest";
import { bodyOfPress, type AskLine } from ".";

const NOW = Date.parse("2026-05-01T08:00:00Z");
const near: AskLine = { step: "flex", side: "near" };
const hind: AskLine = { step: "foot-lift", side: "off-hind" };
const whole: AskLine = { step: "stand-tied", side: "none" };

describe("the event a press records", () => {
  it("an ask has the step, the side and the feel", () => {
    expect(bodyOfPress({ press: "ask", answer: "gave", phase: 1, mood: 0 }, near, NOW)).toEqual({
      type: "ask",
      step: "flex",
      side: "near",
      answer: "gave",
      phase: 1,
      mood: 0,
    });
  });

  it("an ask of a leg names the leg, and one of the whole horse says so", () => {
    expect(bodyOfPress({ press: "ask", answer: "tried" }, hind, NOW)).toMatchObject({ side: "off", part: "hind" });
    expect(bodyOfPress({ press: "ask", answer: "tried" }, whole, NOW)).toMatchObject({ side: "none" });
  });

  it("what the line says goes with every ask, and the press itself has the last word", () => {
    const line: AskLine = { ...near, more: { setting: "moving", tool: "flag" } };
    expect(bodyOfPress({ press: "ask", answer: "gave" }, line, NOW)).toMatchObject({ setting: "moving", tool: "flag" });
    expect(bodyOfPress({ press: "ask", answer: "gave", setting: "standing" }, line, NOW)).toMatchObject({
      setting: "standing",
    });
  });

  it("a gait or a frame is of the rein of the line, and says no more than was said", () => {
    const off: AskLine = { step: "circle-trot", side: "off", more: { rung: "3" } };
    expect(bodyOfPress({ press: "gait", gait: "trot", work: "line" }, off, NOW)).toEqual({
      type: "gait",
      gait: "trot",
      direction: "off",
      work: "line",
    });
    expect(bodyOfPress({ press: "gait", gait: "canter", unasked: true, work: undefined }, whole, NOW)).toEqual({
      type: "gait",
      gait: "canter",
      unasked: true,
    });
    expect(bodyOfPress({ press: "frame", frame: "hollow" }, near, NOW)).toEqual({
      type: "frame",
      frame: "hollow",
      direction: "near",
    });
  });

  it("one brought back says of the gait how long it was, and how he came back", () => {
    const press = { press: "came-back", gait: "g", at: NOW - 6_400, back: "brought" } as const;
    expect(bodyOfPress(press, near, NOW)).toEqual({
      type: "correction",
      replaces: "g",
      with: { back: "brought", seconds: 6 },
    });
  });

  it("a remembered series has its counts and its usual feel", () => {
    const press = { press: "series", count: 6, clean: 5, first: "gave", worst: "tried", mood: 1 } as const;
    expect(bodyOfPress(press, near, NOW)).toEqual({
      type: "series",
      step: "flex",
      side: "near",
      count: 6,
      clean: 5,
      first: "gave",
      worst: "tried",
      mood: 1,
    });
  });

  it("a remembered series has of the line what holds for all its asks", () => {
    const line: AskLine = {
      ...near,
      more: { rung: "3s", setting: "moving", tool: "none", fault: "tilts", waitSeconds: 3 },
    };
    const press = { press: "series", count: 6, clean: 5, first: "gave", worst: "tried" } as const;
    const body = bodyOfPress(press, line, NOW);
    expect(body).toMatchObject({ rung: "3s", setting: "moving", tool: "none" });
    // How one answer was belongs to that one.
    expect(Object.keys(body)).not.toEqual(expect.arrayContaining(["fault"]));
    expect(Object.keys(body)).not.toEqual(expect.arrayContaining(["waitSeconds"]));
  });

  it("an exercise is taken up on its side, left, and gone on with on another", () => {
    expect(bodyOfPress({ press: "take-up" }, hind, NOW)).toEqual({
      type: "spurt",
      edge: "start",
      step: "foot-lift",
      side: "off",
    });
    expect(bodyOfPress({ press: "take-up" }, whole, NOW)).toEqual({ type: "spurt", edge: "start", step: "stand-tied" });
    expect(bodyOfPress({ press: "rest" }, near, NOW)).toEqual({ type: "spurt", edge: "end" });
    expect(bodyOfPress({ press: "side" }, hind, NOW)).toEqual({ type: "side-change", to: "off", part: "hind" });
    expect(bodyOfPress({ press: "side" }, whole, NOW)).toEqual({ type: "spurt", edge: "start", step: "stand-tied" });
  });

  it("what he offered is of the side at hand", () => {
    expect(bodyOfPress({ press: "offer" }, hind, NOW)).toEqual({ type: "offer", step: "foot-lift", side: "off" });
  });

  it("what lasts is counted in whole seconds, a stay of at least one", () => {
    expect(bodyOfPress({ press: "step-away", from: NOW - 12_400 }, near, NOW)).toEqual({
      type: "dwell",
      seconds: 12,
      side: "near",
    });
    expect(bodyOfPress({ press: "step-away", from: NOW }, near, NOW)).toMatchObject({ seconds: 1 });
    const quiet = { press: "quiet", fright: "e7", at: NOW - 8600 } as const;
    expect(bodyOfPress(quiet, near, NOW)).toEqual({
      type: "correction",
      replaces: "e7",
      with: { recoverSeconds: 9 },
    });
    expect(bodyOfPress({ ...quiet, at: NOW + 5000 }, near, NOW)).toMatchObject({ with: { recoverSeconds: 0 } });
  });
});
