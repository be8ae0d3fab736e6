import { describe, expect, it } from "vitest";
import { adviceInWords, advise, foldOuting, isSpurtLong, nextStanding, type Stood } from "../outing";
import { planOf, readMoments } from "../outing/testing";
import { writeBrief, type Brief } from "../planning";
import { gather, judgeGathered, nextAtAge, whatNext, aboutOf } from "../readiness";
import { broughtUp, shortRecord } from "../readiness/cases/notation";
import { addDays, foldRecord } from "../record";
import { differencesOf, facetsOf } from "./facets";
import {
  buildProgram,
  CATALOGUE,
  DEFAULT_COACH,
  DEFAULT_WAYS,
  everythingUnder,
  findStep,
  loosePenStart,
  PROGRAMS,
  refsOf,
  SCHOOLS,
  type Program,
  type ProgramFile,
} from ".";
import { onTheCard } from "./on-the-card";
import { phaseWordsOf } from "./phase-words";

type Settings = Pick<ProgramFile, "ways" | "coach">;
const withSettings = ({ ways, coach }: Settings): Program => {
  const [loose] = SCHOOLS;
  if (!loose) throw new Error("no school");
  return buildProgram({ ...loose, ways: { ...ways }, coach: { ...coach } }, CATALOGUE);
};
const wayOf = (ways: NonNullable<ProgramFile["ways"]>): Program => withSettings({ ways });

/** The coach's word under a program. */
function saidOf(program: Program, events: readonly string[], more: Parameters<typeof planOf>[0] = {}): string {
  const plan = { ...planOf(more), program };
  const read = readMoments(events, more.step ?? "flex");
  const advice = advise(foldOuting(plan, read), plan, Date.parse(read.at(-1)?.at ?? plan.startedAt));
  return `${advice.verb}: ${adviceInWords(advice, program)}`;
}

const TODAY = addDays("2026-01-10", -6);

/** What is next for a horse of an age who has brought up all that a step rests on, and what the gates before it ask for. */
function nextOf(program: Program, step: string, months: number): string | undefined {
  const gates = loosePenStart.gates.filter(({ before }) => before.includes(step));
  const asked = refsOf(gates.flatMap(({ needs }) => needs)).flatMap((ref) => [
    ...everythingUnder(loosePenStart, ref.step),
    ref.step,
  ]);
  const ids = [...new Set([...everythingUnder(loosePenStart, step), ...asked])];
  const gathered = gather(foldRecord(shortRecord(broughtUp(loosePenStart, ids))), program);
  const next = nextAtAge(whatNext(gathered, judgeGathered(gathered, TODAY), TODAY), program, months);
  return next.work.find((one) => one.step === step)?.reason;
}

function briefOf(program: Program): Brief {
  const folded = foldRecord(
    shortRecord([
      ...broughtUp(loosePenStart, everythingUnder(loosePenStart, "flex")),
      [-6, "flex near 1g1x5; flex off 1n1x3"],
    ]),
  );
  expect(aboutOf(folded).program).toBeNull();
  const gathered = gather(folded, program);
  const judgements = judgeGathered(gathered, TODAY);
  return writeBrief({
    program,
    judgements,
    next: whatNext(gathered, judgements, TODAY),
    outings: folded.outings,
    workDays: 4,
    firstDay: folded.outings[0]?.day ?? null,
    today: TODAY,
    monthsAtLeast: 40,
  });
}

/** The side each step of today begins on. */
const beginsOf = (program: Program): string[] =>
  briefOf(program)
    .edge.filter(({ step }) => step === "flex")
    .map(({ begin }) => begin ?? "-");

/** How many pieces a card has, and how many of them are quite new. */
function cardOf(coach: NonNullable<ProgramFile["coach"]>): [pieces: number, fresh: number] {
  const { edge } = briefOf(withSettings({ coach }));
  return [edge.length, edge.filter(({ outings }) => outings === 0).length];
}

