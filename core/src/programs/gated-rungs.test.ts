import { describe, expect, it } from "vitest";
import { alwaysUnder, buildProgram, findStep, gatedRungOf, PROGRAMS, SAFEGUARD, SCHOOLS, type Program } from ".";

const stepsWithGate = (program: Program) =>
  program.steps.flatMap((step) => {
    const gated = gatedRungOf(program, step);
    return gated ? [{ step, gated }] : [];
  });

describe("a gate within the ladder of a step", () => {
  it("stands before two minutes tied: what is smaller is held in the hand", () => {
    expect(stepsWithGate(SAFEGUARD).map(({ step, gated }) => [step.id, gated.gate.id, gated.rung])).toEqual([
      ["tie", "tie", "ring-held"],
    ]);
  });

  it("is there in every school that comes by that step, and leaves rungs on both sides of it", () => {
    const tying = PROGRAMS.filter((program) => findStep(program, "tie"));
    expect(tying.length).toBeGreaterThan(4);
    for (const program of tying)
      for (const { step, gated } of stepsWithGate(program)) {
        expect([program.id, gated.place >= 0 && gated.place < step.ladder.standard]).toEqual([program.id, true]);
        expect(gated.gate.before).toContain(step.id);
      }
    expect(tying.map((program) => stepsWithGate(program).length)).toEqual(tying.map(() => 1));
  });

  it("asks for less before it than behind it, and for nothing else", () => {
    for (const program of PROGRAMS)
      for (const { step, gated } of stepsWithGate(program)) {
        const under = alwaysUnder(program, step.id);
        expect(gated.needs.filter((need) => !under.has(need))).toEqual([]);
        expect(gated.needs.length).toBeLessThan(under.size);
      }
  });

  it("stands before all of the step where a program lacks the gate, or a step the smaller rungs rest on", () => {
    const tie = findStep(SAFEGUARD, "tie");
    if (!tie) throw new Error("no tying");
    expect(gatedRungOf({ ...SAFEGUARD, gates: [] }, tie)).toBeNull();
    const file = SCHOOLS.find(({ id, road }) => id === "learning-theory-start" && road);
    if (!file) throw new Error("no such school");
    const road = file.road?.filter((id) => id !== "yield-hind") ?? [];
    expect(gatedRungOf(buildProgram({ ...file, road }), tie)).toBeNull();
  });
});
