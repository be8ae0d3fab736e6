import { addDays, type Day, type EventBody, type Horse, type HorseRecord, type RecordEvent } from "../record";
import { everythingUnder, loosePenStart } from "../programs";
import { PLAIN } from "./families";
import { SimulatedHorse, type Nature } from "./horse";
import { randomFrom, type Random } from "../random";
import { workSeason, type Season, type Special } from "./starter";

/** The invented yard: a hill-pony stud that gathers half-wild ponies each autumn and starts them for its own trekking string. */
export const DEMO_YARD = { name: "Hill pony yard", timeZone: "Europe/Dublin" } as const;

interface Plan {
  horse: { name: string; sex: Horse["sex"]; monthsOld: number; foaledPrecision: Horse["foaledPrecision"] };
  /** What he is here to show. */
  shows: string;
  nature: Partial<Nature>;
  seed: number;
  season: Partial<Season> & Pick<Season, "days" | "road">;
  /** What is known of the horse itself. */
  about: (EventBody & { daysAgo: number })[];
}

/** Every step under these, and these. */
function roadTo(...steps: string[]): string[] {
  const wanted = new Set(steps.flatMap((step) => [...everythingUnder(loosePenStart, step), step]));
  return loosePenStart.steps.map((step) => step.id).filter((id) => wanted.has(id));
}

/** Days of work counted back from today: so many a week, from one day to another. */
function daysFrom(first: number, last: number, aWeek: number): number[] {
  const days: number[] = [];
  for (let ago = first; ago >= last; ago -= 1) if (ago % 7 < aWeek) days.push(ago);
  return days;
}

/** Quick to learn, as a horse is whose handler knows the work. */
const APT: Partial<Nature> = { start: 0.93, learns: 0.3, breakLoss: 0, coldLoss: 0.02, worry: 0, swing: 0 };

const DULLED: Nature["habits"] = {
  "yield-hind": { phase: 3, mood: 0, share: 0.85 },
  "move-off": { phase: 3, mood: 1, share: 0.85 },
};

/** From three weeks ago on: far too much of flag and sheet, and hardly a foot moved. */
const TOO_MUCH: Season["specials"] = Object.fromEntries(
  daysFrom(21, 1, 5).map((ago, index, all): [number, Special] => [
    ago,
    {
      steps: ["flag", "sheet", "rope-over", index % 2 ? "move-off" : "yield-hind"],
      asks: 6,
      ...(index === 0 ? { habits: DULLED } : {}),
      ...(index === all.length - 1 ? { note: "Stands for anything now. Had to ask twice to get a foot moved." } : {}),
    },
  ]),
);