/** For each setting: what the application does under two of its values, which has to differ. */
const EFFECTS: Record<keyof typeof DEFAULT_WAYS | keyof typeof DEFAULT_COACH, () => [unknown, unknown]> = {
  pressure: () => [
    [saidOf(wayOf({ pressure: "phases" }), ["none 1/1"]), phaseWordsOf(wayOf({ pressure: "phases" }))],
    [saidOf(wayOf({ pressure: "nearness" }), ["none 1/1"]), phaseWordsOf(wayOf({ pressure: "nearness" }))],
  ],
  pressureMost: () => [
    saidOf(wayOf({ pressureMost: 2 }), ["gave 3/1"]),
    saidOf(wayOf({ pressureMost: 3 }), ["gave 3/1"]),
  ],
  reward: () => [saidOf(wayOf({ reward: "rest" }), ["gave 1/1"]), saidOf(wayOf({ reward: "mark-food" }), ["gave 1/1"])],
  lead: () => [onTheCard(wayOf({ lead: "behind" }), ["lead"]), onTheCard(wayOf({ lead: "shoulder" }), ["lead"])],
  headgear: () => [
    onTheCard(wayOf({ headgear: "collar" }), ["tie"]).gear,
    onTheCard(wayOf({ headgear: "bridle" }), ["tie"]).gear,
  ],
  begin: () => [beginsOf(wayOf({ begin: "sticky" })), beginsOf(wayOf({ begin: "soft" }))],
  firstMount: () => [
    [
      findStep(wayOf({ firstMount: "fence" }), "above")?.needs,
      findStep(wayOf({ firstMount: "fence" }), "lean")?.people,
    ],
    [
      findStep(wayOf({ firstMount: "leg-up" }), "above")?.needs,
      findStep(wayOf({ firstMount: "leg-up" }), "lean")?.people,
    ],
  ],
  firstRidesIn: () => [
    everythingUnder(wayOf({ firstRidesIn: "halter" }), "led-ride").includes("bridle"),
    everythingUnder(wayOf({ firstRidesIn: "snaffle" }), "led-ride").includes("bridle"),
  ],
  twoEyes: () => [saidOf(wayOf({ twoEyes: true }), []), saidOf(wayOf({ twoEyes: false }), [])],
  quarters: () => [
    onTheCard(wayOf({ quarters: "never" }), ["lead"]).mind,
    onTheCard(wayOf({ quarters: "not-minded" }), ["lead"]).mind,
  ],
  contactWeeks: () => [
    nextOf(wayOf({ contactWeeks: 6 }), "contact", 40),
    nextOf(wayOf({ contactWeeks: 0 }), "contact", 40),
  ],
  canterMonths: () => [
    nextOf(wayOf({ canterMonths: 48 }), "circle-canter", 40),
    nextOf(wayOf({ canterMonths: 36 }), "circle-canter", 40),
  ],
  ridingMonths: () => [
    nextOf(wayOf({ ridingMonths: 48 }), "lean", 40),
    nextOf(wayOf({ ridingMonths: 36 }), "lean", 40),
  ],
  spurtSeconds: () => {
    const at = (seconds: number | null): boolean => {
      const plan = { ...planOf(), program: withSettings({ coach: { spurtSeconds: seconds } }) };
      const events = readMoments(["gave 1/1"], "flex");
      return isSpurtLong(foldOuting(plan, events), plan, Date.parse(events.at(-1)?.at ?? "") + 100_000);
    };
    return [at(60), at(null)];
  },
  spurtsMost: () => {
    const again = ["gave 1/1", "spurt", "gave 1/1", "spurt", "gave 1/1"];
    const more = { line: { count: 9 } };
    return [
      saidOf(withSettings({ coach: { spurtsMost: 1 } }), again.slice(0, 1), more),
      saidOf(withSettings({ coach: { spurtsMost: null } }), again.slice(0, 1), more),
    ];
  },
  stuck: () => {
    const events = ["none 1/1", "none 1/1"];
    return [
      saidOf(withSettings({ coach: { stuck: "wait" } }), events),
      saidOf(withSettings({ coach: { stuck: "aim" } }), events),
    ];
  },
  fright: () => [
    saidOf(withSettings({ coach: { fright: "keep-hand" } }), ["gave 1/1", "startle 2"]),
    saidOf(withSettings({ coach: { fright: "smaller" } }), ["gave 1/1", "startle 2"]),
  ],
  firstDay: () => [
    saidOf(withSettings({ coach: { firstDay: "no-more" } }), ["gave 1/1"], { isNew: true }),
    saidOf(withSettings({ coach: { firstDay: "build" } }), ["gave 1/1"], { isNew: true }),
  ],
  standing: () => {
    const quiet: Stood = { seconds: 12, mood: 1, endedBy: "person" };
    return [nextStanding(quiet, quiet, { standing: "grows" }), nextStanding(quiet, quiet, { standing: "stays" })];
  },
  stickyShare: () => {
    const events = [
      "off: gave 1/1",
      "near: gave 1/1",
      "near: gave 1/1",
      "near: gave 1/1",
      "near: gave 1/1",
      "near: gave 1/1",
    ];
    const more = { sticky: "near" as const, line: { count: 9 } };
    return [
      saidOf(withSettings({ coach: { stickyShare: 1 } }), events, more),
      saidOf(withSettings({ coach: { stickyShare: 2 } }), events, more),
    ];
  },
  spareAsks: () => {
    const events = ["near: gave 1/1", "near: gave 1/1"];
    return [
      saidOf(withSettings({ coach: { spareAsks: 1 } }), events, { line: { count: 9 } }),
      saidOf(withSettings({ coach: { spareAsks: 3 } }), events, { line: { count: 9 } }),
    ];
  },
  pieces: () => [cardOf({ pieces: 8 }), cardOf({ pieces: 2 })],
  newPieces: () => [cardOf({ newPieces: 3 }), cardOf({ newPieces: 1 })],
};

