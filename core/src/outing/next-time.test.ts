import { describe, expect, it } from "vitest";
import { adviceInWords, advise, foldOuting, minutesAt, proposeNextTime, REASONS, type Reason, type Verb } from ".";
import { planOf, readMoments } from "./testing";

const stateAfter = (moments: string[], plan = planOf()) => foldOuting(plan, readMoments(moments, "flex"));

describe("what an outing leaves for the next", () => {
  it("is what scared him first, then what did not come to its line, weakest first; a line that was reached is done", () => {
    const reached = ["near: gave 1/1", "gave 1/1", "gave 1/1", "off: gave 1/1", "gave 1/1", "gave 1/1"];
    const state = stateAfter([
      ...reached,
      "step yield-hind",
      "gave 1/1",
      "gave 1/1",
      "step lead",
      "tried 1/1",
      "gave 1/1",
      "step give-halter",
      "gave 1/4",
      "gave 1/1",
    ]);
    expect(proposeNextTime(state, planOf())).toEqual(["give-halter", "lead", "yield-hind"]);
  });

  it("is nothing after an outing in which nothing was asked", () => {
    expect(proposeNextTime(stateAfter([]), planOf())).toEqual([]);
  });
});

describe("minutes", () => {
  it("of the feet working run only in exercises that move them, and stop in a rest", () => {
    const plan = planOf();
    const events = readMoments(["step yield-hind", "gave 1/1", "after 290", "step stand", "after 600"], "flex");
    const state = foldOuting(plan, events);
    const { inHand, working } = minutesAt(state, plan, state.at);
    // Ten seconds for each moment without a time of its own.
    expect(working).toBeCloseTo(310 / 60, 5);
    expect(inHand).toBeCloseTo(920 / 60, 5);
  });
});

describe("every reason", () => {
  const plan = planOf();
  for (const [verb, reasons] of Object.entries(REASONS) as [Verb, readonly Reason[]][])
    for (const reason of reasons)
      it(`${reason} is said in one short sentence`, () => {
        const words = adviceInWords({ verb, reason, evidence: [], have: 1, need: 2, side: "off" }, plan.program);
        expect(words).toMatch(/^[A-Z0-9].*\.$/);
        expect(words.length).toBeLessThanOrEqual(80);
      });

  it("takes the words of the program's school where schools differ", () => {
    const stuck = { verb: "stay", reason: "stuck", evidence: [] } as const;
    const waits = planOf({ settings: { stuck: "wait" } });
    expect(adviceInWords(stuck, plan.program)).toContain("Another angle");
    expect(adviceInWords(stuck, waits.program)).toContain("wait");
    const fright = advise(stateAfter(["gave 1/1", "startle 2"]), plan, 0);
    expect(adviceInWords(fright, planOf({ settings: { fright: "when-still" } }).program)).toContain(
      "only when he stands",
    );
  });
});