const PLANS: readonly Plan[] = [
  {
    horse: { name: "Teasel", sex: "mare", monthsOld: 6, foaledPrecision: "month" },
    shows: "a weanling gathered ten days ago",
    nature: { known: { "share-space": 0.75 }, start: 0.45, learns: 0.08, coldLoss: 0.1, worry: 0.03 },
    seed: 20,
    season: {
      days: [10, 9, 7, 6, 5, 3, 2, 1],
      road: ["share-space", "face-up", "catch-rope"],
      stepsAnOuting: 2,
      asksASide: 5,
      minutes: 14,
      specials: {
        10: { note: "Gathered off the hill yesterday. Stays by the far rail." },
        5: { note: "Let the rope lie on her neck today and breathed out." },
      },
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
    horse: { name: "Rush", sex: "gelding", monthsOld: 18, foaledPrecision: "month" },
    shows: "a yearling learning feet",
    nature: {
      ...APT,
      known: { "pick-up near-hind": 0.45, "pick-up off-hind": 0.4, "pick-up near-fore": 0.8, "pick-up off-fore": 0.75 },
      learns: 0.06,
    },
    seed: 22,
    season: {
      days: daysFrom(62, 1, 5),
      road: roadTo("pick-up"),
      stepsAnOuting: 5,
      minutes: 18,
      specials: {
        2: { note: "Near hind: rested on the toe and left there. Off hind snatches still." },
      },
    },
    about: [
      { daysAgo: 60, type: "weight", weightKg: 248, girthCm: 139, means: "tape", typed: { weightKg: "248 kg" } },
      { daysAgo: 30, type: "care", kind: "feet", text: "Fronts rasped by the farrier, hinds left." },
    ],
  },
  {
    horse: { name: "Bracken", sex: "gelding", monthsOld: 43, foaledPrecision: "year" },
    shows: "a three-year-old at the halter gate with a sticky off side",
    nature: {
      ...APT,
      known: { "head-rub off": 0.45 },
      learns: 0.15,
      habits: { "head-rub off": { mood: 2, share: 0.5 } },
    },
    seed: 5,
    season: {
      days: daysFrom(33, 1, 5),
      road: [...roadTo("body-rub", "head-rub"), "catch-rope"],
      stepsAnOuting: 3,
      minutes: 30,
      specials: {
        6: { note: "Near ear without a thought; the off ear is another matter." },
        1: { note: "Off side: waited at the shoulder until he softened." },
      },
    },
    about: [
      { daysAgo: 30, type: "weight", weightKg: 402, girthCm: 172, means: "tape", typed: { weightKg: "402 kg" } },
      { daysAgo: 30, type: "height", heightCm: 144.78, typed: { heightCm: "14.1 hands" } },
      { daysAgo: 7, type: "cue", cue: "a lifted hand", meaning: "go out", phase: 0, taughtBy: "M" },
    ],
  },
  {
    horse: { name: "Plover", sex: "mare", monthsOld: 54, foaledPrecision: "day" },
    shows: "one that reacts: light but tight",
    nature: { ...APT, habits: { "yield-hind": { phase: 1, mood: 3, share: 0.85 } } },
    seed: 23,
    season: {
      days: daysFrom(50, 2, 4),
      road: roadTo("yield-hind", "flex", "head-down"),
      stepsAnOuting: 5,
      minutes: 38,
      specials: {
        4: {
          steps: ["yield-hind", "flex", "give-halter"],
          note: "Light as a feather and her eye never leaves me. Wait for the breath.",
        },
        2: { steps: ["yield-hind", "flex", "head-down"], note: "Quick again in the quarters." },
      },
    },
    about: [
      { daysAgo: 40, type: "weight", weightKg: 388, girthCm: 170, means: "tape", typed: { weightKg: "388 kg" } },
      { daysAgo: 12, type: "care", kind: "teeth", text: "Seen by the dentist, nothing sharp." },
      { daysAgo: 4, type: "care", kind: "feet", text: "Trimmed in front; the hinds another day." },
    ],
  },
  {
    horse: { name: "Sedge", sex: "mare", monthsOld: 50, foaledPrecision: "month" },
    shows: "one gone dull from too much sacking out",
    nature: APT,
    seed: 31,
    season: {
      days: daysFrom(70, 1, 5),
      road: roadTo("flag", "sheet", "yield-fore", "move-off", "stand"),
      stepsAnOuting: 5,
      minutes: 35,
      specials: TOO_MUCH,
    },
    about: [{ daysAgo: 50, type: "weight", weightKg: 421, girthCm: 174, means: "tape", typed: { weightKg: "421 kg" } }],
  },
  {
    horse: { name: "Heron", sex: "gelding", monthsOld: 47, foaledPrecision: "month" },
    shows: "one in saddle work",
    nature: { ...APT, habits: { "saddle-work": { phase: 1, mood: 2, share: 0.4 } } },
    seed: 42,
    season: {
      days: daysFrom(78, 1, 5),
      road: roadTo("saddle-work", "noise", "tie"),
      stepsAnOuting: 8,
      minutes: 40,
      specials: { 1: { note: "Stirrups down for the first time; a hump at the trot, gone after two rounds." } },
    },
    about: [
      { daysAgo: 60, type: "weight", weightKg: 446, girthCm: 179, means: "tape", typed: { weightKg: "446 kg" } },
      { daysAgo: 20, type: "care", kind: "saddle-fit", text: "Fitter: the old 17 inch with a thin pad." },
      { daysAgo: 25, type: "care", kind: "teeth", text: "Dentist: two wolf teeth out." },
    ],
  },
  {
    horse: { name: "Lapwing", sex: "mare", monthsOld: 52, foaledPrecision: "day" },
    shows: "one at the first-ride gate with one thing missing",
    nature: APT,
    seed: 55,
    season: {
      days: daysFrom(79, 1, 5),
      road: roadTo("lean", "block", "flex", "tie").filter((step) => step !== "lean"),
      leaves: ["block off"],
      stepsAnOuting: 11,
      minutes: 42,
      specials: {
        2: { steps: ["saddle-work", "above", "stand", "lead", "flex", "yield-hind"], asks: 1 },
        1: { note: "All there, and nobody has stood on the block on her off side yet." },
      },
    },
    about: [
      { daysAgo: 60, type: "weight", weightKg: 438, girthCm: 177, means: "tape", typed: { weightKg: "438 kg" } },
      { daysAgo: 30, type: "care", kind: "saddle-fit", text: "Fitter: good for now, look again in spring." },
    ],
  },
  {
    horse: { name: "Curlew", sex: "gelding", monthsOld: 60, foaledPrecision: "month" },
    shows: "one back from being turned away, three rides old",
    nature: APT,
    seed: 69,
    season: {
      days: [...daysFrom(215, 110, 6), 3, 1],
      until: { step: "led-ride", outings: 3 },
      road: roadTo("led-ride", "tie"),
      stepsAnOuting: 11,
      minutes: 44,
      specials: {
        3: {
          steps: ["share-space", "draw", "halter-on", "lead", "stand"],
          asks: 1,
          note: "Back from the hill. A check-up, not a lesson.",
        },
        1: { steps: ["flex", "yield-hind", "head-down", "rope-over"], asks: 1 },
      },
    },
    about: [
      { daysAgo: 150, type: "weight", weightKg: 455, girthCm: 181, means: "tape", typed: { weightKg: "455 kg" } },
      { daysAgo: 120, type: "rest", reason: "Turned away to grow after three quiet rides." },
      { daysAgo: 4, type: "return", text: "Down from the hill, round and sound." },
      { daysAgo: 4, type: "weight", weightKg: 470, girthCm: 183, means: "tape", typed: { weightKg: "470 kg" } },
    ],
  },
];

const ID_SEEDS = 1000;

/** What each horse of the demo yard is here to show, by name. */
export const DEMO_SHOWS: ReadonlyMap<string, string> = new Map(PLANS.map(({ horse, shows }) => [horse.name, shows]));

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
  const { monthsOld, ...horse } = plan.horse;
  const season: Season = { stepsAnOuting: 4, asksASide: 4, minutes: 30, specials: {}, ...plan.season };
  const pony = new SimulatedHorse({ ...PLAIN, ...plan.nature }, random);
  const firstDay = Date.parse(`${addDays(today, -(season.days[0] ?? 0) - 2)}T08:00:00Z`);
  return {
    yard: { timeZone: DEMO_YARD.timeZone },
    horse: { id: makeId(firstDay), ...horse, foaled: addDays(today, -Math.round(monthsOld * 30.44)) },
    program: { id: loosePenStart.id },
    outings: workSeason(season, pony, loosePenStart, today, random, makeId),
    horseEvents: plan.about.map(({ daysAgo, ...fields }, index): RecordEvent => {
      const at = Date.parse(`${addDays(today, -daysAgo)}T08:00:00Z`) + index * 60_000;
      return { id: makeId(at), at: new Date(at).toISOString(), ...fields };
    }),
  };
}
