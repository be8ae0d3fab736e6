import { describe, expect, it } from "vitest";
import expected from "./cases/schools.json" with { type: "json" };
import { facetsOf, roadOf } from "./facets";
import {
  alwaysUnder,
  buildProgram,
  CATALOGUE,
  SHIPPED,
  problemsOf,
  PROGRAMS,
  SAFEGUARD,
  SCHOOLS,
  unsafePartsOf,
  type ProgramFile,
  type StepFile,
} from ".";
import { alwaysAbove } from "./safety";
import { programProblemInWords } from "./problem-words";
import { schoolTextsOf } from "./school-texts";

/** What each school answers; common practice, no published source. */
describe("a school that ships", () => {
  it.each(Object.entries(expected))("%s answers as its people do", (id, answers) => {
    const program = SHIPPED.known(id);
    if (!program) throw new Error(`no ${id}`);
    const codes = new Map(facetsOf(program).map((facet) => [facet.id, facet.code]));
    for (const [question, code] of Object.entries(answers)) {
      if (code.startsWith("^")) expect(codes.get(question)).toMatch(new RegExp(code));
      else expect([question, codes.get(question)]).toEqual([question, code]);
    }
  });

  it("is one of seven, each with a page to read, a first outing that is short, and weeks in their order", () => {
    expect(PROGRAMS.map(({ id }) => id)).toEqual(Object.keys(expected));
    for (const { id, steps } of PROGRAMS) {
      const texts = schoolTextsOf(id);
      if (!texts) throw new Error(`nothing to read of ${id}`);
      for (const text of [texts.forWhom, texts.holdsTo, texts.why, texts.critics])
        expect(text.length).toBeGreaterThan(40);
      const minutes = texts.firstOuting.reduce((sum, one) => sum + one.minutes, 0);
      expect([id, minutes >= 10 && minutes <= 30]).toEqual([id, true]);
      expect(texts.weeks.length).toBeGreaterThan(3);
      expect(roadOf(SHIPPED.known(id) ?? SAFEGUARD).flatMap((one) => one.steps)).toHaveLength(steps.length);
    }
  });

  it("has a first outing within the minutes of its youngest horse", () => {
    const minutes = schoolTextsOf("weanling-course")?.firstOuting.reduce((sum, one) => sum + one.minutes, 0);
    // A weanling's feet work fifteen minutes at the most.
    expect(minutes).toBeLessThanOrEqual(15);
  });

  it.each(PROGRAMS)("$id keeps all that guards a person", (program) => {
    expect(unsafePartsOf(program, SAFEGUARD)).toEqual([]);
  });
});

