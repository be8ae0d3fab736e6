import { describe, expect, it } from "vitest";
import { PROGRAMS, type Chip, type Program } from "../programs";
import { workLive, type LiveRoad } from ".";

/** More outings than any road takes. */
const OUTINGS = 250;
const programOf = (id: string): Program => {
  const program = PROGRAMS.find((one) => one.id === id);
  if (!program) throw new Error(`no program ${id}`);
  return program;
};
const sumOf = ({ outings }: LiveRoad, name: keyof LiveRoad["outings"][number]): number =>
  outings.reduce((sum, one) => sum + one[name], 0);

describe("a horse that answers perfectly, recorded live alone", () => {
  const roads = new Map(PROGRAMS.map((program) => [program.id, workLive(program, { outings: OUTINGS })]));

  it.each(PROGRAMS.map(({ id }) => id))("comes to the end of its road: %s", (id) => {
    const road = roads.get(id);
    expect(road?.open).toEqual([]);
    expect(road?.outings.length).toBeLessThan(OUTINGS);
  });

  it("takes one press an ask and little more, and two a watch", () => {
    const all = [...roads.values()];
    const sum = (name: keyof LiveRoad["outings"][number]): number =>
      all.reduce((total, road) => total + sumOf(road, name), 0);
    expect(sum("asks")).toBeGreaterThan(5000);
    expect(sum("presses") / sum("asks")).toBeLessThan(1.2);
    expect(sum("watchPresses") / sum("watches")).toBeLessThanOrEqual(3);
  });

  it.each(PROGRAMS.map(({ id }) => id))("comes to its end by series and single asks written up too: %s", (id) => {
    const road = workLive(programOf(id), { outings: OUTINGS, isFromMemory: true });
    expect(road.open).toEqual([]);
    expect(road.outings.length).toBeLessThan(OUTINGS);
  });

  it("stays on the smallest rungs where no rung is ever said", () => {
    const { open } = workLive(programOf("loose-pen-start"), { outings: 12, unsaid: ["rung"] });
    expect(open.map(([step]) => step)).toContain("share-space");
  });

  it.each([
    ["loose-pen-start", "setting", ["rope-over", "stick", "noise"]],
    ["loose-pen-start", "tool", ["hip-in", "go-leg"]],
    ["loose-pen-start", "gait", ["canter-ride"]],
    ["marker-and-reward", "part", ["hip-rope"]],
  ] as const)("names the steps that want it where a chip is never said: %s, %s", (id, chip: Chip, wanting) => {
    const { open } = workLive(programOf(id), { outings: OUTINGS, unsaid: [chip] });
    // What a gate or a need that guards a person waits for is not even begun.
    expect(open.map(([step]) => step)).toEqual(expect.arrayContaining([...wanting]));
  });
});
