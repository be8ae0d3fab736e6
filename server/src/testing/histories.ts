import type { DeviceId, HorseId, OutingId } from "@still-pine/core/record";
import { SCHOOLS } from "@still-pine/core/programs";
import type { Offered } from "../recording/take-events";
import { seeded } from "./nonsense";

/**
 * Seeded histories of two horses, as bad as a season can make them: phones with wrong clocks that are measured late, days
 * corrected, entries struck out and brought back, corrections that come first, that fit nothing or that name another horse's
 * entry, programs and their editions changed, years mistyped; all of it sent in any order and in parts.
 */
export interface History {
  horses: [string, string];
  /** Batches in the order they are sent. */
  batches: Offered[][];
}

const STEPS = ["share-space", "flex", "first-touch", "halter-on", "yield-hind", "step-up-back", "step-back"] as const;
/** Of each the standard and one that is less; asks without either are of the former shape. */
const RUNGS: Readonly<Record<(typeof STEPS)[number], readonly string[]>> = {
  "share-space": ["1m-30s", "3m-10s"],
  flex: ["3s", "lean"],
  "first-touch": ["10s", "3s"],
  "halter-on": ["on-and-off", "held-round"],
  "yield-hind": ["90", "1-step"],
  "step-up-back": ["4", "2"],
  "step-back": ["4-straight", "2"],
};
const WITHOUT_SIDES: ReadonlySet<string> = new Set(["share-space", "step-up-back", "step-back"]);
const WITH_PHASE: ReadonlySet<string> = new Set(["flex", "yield-hind", "step-up-back", "step-back"]);
const OUTINGS = 6;
const DAY_SECONDS = 86_400;
/** Every so many corrections is sent for the other horse than the one it names. */
const STRANGER = 0.1;

/** @param key begins every id, so that many histories lie in one yard */
export function historyOf(seed: number, key: string): History {
  return new Story(seeded(seed), key).whole();
}

class Story {
  private readonly made: Offered[] = [];
  private readonly ids: { id: string; horse: HorseId; type: string }[] = [];
  private readonly horses: [string, string];
  private count = 0;

  constructor(
    private readonly random: () => number,
    private readonly key: string,
  ) {
    this.horses = [`${key}-a`, `${key}-b`];
  }

  whole(): History {
    for (const horse of this.horses) {
      const outings = horse === this.horses[0] ? OUTINGS : 2;
      for (let n = 0; n < outings; n += 1) this.outing(horse, n);
      this.ofHorse(horse);
    }
    const corrections = this.below(14);
    for (let n = 0; n < corrections; n += 1) this.correction();
    return { horses: this.horses, batches: this.inParts() };
  }

  private outing(horse: HorseId, n: number): void {
    const outing = `${horse}-o${n}`;
    const day = Date.parse("2026-05-01T08:00:00.000Z") + n * 2 * DAY_SECONDS * 1000;
    const at = (second: number): string => new Date(day + second * 1000).toISOString();
    const add = (second: number, event: Record<string, unknown>): void => {
      const isOdd = this.chance(0.01);
      this.add(horse, outing, { at: isOdd ? "2062-05-01T08:00:00.000Z" : at(second), ...event });
    };
    const device = this.pick([undefined, "x", "y"]);
    add(0, { type: "outing-start", place: `pen ${n % 2}`, handler: "M", ...this.by(device, 0) });
    const asks = this.below(9) + 1;
    for (let ask = 0; ask < asks; ask += 1) {
      const step = this.pick(STEPS);
      add(60 + this.below(40) * 2, {
        type: "ask",
        step,
        ...(WITHOUT_SIDES.has(step) ? {} : { side: this.pick(["near", "off"]) }),
        ...(WITH_PHASE.has(step) ? { phase: 1 } : {}),
        answer: this.chance(0.8) ? "gave" : "none",
        ...(this.chance(0.5) ? { v: 2, rung: this.pick(RUNGS[step]) } : {}),
        mood: this.pick([0, 1, 1, 3]),
        ...this.by(this.pick([device, "x", "y"]), ask + 1),
      });
    }
    if (this.chance(0.3)) add(20, { type: "head", weather: "rain", ...(this.chance(0.5) ? this.moved(day) : {}) });
    if (this.chance(0.35))
      add(this.below(300), {
        type: "clock-skew",
        of: this.pick(["x", "y"]),
        behindSeconds: this.pick([
          -3600,
          40,
          2 * DAY_SECONDS,
          5 * DAY_SECONDS,
          -9 * DAY_SECONDS,
          365 * DAY_SECONDS,
          9e8,
        ]),
      });
    if (this.chance(0.8)) add(1200, { type: "outing-end", ...this.by(device, 90) });
  }

