import type { EventBody, Mood, RecordEvent, Severity, DeviceId, OutingId } from "../record";
import { bodyOfPress, type AskLine } from "../recording";
import { randomFrom, type Random } from "../random";

/** Phones that record one outing together, each cut off from the others now and then, each with a clock of its own. */

/** One thing a phone does, in the order of true time. */
export type DeviceAct =
  /** It records an event. */
  | { do: "record"; device: DeviceId; event: RecordEvent }
  /** It hands over everything it has and takes what the others handed over; `lost`: the answer never arrives. */
  | { do: "meet"; device: DeviceId; lost: boolean; repeated: boolean; reversed: boolean }
  /** It is switched off and comes back with what lay on its disk. */
  | { do: "crash"; device: DeviceId };

export interface DeviceStory {
  seed: number;
  outing: OutingId;
  devices: readonly string[];
  acts: readonly DeviceAct[];
}

const START = Date.parse("2026-06-10T10:00:00Z");
const STEPS = ["yield-hind", "flex", "yield-fore"] as const;
const DEVICES_MOST = 6;
const HOUR_MS = 3_600_000;

/**
 * A story of up to six phones on one outing: asks, often seen by two of them, frights, changes of side and exercise, notes,
 * undone and corrected entries, clocks hours or a year out, some of them measured. The same for a seed always.
 *
 * @param seed any whole number
 * @param length how many acts there are about
 * @param steps ids of steps to ask for
 */
export function tellOfDevices(seed: number, length = 60, steps: readonly string[] = STEPS): DeviceStory {
  const random = randomFrom(seed);
  const whole = (most: number): number => Math.floor(random() * (most + 1));
  const scale = (): Mood => whole(4) as Mood;
  const pick = <Item>(list: readonly Item[]): Item => list[whole(list.length - 1)] as Item;
  const outing = `o-${seed}`;
  const devices = Array.from({ length: 1 + whole(DEVICES_MOST - 1) }, (_none, index) => `d${index}-${seed}`);
  const skew = new Map(devices.map((device) => [device, skewOf(random)]));
  const seqs = new Map<string, number>();
  const recorded: { device: DeviceId; event: RecordEvent }[] = [];
  const acts: DeviceAct[] = [];
  let now = START;
  const record = (device: DeviceId, fields: EventBody & { id?: string }): void => {
    const seq = (seqs.get(device) ?? 0) + 1;
    seqs.set(device, seq);
    const event: RecordEvent = {
      id: `${device}-${seq}`,
      at: new Date(now + (skew.get(device) ?? 0)).toISOString(),
      device,
      seq,
      ...fields,
    };
    recorded.push({ device, event });
    acts.push({ do: "record", device, event });
  };
  const side = () => pick(["near", "off"] as const);
  const line = (): AskLine => ({ step: pick(steps), side: side() });
  const ask = () =>
    ({
      press: "ask",
      answer: pick(["gave", "gave", "gave", "tried", "neutral", "none", "against"] as const),
      phase: scale(),
      mood: pick([0, 1, 1, 2, 3, 4] as const),
    }) as const;
  const [first = "d"] = devices;
  record(first, { id: `${outing}:start`, type: "outing-start", place: "Round pen", handler: "M" });
  for (let act = 0; act < length; act += 1) {
    now += whole(20_000);
    const device = pick(devices);
    const chance = random();
    if (chance < 0.12) acts.push({ do: "crash", device });
    else if (chance < 0.3)
      acts.push({ do: "meet", device, lost: random() < 0.3, repeated: random() < 0.3, reversed: random() < 0.3 });
    else if (chance < 0.62) {
      const asked = line();
      const seen = ask();
      record(device, bodyOfPress(seen, asked, now));
      const other = pick(devices);
      // The other one sees the same ask a moment later, maybe otherwise.
      if (other !== device && random() < 0.5) {
        now += whole(2500);
        const another = random() < 0.5 ? seen : { ...seen, mood: scale(), phase: scale() };
        record(other, bodyOfPress(another, asked, now));
      }
    } else if (chance < 0.7) record(device, bodyOfPress({ press: "side" }, { step: STEPS[0], side: side() }, now));
    else if (chance < 0.76) record(device, bodyOfPress({ press: "take-up" }, line(), now));
    else if (chance < 0.8) record(device, { type: "startle", size: (1 + whole(3)) as Severity });
    else if (chance < 0.83) record(device, { type: "note", text: `note ${act}` });
    else if (chance < 0.86 && skew.get(device) !== 0)
      record(device, { type: "clock-skew", of: device, behindSeconds: -(skew.get(device) ?? 0) / 1000 });
    else if (recorded.length > 1) {
      const target = pick(recorded.slice(1)).event;
      const isAsk = target.type === "ask";
      record(device, {
        type: "correction",
        replaces: target.id,
        ...(isAsk && random() < 0.5 ? { with: { mood: scale() } } : { void: true }),
      });
    }
  }
  for (const device of devices) acts.push({ do: "meet", device, lost: false, repeated: false, reversed: false });
  return { seed, outing, devices, acts };
}

/** Mostly right, sometimes hours out, now and then a year. */
function skewOf(random: Random): number {
  const chance = random();
  if (chance < 0.5) return 0;
  const sign = random() < 0.5 ? -1 : 1;
  if (chance < 0.7) return sign * Math.round(random() * 5) * 1000;
  if (chance < 0.9) return sign * Math.round(random() * 12) * HOUR_MS;
  return sign * 365 * 24 * HOUR_MS;
}
