import { describe, expect, it } from "vitest";
import { seriesErrors } from "./series-form";

describe("a remembered series must agree with itself", () => {
  it.each([
    [6, 6, "gave", "gave", {}],
    [6, 5, "gave", "tried", {}],
    [6, 6, "neutral", "gave", {}],
    [0, 0, "gave", "gave", { count: "From 1 to 500." }],
    [501, 1, "gave", "gave", { count: "From 1 to 500." }],
    [2.5, 1, "gave", "gave", { count: "From 1 to 500." }],
    [6, 7, "gave", "gave", { clean: "At most the 6 asked." }],
    [6, -1, "gave", "gave", { clean: "A whole number, 0 or more." }],
    [6, 6, "none", "gave", { clean: "One that was not given is not clean: at least one less." }],
    [6, 6, "gave", "against", { clean: "One that was not given is not clean: at least one less." }],
  ] as const)("%d asked, %d clean, first %s, worst %s", (count, clean, first, worst, errors) => {
    expect(seriesErrors(count, clean, first, worst)).toEqual(errors);
  });
});
