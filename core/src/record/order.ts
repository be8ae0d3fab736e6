import type { DeviceId } from "./ids";
import { isWithinRecord } from "./day";
import type { ClockSkewEvent, RecordEvent } from "./types";

const compareText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

const Z = 90;
const endsInZ = (instant: string): boolean => instant.charCodeAt(instant.length - 1) === Z;

/** Instants of one shape, ending in Z, order as text. */
const orderAsText = (a: string, b: string): boolean => a.length === b.length && endsInZ(a) && endsInZ(b);

/** Which of two instants (ISO 8601) is earlier: negative where `a` is. */
export function compareInstants(a: string, b: string): number {
  if (orderAsText(a, b)) return compareText(a, b);
  return Date.parse(a) - Date.parse(b);
}

/** Order of events: time, then device, then that device's count, then id. */
export function compareEvents(a: RecordEvent, b: RecordEvent): number {
  const byTime = a.at === b.at ? 0 : compareInstants(a.at, b.at);
  if (byTime !== 0) return byTime;
  return compareText(a.device ?? "", b.device ?? "") || (a.seq ?? 0) - (b.seq ?? 0) || compareText(a.id, b.id);
}

/** What the events of an outing are as a whole, found in one pass: most outings have little of what is looked for. */
export interface Overview {
  /** They stand in effective order as far as their times say, each once. */
  inOrder: boolean;
  /** A device counted them, or its clock was measured: its count decides too. */
  counted: boolean;
  corrections: boolean;
  /** Clocks that were measured. */
  clocks: boolean;
  /** More than one device. */
  devices: boolean;
  /** What is said of how he goes. */
  carriage: boolean;
  /** What is said of the whole outing. */
  head: boolean;
}

/** No correction makes one kind of event another: what is not there is not there after corrections either. */
export function lookThrough(events: readonly RecordEvent[]): Overview {
  const seen: Overview = {
    inOrder: true,
    counted: false,
    corrections: false,
    clocks: false,
    devices: false,
    carriage: false,
    head: false,
  };
  let previous: RecordEvent | undefined;
  let before = "";
  let first: DeviceId | undefined;
  for (const event of events) {
    const { at, type, device } = event;
    const isPlainlyAfter = before < at && orderAsText(before, at);
    if (previous && !isPlainlyAfter && compareEvents(previous, event) >= 0) seen.inOrder = false;
    previous = event;
    before = at;
    if (device !== undefined) {
      first ??= device;
      if (device !== first) seen.devices = true;
      if (event.seq !== undefined && event.recordedAt === undefined) seen.counted = true;
    }
    switch (type) {
      case "ask":
        break;
      case "correction":
        seen.corrections = true;
        break;
      case "clock-skew":
        seen.clocks = true;
        seen.counted = true;
        break;
      case "gait":
      case "frame":
        seen.carriage = true;
        break;
      case "outing-start":
      case "outing-end":
      case "head":
        seen.head = true;
        break;
      default:
    }
  }
  return seen;
}

/**
 * The events of one outing in effective order, each once. A device whose clock was measured has its times moved by that; a
 * clock may jump back, and within one device the count decides, so an event is never placed before that device's previous
 * one. What was written up later keeps its own time.
 *
 * @param seen what they are as a whole, where that is known already
 */
export function orderEvents(
  events: readonly RecordEvent[],
  seen: Overview = lookThrough(events),
): readonly RecordEvent[] {
  const once = seen.inOrder ? events : dropRepeats(events.toSorted(compareEvents));
  return seen.counted ? byDeviceCount(once) : once;
}

function dropRepeats(sorted: RecordEvent[]): RecordEvent[] {
  return sorted.filter((event, index) => index === 0 || event.id !== sorted[index - 1]?.id);
}

function byDeviceCount(events: readonly RecordEvent[]): RecordEvent[] {
  const timeOf = effectiveTimes(events);
  return events.toSorted(
    (a, b) =>
      timeOf(a) - timeOf(b) ||
      compareText(a.device ?? "", b.device ?? "") ||
      (a.seq ?? 0) - (b.seq ?? 0) ||
      compareText(a.id, b.id),
  );
}

