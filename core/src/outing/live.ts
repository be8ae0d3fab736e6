import {
  arePair,
  compareEvents,
  isAsk,
  isClockSkew,
  isCorrection,
  orderEvents,
  pairUp,
  resolveCorrections,
  saysCarriage,
  spoiltByCarriage,
  standingEvents,
  type AskEvent,
  type CorrectionEvent,
  type RecordEvent,
  withCarriage,
  withFault,
} from "../record";
import { startOuting, takeEvent } from "./state";
import { type OutingState } from "./state-types";
import type { OutingPlan } from "./types";

/**
 * An outing folded from all its events at once: ordered, each once, corrections applied, what two devices saw counted once,
 * times of a measured clock set right.
 */
export function foldOuting(plan: OutingPlan, events: readonly RecordEvent[]): OutingState {
  const counted = withCarriage(standingEvents(orderEvents(events)).events);
  return counted.reduce((state, event) => takeEvent(state, event, plan), startOuting(plan));
}

/** States are kept before each of the last so many events, and before every so many earlier ones. */
const RECENT = 128;
const CHECKPOINT = 64;
/** More asks than two people can tap within the seconds in which one is seen twice. */
const OPEN_MOST = 64;

const isCarriage = ({ type }: RecordEvent): boolean => type === "frame" || type === "gait";

/**
 * The same outing, one event after another: what an event costs does not grow with the outing. A correction goes back to the
 * last state kept before what it corrects. Gives the very state `foldOuting` gives.
 */
export class LiveOuting {
  /** Events that are no corrections, in their order. */
  private readonly events: RecordEvent[] = [];
  private readonly places = new Map<string, number>();
  private readonly correctionOf = new Map<string, CorrectionEvent>();
  private readonly byTarget = new Map<string, CorrectionEvent[]>();
  private readonly seen = new Set<string>();
  /** The state before an event, by its place. */
  private readonly states = new Map<number, OutingState>();
  /** Corrected events as they stand, null where struck out; worked out once. */
  private readonly standings = new Map<string, RecordEvent | null>();
  private latest: OutingState;
  /** Place of the last event that stands. */
  private top = -1;
  /** Up to here the states kept are right. */
  private valid = -1;
  private all: RecordEvent[] = [];
  /** How far each device has come. */
  private readonly devices = new Map<string, { seq: number; time: number }>();
  /** Of two sightings of one ask the one that does not count. */
  private readonly leftOut = new Set<string>();
  /** Asks of the last seconds that may still be seen by another device. */
  private open: AskEvent[] = [];
  /** What how he went spoiled, and of which asks. */
  private spoilt: ReturnType<typeof spoiltByCarriage> = new Map();
  /** All that was said of how he goes. */
  private carriage: RecordEvent[] = [];
  /** A clock was measured: times are worked out from the whole. */
  private isMeasured = false;

  constructor(readonly plan: OutingPlan) {
    this.latest = startOuting(plan);
  }

  get state(): OutingState {
    return this.latest;
  }

  /** Everything taken so far, corrections too, in the order it came. */
  get history(): readonly RecordEvent[] {
    return this.all;
  }

  /** More than one device has recorded here. */
  get hasOthers(): boolean {
    return this.devices.size > 1;
  }

  /** Whether an event was taken before. */
  has(id: string): boolean {
    return this.seen.has(id);
  }

  /** Takes one more event; one that was taken before changes nothing. */
  take(event: RecordEvent): OutingState {
    if (this.seen.has(event.id)) return this.latest;
    if (this.isOutOfOrder(event)) return this.foldAnew([event]);
    this.seen.add(event.id);
    this.all.push(event);
    this.hasCome(event, Date.parse(event.at));
    if (isCorrection(event)) this.correct(event);
    else this.append(event);
    return this.latest;
  }

  /** Takes what another device recorded, as it comes in. Costs one look through the outing where any of it is late. */
  takeAll(events: readonly RecordEvent[]): OutingState {
    const fresh = events.filter(({ id }) => !this.seen.has(id));
    const late = fresh.findIndex((event) => {
      if (this.isOutOfOrder(event)) return true;
      this.take(event);
      return false;
    });
    return late < 0 ? this.latest : this.foldAnew(fresh.slice(late));
  }

