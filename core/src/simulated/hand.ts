import { advise, linkOf, Lines, LiveOuting, pressUnderWatch, type OutingPlan } from "../outing";
import { refsOf, sidesOf, type Chip, type Program, type SideKey, type Step } from "../programs";
import { chipsOf } from "../programs/chips";
import { bodyOfPress, changeLine, watchUnit, type AskDetails, type LineChange, type Press } from "../recording";
import {
  versionOf,
  type Answer,
  type Day,
  type EventBody,
  type FoldedOuting,
  type Mood,
  type RecordEvent,
} from "../record";
import type { Wanted } from "./from-memory";

/** How a simulated horse answers one ask. */
interface Given {
  answer: Answer;
  mood: Mood;
}

/** How he answers: by step, side, and the asks of that side before it today. */
export type Answers = (step: Step, side: SideKey, asksToday: number) => Given;

/** He gives all that is asked, loose or quiet. */
export const PERFECT: Answers = ({ standard }) => ({ answer: "gave", mood: Math.min(1, standard.mood) as Mood });

const PLACES = ["Round pen", "Top yard"] as const;
const HANDLERS = ["M", "J"] as const;

/** An outing as it was written down: now here and now there, by one person and by another. @param made outings before it */
export function outingOf(
  made: number,
  day: Day,
  startedAt: string,
  { at, events }: Pick<Hand, "at" | "events">,
): FoldedOuting {
  const head = {
    id: `o${made}`,
    startedAt,
    endedAt: new Date(at).toISOString(),
    place: PLACES[made % PLACES.length] ?? PLACES[0],
    handler: HANDLERS[Math.floor(made / 2) % HANDLERS.length] ?? HANDLERS[0],
    events,
  };
  return { ...head, day, head, history: events };
}

const ASKS_MOST = 24;
const SET = 3;
/** Asks of all of it, on a side and in one outing, after which a hand goes on where the coach does not say so. */
const WHOLE_MOST = 6;
const SECOND = 1000;
/** Between two asks; the coach's minutes run. */
const ASK_SECONDS = 12;

/** What a step, or one that rests on it, wants to have said of its asks. */
export function wantedOf({ steps }: Program, step: Step): Wanted {
  const refs = steps.flatMap(({ needs }) => refsOf(needs)).filter((ref) => ref.step === step.id);
  const chips = chipsOf(step);
  const moving = step.elsewhere.includes("settings") || refs.some(({ setting }) => setting !== undefined);
  const parts = new Set(refs.flatMap((ref) => ref.parts ?? []));
  return {
    changes: [
      ...(moving && chips.includes("setting") ? [{ setting: "moving" as const }] : []),
      ...(step.standard.withoutTool ? [{ tool: "none" as const }] : []),
      ...(refs.some(({ gait }) => gait === "canter") ? [{ gait: "canter" as const }] : []),
      ...[...parts].map((part) => ({ part })),
    ],
    stretch: step.elsewhere.includes("stretch"),
  };
}

const keyOf = ({ id }: Step, side: SideKey, change: LineChange): string => `${id} ${side} ${JSON.stringify(change)}`;

/** What is known to a hand beyond one outing, and how it goes about it. */
export interface HandChoices {
  answers?: Answers;
  /** What is never said, to see what then stays open. */
  unsaid?: readonly (Chip | "rung")[];
  /** Asks of one side of an exercise at most. */
  most?: number;
}

/** The hand at the pen: every press of it, and what was recorded. */
export class Hand {
  readonly events: RecordEvent[] = [];
  at: number;
  asks = 0;
  presses = 0;
  watches = 0;
  watchPresses = 0;
  private readonly live: LiveOuting;
  private readonly lines: Lines;
  private readonly answers: Answers;
  private readonly unsaid: readonly string[];
  private readonly most: number;
  private readonly asked = new Map<string, number>();
  private seq = 0;

  constructor(
    private readonly plan: OutingPlan,
    private readonly id: string,
    /** What was said once of a step and side: it need not be said again. */
    private readonly said: Set<string>,
    { answers = PERFECT, unsaid = [], most = ASKS_MOST }: HandChoices = {},
  ) {
    this.answers = answers;
    this.unsaid = unsaid;
    this.most = most;
    this.live = new LiveOuting(plan);
    this.lines = new Lines(plan);
    this.at = Date.parse(plan.startedAt);
  }

  /** Whether the coach says to finish. */
  get isOver(): boolean {
    return advise(this.live.state, this.plan, this.at).verb === "finish";
  }

  /** Whether a piece of the card may be worked now. */
  isOpen(step: Step): boolean {
    return linkOf(this.live.state, this.plan, this.plan.exercises.find((one) => one.step === step.id) ?? {}).isOpen;
  }

