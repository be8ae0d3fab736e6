import { vi } from "vitest";
import { InMemory, type KeptEvent, type KeptOuting } from "../outbox/kept";
import { PenSession } from "./session";

/** An outing in the pen, without a screen. Used by tests alone. */

export const OUTING: KeptOuting = {
  id: "o",
  horse: "h",
  horseName: "Moss",
  program: { id: "loose-pen-start", version: 2 },
  startedAt: new Date(1_000_000).toISOString(),
  exercises: ["flex", "lead"].map((step) => ({
    step,
    line: { count: 3, worth: "clean" as const },
    isNew: false,
    sticky: null,
    last: {},
  })),
  known: [],
  caps: { workingMinutes: 30, inHandMinutes: 60 },
  timeZone: "Europe/Dublin",
  words: "american",
  isOver: false,
  clockOffset: 0,
  dwellFrom: null,
};

/** A keeper whose device can be full, or slow. */
export class Fillable extends InMemory {
  isFull = false;
  /** What each writing waits for first. */
  slowness: Promise<void>[] = [];

  override async keepEvents(events: readonly KeptEvent[]): Promise<void> {
    await this.slowness.shift();
    if (this.isFull) throw new DOMException("no room", "QuotaExceededError");
    await super.keepEvents(events);
  }
}

let now = 1_000_000;
export const dials = { wall: () => now, steady: () => now };
export const pass = (ms: number): void => {
  now += ms;
  vi.advanceTimersByTime(ms);
};

/** Before each test: a clock that stands still, and a place for settings. */
export function setUp(): void {
  vi.useFakeTimers({ toFake: ["Date", "performance"] });
  now = 1_000_000;
  vi.setSystemTime(now);
  const kept = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
  });
}

export async function open(kept = new Fillable()): Promise<{ session: PenSession; kept: Fillable }> {
  if (!(await kept.outing("o"))) await kept.keepOuting(OUTING, []);
  const session = await PenSession.open("o", kept, dials);
  if (!session) throw new Error("not opened");
  return { session, kept };
}

export const settled = async (): Promise<void> => {
  for (let n = 0; n < 10; n += 1) await Promise.resolve();
};
export const typesOf = async (kept: Fillable): Promise<string[]> =>
  (await kept.events("o")).map(({ event }) => event.type);
