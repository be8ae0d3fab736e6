import { describe, expect, it } from "vitest";
import {
  buildProgram,
  CATALOGUE,
  everythingUnder,
  SHIPPED,
  findStep,
  gatesOf,
  loosePenStart,
  nameIn,
  nearestStep,
  problemsOf,
  PROGRAMS,
  sidesOf,
  STAGES,
  stepsInOrder,
  type ProgramFile,
} from ".";
import { textsOf } from "./texts";

const asIs: ProgramFile = { id: "x", version: 1, name: "X", about: "X", stop: ["flex", "yield-hind"] };
const wordsOf = (file: Partial<ProgramFile>): string[] =>
  problemsOf(buildProgram({ ...asIs, ...file }, CATALOGUE)).map(
    ({ path, expected, found }) => `${path.join(".")}: ${expected}; ${found}`,
  );
const indexOf = (id: string): number => CATALOGUE.steps.findIndex((step) => step.id === id);

describe("the catalogue", () => {
  it("has the hundred and one steps of the road in ten stages, each stage in one piece", () => {
    expect(CATALOGUE.steps).toHaveLength(101);
    const stages = CATALOGUE.steps.map((step) => step.stage);
    expect([...new Set(stages)]).toEqual([...STAGES]);
    expect(stages.filter((stage, index) => stage !== stages[index - 1])).toEqual([...STAGES]);
  });

  it.each([...PROGRAMS, SHIPPED.known("loose-pen-start", 1)].flatMap((one) => one ?? []))(
    "$id, version $version, is sound: nothing unknown, no circle, every gate's steps before it, nothing loose",
    (program) => {
      // The first version was a beginning: its last steps had nothing on them yet.
      const wrong = problemsOf(program).filter((one) => program.version > 1 || !one.expected.startsWith("true"));
      expect(wrong).toEqual([]);
    },
  );

  it("puts every step after all it rests on", () => {
    const place = new Map(stepsInOrder(loosePenStart).map((step, index) => [step.id, index]));
    expect(place.size).toBe(101);
    for (const step of loosePenStart.steps)
      for (const under of everythingUnder(loosePenStart, step.id))
        expect([step.id, under, (place.get(under) ?? 0) < (place.get(step.id) ?? 0)]).toEqual([step.id, under, true]);
  });

  it("begins with sharing a pen: it lies under every other step", () => {
    for (const step of loosePenStart.steps.slice(1))
      expect([step.id, everythingUnder(loosePenStart, step.id).includes("share-space")]).toEqual([step.id, true]);
  });

  it("says of every step what it is, in sentences that fit on a card, and nothing of what is no step", () => {
    const most = { what: 140, faults: 100, odd: 90, caution: 170, drill: 110, later: 90 } as const;
    for (const { id } of CATALOGUE.steps) {
      const texts = textsOf(id);
      for (const [field, length] of Object.entries(most)) {
        const text = texts?.[field as keyof typeof most] ?? "";
        expect([id, field, text.length > 8 && text.length <= length, text.endsWith(".")]).toEqual([
          id,
          field,
          true,
          true,
        ]);
      }
      expect([id, (texts?.gear.length ?? 0) > 0, (texts?.synonyms.length ?? 0) > 0]).toEqual([id, true, true]);
    }
    expect(textsOf("piaffe")).toBeUndefined();
    expect(textsOf("constructor")).toBeUndefined();
  });

  it("names the rope's length where a line or long rope is the gear of the work on the line", () => {
    for (const step of CATALOGUE.steps.filter((one) => one.stage === "line" && one.id !== "poles"))
      expect([step.id, textsOf(step.id)?.gear.some((gear) => /\d+.* ft \(.*m\)/.test(gear))]).toEqual([step.id, true]);
  });

  it("warns with the words that matter where a person can be hurt", () => {
    const says = (id: string): string => textsOf(id)?.caution ?? "";
    expect(says("tie")).toMatch(/never bit or reins.*withers height.*knife.*never out of sight/);
    expect(says("saddle")).toMatch(/Never tied hard/);
    expect(says("load")).toMatch(/bar or door shut before tying, untied before it is opened/);
    expect(says("lean")).toMatch(/[Hh]elper.*helmet/);
    expect(says("bit-carry")).toMatch(/dentist or vet/);
    expect(says("line-ride")).toMatch(/Never lunge off the bit/);
  });

  it("has British names where they are others", () => {
    const pad = findStep(loosePenStart, "pad");
    expect(pad && [nameIn(pad, "american"), nameIn(pad, "british")]).toEqual(["Saddle pad", "Numnah"]);
    const flex = findStep(loosePenStart, "flex");
    expect(flex && nameIn(flex, "british")).toBe("Lateral flexion");
  });

  it("asks feet four times, most steps on two sides, some on none", () => {
    const count = (id: string): number => sidesOf(findStep(loosePenStart, id) ?? { side: "none" }).length;
    expect([count("pick-up"), count("flex"), count("arena")]).toEqual([4, 2, 1]);
  });

  it("knows the gates of a step", () => {
    const names = (id: string): string[] => gatesOf(loosePenStart, id).map((gate) => gate.id);
    expect(names("flex")).toEqual(["first-ride", "out-of-pen"]);
    expect(names("whoa-rein")).toEqual(["out-of-pen", "first-canter"]);
    expect(names("catch-rope")).toEqual(["halter"]);
    expect(names("mouth")).toEqual([]);
    expect(loosePenStart.gates.map((gate) => gate.id)).toHaveLength(10);
  });
});

