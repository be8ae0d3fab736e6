import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { advise, foldOuting } from "@still-pine/core/outing";
import { planOf, randomMoments, readMoments } from "@still-pine/core/outing/testing";
import { Goldens } from "./goldens";

const OUTINGS = 10_000;
const IN_A_PRINT = 500;

describe("the coach on ten thousand random outings", () => {
  it("says what it said", async () => {
    const goldens = new Goldens("coach");
    const all = fc.sample(randomMoments, { numRuns: OUTINGS, seed: 1 });
    for (let from = 0; from < all.length; from += IN_A_PRINT) {
      const said = all.slice(from, from + IN_A_PRINT).map((moments) => {
        const plan = planOf({ line: { count: 5 } });
        const events = readMoments(moments, "flex");
        const { verb, reason } = advise(
          foldOuting(plan, events),
          plan,
          Date.parse(events.at(-1)?.at ?? plan.startedAt),
        );
        return `${moments.join(", ")}: ${verb}, ${reason}`;
      });
      goldens.add(`from outing ${from}`, said.join("\n"));
    }
    await expect(goldens.toString()).toMatchFileSnapshot("coach.json");
  });
});
