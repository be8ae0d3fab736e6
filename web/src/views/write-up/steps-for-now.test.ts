import { describe, expect, it } from "vitest";
import type { StringHorse } from "@still-pine/contract/http";
import { loosePenStart } from "@still-pine/core/programs";
import { stepsForNow } from "./steps-for-now";

const print = (step: string, status: "steady" | "slipped" | "coming") => ({ step, status, sides: {} });
const horse = {
  edge: [
    { step: "flex", status: "coming", reason: "gate" },
    { step: "head-down", status: "untried", reason: "gate" },
  ],
  trail: [print("share-space", "steady"), print("head-rub", "slipped"), print("flex", "coming")],
} as unknown as StringHorse;

describe("the steps a write-up offers first", () => {
  it("are where work is now, then what slipped and what he knows", () => {
    const first = stepsForNow(horse, loosePenStart).map(({ id }) => id);
    expect(first.slice(0, 2)).toEqual(["flex", "head-down"]);
    expect(first).toEqual(expect.arrayContaining(["share-space", "head-rub"]));
    expect(first).toHaveLength(12);
  });

  it("are the first of the road where no horse is chosen, and few in any case", () => {
    expect(stepsForNow(undefined, loosePenStart)[0]?.id).toBe("share-space");
    const many = {
      ...horse,
      trail: loosePenStart.steps.map(({ id }) => print(id, "steady")),
    } as unknown as StringHorse;
    expect(stepsForNow(many, loosePenStart)).toHaveLength(12);
  });
});
