import { describe, expect, it } from "vitest";
import { loosePenStart } from "@still-pine/core/programs";
import { listInWords, standsOnInWords, waitsInWords } from "./trust-words";

const base = (step: string, stands = false) => ({ step, stands, waits: [] });

describe("what a piece waits for", () => {
  it("names each step once, and leaves out what stands by itself", () => {
    const waits = (...after: ReturnType<typeof base>[]): string | null =>
      waitsInWords(after, loosePenStart, "american");
    expect(waits(base("share-space"))).toBe("once Shares the pen is good today");
    expect(waits(base("share-space"), base("face-up"), base("share-space"))).toBe(
      "once Shares the pen and Turns to face are good today",
    );
    expect(waits(base("share-space", true))).toBeNull();
    expect(waitsInWords(undefined, loosePenStart, "american")).toBeNull();
  });
});

describe("what a step was begun on", () => {
  it("is said with today's and with its word", () => {
    const said = (good: boolean): string =>
      standsOnInWords({ step: "face-up", status: "coming", good }, loosePenStart, "american");
    expect(said(true)).toBe("Turns to face: good today, not yet steady (coming)");
    expect(said(false)).toBe("Turns to face: not good today, and not steady (coming)");
  });
});

it("lists names as they are said", () => {
  expect([[], ["a"], ["a", "b"], ["a", "b", "c"]].map(listInWords)).toEqual(["", "a", "a and b", "a, b and c"]);
});
