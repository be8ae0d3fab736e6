import { addDays, type Day, type FoldedOuting, type StepId } from "../record";
import type { Exercise, OutingPlan } from "../outing";
import { isShownUpTo, rungsToBegin, rungsUpTo } from "../planning";
import { findStep, type Chip, type Program, type Step } from "../programs";
import { createGathered, gatherOn, readAbout, whatNext, wordsOf, type Gathered, type UpTo } from "../readiness";
import { Memory } from "./from-memory";
import { Hand, outingOf, wantedOf } from "./hand";

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
const SET = 3;

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
    const hand = isFromMemory ? new Memory(startedAt, `o${made}`) : new Hand(plan, `o${made}`, said, { unsaid });
    for (const step of steps) {
      hand.work(step, wantedOf(program, step));
      days.set(step.id, (days.get(step.id) ?? 0) + 1);
    }
    const { asks, presses, watches, watchPresses } = hand;
    pressed.push({ asks, presses, watches, watchPresses });
    const folded = outingOf(made, day, startedAt, hand);
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
