import {
  addDays,
  SIGNS_OF_EASE,
  SIGNS_OF_STRAIN,
  type Day,
  type Horse,
  type HorseRecord,
  type Outing,
  type RecordEvent,
} from "../record";
import { loosePenStart, sidesOf, type Step } from "../programs";
import { SimulatedHorse, type Nature } from "./horse";
import { randomFrom, type Random } from "./random";

/** The invented yard: a hill-pony stud that gathers half-wild ponies each autumn and starts them for its own trekking string. */
export const DEMO_YARD = { name: "Hill pony yard", timeZone: "Europe/Dublin" } as const;

interface Plan {
  horse: { name: string; sex: Horse["sex"]; monthsOld: number; foaledPrecision: Horse["foaledPrecision"] };
  nature: Nature;
  seed: number;
  /** Days of work, counted back from today; with the steps worked, earliest first. */
  days: { daysAgo: number; steps: string[] }[];
  asksASide: number;
  minutes: number;
  notes: Record<number, string>;
  /** What is known of the horse itself. */
  about: { daysAgo: number; type: string; [field: string]: unknown }[];
}

const spread = (daysAgo: number[], steps: (index: number) => string[]): Plan["days"] =>
  daysAgo.map((ago, index) => ({ daysAgo: ago, steps: steps(index) }));

/** Three horses at different points: gathered ten days ago; at the halter with a sticky off side; one that reacts. */
const PLANS: readonly Plan[] = [
  {
    horse: { name: "Teasel", sex: "mare", monthsOld: 6, foaledPrecision: "month" },
    nature: { known: { "share-space": 0.6 }, start: 0.5, learns: 0.1, offBehind: 0.1, coldLoss: 0.1, worry: 0.03 },
    seed: 11,
    days: spread([10, 9, 7, 6, 5, 3, 2, 1], (index) =>
      index < 3
        ? ["share-space"]
        : index < 5
          ? ["share-space", "catch-rope"]
          : ["share-space", "catch-rope", "first-touch"],
    ),
    asksASide: 5,
    minutes: 14,
    notes: {
      10: "Gathered off the hill yesterday. Stays by the far rail.",
      5: "Let the rope lie on her neck today and breathed out.",
    },
    about: [
      {
        daysAgo: 10,
        type: "weight",
        weightKg: 164,
        girthCm: 117,
        lengthCm: 103,
        means: "tape",
        typed: { weightKg: "164 kg" },
      },
      {
        daysAgo: 10,
        type: "height",
        heightCm: 116.84,
        croupCm: 119.38,
        typed: { heightCm: "11.2 hands", croupCm: "11.3 hands" },
      },
      { daysAgo: 9, type: "care", kind: "worming", text: "As the vet said, kept apart meanwhile." },
    ],
  },
  {
    horse: { name: "Bracken", sex: "gelding", monthsOld: 43, foaledPrecision: "year" },
    nature: {
      known: {
        "share-space": 0.99,
        "catch-rope": 0.99,
        "first-touch": 0.98,
        "swap-sides": 0.97,
        "head-rub near": 0.97,
        "head-rub off": 0.84,
        "body-rub": 0.96,
        "halter-on near": 0.95,
        "halter-on off": 0.55,
      },
      start: 0.7,
      learns: 0.06,
      offBehind: 0.4,
      coldLoss: 0.03,
      worry: 0,
    },
    seed: 5,
    days: spread([14, 13, 12, 10, 9, 8, 6, 5, 3, 2, 1], (index) =>
      index < 3
        ? ["share-space", "catch-rope", "first-touch", "swap-sides"]
        : index < 6
          ? ["first-touch", "swap-sides", "head-rub", "body-rub"]
          : ["swap-sides", "head-rub", "halter-on", "give-halter"],
    ),
    asksASide: 4,
    minutes: 30,
    notes: {
      6: "Halter on from the near side without a thought; the off ear is another matter.",
      1: "Off side: waited at the shoulder until he softened.",
    },
    about: [
      { daysAgo: 14, type: "weight", weightKg: 402, girthCm: 172, means: "tape", typed: { weightKg: "402 kg" } },
      { daysAgo: 14, type: "height", heightCm: 144.78, typed: { heightCm: "14.1 hands" } },
      { daysAgo: 7, type: "cue", cue: "a lifted hand", meaning: "go out", phase: 0, taughtBy: "M" },
    ],
  },
  {
    horse: { name: "Plover", sex: "mare", monthsOld: 54, foaledPrecision: "day" },
    nature: {
      known: {
        "share-space": 0.99,
        "catch-rope": 0.99,
        "first-touch": 0.99,
        "swap-sides": 0.99,
        "head-rub": 0.99,
        "body-rub": 0.99,
        "halter-on": 0.98,
        "give-halter": 0.97,
      },
      start: 0.93,
      learns: 0.05,
      offBehind: 0.02,
      coldLoss: 0.02,
      worry: 0,
    },
    seed: 23,
    days: spread([14, 13, 11, 10, 8, 7, 6, 4, 3, 2], (index) =>
      index < 2
        ? ["share-space", "catch-rope", "first-touch", "swap-sides", "head-rub"]
        : index < 5
          ? ["body-rub", "halter-on", "give-halter", "swap-sides"]
          : ["give-halter", "yield-hind", "flex"],
    ),
    asksASide: 4,
    minutes: 38,
    notes: {
      4: "Light as a feather and her eye never leaves me. Wait for the breath.",
      2: "Quick again in the quarters.",
    },
    about: [
      { daysAgo: 16, type: "weight", weightKg: 388, girthCm: 170, means: "tape", typed: { weightKg: "388 kg" } },
      { daysAgo: 12, type: "care", kind: "teeth", text: "Seen by the dentist, nothing sharp." },
      { daysAgo: 4, type: "care", kind: "feet", text: "Trimmed in front; the hinds another day." },
    ],
  },
];

