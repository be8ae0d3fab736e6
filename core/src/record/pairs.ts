import { isAsk, type AskEvent, type RecordEvent } from "./types";

const PAIR_WINDOW_MS = 3000;
const rank = { gave: 0, neutral: 1, tried: 2, none: 3, against: 4 } as const;

/** The less clean of two sightings of one ask: the worse answer, then the heavier phase, then the tighter mood, then the id. */
function lessClean(a: AskEvent, b: AskEvent): AskEvent {
  const order =
    rank[a.answer] - rank[b.answer] ||
    (a.phase ?? 0) - (b.phase ?? 0) ||
    (a.mood ?? 0) - (b.mood ?? 0) ||
    (a.id < b.id ? 1 : -1);
  return order > 0 ? a : b;
}

/** Two sightings of one ask: the one that counts and the one left out. */
export interface Pair {
  kept: AskEvent;
  other: AskEvent;
}

/** Whether two asks are sightings of one: by two devices, of the same step and side, within three seconds. */
export const arePair = (a: AskEvent, b: AskEvent, timeOf: (event: RecordEvent) => number): boolean =>
  a.device !== undefined &&
  b.device !== undefined &&
  a.device !== b.device &&
  a.step === b.step &&
  (a.side ?? "none") === (b.side ?? "none") &&
  legOf(a) === legOf(b) &&
  Math.abs(timeOf(b) - timeOf(a)) <= PAIR_WINDOW_MS;

/** The leg an ask was of; a place of the hide one of the two may have left unsaid. */
const legOf = ({ part }: AskEvent): string => (part === "fore" || part === "hind" ? part : "");

/** Of two sightings of one ask the less clean one counts. */
export function pairUp(a: AskEvent, b: AskEvent): Pair {
  const kept = lessClean(a, b);
  return { kept, other: kept === a ? b : a };
}

/**
 * Asks that two devices both saw. An ask belongs to one pair at most: to the earliest that still waits for its second sighting.
 *
 * @param events what stands of one outing, in effective order
 * @param timeOf of `effectiveTimes`
 */
export function pairsOf(events: readonly RecordEvent[], timeOf: (event: RecordEvent) => number): Pair[] {
  if (!isOfTwoDevices(events)) return [];
  const pairs: Pair[] = [];
  // Within one step and side all that wait are of one device: two of different devices this near would be a pair.
  const waiting = new Map<string, Waiting>();
  for (const ask of inTime(events, timeOf)) {
    const key = `${ask.step}\n${ask.side ?? "none"}\n${legOf(ask)}`;
    const own = waiting.get(key) ?? { asks: [], from: 0 };
    waiting.set(key, own);
    let first = own.asks[own.from];
    while (first && timeOf(ask) - timeOf(first) > PAIR_WINDOW_MS) first = own.asks[(own.from += 1)];
    if (first && arePair(first, ask, timeOf)) {
      own.from += 1;
      pairs.push(pairUp(first, ask));
    } else own.asks.push(ask);
  }
  return pairs;
}

function isOfTwoDevices(events: readonly RecordEvent[]): boolean {
  let first: string | undefined;
  for (const { device } of events) {
    if (device !== undefined && first !== undefined && device !== first) return true;
    first ??= device;
  }
  return false;
}

/** Asks of one step and side that wait for their second sighting: those from a place on. */
interface Waiting {
  asks: AskEvent[];
  from: number;
}

/** Asks that a device recorded, by the time they count as; a corrected time may stand out of the order of the others. */
function inTime(events: readonly RecordEvent[], timeOf: (event: RecordEvent) => number): AskEvent[] {
  const asks = events.filter(isAsk).filter(({ device }) => device !== undefined);
  const isInTime = asks.every((ask, index) => {
    const before = asks[index - 1];
    return before === undefined || timeOf(before) <= timeOf(ask);
  });
  return isInTime ? asks : asks.toSorted((a, b) => timeOf(a) - timeOf(b));
}
