import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { sideFields, sidesOf, loosePenStart, type Program, type SideKey, type Step } from "../programs";
import { ANSWERS, FAULTS, foldRecord, PURPOSES, TOOLS, type AskEvent, type HorseRecord } from "../record";
import { DEFAULT_LINE, foldOuting, startOuting, weighAnswer, type Exercise, type OutingPlan } from "../outing";
import { inFull, worthOfAsk } from "../evidence";
import { lastTimeOf } from "../planning/last-time";
import { gather } from ".";

const BEFORE = "2026-04-30T08:00:00.000Z";
const STARTED = "2026-05-01T08:00:00.000Z";

const plan: OutingPlan = {
  program: loosePenStart,
  startedAt: STARTED,
  exercises: [],
  known: [],
  caps: { workingMinutes: 600, inHandMinutes: 600 },
};

/** An ask as anything may send it: also with a side or a leg left out, with less asked, or with a tool. */
const randomAsk = fc.record(
  {
    answer: fc.constantFrom(...ANSWERS, "gave", "gave"),
    side: fc.constantFrom("near", "off", "none"),
    part: fc.constantFrom("fore", "hind"),
    phase: fc.integer({ min: 0, max: 4 }),
    mood: fc.integer({ min: 0, max: 4 }),
    asked: fc.integer({ min: 0, max: 60 }),
    dose: fc.integer({ min: 0, max: 60 }),
    tool: fc.constantFrom(...TOOLS),
    after: fc.constantFrom("released", "bolted"),
    fault: fc.constantFrom(...FAULTS),
    purpose: fc.constantFrom(...PURPOSES, "lesson"),
    place: fc.nat({ max: 9 }),
    v: fc.constantFrom(1, 2, 2),
  },
  { requiredKeys: ["answer"] },
);

/** @param fields with `place` among the rungs of the step's ladder for its rung; one too high is a rung nobody knows */
const askOf = (step: Step, { place, ...fields }: { place?: number; [field: string]: unknown }, n: number): AskEvent =>
  ({
    id: `e${n}`,
    at: new Date(Date.parse(STARTED) + n * 10_000).toISOString(),
    type: "ask",
    step: step.id,
    ...fields,
    ...(place === undefined ? {} : { rung: step.ladder.rungs[place]?.id ?? "gone" }),
  }) as AskEvent;

/** A good one a side on a former day: from then on a try is no try at something new, which only the judge looks at. */
const given = (step: Step): AskEvent[] =>
  sidesOf(step).map((side, n) => ({
    ...askOf(step, { v: 2, ...inFull(step), ...sideFields(side), answer: "gave", phase: 4, mood: 4 }, n),
    id: `before-${n}`,
    at: BEFORE,
  }));

const recordOf = (events: AskEvent[], before: AskEvent[] = []): HorseRecord => ({
  yard: { timeZone: "Europe/Dublin" },
  horse: { id: "h", name: "H", foaled: "2022-05-01", foaledPrecision: "month", sex: "mare" },
  program: { id: loosePenStart.id },
  horseEvents: [],
  outings: [
    ...(before.length > 0 ? [{ id: "before", startedAt: BEFORE, endedAt: BEFORE, events: before }] : []),
    { id: "o", startedAt: STARTED, endedAt: "2026-05-01T09:00:00.000Z", events },
  ],
});

/** What the judge made of each side: asks that count, and of those the clean ones, proven or not. */
function byJudge(program: Program, events: AskEvent[], step: Step): Map<SideKey, { asks: number; clean: number }> {
  const state = gather(foldRecord(recordOf(events, given(step))), program, step.id).byId.get(step.id);
  const isOfToday = ({ event }: { event: { id: string } }): boolean => !event.id.startsWith("before");
  return new Map(
    (state?.sides ?? []).map(({ side, evidence }) => {
      const counted = evidence.entries
        .filter(isOfToday)
        .filter(({ worth }) => worth !== "neutral" && worth !== "practice");
      return [side, { asks: counted.length, clean: counted.filter(({ worth }) => worth !== "miss").length }];
    }),
  );
}

describe("whether an ask was clean", () => {
  it("is one answer for the judge, the coach and the card, over ten thousand random asks", () => {
    let asks = 0;
    const seen = new Set<string>();
    fc.assert(
      fc.property(
        fc.constantFrom(...loosePenStart.steps),
        fc.array(randomAsk, { minLength: 40, maxLength: 40 }),
        (step, fields) => {
          const events = fields.map((one, n) => askOf(step, one, n));
          asks += events.length;
          const judged = byJudge(loosePenStart, events, step);
          const sides = sidesOf(step);
          const known: Exercise = {
            step: step.id,
            line: DEFAULT_LINE,
            isNew: false,
            sticky: null,
            asked: sides,
            last: {},
          };
          const coached = foldOuting({ ...plan, exercises: [known] }, events).exercises[step.id]?.sides ?? {};
          const { outings } = foldRecord(recordOf(events));
          const asked = Object.fromEntries(sides.map((side) => [side, { standardAsked: BEFORE }]));
          const remembered = lastTimeOf(loosePenStart, outings, step.id, asked);
          for (const side of sides) {
            const own = judged.get(side) ?? { asks: 0, clean: 0 };
            const { asks: all, practice, good } = coached[side] ?? { asks: 0, practice: 0, good: 0 };
            expect({ asks: all - practice, clean: good }, `${step.id} ${side}`).toEqual(own);
            const { asks: lastAsks = 0, clean = 0 } = remembered[side] ?? {};
            expect({ asks: lastAsks, clean }, `${step.id} ${side} on the card`).toEqual(own);
          }
          for (const event of events) {
            const worth = worthOfAsk(event, step);
            seen.add(worth);
            expect(weighAnswer(event, step, DEFAULT_LINE)?.worth ?? worth).toBe(worth);
          }
        },
      ),
      { numRuns: 250 },
    );
    expect(asks).toBe(10_000);
    expect([...seen].toSorted()).toEqual(["clean", "miss", "neutral", "practice"]);
  });

  it("counts a hip brought in with the stick as practice for both", () => {
    const step = loosePenStart.steps.find(({ id }) => id === "hip-in");
    if (!step) throw new Error("no such step");
    const ask = askOf(step, { side: "near", answer: "gave", phase: 0, mood: 1, tool: "stick" }, 1);
    expect(worthOfAsk(ask, step)).toBe("practice");
    expect(weighAnswer(ask, step, DEFAULT_LINE)).toMatchObject({ worth: "practice", right: true, good: false });
  });

  it("counts an ask of a foot that names no leg for none of the legs, and still for how he was", () => {
    const step = loosePenStart.steps.find(({ side }) => side === "leg");
    if (!step) throw new Error("no such step");
    const ask = askOf(step, { side: "near", answer: "gave", phase: 0, mood: 4 }, 1);
    expect(weighAnswer(ask, step, DEFAULT_LINE)).toBeNull();
    const state = foldOuting(plan, [ask]);
    expect(state.exercises[step.id]?.sides).toEqual({});
    expect(state.exercises[step.id]?.scare?.kind).toBe("over");
    expect(state.moods).toBe(startOuting(plan).moods + 1);
  });
});
