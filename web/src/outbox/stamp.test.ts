import { describe, expect, it } from "vitest";
import { stamp } from "./stamp";

describe("an entry of this browser", () => {
  it("says the shape it is written in: of an ask the later one, also where it leaves its line unsaid", () => {
    const ask = { type: "ask", step: "flex", side: "near", answer: "gave", phase: 1, mood: 1 } as const;
    expect(stamp(ask)).toMatchObject({ v: 2 });
    expect(stamp({ ...ask, rung: "3s" })).toMatchObject({ v: 2, rung: "3s" });
    expect("v" in stamp({ type: "sign", sign: "yawn" })).toBe(false);
  });

  it("has an id and a place in this device's count of its own, and a time", () => {
    const [one, other] = [stamp({ type: "sign", sign: "yawn" }), stamp({ type: "sign", sign: "yawn" })];
    expect(one.id).not.toBe(other.id);
    expect(one.device).toBe(other.device);
    expect(Number.isFinite(Date.parse(one.at))).toBe(true);
    expect(
      stamp({ type: "sign", sign: "yawn" }, { id: "own", at: "2026-05-01T08:00:00Z", isAfterwards: true }),
    ).toMatchObject({
      id: "own",
      at: "2026-05-01T08:00:00Z",
      recordedAt: expect.any(String) as string,
    });
  });
});
