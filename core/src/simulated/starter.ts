import {
  addDays,
  SIGNS_OF_EASE,
  SIGNS_OF_STRAIN,
  versionOf,
  type Day,
  type Outing,
  type EventBody,
  type RecordEvent,
  type StepId,
} from "../record";
import { bodyOfPress, type Press } from "../recording";
import { findStep, sidesOf, type Program, type SideKey, type Step } from "../programs";
import { inFull } from "../evidence";
import { createGathered, gatherOn, readAbout, whatNext, wordsOf, type Gathered } from "../readiness";
import type { Nature, SimulatedHorse } from "./horse";
import type { Random } from "../random";

/** What a starter works on in one outing besides, or instead of, what the road asks for. */
export interface Special {
  /** Steps worked, in place of the road's. */
  steps?: string[];
  /** Asks a side, where it is another number than usual. */
  asks?: number;
  note?: string;
  /** Habits the horse takes up from this outing on. */
  habits?: Nature["habits"];
  /** Events of any kind, with a few fields; times and ids are made here. */
  also?: EventBody[];
}

export interface Season {
  /** Days of work, counted back from today, the earliest first. */
  days: readonly number[];
  /** The steps this horse is taken along; he stops before the others. */
  road: readonly string[];
  /** Steps worked at most in one outing, and asks a side. */
  stepsAnOuting: number;
  asksASide: number;
  minutes: number;
  specials: Readonly<Record<number, Special>>;
  /** Once a step was worked in so many outings the season is over; what is planned by day still comes. */
  until?: { step: StepId; outings: number };
  /** Never asked on this side, or not at all: "step" or "step side". */
  leaves?: readonly string[];
}

const PLACES = ["Round pen", "Top yard"] as const;
const HANDLERS = ["M", "J"] as const;
/** Where a rope is tossed, besides over the back. */
const ROPE_PARTS = ["back", "croup", "hock", "forearm-knee"] as const;

/**
 * Takes a simulated horse along the road for a season, as a starter does who keeps the record: what slipped, what is rusty, then the
 * edge; now here and now there, standing and moving, on both sides.
 *
 * @param newId makes an id for an instant in milliseconds
 */
export function workSeason(
  season: Season,
  horse: SimulatedHorse,
  program: Program,
  today: Day,
  random: Random,
  newId: (msecs: number) => string,
): Outing[] {
  const gathered = createGathered(program, readAbout([], "UTC"));
  let isOver = false;
  let reached = 0;
  return season.days.flatMap((daysAgo, index) => {
    const day = addDays(today, -daysAgo);
    const planned = season.specials[daysAgo];
    if (isOver && !planned) return [];
    const special = planned ?? {};
    horse.goOut(day);
    if (special.habits) horse.takeUp(special.habits);
    const steps = special.steps ?? stepsFor(season, gathered, day);
    const outing = buildOuting({ season, special, steps, horse, program, day, index, random, newId });
    gatherOn(gathered, [{ ...outing, day, head: outing, history: outing.events }]);
    if (season.until && steps.includes(season.until.step)) reached += 1;
    isOver = season.until !== undefined && reached >= season.until.outings;
    return [outing];
  });
}

/**
 * What slipped and what lies at the edge first, then checks that are due; only steps of this horse's road. This starter asks for all of a
 * step: one of which only the smaller rungs may be worked is left until its gate is open.
 */
function stepsFor({ road, stepsAnOuting, leaves = [] }: Season, gathered: Gathered, day: Day): string[] {
  const words = wordsOf(gathered, day);
  const { work, upTo } = whatNext(gathered, words.map(asJudgement), day);
  const isShut = (step: string): boolean => upTo.some((one) => one.step === step);
  const rusty = words.filter((one) => one.status === "rusty").map((one) => one.step);
  const wanted = [...rusty.slice(0, 3), ...work.map((one) => one.step)].filter(
    (step) => road.includes(step) && !leaves.includes(step) && !isShut(step),
  );
  return [...new Set(wanted)].slice(0, stepsAnOuting);
}

