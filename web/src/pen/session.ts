import { findStep, sidesOf, type SideKey } from "@still-pine/core/programs";
import {
  advise,
  againstGate,
  Lines,
  LiveOuting,
  pressUnderWatch,
  type AskPress,
  type OutingPlan,
  type OutingState,
} from "@still-pine/core/outing";
import {
  isAsk,
  isClockSkew,
  isCorrection,
  measuredTimes,
  type Answer,
  type EventBody,
  type RecordEvent,
  type AskEvent,
  type StepId,
} from "@still-pine/core/record";
import { bodyOfPress, type AskDetails, type AskLine, type LineChange, type Press } from "@still-pine/core/recording";
import { deviceId } from "../outbox/device";
import { stamp } from "../outbox/stamp";
import { atHand, isOfLine, sideAfter, sideToBegin } from "./at-hand";
import { AfterPaint } from "./after-paint";
import { beTheBeginner } from "./begin";
import { Presses, SAME_ASK_MS } from "./presses";
import { Writing } from "./writing";
import { OwnTime } from "./own-time";
import { PenClock, type Dials } from "./clock";
import { holding, type Holder } from "../outbox/holding";
import { mediaOf } from "../media/media-of";
import type { Upload } from "../media/prepare";
import { planOf } from "../outbox/plan-of";
import { keeper, type Keeper, type KeptEvent, type KeptOuting } from "../outbox/kept";
import { isEntry, type Cell, type Hooks, type Keeping, type Snapshot } from "./snapshot";

/**
 * One running outing on this device: takes presses, keeps each on the device at once, and says how it stands. Knows nothing of
 * the screen.
 */
export class PenSession implements Holder {
  /** Its beginning moves when a clock is measured. */
  readonly plan: { -readonly [Field in keyof OutingPlan]: OutingPlan[Field] };
  private readonly live: LiveOuting;
  private readonly clock: PenClock;
  private readonly drawing = new AfterPaint();
  private readonly lines: Lines;
  private readonly time = new OwnTime(() => this.clock.now());
  private snapshot: Snapshot;
  private lastEntryAt = -Infinity;
  private readonly presses = new Presses();
  private readonly writing: Writing;
  private hooks: Hooks = { onKept: () => undefined, onVerb: () => undefined };

  private constructor(
    readonly outing: KeptOuting,
    events: readonly KeptEvent[],
    private readonly kept: Keeper,
    dials?: Dials,
  ) {
    this.plan = planOf(outing);
    this.live = new LiveOuting(this.plan);
    this.lines = new Lines(this.plan, outing.lines);
    this.lines.hear(events.map(({ event }) => event).filter((event) => !this.isOwn(event)));
    this.writing = new Writing(outing.id, kept, this, {
      onWritten: (written) => this.hooks.onWritten?.(written),
      onPageOnly: (pageOnly) => this.change({ pageOnly }),
      tell: (event, keeping) => this.tell(event, keeping),
    });
    this.setClock(events.map(({ event }) => event));
    this.live.takeAll(events.map(({ event }) => event));
    this.clock = new PenClock(
      outing.clockOffset,
      (byMs, offset) => {
        void this.kept.changeOuting(outing.id, { clockOffset: offset });
        this.add({ type: "clock-moved", bySeconds: Math.round(byMs / 1000) });
      },
      dials,
    );
    this.snapshot = {
      state: this.live.state,
      advice: this.adviceAt(this.live.state),
      armed: "gave",
      last: this.lastOwn(),
      keeping: "kept",
      pageOnly: 0,
      dwellFrom: outing.dwellFrom,
      line: this.lineOf(this.live.state),
      isOver: outing.isOver,
      fromOther: this.live.lastStanding((event) => isEntry(event) && !this.isOwn(event)) ?? null,
      isEndedElsewhere: this.isEndedElsewhere(),
    };
  }