  private ofHorse(horse: HorseId): void {
    const at = (): string => `2026-05-${String(this.below(20) + 1).padStart(2, "0")}T0${this.below(9)}:00:00.000Z`;
    const add = (event: Record<string, unknown>): void => this.add(horse, null, { at: at(), ...event });
    if (this.chance(0.3)) add({ type: this.pick(["rest", "return"]) });
    // On the first edition of the catalogue, on the second, or nobody says on which.
    const version = this.pick([{}, { programVersion: 1 }, { programVersion: 2 }, { programVersion: 3 }]);
    if (this.chance(0.4))
      add({ type: "program", program: this.pick(SCHOOLS).id, ...version, counted: ["flex", "step-up-back"] });
    if (this.chance(0.3))
      add({ type: "standard", step: this.pick(["flex", "step-up-back", "step-back"]), phase: 2, reason: "stiff" });
    if (this.chance(0.3))
      add({ type: "hold", step: this.pick(["flex", "step-up-back", "step-back"]), reason: "sore", by: "M" });
    if (this.chance(0.3)) add({ type: "in-full", step: this.pick(STEPS) });
    if (this.chance(0.2)) add({ type: "override", step: "share-space", reason: "known" });
  }

  private correction(): void {
    const target = this.pick(this.ids);
    const own = this.ids.filter(({ horse }) => horse === target.horse);
    const other = this.horses.find((one) => one !== target.horse) ?? target.horse;
    const horse = this.chance(STRANGER) ? other : target.horse;
    const place = this.chance(0.5) ? null : `${horse}-o${this.below(2)}`;
    const day = Date.parse("2026-05-01T09:00:00.000Z") + this.below(30) * DAY_SECONDS * 1000;
    const change = this.pick<() => Record<string, unknown>>([
      () => ({ void: true }),
      () => ({ void: true }),
      () => ({ with: { mood: 2 } }),
      () => ({ with: { at: new Date(day).toISOString() } }),
      () => ({ with: this.moved(day) }),
      () => ({ with: { phase: null, mood: null } }),
      () => ({ with: { answer: "none" } }),
    ])();
    // Of half of them the next one corrects the correction, or something told of before it.
    const replaces = this.chance(0.8) ? target.id : this.pick(own).id;
    const at = new Date(Date.parse("2026-05-20T10:00:00.000Z") + this.below(1000) * 1000).toISOString();
    this.add(horse, place, { at, type: "correction", replaces, ...change });
  }

  private moved(from: number): Record<string, unknown> {
    const to = from + (this.below(25) - 10) * DAY_SECONDS * 1000;
    return { startedAt: new Date(to).toISOString(), endedAt: new Date(to + 900_000).toISOString() };
  }

  private by(device: DeviceId | undefined, seq: number): Record<string, unknown> {
    return device === undefined ? {} : { device, seq };
  }

  private add(horse: HorseId, outing: OutingId | null, event: Record<string, unknown>): void {
    const id = `${this.key}-${(this.count += 1)}`;
    this.ids.push({ id, horse, type: String(event["type"]) });
    this.made.push({ horse, outing, event: { id, ...event } });
  }

  /** Shuffled as a whole, or nearly in order, as a phone sends it. */
  private inParts(): Offered[][] {
    const spread = this.pick([0, 5, 1000]);
    const shuffled = this.made
      .map((one, index) => ({ one, rank: index + this.random() * spread }))
      .toSorted((a, b) => a.rank - b.rank)
      .map(({ one }) => one);
    const batches: Offered[][] = [];
    for (let from = 0; from < shuffled.length;) {
      const size = 1 + this.below(30);
      batches.push(shuffled.slice(from, from + size));
      from += size;
    }
    return batches;
  }

  private below = (most: number): number => Math.floor(this.random() * most);
  private chance = (share: number): boolean => this.random() < share;
  private pick<T>(of: readonly T[]): T {
    return of[Math.floor(this.random() * of.length)] as T;
  }
}
