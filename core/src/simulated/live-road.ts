import {
  addDays,
  versionOf,
  type Day,
  type EventBody,
  type FoldedOuting,
  type RecordEvent,
  type StepId,
} from "../record";
import { advise, Lines, LiveOuting, pressUnderWatch, type Exercise, type OutingPlan } from "../outing";
import { isShownUpTo, rungsToBegin, rungsUpTo } from "../planning";
import { findStep, refsOf, sidesOf, type Chip, type Program, type SideKey, type Step } from "../programs";
import { chipsOf } from "../programs/chips";
import { createGathered, gatherOn, readAbout, whatNext, wordsOf, type Gathered, type UpTo } from "../readiness";
import { Memory, type Wanted } from "./from-memory";
import { bodyOfPress, changeLine, watchUnit, type AskDetails, type LineChange, type Press } from "../recording";

/** Presses of one outing: of asks and their line, and of watches; signs, sides and exercises apart. */
export interface Presses {
  asks: number;
  presses: number;
  watches: number;
  watchPresses: number;
}

/** What a road comes to that is recorded live alone. */
export interface LiveRoad {
  /** Outing by outing. */
  outings: readonly Presses[];
  /** Steps of the road that are not steady at its end, with the word they have. */
  open: readonly (readonly [step: StepId, status: string])[];
}

interface Choices {
  /** So many outings at most, one a day. */
  outings: number;
  /** What is never said, to see what then stays open. */
  unsaid?: readonly (Chip | "rung")[];
  /** Written up in the evening instead: series, and single asks of what is long. */
  isFromMemory?: boolean;
}

const FIRST_DAY: Day = "2026-01-05";
const STEPS_AN_OUTING = 5;
const RUSTY_FIRST = 3;
const ASKS_MOST = 24;
const SET = 3;
const SECOND = 1000;
/** Between two asks; the coach's minutes run. */
const ASK_SECONDS = 12;
const PLACES = ["Round pen", "Top yard"] as const;
const HANDLERS = ["M", "J"] as const;

/**
 * A horse that answers every ask perfectly, worked day by day along a program's road and recorded by what can be pressed in the pen
 * alone: lines that begin as the card has them, rungs that go up as the coach says, chips, watches, sides, signs. Or by what the
 * write-up has.
 */
export function workLive(program: Program, { outings, unsaid = [], isFromMemory = false }: Choices): LiveRoad {
  const gathered = createGathered(program, readAbout([], "UTC"));
  const days = new Map<StepId, number>();
  const late: FoldedOuting[] = [];
  const said = new Set<string>();
  const pressed: Presses[] = [];
  for (let made = 0; made < outings && openOf(gathered, dayOf(made)).length > 0; made += 1) {
    const day = dayOf(made);
    const words = new Map(wordsOf(gathered, day).map((one) => [one.step, one]));
    const { steps, upTo } = stepsFor(gathered, day, late);
    const startedAt = `${day}T09:00:00.000Z`;
    const exercises = steps.map(({ id }, at): Exercise => {
      const isNew = (days.get(id) ?? 0) <= 1;
      const step = steps[at] as Step;
      return {
        step: id,
        line: { count: SET, worth: isNew ? "tried" : "clean" },
        isNew,
        sticky: null,
        from: beginOf(step, late, words.get(id)?.sides ?? {}, upTo),
        last: {},
      };
    });
    const known = [...words.values()].filter(({ status }) => status === "steady").map(({ step }) => step);
    const plan: OutingPlan = {
      program,
      startedAt,
      exercises,
      known,
      upTo,
      caps: { workingMinutes: 600, inHandMinutes: 600 },
    };
    const hand = isFromMemory ? new Memory(startedAt, `o${made}`) : new Hand(plan, `o${made}`, unsaid, said);
    for (const step of steps) {
      hand.work(step, wantedOf(program, step));
      days.set(step.id, (days.get(step.id) ?? 0) + 1);
    }
    const { asks, presses, watches, watchPresses } = hand;
    pressed.push({ asks, presses, watches, watchPresses });
    const head = {
      id: `o${made}`,
      startedAt,
      endedAt: new Date(hand.at).toISOString(),
      place: PLACES[made % PLACES.length] ?? PLACES[0],
      handler: HANDLERS[Math.floor(made / 2) % HANDLERS.length] ?? HANDLERS[0],
      events: hand.events,
    };
    const folded: FoldedOuting = { ...head, day, head, history: head.events };
    gatherOn(gathered, [folded]);
    late.push(folded);
  }
  return { outings: pressed, open: openOf(gathered, dayOf(pressed.length)) };
}

const dayOf = (outing: number): Day => addDays(FIRST_DAY, outing);

/** Steps of the road that are not steady; what stands beside it nobody waits for. */
const openOf = (gathered: Gathered, day: Day): [StepId, string][] =>
  wordsOf(gathered, day).flatMap(({ step, status }) =>
    status === "steady" || status === "rusty" || gathered.program.optional.includes(step) ? [] : [[step, status]],
  );

