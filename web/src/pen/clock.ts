/** What a clock is read from; tests give their own. */
export interface Dials {
  /** The device's time of day, which a person may set. Milliseconds since 1970. */
  wall: () => number;
  /** Runs evenly, perhaps not while the device sleeps. Milliseconds. */
  steady: () => number;
}

const DEVICE: Dials = { wall: () => Date.now(), steady: () => performance.now() };

/** More than this between the two is no drift. */
const MOVED_MS = 2000;
/** Looked at every second while the page is awake: a longer gap was sleep. */
const ASLEEP_MS = 5000;

/**
 * The time of an outing. It goes on evenly when somebody sets the device's clock in the middle of it, and follows the clock
 * over a sleep, which also looks like a jump ahead.
 */
export class PenClock {
  private base: number;
  private steadyBase: number;
  private lastLook: number;

  /**
   * @param offset milliseconds to add to the device's clock, from an earlier move of it
   * @param onMoved the clock was set by so many milliseconds; the offset from now on
   */
  constructor(
    private offset: number,
    private readonly onMoved: (byMs: number, offset: number) => void,
    private readonly dials: Dials = DEVICE,
  ) {
    this.base = dials.wall() + offset;
    this.steadyBase = this.lastLook = dials.steady();
  }

  /** Milliseconds since 1970. Ask at least once a second while the page is awake. */
  now(): number {
    const steady = this.dials.steady();
    const wall = this.dials.wall() + this.offset;
    const even = this.base + (steady - this.steadyBase);
    const moved = wall - even;
    const wasAsleep = steady - this.lastLook > ASLEEP_MS;
    this.lastLook = steady;
    if (Math.abs(moved) < MOVED_MS || (moved > 0 && (wasAsleep || this.mayHaveSlept))) {
      this.mayHaveSlept = false;
      this.base = wall;
      this.steadyBase = steady;
      return wall;
    }
    this.mayHaveSlept = false;
    this.offset -= moved;
    this.base = even;
    this.steadyBase = steady;
    this.onMoved(moved, this.offset);
    return even;
  }

  private mayHaveSlept = false;

  /** The page comes back from the background: the steady dial may have stood still meanwhile. */
  woke(): void {
    this.mayHaveSlept = true;
  }
}