const ID_SEEDS = 1000;

/** Steps at which the horse that reacts is worried: she answers, and tight. */
const REACTS = { horse: "Plover", steps: ["yield-hind"], share: 0.85 } as const;

/**
 * The demo yard's records, dated relative to a day, the same for the same day.
 *
 * @param newId makes an id for an instant (milliseconds) and a source of numbers in [0, 1)
 */
export function buildDemoYard(today: Day, newId: (msecs: number, random: Random) => string): HorseRecord[] {
  return PLANS.map((plan) => buildRecord(plan, today, newId));
}

function buildRecord(plan: Plan, today: Day, newId: (msecs: number, random: Random) => string): HorseRecord {
  const random = randomFrom(plan.seed);
  // Ids draw from a source of their own, so that how they are made changes nothing in the horse.
  const ids = randomFrom(plan.seed + ID_SEEDS);
  const makeId = (msecs: number): string => newId(msecs, ids);
  const foaled = addDays(today, -Math.round(plan.horse.monthsOld * 30.44));
  const { monthsOld: _months, ...horse } = plan.horse;
  const firstDay = Date.parse(`${addDays(today, -20)}T08:00:00Z`);
  const pony = new SimulatedHorse(plan.nature, random);
  return {
    yard: { timeZone: DEMO_YARD.timeZone },
    horse: { id: makeId(firstDay), ...horse, foaled },
    program: { id: loosePenStart.id },
    outings: plan.days.map((day) => buildOuting(plan, pony, day, today, random, makeId)),
    horseEvents: plan.about.map(({ daysAgo, ...fields }, index) => {
      const at = Date.parse(`${addDays(today, -daysAgo)}T08:00:00Z`) + index * 60_000;
      return { id: makeId(at), at: new Date(at).toISOString(), ...fields };
    }),
  };
}

function buildOuting(
  plan: Plan,
  pony: SimulatedHorse,
  { daysAgo, steps }: Plan["days"][number],
  today: Day,
  random: Random,
  makeId: (msecs: number) => string,
): Outing {
  const start = Date.parse(`${addDays(today, -daysAgo)}T09:00:00Z`) + Math.floor(random() * 80) * 60_000;
  let at = start + 60_000;
  const stamp = (): { id: string; at: string } => {
    at += 15_000 + Math.floor(random() * 20_000);
    return { id: makeId(at), at: new Date(at).toISOString() };
  };
  const events: RecordEvent[] = [];
  const known = steps.flatMap((id) => loosePenStart.steps.find((step) => step.id === id) ?? []);
  for (const step of known) {
    for (const side of sidesOf(step))
      for (let n = 0; n < plan.asksASide; n += 1)
        events.push({
          ...stamp(),
          type: "ask",
          step: step.id,
          side,
          ...asked(plan, pony, step, side, n === 0, random),
        });
    if (random() < 0.5)
      events.push({ ...stamp(), type: "sign", sign: pick(random() < 0.75 ? SIGNS_OF_EASE : SIGNS_OF_STRAIN, random) });
  }
  const note = plan.notes[daysAgo];
  if (note) events.push({ ...stamp(), type: "note", text: note });
  return {
    id: makeId(start),
    startedAt: new Date(start).toISOString(),
    endedAt: new Date(Math.max(at + 60_000, start + plan.minutes * 60_000)).toISOString(),
    place: random() < 0.8 ? "Round pen" : "Top yard",
    handler: "M",
    events,
  };
}

function asked(
  plan: Plan,
  pony: SimulatedHorse,
  step: Step,
  side: "near" | "off" | "none",
  isFirst: boolean,
  random: Random,
) {
  const answer = pony.ask(step, side, isFirst);
  const isWorried =
    plan.horse.name === REACTS.horse &&
    (REACTS.steps as readonly string[]).includes(step.id) &&
    random() < REACTS.share;
  return isWorried ? { ...answer, answer: "gave" as const, phase: 1 as const, mood: 3 as const } : answer;
}

function pick<Item>(items: readonly Item[], random: Random): Item | undefined {
  return items[Math.floor(random() * items.length)];
}