  /** Takes up an outing this device keeps, as it was left; null where it keeps none of that id. */
  static async open(id: string, kept?: Keeper, dials?: Dials): Promise<PenSession | null> {
    const from = kept ?? (await keeper());
    const before = holding.get(id);
    // What only this page holds goes on with the session that holds it.
    if (before instanceof PenSession && before.unkept.length > 0) return before;
    const outing = await from.outing(id);
    if (!outing) return null;
    const events = await from.events(id);
    if (!outing.isJoined) beTheBeginner(outing, events);
    return new PenSession(outing, events, from, dials);
  }

  private readonly device = deviceId();

  private isOwn = ({ device }: RecordEvent): boolean => device === undefined || device === this.device;

  /** An entry is taken back where it was recorded. */
  private lastOwn(): RecordEvent | null {
    const isTheirs = (event: RecordEvent): boolean => isEntry(event) && this.isOwn(event);
    // Alone, what stands is what was recorded, and is found at once.
    return (this.live.hasOthers ? this.live.lastRecorded(isTheirs) : this.live.lastStanding(isTheirs)) ?? null;
  }

  private isEndedElsewhere(): boolean {
    return this.live.history.some((event) => event.type === "outing-end" && !this.isOwn(event));
  }

  /**
   * Takes what another device, or another page of this one, recorded.
   *
   * @param isKept whether it lies on this device already
   */
  async receive(events: readonly RecordEvent[], isKept: boolean): Promise<void> {
    const fresh = events.filter(({ id }) => !this.live.has(id));
    if (fresh.length === 0) return;
    if (!isKept) {
      const { id: outing, horse } = this.outing;
      await this.kept
        .keepEvents(fresh.map((event): KeptEvent => ({ outing, horse, event, sent: 1 })))
        // The server has them; a device without room shows them all the same.
        .catch(() => undefined);
    }
    const before = this.snapshot.advice;
    if (fresh.some(isClockSkew)) this.setClock([...this.live.history, ...fresh]);
    this.lines.hear(fresh.filter((event) => !this.isOwn(event)));
    const state = this.live.takeAll(fresh);
    const advice = this.adviceAt(state);
    const theirs = fresh.findLast((event) => isEntry(event) && !this.isOwn(event));
    this.change({
      state,
      advice,
      last: this.lastOwn(),
      ...(theirs ? { fromOther: theirs } : {}),
      isEndedElsewhere: this.isEndedElsewhere(),
    });
    if (advice.verb !== before.verb) this.hooks.onVerb(advice);
  }

  read = (): Snapshot => this.snapshot;

  readonly subscribe = this.drawing.subscribe;

  listen(hooks: Partial<Hooks>): void {
    this.hooks = { ...this.hooks, ...hooks };
  }

  get isLasting(): boolean {
    return this.kept.isLasting;
  }

  /** Milliseconds since 1970 as they really are, as far as this device's clock was measured. */
  now(): number {
    return Math.max(this.time.real(), this.live.state.at);
  }

  /** Takes over what is known of this device's clock; the outing's beginning moves with it. */
  private setClock(events: readonly RecordEvent[]): void {
    this.time.learn(events.filter(this.isOwn), this.device);
    const start = events.find(({ id }) => id === `${this.outing.id}:start`);
    if (start && events.some(isClockSkew)) this.plan.startedAt = measuredTimes(events)(start);
  }

  woke = (): void => this.clock.woke();

  /** Called every second: the coach knows the minutes. */
  tick(): void {
    const advice = this.adviceAt(this.live.state);
    if (advice.reason !== this.snapshot.advice.reason || advice.verb !== this.snapshot.advice.verb)
      this.change({ advice });
  }

  /** The exercise and side at hand. */
  get here(): AskLine {
    return atHand(this.live.state, this.plan);
  }

  private adviceAt = (state: OutingState): Snapshot["advice"] =>
    advise(state, this.plan, this.now(), { step: atHand(state, this.plan).step, rung: this.lineOf(state).rung });

  private lineOf(state: OutingState): AskDetails {
    const { step, side } = atHand(state, this.plan);
    return this.lines.of(step, side);
  }

