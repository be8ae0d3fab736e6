import { describe, expect, it } from "vitest";
import { unsafePartsOf } from "./safety";
import {
  buildProgram,
  catalogueOf,
  findStep,
  formerOf,
  guardOf,
  heirsOf,
  NEWEST_EDITION,
  problemsOf,
  ProgramBook,
  refsOf,
  SCHOOLS,
  SHIPPED,
  stepsFor,
  toEdition,
  type Program,
  type ProgramFile,
} from ".";

const GONE = "step-up-back";

const idsIn = (program: Program): string[] => [
  ...program.stop,
  ...program.optional,
  ...program.steps.flatMap(({ id, needs }) => [id, ...refsOf(needs).map(({ step }) => step)]),
  ...program.gates.flatMap(({ before, needs, ridden }) => [
    ...before,
    ...refsOf(needs).map(({ step }) => step),
    ...(ridden?.before ?? []),
    ...refsOf(ridden?.needs ?? []).map(({ step }) => step),
  ]),
];
const needsOf = (program: Program, id: string): string[][][] =>
  (findStep(program, id)?.needs ?? []).map(({ anyOf }) => anyOf.map((way) => way.map(({ step }) => step)));

/** A program of the first edition that names the pair everywhere a file can. */
const ownFile: ProgramFile = {
  ...(SCHOOLS[0] as ProgramFile),
  id: "own-pairs",
  version: 4,
  catalogue: 1,
  name: "Pairs",
  stop: [GONE, "flex"],
  optional: [GONE],
  ends: [GONE],
  road: ["share-space", "give-halter", GONE, "rope-lead", "lead", "stand", "hind-moving", "own-mark"],
  ownSteps: [
    {
      id: "own-mark",
      stage: "halter",
      name: "Halts at the mark",
      side: "none",
      ends: "stop",
      phase: 1,
      mood: 1,
      needs: [{ step: GONE, rung: "2" }, "hind-moving"],
    },
  ],
  standards: { [GONE]: { phase: 0 } },
  needs: { [GONE]: ["share-space"], lead: [[GONE, "rope-lead"]], stand: [[{ all: [GONE, "lead"] }, "rope-lead"]] },
  stageNeeds: { halter: ["share-space"] },
  gates: [
    {
      id: "own-gate",
      name: "Our gate",
      before: [GONE],
      steps: ["give-halter"],
      ridden: [GONE],
      riddenBefore: ["lead"],
    },
  ],
};

describe("the first edition of the catalogue", () => {
  it("is meant by a file that names no edition, and by one of a yard too", () => {
    const { catalogue: _none, ...file } = ownFile;
    expect(buildProgram(file).steps.map(({ id }) => id)).toContain(GONE);
    expect(catalogueOf()).toBe(catalogueOf(1));
    expect(catalogueOf(1).steps).toHaveLength(99);
  });
});

describe("the second edition", () => {
  it("has the pair as two steps and the turn on the hocks beside the quarters, and names what is gone nowhere", () => {
    for (const program of SHIPPED.all) {
      const ids = idsIn(program);
      expect([program.id, program.catalogue, ids.includes(GONE)]).toEqual([program.id, NEWEST_EDITION, false]);
      const road = program.steps.map(({ id }) => id);
      expect([program.id, Math.abs(road.indexOf("step-back") - road.indexOf("step-up"))]).toEqual([program.id, 1]);
      expect([program.id, road.includes("roll-back")]).toEqual([program.id, road.includes("hind-moving")]);
    }
  });

  it("keeps every program sound, with all that guards a person", () => {
    for (const program of SHIPPED.all)
      expect([program.id, problemsOf(program), unsafePartsOf(program, guardOf(program))]).toEqual([program.id, [], []]);
  });

  it("comes in a version of its own of each program that ships", () => {
    for (const { id, version } of SHIPPED.all) {
      const former = SHIPPED.goneBy({ id }, 1);
      expect([id, former.catalogue, former.version]).toEqual([id, 1, version - 1]);
    }
  });
});

