import { describe, expect, it } from "vitest";
import { ageFor } from "../readiness";
import { facetsOf } from "./facets";
import { onTheCard } from "./on-the-card";
import {
  buildProgram,
  CATALOGUE,
  loosePenStart,
  SAFEGUARD,
  SCHOOLS,
  STEP_MARKS,
  stepsMarked,
  unsafePartsOf,
  type ProgramFile,
  type StepFile,
} from ".";

const [loose] = SCHOOLS;
if (!loose) throw new Error("no school");
const own = (id: string, more: Partial<StepFile>): StepFile => ({
  id,
  stage: "riding",
  name: id,
  side: "none",
  ends: "stop",
  phase: null,
  mood: 1,
  needs: ["stand"],
  ...more,
});
const withSteps = (...ownSteps: StepFile[]) =>
  buildProgram(
    {
      ...loose,
      id: "own-marked",
      ownSteps,
      road: [...loosePenStart.steps.map(({ id }) => id), ...ownSteps.map(({ id }) => id)],
    },
    CATALOGUE,
  );

describe("what the rules know of a step", () => {
  it("stands in the catalogue: every mark is of some step, and every step of a mark is there", () => {
    expect(STEP_MARKS.filter((mark) => stepsMarked(SAFEGUARD, mark).length === 0)).toEqual([]);
    expect(stepsMarked(SAFEGUARD, "onto-him").map(({ id }) => id)).toEqual(["lean", "lie-over", "foot-in", "astride"]);
    expect(SAFEGUARD.gates.filter(({ roles }) => roles.includes("stop-shown")).map(({ id }) => id)).toEqual([
      "first-ride",
      "out-of-pen",
    ]);
  });

  it("holds for a yard's own step: the first weight on his back waits for the age of riding, and so does what rests on it", () => {
    const { ridingMonths } = loosePenStart.ways;
    expect(ridingMonths).not.toBeNull();
    const program = withSteps(
      own("own-sack", { marks: ["weight"] }),
      own("own-sack-walk", { needs: ["own-sack"] }),
      own("own-beside", {}),
    );
    expect(["own-sack", "own-sack-walk", "own-beside", "lean"].map((id) => ageFor(program, id))).toEqual([
      ridingMonths,
      ridingMonths,
      null,
      ridingMonths,
    ]);
  });

  it("holds for a yard's own step that is led: the card minds where to walk", () => {
    const program = withSteps(own("own-ford", { stage: "feet", marks: ["led"] }), own("own-puddle", { stage: "feet" }));
    const [led, loose] = ["own-ford", "own-puddle"].map((id) => onTheCard(program, [id]).mind);
    expect(led).toHaveLength((loose?.length ?? 0) + 1);
  });

  it("holds for a yard's own bend of the neck: the comparison of schools counts it as one", () => {
    const bend = own("own-bend", { stage: "halter", side: "bend", ends: "give", marks: ["flexion"] });
    const road = loosePenStart.steps.map(({ id }) => id).filter((id) => id !== "flex");
    const steps = CATALOGUE.steps.filter(({ marks = [] }) => !marks.includes("flexion"));
    const answerOf = (file: Partial<ProgramFile>): string | undefined =>
      facetsOf(buildProgram({ ...loose, id: "own-neck", ...file }, { ...CATALOGUE, steps })).find(
        ({ id }) => id === "flexion",
      )?.code;
    expect(answerOf({ road })).toBe("none");
    expect(answerOf({ road: [...road, bend.id], ownSteps: [bend] })).toBe("some");
    expect(answerOf({ road: [...road, bend.id], ownSteps: [bend], stop: [bend.id] })).toBe("much");
  });

  it("asks a yard's own leg-up for as many people as any", () => {
    const file = { ...loose, id: "own-up", ways: { ...loose.ways, firstMount: "leg-up" as const } };
    const program = buildProgram(
      {
        ...file,
        ownSteps: [own("own-knee", { marks: ["onto-him"] })],
        road: [...loosePenStart.steps.map(({ id }) => id), "own-knee"],
      },
      CATALOGUE,
    );
    expect(program.steps.find(({ id }) => id === "own-knee")?.people).toBe(3);
  });

  it("cannot be taken from a step or a gate of the catalogue", () => {
    const steps = CATALOGUE.steps.map(({ marks: _marks, ...step }) => step);
    const gates = CATALOGUE.gates.map(({ roles: _roles, ...gate }) => gate);
    const program = buildProgram({ ...loose, id: "own-bare", steps, gates }, CATALOGUE);
    expect(ageFor(program, "lean")).toBe(ageFor(loosePenStart, "lean"));
    expect(program.gates.find(({ id }) => id === "first-ride")?.roles).toEqual(["first-ride", "stop-shown"]);
    const withoutStop = gates.map((gate) => ({ ...gate, steps: gate.steps.filter((need) => need !== "@stop") }));
    const unsafe = unsafePartsOf(buildProgram({ ...loose, id: "own-lax", gates: withoutStop }, CATALOGUE), SAFEGUARD);
    expect(unsafe.map(({ expected }) => expected)).toEqual(
      expect.arrayContaining([expect.stringContaining("a step of this program's stop")]),
    );
  });
});