/**
 * When each event of an outing counts as having been, in milliseconds since 1970: its time, moved by its device's measured
 * clock, never before that device's previous one. A time that was corrected is the one that was said. Worked out when it is first
 * asked for: most outings have one device and no measured clock, and nobody asks.
 */
export function effectiveTimes(events: readonly RecordEvent[]): (event: RecordEvent) => number {
  let effective: ReturnType<typeof timesById> | null = null;
  return (event) => {
    const known = (effective ??= timesById(events)).get(event.id);
    return known && known.at === event.at ? known.time : Date.parse(event.at);
  };
}

function timesById(events: readonly RecordEvent[]): Map<string, { at: string; time: number }> {
  const effective = new Map<string, { at: string; time: number }>();
  const latest = new Map<string, number>();
  const behind = measuredClocks(events);
  for (const event of events.toSorted((a, b) => (a.seq ?? 0) - (b.seq ?? 0) || compareEvents(a, b))) {
    const { device, seq, at } = event;
    const isLive = device !== undefined && event.recordedAt === undefined;
    const said = Date.parse(at);
    const moved = isLive ? said + behind(device, at) : said;
    // A measurement that leads out of all years a record can hold is none to go by.
    const own = isWithinRecord(moved) ? moved : said;
    if (!isLive || seq === undefined) {
      effective.set(event.id, { at, time: own });
      continue;
    }
    const time = Math.max(own, latest.get(device) ?? own);
    // A clock that is measured is nothing that happened: what is written down after it may have been long before.
    if (!isClockSkew(event)) latest.set(device, time);
    effective.set(event.id, { at, time });
  }
  return effective;
}

/**
 * Events with the times they count as: those of a device whose clock was measured say when it really was; all others stay as
 * they are.
 *
 * @param timeOf of `effectiveTimes` over all events of the outing
 */
export function withMeasuredTimes(
  events: readonly RecordEvent[],
  timeOf: (event: RecordEvent) => number,
): readonly RecordEvent[] {
  if (!events.some(isClockSkew)) return events;
  const measured = new Set(events.filter(isClockSkew).map((event) => event.of));
  return events.map((event) => {
    if (event.device === undefined || event.recordedAt !== undefined || !measured.has(event.device)) return event;
    const at = timeOf(event);
    return at === Date.parse(event.at) ? event : { ...event, at: new Date(at).toISOString() };
  });
}

/** When each event of an outing was, by its device's clock set right where that was measured; else as it says itself. */
export function measuredTimes(events: readonly RecordEvent[]): (event: RecordEvent) => string {
  if (!events.some(isClockSkew)) return ({ at }) => at;
  const times = new Map(withMeasuredTimes(events, effectiveTimes(events)).map(({ id, at }) => [id, at]));
  return ({ id, at }) => times.get(id) ?? at;
}

export const isClockSkew = (event: RecordEvent): event is ClockSkewEvent & RecordEvent => event.type === "clock-skew";

/** Milliseconds to add to what a device says: by its last measurement before that moment of its own clock, else its first. */
export function measuredClocks(events: readonly RecordEvent[]): (device: DeviceId, at: string) => number {
  const byDevice = new Map<string, { at: number; behindMs: number }[]>();
  for (const event of events.filter(isClockSkew).toSorted(compareEvents)) {
    const measured = byDevice.get(event.of);
    const one = { at: Date.parse(event.at), behindMs: event.behindSeconds * 1000 };
    if (measured) measured.push(one);
    else byDevice.set(event.of, [one]);
  }
  return (device, at) => {
    const measured = byDevice.get(device);
    if (!measured) return 0;
    const moment = Date.parse(at);
    let from = 0;
    let to = measured.length;
    while (from < to) {
      const middle = (from + to) >> 1;
      if ((measured[middle]?.at ?? Infinity) <= moment) from = middle + 1;
      else to = middle;
    }
    return measured[Math.max(0, from - 1)]?.behindMs ?? 0;
  };
}
