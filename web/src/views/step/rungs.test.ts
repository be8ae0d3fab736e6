import { describe, expect, it } from "vitest";
import { findStep, loosePenStart, type Step } from "@still-pine/core/programs";
import type { CountedAsk } from "@still-pine/core/readiness";
import { rungsByOuting } from "./rungs";

const flag = findStep(loosePenStart, "flag") as Step;
const ask = (outing: string, day: string, side: "near" | "off", rung?: string, answer = "gave"): CountedAsk =>
  ({
    event: {
      id: `${outing}${side}${rung}${answer}`,
      at: `${day}T10:00:00Z`,
      type: "ask",
      v: 2,
      step: "flag",
      side,
      answer,
      mood: 1,
      ...(rung === undefined ? {} : { rung }),
    },
    side,
    outing,
    day,
  }) as CountedAsk;

describe("rungs over the outings", () => {
  it("are the highest that came clean on each side, the earliest outing first", () => {
    // The latest ask stands first.
    const asks = [
      ask("b", "2026-05-02", "near", "open", "none"),
      ask("b", "2026-05-02", "near", "half"),
      ask("b", "2026-05-02", "off", "half", "against"),
      ask("a", "2026-05-01", "near", "rolled-stroked"),
      ask("a", "2026-05-01", "near", "rolled-touched"),
    ];
    expect(rungsByOuting(flag, asks)).toEqual([
      { outing: "a", day: "2026-05-01", highest: { near: 1 } },
      { outing: "b", day: "2026-05-02", highest: { near: 2, off: null } },
    ]);
  });

  it("leave out an outing in which no rung was said", () => {
    expect(rungsByOuting(flag, [ask("a", "2026-05-01", "near")])).toEqual([]);
  });
});