/** `whatNext` reads only words and days of a judgement. */
const asJudgement = (words: ReturnType<typeof wordsOf>[number]) => ({
  step: words.step,
  status: words.status,
  held: false,
  lastAsked: null,
  sides: {},
  findings: [],
  toOpen: [],
});

interface OutingPlan {
  season: Season;
  special: Special;
  steps: readonly string[];
  horse: SimulatedHorse;
  program: Program;
  day: Day;
  index: number;
  random: Random;
  newId: (msecs: number) => string;
}

function buildOuting({ season, special, steps, horse, program, day, index, random, newId }: OutingPlan): Outing {
  const start = Date.parse(`${day}T09:00:00Z`) + Math.floor(random() * 80) * 60_000;
  let at = start + 60_000;
  const stamp = (): { id: string; at: string } => {
    at += 12_000 + Math.floor(random() * 16_000);
    return { id: newId(at), at: new Date(at).toISOString() };
  };
  const events: RecordEvent[] = [];
  const known = steps.flatMap((id) => findStep(program, id) ?? []);
  for (const step of known) {
    for (const side of sidesOf(step)) {
      if (season.leaves?.includes(`${step.id} ${side}`)) continue;
      const asks = step.kind === "moment" ? (special.asks ?? season.asksASide) : 1;
      for (let n = 0; n < asks; n += 1) {
        const stamped = stamp();
        const line = { step: step.id, side, more: inFull(step) };
        const body = bodyOfPress(pressOf(step, side, n, horse, random), line, at);
        events.push({ ...stamped, v: versionOf(body), ...body });
      }
    }
    if (random() < 0.45)
      events.push({ ...stamp(), type: "sign", sign: pick(random() < 0.85 ? SIGNS_OF_EASE : SIGNS_OF_STRAIN, random) });
  }
  const [first, ...others] = known.filter((step) => step.still);
  if (first) {
    // He is gone back to each thing that he stood for, until he lets down.
    const goBackTo = ({ id: step }: Step): void => {
      at += 10_000;
      events.push({ id: newId(at), at: new Date(at).toISOString(), type: "spurt", edge: "start", step });
    };
    goBackTo(first);
    const sign = { ...stamp(), type: "sign", sign: pick(SIGNS_OF_EASE, random) } as const;
    events.push(sign);
    for (const step of others) {
      goBackTo(step);
      at += 10_000;
      events.push({ ...sign, id: newId(at), at: new Date(at).toISOString() });
    }
  }
  if (steps.includes("saddle-work"))
    for (const direction of ["near", "off"] as const)
      events.push({ ...stamp(), type: "gait", gait: "canter", work: "line", direction, circleM: 18, seconds: 12 });
  for (const fields of special.also ?? []) events.push({ ...stamp(), ...fields });
  if (special.note) events.push({ ...stamp(), type: "note", text: special.note });
  return {
    id: newId(start),
    startedAt: new Date(start).toISOString(),
    endedAt: new Date(Math.max(at + 60_000, start + season.minutes * 60_000)).toISOString(),
    place: index % 4 === 2 ? PLACES[1] : PLACES[0],
    handler: index % 3 === 1 ? HANDLERS[1] : HANDLERS[0],
    events,
  };
}

/** The press a starter makes of an ask: now standing and now moving, a rope over this part and that. */
function pressOf(step: Step, side: SideKey, n: number, horse: SimulatedHorse, random: Random): Press {
  const inSettings = step.elsewhere.includes("settings");
  return {
    press: "ask",
    ...horse.ask(step, side),
    ...(inSettings ? { setting: n % 2 === 0 ? "standing" : "moving" } : {}),
    ...(step.id === "rope-over" ? { part: pick(ROPE_PARTS, random) } : {}),
  };
}

function pick<Item>(items: readonly [Item, ...Item[]], random: Random): Item {
  return items[Math.floor(random() * items.length)] ?? items[0];
}