  /** The last entry of those that `which` lets through that was not struck out, whether it counts or another sighting of it does. */
  lastRecorded(which: (event: RecordEvent) => boolean): RecordEvent | undefined {
    for (let index = this.events.length - 1; index >= 0; index -= 1) {
      const event = this.events[index];
      const now = event && (this.leftOut.has(event.id) ? event : this.standing(event));
      if (now && which(now)) return now;
    }
    return undefined;
  }

  /** The last entry that stands, of those that `which` lets through. */
  lastStanding(which: (event: RecordEvent) => boolean = () => true): RecordEvent | undefined {
    for (let index = this.top; index >= 0; index -= 1) {
      const event = this.events[index];
      const now = event && this.standing(event);
      if (now && which(now)) return now;
    }
    return undefined;
  }

  private isOutOfOrder(event: RecordEvent): boolean {
    if (this.isMeasured || isClockSkew(event)) return true;
    // A correction between two devices may part a pair, or make one.
    if (isCorrection(event) && this.devices.size > 1) return true;
    const last = this.all.at(-1);
    if (!last) return false;
    const { device, seq, recordedAt } = event;
    if (device === undefined || seq === undefined || recordedAt !== undefined) return true;
    if (last.device === undefined || last.seq === undefined || last.recordedAt !== undefined) return true;
    const own = this.devices.get(device);
    if (own && seq <= own.seq) return true;
    // From the second device on asks are looked at for pairs; what stands before it has to be known for that.
    if (!own && this.devices.size === 1) return true;
    const lastTime = Math.max(...[...this.devices.values()].map(({ time }) => time));
    const time = Math.max(Date.parse(event.at), own?.time ?? -Infinity);
    if (time !== lastTime) return time < lastTime;
    return compareEvents({ ...last, at: "" }, { ...event, at: "" }) >= 0;
  }

  /** What came from another device, or late, may stand anywhere. */
  private foldAnew(late: readonly RecordEvent[]): OutingState {
    const ordered = orderEvents([...this.all, ...late]);
    this.all = [];
    this.events.length = 0;
    for (const index of [
      this.correctionOf,
      this.places,
      this.byTarget,
      this.seen,
      this.states,
      this.standings,
      this.devices,
      this.leftOut,
    ])
      index.clear();
    this.latest = startOuting(this.plan);
    this.top = this.valid = -1;
    this.open = [];
    for (const one of ordered) {
      this.seen.add(one.id);
      this.all.push(one);
      this.isMeasured ||= isClockSkew(one);
      if (isCorrection(one)) this.note(one);
      else {
        this.places.set(one.id, this.events.length);
        this.events.push(one);
      }
    }
    const { stood, pairs, events, timeOf } = standingEvents(ordered);
    for (const one of ordered) this.hasCome(one, timeOf(one));
    for (const { other } of pairs) this.leftOut.add(other.id);
    for (const one of this.events) this.standings.set(one.id, null);
    for (const one of events) this.standings.set(one.id, one);
    const paired = new Set(pairs.flatMap(({ kept, other }) => [kept.id, other.id]));
    this.open = stood
      .filter(isAsk)
      .filter(({ id }) => !paired.has(id))
      .slice(-OPEN_MOST);
    this.carriage = this.events.filter(isCarriage);
    this.spoilt = this.spoiltNow();
    for (let index = 0; index < this.events.length; index += 1) this.step(index);
    return this.latest;
  }

  private hasCome({ device, seq, recordedAt }: RecordEvent, time: number): void {
    if (device === undefined || seq === undefined || recordedAt !== undefined) return;
    const own = this.devices.get(device);
    this.devices.set(device, {
      seq: Math.max(seq, own?.seq ?? -Infinity),
      time: Math.max(time, own?.time ?? -Infinity),
    });
  }

  private append(event: RecordEvent): void {
    this.places.set(event.id, this.events.length);
    this.events.push(event);
    const first = isAsk(event) ? this.seenBefore(event) : undefined;
    if (first && isAsk(event)) {
      const { other } = pairUp(first, event);
      this.leftOut.add(other.id);
      const place = this.places.get(first.id);
      if (other === first && place !== undefined) this.foldFrom(place);
    }
    if (isCarriage(event)) this.carriage.push(event);
    this.spoilAnew();
    // Between them lie only struck-out ones: before each of those it stood as it stands now.
    for (let index = this.valid + 1; index < this.events.length; index += 1) this.step(index);
  }

