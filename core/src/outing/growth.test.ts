import { describe, expect, it } from "vitest";
import { findStep, loosePenStart } from "../programs";
import { nextStanding, stoodIn, type Stood } from ".";

const quiet = (seconds: number): Stood => ({ seconds, mood: 1 });

describe("how long he may stand the next time", () => {
  it.each<[why: string, last: Stood, before: Stood | null, next: number]>([
    ["the first time is done once more as long", quiet(12), null, 12],
    ["after two quiet ones a third more", quiet(12), quiet(9), 16],
    ["after a watchful one as long again", { seconds: 12, mood: 2 }, quiet(9), 12],
    ["after a quiet one that followed a watchful one as long again", quiet(12), { seconds: 9, mood: 2 }, 12],
    ["where nobody said how he was as long again", { seconds: 12 }, { seconds: 12 }, 12],
    ["never longer than one he ended himself", { seconds: 12, mood: 1, endedBy: "horse" }, quiet(16), 12],
    ["and no longer than the one before it", { seconds: 12, mood: 3, endedBy: "horse" }, quiet(9), 9],
  ])("%s", (_why, last, before, next) => {
    expect(nextStanding(last, before, { standing: "grows" })).toBe(next);
    // Where a program says no growth today, it is the last time at the most.
    expect(nextStanding(last, before, { standing: "stays" })).toBe(Math.min(next, last.seconds));
  });

  it("is told by dwells and by watches of that exercise", () => {
    const at = { id: "e", at: "2026-05-01T08:00:00Z" };
    const ask = { ...at, type: "ask", step: "stand", answer: "gave", mood: 1, dose: 40, watch: "w", endedBy: "person" };
    const [stand, tie] = ["stand", "tie"].map((id) => findStep(loosePenStart, id));
    if (!stand || !tie) throw new Error("no such steps");
    expect(stoodIn({ ...at, type: "dwell", seconds: 9 } as never, stand)).toMatchObject({ seconds: 9 });
    expect(stoodIn({ ...at, type: "dwell", v: 2, step: "tie", seconds: 9 } as never, stand)).toBeNull();
    expect(stoodIn(ask as never, stand)).toEqual({ seconds: 40, mood: 1, endedBy: "person" });
    expect(stoodIn({ ...ask, watch: undefined } as never, stand)).toBeNull();
    expect(stoodIn(ask as never, tie)).toBeNull();
    // Ten minutes tied are not ten seconds.
    expect(stoodIn({ ...ask, step: "tie", dose: 10 } as never, tie)).toBeNull();
  });
});
