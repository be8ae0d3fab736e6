import { describe, expect, it } from "vitest";
import { FAULTS, TOOLS } from "../record";
import { buildProgram, CATALOGUE, CHIPS, PROGRAMS, SAFEGUARD, SCHOOLS, type ProgramFile, type Step } from ".";
import chips from "./catalogue/chips.json" with { type: "json" };
import { CHIP_VALUES, chipsOf } from "./chips";
import { FAULT_WORDS } from "./fault-words";
import { ladderTextsOf, rungInWords } from "./ladder-words";
import { LADDERS } from "./ladders";

const catalogued: readonly Step[] = SAFEGUARD.steps;

describe("the ladder of a step", () => {
  it("is there for every step of the catalogue, in one to eight rungs of which each is known by its own id and its own words", () => {
    for (const { id, ladder } of catalogued) {
      const ids = ladder.rungs.map((rung) => rung.id);
      expect([id, ids.length >= 1 && ids.length <= 8]).toEqual([id, true]);
      expect([id, new Set(ids).size]).toEqual([id, ids.length]);
      const words = ids.map((rung) => rungInWords(id, rung));
      expect([id, new Set(words).size]).toEqual([id, ids.length]);
      expect(words.every((one) => one.length > 3 || /^\d+(°| m)$/.test(one) || one === "on")).toBe(true);
    }
  });

  it("names a standard among its rungs", () => {
    const strange = [...LADDERS].filter(
      ([, { rungs, standard }]) => standard !== undefined && !rungs.some(({ id }) => id === standard),
    );
    expect(strange).toEqual([]);
  });

  it("reaches the standard's dose on the standard's rung, where that is measured, and not before it", () => {
    const measured = catalogued.filter(({ standard }) => standard.dose !== null);
    expect(measured.length).toBeGreaterThan(30);
    for (const { id, standard, ladder } of measured) {
      const { amount, atMost = false, at } = standard.dose ?? { amount: 0 };
      const reaches = (dose: number): boolean => (atMost ? dose <= amount : dose >= amount);
      // A head is rubbed for ten seconds on each of its places: the place grows, not the time.
      if (id === "head-rub") continue;
      const own = ladder.rungs[ladder.standard];
      expect([id, own?.dose, own?.at]).toEqual([id, amount, at]);
      for (const rung of ladder.rungs.slice(0, ladder.standard))
        if (rung.at === at) expect([id, rung.id, reaches(rung.dose ?? 0)]).toEqual([id, rung.id, false]);
    }
  });

  it("grows from rung to rung where two are measured at the same place", () => {
    for (const { id, standard, ladder } of catalogued) {
      const amounts = ladder.rungs.flatMap(({ dose, at }) =>
        dose !== undefined && at === standard.dose?.at ? [dose] : [],
      );
      const inOrder = amounts.toSorted((a, b) => (standard.dose?.atMost ? b - a : a - b));
      expect([id, amounts]).toEqual([id, inOrder]);
    }
  });

  it("names three to five faults and a tool that there are, each in words", () => {
    for (const { id, ladder } of catalogued) {
      const { faults } = ladderTextsOf(id);
      expect([id, faults.length >= 3 && faults.length <= 5]).toEqual([id, true]);
      for (const fault of faults) {
        expect(FAULTS).toContain(fault);
        expect(FAULT_WORDS[fault]).toMatch(/^[a-z]/);
      }
      if (ladder.tool !== null) expect(TOOLS).toContain(ladder.tool);
    }
    expect(Object.keys(FAULT_WORDS).toSorted()).toEqual([...FAULTS].toSorted());
  });

  it("asks how he goes of every step that is to be shown standing and moving", () => {
    const both = catalogued.filter(({ elsewhere }) => elsewhere.includes("settings"));
    expect(both.length).toBeGreaterThan(10);
    expect(both.filter((step) => !chipsOf(step).includes("setting")).map(({ id }) => id)).toEqual([]);
  });

  it("has chips for steps of the catalogue alone, and each can say two things or more", () => {
    expect(Object.keys(chips)).toEqual([...CHIPS]);
    for (const chip of CHIPS) {
      expect(chips[chip].filter((id) => !LADDERS.has(id))).toEqual([]);
      expect(CHIP_VALUES[chip].length).toBeGreaterThan(1);
    }
  });

  it("is the same step's in every school", () => {
    const own = new Map(catalogued.map(({ id, ladder }) => [id, ladder.rungs]));
    for (const { steps } of PROGRAMS) for (const { id, ladder } of steps) expect(ladder.rungs).toBe(own.get(id));
  });

  it("of a yard's own step that has none is the whole step", () => {
    const [loose] = SCHOOLS;
    if (!loose) throw new Error("no school");
    const file: ProgramFile = {
      ...loose,
      ownSteps: [{ id: "own", name: "Own", stage: "halter", side: "none", ends: "give", phase: 1, mood: 1, needs: [] }],
      road: ["share-space", "own"],
    };
    const own = buildProgram(file, CATALOGUE).steps.find(({ id }) => id === "own");
    expect(own?.ladder).toMatchObject({ rungs: [{ id: "all" }], standard: 0, tool: null });
    expect(ladderTextsOf("own")).toEqual({ rungs: {}, faults: [] });
  });
});
