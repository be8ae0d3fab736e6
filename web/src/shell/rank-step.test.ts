import { describe, expect, it } from "vitest";
import { loosePenStart } from "@still-pine/core/programs";
import { textsOf } from "@still-pine/core/programs/texts";
import { rankStep } from "./rank-step";

const find = (search: string): string[] =>
  loosePenStart.steps
    .map((step) => ({
      id: step.id,
      rank: rankStep(step.name, search, [step.id, ...(textsOf(step.id)?.synonyms ?? [])]),
    }))
    .filter(({ rank }) => rank > 0)
    .toSorted((a, b) => b.rank - a.rank)
    .map(({ id }) => id);

describe("finding a step", () => {
  it.each([
    ["disengage", "yield-hind"],
    ["surcingle", "roller"],
    ["turn on the haunches", "yield-fore"],
    ["tarp", "sheet"],
    ["longe at walk", "circle-walk"],
    ["ground driving", "long-rein"],
    ["brakes", "whoa-rein"],
    ["hacking", "out-ride"],
    ["hoof handling", "pick-up"],
    ["horsebox", "load"],
  ])("goes by any word of the trade: %s", (search, step) => {
    expect(find(search)).toContain(step);
  });

  it("puts the step that is called so before those that only have the word in them", () => {
    expect(find("noise")[0]).toBe("noise");
    expect(find("lateral flexion")[0]).toBe("flex");
  });

  it("finds nothing for a word nobody uses, and all for none", () => {
    expect(find("xyzzy")).toEqual([]);
    expect(find("")).toHaveLength(101);
  });
});