  /** Works an exercise: asks until the coach leaves it, on the side and the rung he names, and once whatever is wanted besides. */
  work(step: Step, { changes, stretch }: Wanted): void {
    const sides = sidesOf(step);
    const mayBeSaid = (side: SideKey, change: LineChange): boolean =>
      !this.unsaid.some((name) => name in change) && !this.said.has(keyOf(step, side, change));
    const open = new Map(sides.map((side) => [side, changes.filter((change) => mayBeSaid(side, change))]));
    const asked = new Map<SideKey, number>();
    const whole = new Map<SideKey, number>();
    const said = new Map<SideKey, LineChange>();
    let side = sides[0] ?? "none";
    this.record({ press: "take-up" }, step, side);
    for (let n = 0; n < this.most * sides.length && open.size > 0; n += 1) {
      const isGiven = this.ask(step, side);
      const last = said.get(side);
      said.delete(side);
      // With nothing in the hand it is asked every day; the rest has been shown once it was said and given.
      if (last && isGiven && !("tool" in last)) this.said.add(keyOf(step, side, last));
      else if (last && !isGiven) open.get(side)?.push(last);
      const times = (asked.get(side) ?? 0) + 1;
      asked.set(side, times);
      if (times === 1 && step.still) this.keep({ type: "sign", sign: "long-breath" });
      if (times === 1 && stretch) this.carry(step, side);
      const advice = advise(this.live.state, this.plan, this.at);
      if (advice.verb === "finish") return;
      const isThere = this.isAtStandard(step, side);
      if (isThere) whole.set(side, (whole.get(side) ?? 0) + 1);
      const wanted = open.get(side) ?? [];
      const [change, ...others] = wanted;
      const isStep = advice.verb === "go-on" || advice.verb === "go-back";
      if (isStep && advice.rung !== undefined && !this.unsaid.includes("rung"))
        this.say(step, side, { rung: advice.rung }, 1);
      else if (isThere && change && isGiven) {
        open.set(side, others);
        said.set(side, change);
        this.say(step, side, change, "setting" in change ? 1 : 2);
      } else {
        const isEnough =
          times >= this.most ||
          advice.verb === "leave" ||
          (whole.get(side) ?? 0) >= WHOLE_MOST ||
          (times >= SET && !isThere && advice.verb === "stay");
        if (isEnough) open.delete(side);
        const named = advice.side !== undefined && open.has(advice.side) ? advice.side : undefined;
        const next = named ?? (isEnough ? [...open.keys()][0] : undefined);
        if (next === undefined || next === side) continue;
        side = next;
        this.record({ press: "side" }, step, side);
      }
    }
  }

  private isAtStandard({ id, ladder }: Step, side: SideKey): boolean {
    const { rung } = this.lines.of(id, side);
    return ladder.rungs.findIndex((one) => one.id === rung) >= ladder.standard;
  }

  private say({ id }: Step, side: SideKey, change: LineChange, presses: number): void {
    this.lines.change(id, side, change);
    this.presses += presses;
  }

  /** The line as it is said: all of it but what is never said. */
  private lineOf({ id }: Step, side: SideKey): AskDetails {
    const line = this.lines.of(id, side);
    return changeLine(line, Object.fromEntries(this.unsaid.map((name) => [name, undefined])));
  }

  /** @returns whether he gave it */
  private ask(step: Step, side: SideKey): boolean {
    const { phase } = step.standard;
    const unit = watchUnit(step);
    const more = this.lineOf(step, side);
    if (unit !== null) {
      this.record({ press: "watch" }, step, side, more);
      const { dose = 0 } = step.ladder.rungs.find(({ id }) => id === more.rung) ?? {};
      this.at += Math.max(ASK_SECONDS, dose * (unit === "minutes" ? 60 : 1)) * SECOND;
      this.watches += 1;
      this.watchPresses += 2;
    } else {
      this.asks += 1;
      this.presses += 1;
    }
    const key = `${step.id} ${side}`;
    const before = this.asked.get(key) ?? 0;
    this.asked.set(key, before + 1);
    const { answer, mood } = this.answers(step, side, before);
    const asked = { press: "ask" as const, answer, ...(phase === null ? {} : { phase }), mood };
    const { press, line } = pressUnderWatch(
      asked,
      { step: step.id, side, more },
      this.live.state,
      this.plan.program,
      this.at,
    );
    this.record(press, step, side, line.more);
    return answer === "gave";
  }

  private carry(step: Step, side: SideKey): void {
    this.presses += 1;
    this.record({ press: "frame", frame: "stretches" }, step, side);
  }

  private record(press: Press, step: Step, side: SideKey, more?: AskDetails): void {
    this.keep(bodyOfPress(press, { step: step.id, side, ...(more ? { more } : {}) }, this.at));
  }

  private keep(body: EventBody): void {
    this.at += ASK_SECONDS * SECOND;
    this.seq += 1;
    const v = versionOf(body);
    const event = {
      id: `${this.id}-${this.seq}`,
      at: new Date(this.at).toISOString(),
      ...(v > 1 ? { v } : {}),
      device: "phone",
      seq: this.seq,
      ...body,
    } as RecordEvent;
    this.live.take(event);
    this.events.push(event);
  }
}
