import { isCorrection, orderEvents, resolveCorrections, type CorrectionEvent, type RecordEvent } from "../record";
import { startOuting, takeEvent, type OutingState } from "./state";
import type { OutingPlan } from "./types";

/** An outing folded from all its events at once: ordered, each once, corrections applied. */
export function foldOuting(plan: OutingPlan, events: readonly RecordEvent[]): OutingState {
  const history = orderEvents(events);
  const { standingOf } = resolveCorrections(history);
  let state = startOuting(plan);
  for (const event of history) {
    if (isCorrection(event)) continue;
    const standing = standingOf(event);
    if (!standing.voided) state = takeEvent(state, standing.event, plan);
  }
  return state;
}

/** States are kept before each of the last so many events, and before every so many earlier ones. */
const RECENT = 128;
const CHECKPOINT = 64;

/**
 * The same outing, one event after another: what an event costs does not grow with the outing. A correction goes back to the
 * last state kept before what it corrects. Gives the very state `foldOuting` gives.
 */
export class LiveOuting {
  /** Events that are no corrections, in their order. */
  private readonly events: RecordEvent[] = [];
  private readonly places = new Map<string, number>();
  private readonly corrections: CorrectionEvent[] = [];
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

  /** Takes one more event; one that was taken before changes nothing. */
  take(event: RecordEvent): OutingState {
    if (this.seen.has(event.id)) return this.latest;
    if (this.isOutOfOrder(event)) return this.foldAnew(event);
    this.seen.add(event.id);
    this.all.push(event);
    if (isCorrection(event)) this.correct(event);
    else this.append(event);
    return this.latest;
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
    const last = this.all.at(-1);
    if (!last) return false;
    if (event.device !== last.device || event.recordedAt !== undefined || last.recordedAt !== undefined) return true;
    return event.seq === undefined || last.seq === undefined || event.seq <= last.seq;
  }

  /** What came from another device, or late, may stand anywhere. */
  private foldAnew(event: RecordEvent): OutingState {
    const ordered = orderEvents([...this.all, event]);
    this.all = [];
    for (const held of [this.events, this.corrections]) held.length = 0;
    for (const index of [this.places, this.byTarget, this.seen, this.states, this.standings]) index.clear();
    this.latest = startOuting(this.plan);
    this.top = this.valid = -1;
    for (const one of ordered) {
      this.seen.add(one.id);
      this.all.push(one);
      if (isCorrection(one)) this.note(one);
      else {
        this.places.set(one.id, this.events.length);
        this.events.push(one);
      }
    }
    for (let index = 0; index < this.events.length; index += 1) this.step(index);
    return this.latest;
  }

  private append(event: RecordEvent): void {
    this.places.set(event.id, this.events.length);
    this.events.push(event);
    // Between them lie only struck-out ones: before each of those it stood as it stands now.
    for (let index = this.valid + 1; index < this.events.length; index += 1) this.step(index);
  }

  private note(correction: CorrectionEvent): void {
    this.corrections.push(correction);
    this.byTarget.set(correction.replaces, [...(this.byTarget.get(correction.replaces) ?? []), correction]);
  }

  private correct(correction: CorrectionEvent): void {
    this.note(correction);
    let target: string | undefined = correction.replaces;
    for (let steps = 0; target !== undefined && steps <= this.corrections.length; steps += 1) {
      const place = this.places.get(target);
      if (place !== undefined) {
        this.standings.delete(target);
        this.foldFrom(place);
        return;
      }
      target = this.corrections.find(({ id }) => id === target)?.replaces;
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
    this.latest = takeEvent(this.latest, now, this.plan);
    this.top = index;
  }

  private standing(event: RecordEvent): RecordEvent | null {
    const direct = this.byTarget.get(event.id);
    if (!direct) return event;
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

  /** Corrections of an event, and of those, in the order they came. */
  private chainOf(id: string): CorrectionEvent[] {
    const chain = new Set<CorrectionEvent>();
    const visit = (target: string): void => {
      for (const one of this.byTarget.get(target) ?? [])
        if (!chain.has(one)) {
          chain.add(one);
          visit(one.id);
        }
    };
    visit(id);
    return this.corrections.filter((one) => chain.has(one));
  }
}
