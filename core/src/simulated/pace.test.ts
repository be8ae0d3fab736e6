import { describe, expect, it } from "vitest";
import { findStep, PROGRAMS, type Program } from "../programs";
import { randomFrom } from "../random";
import { keepPace, MILESTONES, shareAfter, type Learner, type Pace } from ".";

const isRiding = (program: Program): boolean => findStep(program, "astride") !== undefined;
const RIDING = PROGRAMS.filter(isRiding);
const QUICK: Learner = { less: 0.4, by: 6, never: 0.04 };

describe("a horse that never misses, by the product's own proposals", () => {
  const paces = new Map(
    PROGRAMS.map((program) => [
      program.id,
      keepPace(program, null, { outings: 60, until: MILESTONES, random: randomFrom(1) }),
    ]),
  );
  const paceOf = (id: string): Pace => paces.get(id) as Pace;

  it.each(RIDING.map(({ id }) => id))("has the halter on, is tied and saddled in good time: %s", (id) => {
    const { steadyAt } = paceOf(id);
    expect(steadyAt["halter-on"]).toBeLessThanOrEqual(13);
    expect(steadyAt["tie"]).toBeLessThanOrEqual(26);
    // Thirty-two before rusty bases waited for their cold check.
    expect(steadyAt["saddle"]).toBeLessThanOrEqual(33);
  });

  it("carries somebody within forty-five outings, but where long reins stand before the saddle", () => {
    const late = RIDING.filter(({ id }) => (paceOf(id).steadyAt["astride"] ?? Infinity) > 45).map(({ id }) => id);
    expect(late).toEqual(["marker-and-reward"]);
    expect(paceOf("marker-and-reward").steadyAt["astride"]).toBeLessThanOrEqual(52);
  });

  it.each(PROGRAMS.map(({ id }) => id))(
    "shows a gate on as many days as it asks for, and nothing beyond one: %s",
    (id) => {
      const { gates, beyond } = paceOf(id);
      expect(beyond).toEqual([]);
      const program = PROGRAMS.find((one) => one.id === id);
      const asked = { handling: 2, force: 3, rider: 4 };
      for (const gate of program?.gates ?? [])
        if (gates[gate.id]) expect(gates[gate.id]?.days).toBeGreaterThanOrEqual(asked[gate.kind]);
      expect(Object.keys(gates)).toContain("halter");
    },
  );
});

describe("a quick learner", () => {
  const paces = RIDING.map((program, place) =>
    keepPace(
      program,
      { ...QUICK, rho: 0.1, cold: 0.05 },
      { outings: 90, until: ["halter-on"], random: randomFrom(100 + place) },
    ),
  );

  it("has the halter on within forty outings mostly, at last within ninety, and nothing beyond a gate on the way", () => {
    const halter = paces.map(({ steadyAt }) => steadyAt["halter-on"] ?? Infinity).toSorted((a, b) => a - b);
    expect(halter[2]).toBeLessThanOrEqual(40);
    expect(halter.at(-1)).toBeLessThanOrEqual(90);
    expect(paces.flatMap(({ beyond }) => beyond)).toEqual([]);
  });

  it("stands, wherever a link opened, on what was truly there", () => {
    const links = paces.flatMap((pace) => pace.links);
    expect(links.length).toBeGreaterThan(30);
    expect(links.filter(({ warm }) => warm >= 0.6).length / links.length).toBeGreaterThanOrEqual(0.8);
  });
});

it("learns by asks, up to what it never comes to", () => {
  expect(shareAfter(QUICK, 0)).toBeCloseTo(0.56);
  expect(shareAfter(QUICK, 1000)).toBeCloseTo(0.96);
  expect(shareAfter({ less: 1, by: 5, never: 0.5 }, 0)).toBe(0);
});
