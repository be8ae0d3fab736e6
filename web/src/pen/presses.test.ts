import { afterEach, describe, expect, it, vi } from "vitest";
import { DOUBLE_MS, Presses } from "./presses";

/** A press that the page hears of now and that was made at such a time, in ms. */
const heard = (timeStamp: number): void => void vi.stubGlobal("window", { event: { timeStamp } });

afterEach(() => vi.unstubAllGlobals());

describe("two equal presses", () => {
  it("are two by when they were made, also where a busy page hears of both at once", () => {
    const presses = new Presses();
    heard(1000);
    expect(presses.isTwice("gave", true)).toBe(false);
    heard(1000 + DOUBLE_MS);
    expect(presses.isTwice("gave", true)).toBe(false);
  });

  it("are one within a quarter of a second, unless every press counts", () => {
    const presses = new Presses();
    heard(1000);
    presses.isTwice("gave", true);
    heard(1000 + DOUBLE_MS - 1);
    expect(presses.isTwice("gave", true)).toBe(true);
    expect(presses.isTwice("tried", true)).toBe(false);
    expect(presses.isTwice("tried", false)).toBe(false);
  });

  it("are of now where no event brought them", () => {
    vi.stubGlobal("window", {});
    const presses = new Presses();
    expect([presses.isTwice("gave", true), presses.isTwice("gave", true)]).toEqual([false, true]);
  });
});
