import { describe, expect, it } from "vitest";
import type { CountedAsk } from "@still-pine/core/readiness";
import { tallyAsks } from "./tally";

const ask = (outing: string, day: string, side: "near" | "off", worth: CountedAsk["worth"]): CountedAsk => ({
  event: { id: `${outing}${side}${worth}`, at: `${day}T10:00:00Z`, type: "ask", step: "flex", answer: "gave" },
  side,
  outing,
  day,
  worth,
  cold: false,
  clean: 1,
  not: 0,
});

describe("asks by outing and side", () => {
  it("are counted as clean, missed, or as nothing, the earliest outing first", () => {
    const { outings, counts } = tallyAsks([
      ask("b", "2026-05-02", "near", "clean"),
      ask("b", "2026-05-02", "near", "practice"),
      ask("a", "2026-05-01", "near", "miss"),
      ask("a", "2026-05-01", "off", "lucky"),
    ]);
    expect(outings.map(({ id }) => id)).toEqual(["a", "b"]);
    expect(counts.get("b near")).toEqual({ clean: 1, missed: 0, uncounted: 1 });
    expect(counts.get("a near")).toEqual({ clean: 0, missed: 1, uncounted: 0 });
    expect(counts.get("a off")).toEqual({ clean: 0, missed: 0, uncounted: 1 });
    expect(counts.get("b off")).toBeUndefined();
  });

  it("take a remembered series for as many as it was", () => {
    const series = {
      ...ask("a", "2026-05-01", "near", "series"),
      event: {
        id: "s",
        at: "2026-05-01T10:00:00Z",
        type: "series" as const,
        step: "flex",
        count: 6,
        clean: 4,
        first: "gave" as const,
        worst: "tried" as const,
      },
    };
    expect(tallyAsks([series]).counts.get("a near")).toEqual({ clean: 4, missed: 2, uncounted: 0 });
  });
});
