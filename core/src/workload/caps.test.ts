import { describe, expect, it } from "vitest";
import { capsFor, leftOf } from ".";

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

  it("are a two-year-old's from eighteen years on", () => {
    expect(capsFor(18 * 12 - 1).workingMinutes).toBe(45);
    expect(capsFor(18 * 12)).toEqual({
      ...capsFor(30),
      name: "an old horse",
      look: "joints, teeth and eyes",
    });
  });

  it("are those of one day, however many outings it has", () => {
    const caps = { workingMinutes: 25, inHandMinutes: 45 };
    expect(leftOf(caps, { working: 0, inHand: 0 })).toEqual(caps);
    expect(leftOf(caps, { working: 10.2, inHand: 30 })).toEqual({ workingMinutes: 14, inHandMinutes: 15 });
    // Something easy to end on is always left.
    expect(leftOf(caps, { working: 60, inHand: 90 })).toEqual({ workingMinutes: 5, inHandMinutes: 5 });
  });
});