/** The rungs a step begins on by what was worked of late, no higher than the last before a shut gate. */
function beginOf(
  step: Step,
  late: readonly FoldedOuting[],
  sides: Parameters<typeof rungsToBegin>[2],
  upTo: readonly UpTo[],
): NonNullable<Exercise["from"]> {
  const from = rungsToBegin(step, late.slice(-RUSTY_FIRST * STEPS_AN_OUTING), sides);
  return rungsUpTo(step, from, upTo.find((one) => one.step === step.id)?.rung);
}

/** What is rusty, and what the road asks for; a step whose rungs before a shut gate were all shown waits for the gate. */
function stepsFor(
  gathered: Gathered,
  day: Day,
  late: readonly FoldedOuting[],
): { steps: Step[]; upTo: readonly UpTo[] } {
  const words = wordsOf(gathered, day);
  const judged = words.map(({ step, status }) => ({
    step,
    status,
    held: false,
    lastAsked: null,
    sides: {},
    findings: [],
    toOpen: [],
  }));
  const rusty = words.filter(({ status }) => status === "rusty").map(({ step }) => step);
  const { work, upTo } = whatNext(gathered, judged, day);
  const isShown = (step: Step): boolean => {
    const rung = upTo.find((one) => one.step === step.id)?.rung;
    const { sides = {} } = words.find((one) => one.step === step.id) ?? {};
    return rung !== undefined && isShownUpTo(step, beginOf(step, late, sides, upTo), rung);
  };
  const ids = new Set([...rusty.slice(0, RUSTY_FIRST), ...work.map(({ step }) => step)]);
  const steps = [...ids].flatMap((id) => findStep(gathered.program, id) ?? []).filter((step) => !isShown(step));
  return { steps: steps.slice(0, STEPS_AN_OUTING), upTo };
}

function wantedOf({ steps }: Program, step: Step): Wanted {
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

/** The hand at the pen: every press of it, and what was recorded. */
class Hand {
  readonly events: RecordEvent[] = [];
  at: number;
  asks = 0;
  presses = 0;
  watches = 0;
  watchPresses = 0;
  private readonly live: LiveOuting;
  private readonly lines: Lines;
  private seq = 0;

  constructor(
    private readonly plan: OutingPlan,
    private readonly id: string,
    private readonly unsaid: readonly string[],
    /** What was said once of a step and side: it need not be said again. */
    private readonly said: Set<string>,
  ) {
    this.live = new LiveOuting(plan);
    this.lines = new Lines(plan);
    this.at = Date.parse(plan.startedAt);
  }

  /** Works an exercise: asks until the coach leaves it, on the side and the rung he names, and once whatever is wanted besides. */
  work(step: Step, { changes, stretch }: Wanted): void {
    const sides = sidesOf(step);
    const mayBeSaid = (side: SideKey, change: LineChange): boolean =>
      !this.unsaid.some((name) => name in change) && !this.said.has(keyOf(step, side, change));
    const open = new Map(sides.map((side) => [side, changes.filter((change) => mayBeSaid(side, change))]));
    const asked = new Map<SideKey, number>();
    let side = sides[0] ?? "none";
    this.record({ press: "take-up" }, step, side);
    for (let n = 0; n < ASKS_MOST * sides.length && open.size > 0; n += 1) {
      this.ask(step, side);
      const times = (asked.get(side) ?? 0) + 1;
      asked.set(side, times);
      if (times === 1 && step.still) this.keep({ type: "sign", sign: "long-breath" });
      if (times === 1 && stretch) this.carry(step, side);
      const advice = advise(this.live.state, this.plan, this.at);
      const isThere = this.isAtStandard(step, side);
      const wanted = open.get(side) ?? [];
      const [change, ...others] = wanted;
      if (advice.verb === "go-on" && advice.rung !== undefined && !this.unsaid.includes("rung"))
        this.say(step, side, { rung: advice.rung }, 1);
      else if (isThere && change) {
        open.set(side, others);
        // With nothing in the hand it is asked every day; the rest has been shown once it was said.
        if (!("tool" in change)) this.said.add(keyOf(step, side, change));
        this.say(step, side, change, "setting" in change ? 1 : 2);
      } else {
        const isEnough =
          times >= ASKS_MOST || advice.verb === "leave" || (times >= SET && (isThere || advice.verb === "stay"));
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

  private ask(step: Step, side: SideKey): void {
    const { phase, mood } = step.standard;
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
    const asked = {
      press: "ask" as const,
      answer: "gave" as const,
      ...(phase === null ? {} : { phase }),
      mood: Math.min(1, mood) as 0 | 1,
    };
    const { press, line } = pressUnderWatch(
      asked,
      { step: step.id, side, more },
      this.live.state,
      this.plan.program,
      this.at,
    );
    this.record(press, step, side, line.more);
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
