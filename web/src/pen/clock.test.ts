import { describe, expect, it } from "vitest";
import { PenClock } from "./clock";

/** Two dials a test turns by hand. */
function dials() {
  const hands = { wall: 1_000_000, steady: 0 };
  return {
    hands,
    dials: { wall: () => hands.wall, steady: () => hands.steady },
    pass: (ms: number): void => {
      hands.wall += ms;
      hands.steady += ms;
    },
  };
}

describe("the pen's clock", () => {
  it("goes with the device's, a little drift included", () => {
    const { dials: read, hands, pass } = dials();
    const moves: number[] = [];
    const clock = new PenClock(0, (by) => moves.push(by), read);
    pass(1000);
    expect(clock.now()).toBe(1_001_000);
    hands.wall += 400;
    pass(1000);
    expect(clock.now()).toBe(1_002_400);
    expect(moves).toEqual([]);
  });

  it("goes on evenly when the clock is set ahead or back, and says by how much", () => {
    for (const jump of [3 * 3_600_000, -3_600_000]) {
      const { dials: read, hands, pass } = dials();
      const moves: [number, number][] = [];
      const clock = new PenClock(0, (by, offset) => moves.push([by, offset]), read);
      pass(1000);
      clock.now();
      hands.wall += jump;
      pass(1000);
      expect(clock.now()).toBe(1_002_000);
      pass(1000);
      expect(clock.now()).toBe(1_003_000);
      expect(moves).toEqual([[jump, -jump]]);
      // After a reload it starts from the offset that was kept.
      expect(new PenClock(-jump, () => undefined, read).now()).toBe(1_003_000);
    }
  });

  it("takes a sleep for a sleep: time passed, nobody set the clock", () => {
    const { dials: read, hands, pass } = dials();
    const moves: number[] = [];
    const clock = new PenClock(0, (by) => moves.push(by), read);
    pass(1000);
    clock.now();
    // The steady dial stands still while the device sleeps; the page is told that it woke.
    hands.wall += 600_000;
    clock.woke();
    expect(clock.now()).toBe(1_601_000);
    // Or it went on, and nobody looked for a while.
    pass(900_000);
    hands.wall += 5000;
    expect(clock.now()).toBe(2_506_000);
    expect(moves).toEqual([]);
  });
});
