import { describe, expect, it } from "vitest";
import { everythingUnder, loosePenStart } from "@still-pine/core/programs";
import { graphOf, litBy, neighbour } from "./graph";
import { layOut } from "./lay-out";

const { nodes, edges } = graphOf(loosePenStart);

describe("the map of the steps", () => {
  it("has every step, and every line is a need", () => {
    expect(nodes).toHaveLength(101);
    for (const { from, to } of edges)
      expect([to, everythingUnder(loosePenStart, to).includes(from)]).toEqual([to, true]);
  });

  it("leaves out lines that a longer way says, and loses nothing by it", () => {
    expect(edges).not.toContainEqual({ from: "share-space", to: "first-touch", isLoose: false });
    const below = new Map<string, Set<string>>();
    const under = (id: string): Set<string> => {
      const known = below.get(id);
      if (known) return known;
      const all = new Set(edges.filter(({ to }) => to === id).flatMap(({ from }) => [from, ...under(from)]));
      below.set(id, all);
      return all;
    };
    for (const { id } of nodes)
      expect([id, [...under(id)].toSorted()]).toEqual([id, everythingUnder(loosePenStart, id).toSorted()]);
  });

  it("lights up all a step rests on, and what rests on it", () => {
    const { under, above } = litBy(loosePenStart, "halter-on");
    expect([...under]).toEqual(everythingUnder(loosePenStart, "halter-on"));
    expect([...above]).toEqual(["give-halter", "leg-rub"]);
    expect(litBy(loosePenStart, null).under.size).toBe(0);
  });

  it("is laid out from left to right: what a step rests on stands before it, and no two steps cover each other", () => {
    const places = layOut(nodes, edges);
    for (const { from, to } of edges)
      expect([from, to, (places.get(from)?.x ?? 0) < (places.get(to)?.x ?? 0)]).toEqual([from, to, true]);
    const all = [...places.values()];
    all.forEach((one, index) => {
      for (const other of all.slice(index + 1))
        expect(Math.abs(one.x - other.x) >= 172 || Math.abs(one.y - other.y) >= 40).toBe(true);
    });
  });

  it("is walked by arrows: the nearest step that way, and none beyond the edge", () => {
    const places = new Map([
      ["a", { x: 0, y: 0 }],
      ["b", { x: 100, y: 10 }],
      ["c", { x: 60, y: 200 }],
    ]);
    expect(neighbour(places, "a", "ArrowRight")).toBe("b");
    expect(neighbour(places, "a", "ArrowDown")).toBe("b");
    expect(neighbour(places, "b", "ArrowLeft")).toBe("a");
    expect(neighbour(places, "a", "ArrowLeft")).toBeNull();
    expect(neighbour(places, "nowhere", "ArrowLeft")).toBeNull();
  });
});
