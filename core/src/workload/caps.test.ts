import { describe, expect, it } from "vitest";
import { capsFor } from ".";

/** Still Pine's own judgement, no published source: what is checked is the order and the edges, not the numbers' truth. */
describe("minutes for an age", () => {
  it("are those of the younger age up to the day of the birthday", () => {
    expect([0, 11, 12, 23, 24, 35, 36, 47, 48, 200].map((months) => capsFor(months).workingMinutes)).toEqual([
      15, 15, 20, 20, 25, 25, 40, 40, 45, 45,
    ]);
  });

  it("never shrink with age, and never leave more work than time in hand", () => {
    for (let months = 1; months < 120; months += 1) {
      const [before, now] = [capsFor(months - 1), capsFor(months)];
      expect(now.workingMinutes).toBeGreaterThanOrEqual(before.workingMinutes);
      expect(now.inHandMinutes).toBeGreaterThanOrEqual(before.inHandMinutes);
      expect(now.workingMinutes).toBeLessThanOrEqual(now.inHandMinutes);
    }
  });
});