  /** The sighting by another device that an ask is the second of; where there is none it waits for one itself. */
  private seenBefore(ask: AskEvent): AskEvent | undefined {
    if (ask.device === undefined) return undefined;
    const timeOf = (event: RecordEvent): number => Date.parse(event.at);
    const first = this.devices.size < 2 ? undefined : this.open.find((one) => arePair(one, ask, timeOf));
    if (first) this.open = this.open.filter((one) => one !== first);
    else this.open = [...this.open.slice(1 - OPEN_MOST), ask];
    return first;
  }

  private note(correction: CorrectionEvent): void {
    this.correctionOf.set(correction.id, correction);
    const before = this.byTarget.get(correction.replaces);
    if (before) before.push(correction);
    else this.byTarget.set(correction.replaces, [correction]);
  }

  private correct(correction: CorrectionEvent): void {
    this.note(correction);
    const passed = new Set<string>();
    let target: string | undefined = correction.replaces;
    while (target !== undefined && !passed.has(target)) {
      const place = this.places.get(target);
      if (place !== undefined) {
        this.standings.delete(target);
        this.foldFrom(place);
        this.spoilAnew();
        return;
      }
      passed.add(target);
      target = this.correctionOf.get(target)?.replaces;
    }
  }

  /** Folds again from an event on; before it nothing has changed, and after the last that stands there is nothing to fold. */
  private foldFrom(place: number): void {
    const isBeyond = place > this.top;
    if (isBeyond && !this.stands(place)) return;
    const end = Math.max(this.top, place);
    const known = Math.min(place, this.valid);
    const from = this.states.has(known) ? known : Math.floor(Math.max(0, known) / CHECKPOINT) * CHECKPOINT;
    this.latest = this.states.get(from) ?? startOuting(this.plan);
    this.top = from - 1;
    while (this.top >= 0 && !this.stands(this.top)) this.top -= 1;
    for (let index = from; index <= end; index += 1) this.step(index);
  }

  private stands(index: number): boolean {
    const event = this.events[index];
    return event !== undefined && this.standing(event) !== null;
  }

  private step(index: number): void {
    this.states.set(index, this.latest);
    const old = index - RECENT;
    if (old >= 0 && old % CHECKPOINT !== 0) this.states.delete(old);
    const event = this.events[index];
    const now = event && this.standing(event);
    this.valid = index;
    if (!now) return;
    this.latest = takeEvent(this.latest, withFault(now, this.spoilt), this.plan);
    this.top = index;
  }

  private spoiltNow(): ReturnType<typeof spoiltByCarriage> {
    const standing = (events: readonly RecordEvent[]): RecordEvent[] =>
      events.flatMap((event) => this.standing(event) ?? []);
    return standing(this.carriage).some(saysCarriage) ? spoiltByCarriage(standing(this.events)) : new Map();
  }

  /** What was said of how he goes, or the spurt it belongs to, has changed: asks before may be spoiled now, or no longer. */
  private spoilAnew(): void {
    if (this.carriage.length === 0) return;
    const before = this.spoilt;
    this.spoilt = this.spoiltNow();
    const changed = [...before.keys(), ...this.spoilt.keys()].filter((id) => before.get(id) !== this.spoilt.get(id));
    const first = Math.min(...changed.map((id) => this.places.get(id) ?? Infinity));
    if (first <= this.valid) this.foldFrom(first);
  }

  private standing(event: RecordEvent): RecordEvent | null {
    if (this.leftOut.has(event.id)) return null;
    const direct = this.byTarget.get(event.id);
    if (!direct) return (this.isMeasured && this.standings.get(event.id)) || event;
    // The usual undo, and nothing said of it since.
    const [only] = direct;
    if (direct.length === 1 && only?.void && !this.byTarget.has(only.id)) return null;
    const known = this.standings.get(event.id);
    if (known !== undefined) return known;
    const now = resolveCorrections([event, ...this.chainOf(event.id)]).standingOf(event);
    const stands = now.voided ? null : now.event;
    this.standings.set(event.id, stands);
    return stands;
  }

  /** Corrections of an event, and of those. */
  private chainOf(id: string): CorrectionEvent[] {
    const chain = new Set<CorrectionEvent>();
    const open = [id];
    for (let target = open.pop(); target !== undefined; target = open.pop())
      for (const one of this.byTarget.get(target) ?? [])
        if (!chain.has(one)) {
          chain.add(one);
          open.push(one.id);
        }
    return [...chain];
  }
}