  /** Another rung, another setting: what every ask of this exercise and side says from now on. */
  say(change: LineChange): void {
    const { step, side } = this.here;
    const lines = this.lines.change(step, side, change);
    this.change({ line: this.lines.of(step, side) });
    this.tick();
    void this.kept.changeOuting(this.outing.id, { lines }).catch(() => undefined);
  }

  /** One press on the pad is one ask. @returns whether it was taken, or was the same press twice */
  press(cell: Cell, onceOnly: boolean, waitSeconds?: number): boolean {
    const { step, side } = this.here;
    const { armed } = this.snapshot;
    if (
      this.presses.isTwice(
        `${step} ${side} ${armed} ${cell.phase ?? "-"} ${cell.mood} ${JSON.stringify(this.snapshot.line)}`,
        onceOnly,
      )
    )
      return false;
    this.snapshot = { ...this.snapshot, armed: "gave" };
    this.ask({ press: "ask", answer: armed, ...cell, ...(waitSeconds === undefined ? {} : { waitSeconds }) });
    return true;
  }

  /** Another answer than gave: of the ask just recorded, of the next one, or pressed twice of one without a feel. */
  answer(answer: Answer, onceOnly: boolean): void {
    if (this.presses.isTwice(`answer ${answer}`, onceOnly)) return;
    const { last, armed } = this.snapshot;
    if (armed === answer && (answer === "none" || answer === "against" || answer === "tried")) {
      this.snapshot = { ...this.snapshot, armed: "gave" };
      this.ask({ press: "ask", answer });
    } else if (last && isAsk(last) && last.answer === "gave" && this.isJustNow(last))
      this.correct(last.id, { with: { answer } });
    else this.change({ armed: armed === answer ? "gave" : answer });
  }

  /** Whether an ask was recorded a moment ago, of what is at hand still: after a change of step, side or line an answer is of the next. */
  private isJustNow(ask: AskEvent): boolean {
    const line = { ...this.here, more: this.snapshot.line };
    return isOfLine(ask, line, this.plan) && performance.now() - this.lastEntryAt < SAME_ASK_MS;
  }

  /** Anything that is no ask; again within a moment it is the same. */
  enter(fields: EventBody, onceOnly: boolean): RecordEvent | null {
    return this.presses.isTwice(JSON.stringify(fields), onceOnly) ? null : this.add(fields);
  }

  /** He did the exercise at hand unasked; again within a moment it is the same. */
  offer(onceOnly: boolean): void {
    this.enter(bodyOfPress({ press: "offer" }, this.here, this.now()), onceOnly);
  }

  /**
   * Keeps a photo or clip with the outing, to be sent after the entries.
   *
   * @returns whether the device had room for it
   */
  async attach(upload: Upload): Promise<boolean> {
    const media = mediaOf({ horse: this.outing.horse, outing: this.outing.id, ...upload });
    const isKept = await this.kept.keepMedia(media).then(
      () => true,
      () => false,
    );
    if (isKept) this.add({ type: "media", media: media.id, kind: media.kind });
    return isKept;
  }

  takeUp(step: StepId): void {
    const { state } = this.snapshot;
    if (state.spurt?.step === step) return;
    const found = findStep(this.plan.program, step);
    if (!found) return;
    const sides = sidesOf(found);
    const begun = state.exercises[step] !== undefined;
    const side = begun && sides.includes(state.side) ? state.side : sideToBegin(state, this.plan, step, sides);
    this.do({ press: "take-up" }, { step, side });
  }

  rest(): void {
    if (this.snapshot.state.spurt) this.do({ press: "rest" });
  }

  goToSide(side: SideKey): void {
    const { step, side: now } = this.here;
    if (side === now || side === "none") return;
    this.do({ press: this.snapshot.state.step === null ? "take-up" : "side" }, { step, side });
  }

  /** To the next side there is. */
  changeSide(): void {
    const next = sideAfter(this.here, this.plan);
    if (next !== undefined) this.goToSide(next);
  }