describe("a setting", () => {
  it.each(Object.entries(EFFECTS))("%s changes what the application does", (_name, effect) => {
    const [one, other] = effect();
    expect(one).toBeDefined();
    expect(one).not.toEqual(other);
  });

  it("has its effect tested, every one of them", () => {
    expect(Object.keys(EFFECTS).toSorted()).toEqual(
      [...Object.keys(DEFAULT_WAYS), ...Object.keys(DEFAULT_COACH)].toSorted(),
    );
  });

  it("is a question of the comparison, every one of them", () => {
    const asked = facetsOf(loosePenStart).map(({ id }) => id);
    for (const name of [...Object.keys(DEFAULT_WAYS), ...Object.keys(DEFAULT_COACH)]) expect(asked).toContain(name);
  });
});

describe("the comparison", () => {
  it("shows every setting on which two schools disagree", () => {
    for (const one of PROGRAMS)
      for (const other of PROGRAMS) {
        const shown = new Set(differencesOf([one, other]).map(({ id }) => id));
        const of = ({ ways, coach }: Program): [string, unknown][] => Object.entries({ ...ways, ...coach });
        const others = new Map(of(other));
        const differ = of(one).flatMap(([name, value]) => (others.get(name) === value ? [] : [name]));
        expect([one.id, other.id, differ.filter((name) => !shown.has(name))]).toEqual([one.id, other.id, []]);
        if (one !== other) expect(differ.length).toBeGreaterThan(3);
      }
  });

  it("gives a sentence for each answer, and a reason where there is one", () => {
    for (const program of PROGRAMS)
      for (const { says, because, code, id } of facetsOf(program)) {
        expect([program.id, id, says.endsWith(".")]).toEqual([program.id, id, true]);
        expect([program.id, id, because === "" || because.endsWith(".")]).toEqual([program.id, id, true]);
        expect(code.length).toBeGreaterThan(0);
      }
  });
});