describe("a program that is not sound is told", () => {
  it("of a circle, and which", () => {
    expect(wordsOf({ needs: { "first-touch": ["swap-sides"] } })).toContain(
      `steps.${indexOf("first-touch")}.needs: needs that do not lead back to the step itself; first-touch rests on swap-sides rests on first-touch`,
    );
  });

  it("of a step that does not exist, a need of nothing, a rung there is not", () => {
    const wrong = wordsOf({
      needs: { flex: ["give-haltar"], lead: [[]], pad: ["girth-rope", { step: "flag", rung: 4 }] },
      optional: ["nowhere"],
    });
    expect(wrong).toContain(`steps.${indexOf("flex")}.needs.0: a step of this program; give-haltar`);
    expect(wrong).toContain(`steps.${indexOf("lead")}.needs.0: at least one step; none`);
    expect(wrong).toContain(`steps.${indexOf("pad")}.needs.1: a rung from 1 to 3 of flag; 4`);
    expect(wrong).toContain("optional.0: a step of this program; nowhere");
  });

  it("of a step twice, one that nothing rests on, and a gate that could never open", () => {
    const [first] = CATALOGUE.steps;
    if (!first) throw new Error("no steps");
    expect(wordsOf({ catalogue: 2, steps: [...CATALOGUE.steps, first] })).toContain(
      "steps.101.id: an id of its own; share-space, which stands there before",
    );
    expect(wordsOf({ steps: CATALOGUE.steps.map((step) => ({ ...step, end: false })) })).toContain(
      `steps.${indexOf("stretch")}.end: true, because nothing rests on it; not marked`,
    );
    expect(wordsOf({ gates: [{ id: "odd", name: "Odd", before: ["give-halter"], steps: ["yield-hind"] }] })).toContain(
      "gates.0.steps: steps that can be reached before the gate; yield-hind, which rests on give-halter",
    );
  });
});

describe("the graph", () => {
  it("knows what lies under a step, all the way down", () => {
    expect(everythingUnder(loosePenStart, "halter-on")).toEqual([
      "share-space",
      "face-up",
      "move-off",
      "turn-through",
      "draw",
      "catch-rope",
      "first-touch",
      "swap-sides",
      "head-rub",
    ]);
    expect(everythingUnder(loosePenStart, "share-space")).toEqual([]);
  });

  it("names the nearest step for a misspelt one, and none for a stranger", () => {
    expect(nearestStep(loosePenStart, "give-halster")).toBe("give-halter");
    expect(nearestStep(loosePenStart, "piaffe-on-the-moon")).toBeUndefined();
  });

  it("keeps the former version of a program, and takes the current one where none is asked for", () => {
    expect(SHIPPED.known("loose-pen-start")?.version).toBe(3);
    expect(SHIPPED.known("loose-pen-start", 1)?.steps).toHaveLength(10);
    expect(SHIPPED.known("loose-pen-start", 7)).toBeUndefined();
  });
});