describe("what guards a person", () => {
  const [loose] = SCHOOLS;
  if (!loose) throw new Error("no school");
  const OWN_STEP: StepFile = {
    id: "own-hat",
    name: "A hat",
    stage: "getting-used",
    side: "handler",
    ends: "stop",
    phase: null,
    mood: 1,
    needs: ["lead"],
    end: true,
    guarded: false,
  };
  const foundIn = (part: Partial<ProgramFile>): string[] =>
    unsafePartsOf(buildProgram({ ...loose, ...part }, CATALOGUE), SAFEGUARD).map(({ expected: wanted }) => wanted);
  const road = CATALOGUE.steps.map(({ id }) => id);

  it.each<[string, Partial<ProgramFile>, RegExp]>([
    [
      "a gate left out",
      { gates: CATALOGUE.gates.filter(({ id }) => id !== "tie") },
      /the gate tie, which stands before tie/,
    ],
    [
      "a safety step dropped from a gate",
      { gates: CATALOGUE.gates.map((gate) => (gate.id === "load" ? { ...gate, steps: ["lead"] } : gate)) },
      /gap, a safety step of the gate load/,
    ],
    [
      "a gate that stands before less",
      { gates: CATALOGUE.gates.map((gate) => (gate.id === "saddle" ? { ...gate, before: ["saddle"] } : gate)) },
      /roller, which this gate stands before/,
    ],
    [
      "a lean left out, and lying over kept",
      { road: road.filter((id) => id !== "lean"), needs: { ...loose.needs, "lie-over": ["lead", "stand"] } },
      /the gate first-ride/,
    ],
    ["more mood let pass", { standards: { stand: { mood: 2 } } }, /stand, a safety step/],
    ["a wider gap", { standards: { gap: { dose: 4 } } }, /gap, a safety step/],
    ["a shorter first sitting", { standards: { lean: { dose: 5 } } }, /lean, a safety step/],
    [
      "the stop not asked for",
      {
        gates: CATALOGUE.gates.map((gate) =>
          gate.id === "first-ride" ? { ...gate, steps: gate.steps.filter((need) => need !== "@stop") } : gate,
        ),
      },
      /a step of this program's stop/,
    ],
    ["no stop", { stop: [] }, /among its steps/],
    ["fewer days", { judge: { gateDays: 2 } }, /at least 3/],
    ["a longer freshness of gates", { judge: { gateFresh: 60 } }, /at most 14/],
    [
      "a handling gate that nearly anything opens",
      { judge: { handlingSure: 0.05, handlingDays: 1 } },
      /at least 0\.85/,
    ],
    ["a word that is hard to lose", { judge: { lostUnder: 0.05 } }, /at least 0\.3/],
    ["more missed first asks before it is lost", { judge: { colds: 6, coldsLost: 6 } }, /at most 2/],
    ["more tight outings before it is lost", { judge: { recent: 6, tightLost: 6 } }, /at most 2/],
    ["one clean ask taken for enough", { judge: { enoughAsks: 1 } }, /at least 3: what is begun on trust goes by it/],
    ["a month's old end taken up again", { judge: { enoughDays: 30 } }, /at most 7: what is begun on trust/],
    ["a long chain on trust", { judge: { trustLinks: 6 } }, /at most 2: what is begun on trust/],
    [
      "a ride of one's own on trust",
      { ownSteps: [{ ...OWN_STEP, stage: "riding", needs: ["lean"] }] },
      /true: what it rests on has to be steady/,
    ],
    [
      "weight of one's own on trust",
      { ownSteps: [{ ...OWN_STEP, marks: ["weight"] }] },
      /true: what it rests on has to be steady/,
    ],
    ["a month away that is no break", { judge: { breakDays: 30 } }, /at most 14/],
    ["one outing on the ground for a year away", { judge: { groundMost: 1 } }, /at least 6/],
    ["more key asks mended in a day", { judge: { mendedMost: 3 } }, /at most 1/],
    [
      "a gait that is not asked for",
      {
        gates: CATALOGUE.gates.map((gate) =>
          gate.id === "first-canter" ? { ...gate, steps: ["arena", "go-leg", "whoa-rein", "saddle-work"] } : gate,
        ),
      },
      /saddle-work, a safety step of the gate first-canter/,
    ],
  ])("finds %s", (_what, part, wanted) => {
    expect(foundIn(part).join("; ")).toMatch(wanted);
  });

  it.each<[string, Partial<ProgramFile>]>([
    ["a step of one's own on trust", { ownSteps: [OWN_STEP] }],
    ["a shorter chain on trust", { judge: { trustLinks: 1, enoughAsks: 4, enoughDays: 3 } }],
    ["a slower way back into the saddle", { judge: { breakDays: 10, groundPer: 7, groundMost: 10 } }],
    ["another order", { road: road.toReversed() }],
    ["stricter numbers", { judge: { gateDays: 4, gateSure: 0.95, gateFresh: 10 } }],
    [
      "more asked of a gate",
      { gates: CATALOGUE.gates.map((gate) => ({ ...gate, steps: [...gate.steps, "share-space"] })) },
    ],
    ["a stricter standard", { standards: { stand: { mood: 0, dose: 120 } } }],
    ["other needs, the gates kept", { needs: { ...loose.needs, stand: ["step-up-back", "lead", "head-down"] } }],
  ])("lets %s pass", (_what, part) => {
    expect(foundIn(part)).toEqual([]);
  });

  it("counts as under a step only what every way to it passes", () => {
    const under = alwaysUnder(SAFEGUARD, "roller");
    // A roller may be come to by the line or by the loose pen.
    expect([under.has("pad"), under.has("circle-trot"), under.has("turn-through"), under.has("share-space")]).toEqual([
      true,
      false,
      false,
      true,
    ]);
  });
});

describe("what is always above a step", () => {
  it.each([...PROGRAMS, SAFEGUARD].map((program) => [program.id, program] as const))(
    "is all that has it always under itself: %s",
    (_id, program) => {
      const ids = program.steps.map(({ id }) => id);
      for (const id of ids)
        expect([id, ids.filter((one) => alwaysAbove(program, id).has(one))]).toEqual([
          id,
          ids.filter((one) => one !== id && alwaysUnder(program, one).has(id)),
        ]);
    },
  );
});

describe("what is wrong, said to a person", () => {
  const [loose] = SCHOOLS;
  const wordsOf = (part: Partial<ProgramFile>): string[] => {
    const program = buildProgram({ ...(loose as ProgramFile), ...part }, CATALOGUE);
    return [...problemsOf(program), ...unsafePartsOf(program, SAFEGUARD)].map((one) =>
      programProblemInWords(one, program, "american"),
    );
  };
  const road = CATALOGUE.steps.map(({ id }) => id);

  it.each<[Partial<ProgramFile>, string]>([
    [
      { road: road.filter((id) => id !== "head-down") },
      "The gate First tying asks for “Lowers the head”, which is not on the road.",
    ],
    [
      { needs: { "face-up": ["draw"] } },
      "Turns to face: wanted needs that do not lead back to the step itself; found: “Turns to face” rests on “Comes when drawn” rests on “Turns to face”.",
    ],
    [
      { standards: { stand: { mood: 3 } } },
      "Stands where put: wanted at least what the catalogue asks of “Stands where put”, a safety step; found: mood 3.",
    ],
    [{ judge: { gateDays: 1 } }, "The judge's numbers: wanted at least 3: gates go by it; found: 1."],
    [
      {
        ownSteps: [
          {
            id: "own-a",
            name: "In the river",
            stage: "halter",
            side: "none",
            ends: "give",
            phase: 1,
            mood: 1,
            needs: ["lead"],
          },
        ],
      },
      "Nothing rests on In the river: say so, or let something rest on it.",
    ],
  ])("%j", (part, words) => {
    expect(wordsOf(part)).toContain(words);
  });
});