describe("a file of the first edition that is taken to the second", () => {
  const taken = toEdition(ownFile);
  const program = buildProgram(taken);

  it("names its edition, and keeps its id and version", () => {
    expect([taken.id, taken.version, taken.catalogue]).toEqual(["own-pairs", 4, 2]);
    expect(toEdition(taken)).toBe(taken);
  });

  it("has both steps wherever the pair stood: road, needs, standards, ends, gates", () => {
    expect(idsIn(program)).not.toContain(GONE);
    expect(program.steps.map(({ id }) => id)).toEqual([
      "share-space",
      "give-halter",
      "step-up",
      "step-back",
      "rope-lead",
      "lead",
      "stand",
      "hind-moving",
      "roll-back",
      "own-mark",
    ]);
    expect(needsOf(program, "step-up")).toEqual([[["share-space"]], [["share-space"]]]);
    expect(needsOf(program, "lead").slice(0, 1)).toEqual([[["step-up", "step-back"], ["rope-lead"]]]);
    expect(needsOf(program, "stand").slice(0, 1)).toEqual([[["step-up", "step-back", "lead"], ["rope-lead"]]]);
    expect(findStep(program, "step-back")?.standard.phase).toBe(0);
    expect(findStep(program, "step-up")?.end).toBe(true);
    expect(program.optional).toEqual(["step-up", "step-back"]);
    expect(program.gates[0]?.before).toEqual(["step-up", "step-back"]);
    expect(program.gates[0]?.ridden?.needs).toHaveLength(2);
  });

  it("keeps the rung a need names, for each of the two", () => {
    expect(findStep(program, "own-mark")?.needs.slice(0, 2)).toEqual([
      { anyOf: [[{ step: "step-up", rung: "2" }]] },
      { anyOf: [[{ step: "step-back", rung: "2" }]] },
    ]);
  });

  it("names the rung at the same place where its id is another one", () => {
    const { stop, standards } = toEdition({
      ...ownFile,
      standards: { [GONE]: { rung: "4" } },
      needs: { lead: [{ step: GONE, rung: "4" }] },
    });
    expect([stop, standards]).toEqual([
      ["step-back", "flex"],
      { "step-up": { rung: "4" }, "step-back": { rung: "4-straight" } },
    ]);
    const { needs } = toEdition({ ...ownFile, needs: { lead: [{ step: GONE, rung: "4" }] } });
    expect(needs?.["lead"]).toEqual([
      { step: "step-up", rung: "4" },
      { step: "step-back", rung: "4-straight" },
    ]);
  });

  it("stops by the step back alone", () => {
    expect(program.stop).toEqual(["step-back", "flex"]);
  });

  it("rests on the quarters where it rested on them, and nowhere on the turn that is new", () => {
    expect(needsOf(program, "own-mark")[2]).toEqual([["hind-moving"]]);
    expect(idsIn(program).filter((id) => id === "roll-back")).toHaveLength(1);
  });

  it("stays as it is where all its steps are written out in it", () => {
    const whole: ProgramFile = { ...ownFile, steps: [...catalogueOf(1).steps] };
    expect(toEdition(whole)).toBe(whole);
  });
});

describe("entries of a step that became two", () => {
  it("are of both in a program of the second edition, and of itself in one of the first", () => {
    const of = (version: number): string[] =>
      stepsFor(SHIPPED.find("loose-pen-start", version), GONE).map(({ id }) => id);
    expect([of(2), of(3)]).toEqual([[GONE], ["step-up", "step-back"]]);
    expect([heirsOf("hind-moving"), heirsOf("flex"), heirsOf("own-mark")]).toEqual([
      ["hind-moving"],
      ["flex"],
      ["own-mark"],
    ]);
    expect([formerOf("step-back"), formerOf("hind-moving"), formerOf("roll-back")]).toEqual([
      GONE,
      undefined,
      undefined,
    ]);
  });
});

describe("the program a horse goes by", () => {
  const own = (version: number, catalogue?: number): ProgramFile => ({
    ...(SCHOOLS[0] as ProgramFile),
    id: "own-ours",
    name: "Ours",
    version,
    ...(catalogue === undefined ? {} : { catalogue }),
  });

  it("stays on the edition of the version he was put on, in the newest version of it", () => {
    const by = (version?: number): number => SHIPPED.goneBy({ id: "loose-pen-start", version }).version;
    expect([by(1), by(2), by(3), by(), by(77)]).toEqual([2, 2, 3, 3, 3]);
    expect(SHIPPED.goneBy({ id: "weanling-course" }, 1).version).toBe(1);
    expect(SHIPPED.goneBy({ id: "weanling-course" }, 2).version).toBe(2);
  });

  it("is the newest version of a yard's own, whatever edition that is on", () => {
    const { catalogue: _second, ...first } = toEdition(own(1, 1));
    const book = new ProgramBook([{ ...first, road: ["share-space"] }, own(2)]);
    expect(book.goneBy({ id: "own-ours", version: 1 }, 1).version).toBe(2);
    expect(book.goneBy({ id: "own-none", version: 1 }).isUnknown).toBe(true);
  });

  it("is among those a yard's horses may go by", () => {
    const used = SHIPPED.inUse.map(({ id, version }) => `${id} ${version}`);
    expect(used).toHaveLength(14);
    expect(used).toEqual(expect.arrayContaining(["loose-pen-start 3", "loose-pen-start 2", "weanling-course 1"]));
    expect(used).not.toContain("loose-pen-start 1");
  });
});