  /** Strikes out the last entry that stands. */
  undo(): void {
    const { last } = this.snapshot;
    if (last) this.correct(last.id, { void: true });
  }

  correct(id: string, change: { void: true } | { with: Record<string, unknown> }): void {
    this.add({ type: "correction", replaces: id, ...change });
  }

  /** He is quiet again after the fright that is still open. */
  quiet(): void {
    const { fright } = this.live.state;
    if (!fright || fright.quiet) return;
    this.do({ press: "quiet", fright: fright.id, at: fright.at });
  }

  /** Steps in, or away again: the seconds between are how long he stood. */
  dwell(): void {
    const { dwellFrom } = this.snapshot;
    const next = dwellFrom === null ? this.now() : null;
    if (dwellFrom !== null) this.do({ press: "step-away", from: dwellFrom });
    this.change({ dwellFrom: next });
    void this.kept.changeOuting(this.outing.id, { dwellFrom: next }).catch(() => undefined);
  }

  /** The last entry that stands, of those that `which` lets through. */
  lastOf(which: (event: RecordEvent) => boolean): RecordEvent | undefined {
    return this.live.lastStanding(which);
  }

  /** An entry as it stands now, by its id; undefined where it was struck out. */
  standing(id: string): RecordEvent | undefined {
    return this.lastOf((event) => event.id === id);
  }

  /** The events this outing is made of so far. */
  get history(): readonly RecordEvent[] {
    return this.live.history;
  }

  /** Ends it. The returned promise is done when that is kept. */
  async finish(): Promise<void> {
    if (this.snapshot.isOver) return;
    this.add({ type: "outing-end" }, `${this.outing.id}:end`);
    this.change({ isOver: true });
    await this.writing.done;
    await this.kept.changeOuting(this.outing.id, { isOver: true }).catch(() => undefined);
  }

  /** Records a press of what is at hand, or of what comes to hand by it. */
  private do(press: Press, line: AskLine = this.here): void {
    const first = againstGate(press, line, this.plan, this.live.state);
    if (first) this.add(first);
    this.add(bodyOfPress(press, line, this.now()));
  }

  /** Records an ask under the line over the pad. */
  private ask(asked: AskPress): void {
    const here = { ...this.here, more: this.snapshot.line };
    const { press, line } = pressUnderWatch(asked, here, this.live.state, this.plan.program, this.now());
    this.do(press, line);
  }

  private add(body: EventBody, id?: string): RecordEvent {
    const event = stamp(body, { at: this.time.say(), ...(id === undefined ? {} : { id }) });
    const before = this.snapshot.advice;
    const state = this.live.take(event);
    const advice = this.adviceAt(state);
    this.lastEntryAt = performance.now();
    const isUndo = isCorrection(event);
    this.change({
      state,
      advice,
      keeping: "writing",
      last: isUndo ? this.lastOwn() : isEntry(event) ? event : this.snapshot.last,
    });
    this.writing.add({ outing: this.outing.id, horse: this.outing.horse, event, sent: 0 });
    if (advice.verb !== before.verb) this.hooks.onVerb(advice);
    return event;
  }

  /** What only this page holds, to be sent straight to the server. */
  get unkept(): readonly KeptEvent[] {
    return this.writing.unkept;
  }

  /** The server has these; they need no room on the device any more. */
  forget(sent: readonly KeptEvent[]): void {
    this.writing.forget(sent);
  }

  /** Says how it went with one event. The screen speaks of the latest: that is not kept while later ones still wait. */
  private tell(event: RecordEvent, keeping: Keeping): void {
    this.change({ keeping: keeping === "kept" && this.writing.isWaiting ? "writing" : keeping });
    this.hooks.onKept(event, keeping);
  }

  private change(part: Partial<Snapshot>): void {
    this.snapshot = { ...this.snapshot, ...part, ...(part.state ? { line: this.lineOf(part.state) } : {}) };
    this.drawing.changed(part.keeping === "writing");
  }
}
