import { describe, expect, it } from "vitest";
import { findStep, loosePenStart, type Step } from "../programs";
import type { RecordEvent } from "../record";
import { rungsToBegin } from "./rung-to-begin";

const flag = findStep(loosePenStart, "flag") as Step;

/** Asks of the flag as side, rung and answer; a dash for a rung that is not said. */
function outing(...asks: string[]): { events: RecordEvent[] } {
  const events = asks.map((text, at) => {
    const [side, rung, answer] = text.split(" ");
    const said = rung === "-" ? {} : { v: 2, rung };
    return { id: `${at}`, at: "2026-05-01T09:00:00Z", type: "ask", step: "flag", side, answer, mood: 1, ...said };
  });
  return { events: events as unknown as RecordEvent[] };
}

const steady = { near: { status: "steady" }, off: { status: "begun" } } as const;

describe("the rung a side begins on", () => {
  it("is the highest that came clean the last time", () => {
    const last = outing("near rolled-touched gave", "near half gave", "near open none", "off rolled-touched gave");
    expect(rungsToBegin(flag, [outing("off half gave"), last], {})).toEqual({ near: "half" });
  });

  it("is the one under the lowest that was asked, where none came clean", () => {
    expect(rungsToBegin(flag, [outing("near half gave"), outing("near half against", "near open none")], {})).toEqual({
      near: flag.ladder.rungs[1]?.id,
    });
  });

  it("looks past an outing in which no rung was said", () => {
    expect(rungsToBegin(flag, [outing("near half gave"), outing("near - gave")], {})).toEqual({ near: "half" });
  });

  it("is never more than the standard", () => {
    const standard = flag.ladder.rungs[flag.ladder.standard]?.id;
    const above = flag.ladder.rungs[flag.ladder.standard + 1]?.id ?? "";
    expect(rungsToBegin(flag, [outing(`near ${above} gave`)], {})).toEqual({ near: standard });
  });

  it("is the standard where none was ever said and the side is steady, the smallest where it is not", () => {
    const standard = flag.ladder.rungs[flag.ladder.standard]?.id;
    expect(rungsToBegin(flag, [outing("near - gave", "off - gave")], steady)).toEqual({ near: standard });
    expect(rungsToBegin(flag, [], {})).toEqual({});
  });
});
