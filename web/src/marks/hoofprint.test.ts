import { describe, expect, it } from "vitest";
import { fillOf, printInWords } from "./hoofprint";

describe("the hoofprint", () => {
  it("is empty untried, full steady or rusty, and in between grows with the evidence", () => {
    expect(fillOf("untried", 0.9)).toBe(0);
    expect([fillOf("steady", 0.5), fillOf("rusty", 0.5)]).toEqual([1, 1]);
    const coming = [0, 0.3, 0.5, 0.7, 0.79].map((sure) => fillOf("coming", sure));
    expect(coming).toEqual(coming.toSorted((a, b) => a - b));
    expect(coming[0]).toBeGreaterThan(0);
    expect(fillOf("coming", 1)).toBeLessThan(1);
  });

  it("says in words what it shows", () => {
    const side = (status: "steady" | "coming") => ({ status, sure: 0.5 });
    expect(
      printInWords({ status: "coming", sides: { near: side("steady"), off: side("coming") } }, "Lateral flexion"),
    ).toBe("Lateral flexion: coming; near side steady, off side coming");
    expect(printInWords({ status: "steady", sides: { none: side("steady") } }, "Shares the pen")).toBe(
      "Shares the pen: steady",
    );
  });
});
