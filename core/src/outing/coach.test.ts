import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isAsk, isCorrection, type AskEvent, type RecordEvent } from "../record";
import cases from "./cases/coach.json" with { type: "json" };
import { advise, adviceInWords, foldOuting, LiveOuting, type Advice, type OutingPlan } from ".";
import { planOf, randomMoments, readMoments, type PlanChoices } from "./testing";

interface Case extends PlanChoices {
  name: string;
  why: string;
  events: string[];
  expect: { verdict: string; reason: string; rung?: string };
}

const adviceAfter = (plan: OutingPlan, events: readonly RecordEvent[]): Advice =>
  advise(foldOuting(plan, events), plan, Date.parse(events.at(-1)?.at ?? plan.startedAt));

describe("the coach says what a horseman would", () => {
  for (const { name, why, events, expect: expected, ...choices } of cases as unknown as Case[])
    it(`${name}: ${why}`, () => {
      const plan = planOf(choices);
      const { verb, reason, rung } = adviceAfter(plan, readMoments(events, choices.step ?? "flex"));
      expect({ verdict: verb, reason, ...(rung === undefined ? {} : { rung }) }).toEqual(expected);
    });

  it("has a case for every reason it can give", async () => {
    const { REASONS } = await import(".");
    const said = new Set((cases as unknown as Case[]).map((one) => one.expect.reason));
    expect(
      Object.values(REASONS)
        .flat()
        .filter((reason) => !said.has(reason)),
    ).toEqual([]);
  });
});

describe("a shut gate within the ladder", () => {
  const plan = planOf({ step: "tie", upTo: "ring-held", line: { count: 5 } });
  const meaning = (rung: string, events: readonly RecordEvent[] = [], step = "tie") =>
    advise(foldOuting(plan, events), plan, Date.parse(plan.startedAt) + 60_000, { step, rung });

  it("is told as soon as more is meant, before anything was asked, and not of another step", () => {
    expect(meaning("2min")).toMatchObject({ reason: "past-gate", gate: "tie", rung: "ring-held", evidence: [] });
    expect(meaning("ring-held")).toMatchObject({ verb: "go-on", reason: "start" });
    expect(meaning("2min", [], "flag")).toMatchObject({ verb: "go-on", reason: "start" });
  });

  it("is told no more once less is meant, though the last ask was past it", () => {
    const events = readMoments(["gave -/1 rung 2min"], "tie");
    expect(meaning("2min", events)).toMatchObject({ reason: "past-gate", evidence: [events[1]?.id] });
    expect(meaning("ring-held", events)).toMatchObject({ verb: "go-on", reason: "clean" });
  });

  it("names the side that was not shown so far", () => {
    const near = readMoments(["gave -/1 rung ring-held", "gave -/1 rung ring-held"], "tie");
    expect(meaning("ring-held", near)).toMatchObject({ verb: "leave", reason: "gate", side: "off" });
    const both = readMoments(
      ["near", "off"].flatMap((side) => Array(2).fill(`${side}: gave -/1 rung ring-held`)),
      "tie",
    );
    const last = meaning("ring-held", both);
    expect([last.reason, last.side]).toEqual(["gate", undefined]);
    expect(adviceInWords(last, plan.program)).toBe("First tying stands before more of it.");
  });
});

/** Asks that stand, in their order. */
function asksOf(events: readonly RecordEvent[]): { mood?: number }[] {
  const voided = new Set(events.filter(isCorrection).flatMap((one) => (one.void ? one.replaces : [])));
  return events.filter(isAsk).filter(({ id }) => !voided.has(id));
}

describe("in random outings", () => {
  it("never says go on after an over or two tight in a row", () => {
    let seen = 0;
    fc.assert(
      fc.property(randomMoments, (moments) => {
        const plan = planOf({ line: { count: 5 } });
        const events = readMoments(moments, "flex");
        const [before, last] = asksOf(events).slice(-2);
        const [only] = asksOf(events).slice(-1);
        const isOver = only?.mood === 4;
        const isTightTwice = before !== undefined && (before.mood ?? 0) >= 3 && (last?.mood ?? 0) >= 3;
        if (!isOver && !isTightTwice) return;
        seen += 1;
        expect(adviceAfter(plan, events).verb).not.toBe("go-on");
      }),
      { numRuns: 10_000 },
    );
    expect(seen).toBeGreaterThan(1000);
  });

  it("never says that it took more, or that he is dull, after a fall in phase", () => {
    let seen = 0;
    fc.assert(
      fc.property(randomMoments, (moments) => {
        const plan = planOf({ line: { count: 5 } });
        const events = readMoments(moments, "flex");
        const [before, last] = asksOf(events).slice(-2) as (Partial<AskEvent> | undefined)[];
        const alike = ["step", "side", "rung", "tool"] as const;
        if (!before || !last || alike.some((name) => before[name] !== last[name])) return;
        if (before.answer !== "gave" || last.answer !== "gave" || (last.phase ?? 9) >= (before.phase ?? 0)) return;
        // A rest between them begins anew.
        if (!isAsk(events.at(-1) as RecordEvent) || !isAsk(events.at(-2) as RecordEvent)) return;
        seen += 1;
        expect(["heavy", "dull"]).not.toContain(adviceAfter(plan, events).reason);
      }),
      { numRuns: 10_000 },
    );
    expect(seen).toBeGreaterThan(100);
  });

  it("is told the same one event at a time as all at once", () => {
    expect.hasAssertions();
    fc.assert(
      fc.property(randomMoments, fc.array(fc.nat(), { maxLength: 6 }), (moments, strikes) => {
        const plan = planOf();
        const events = readMoments(moments, "flex");
        // Strikes out entries far back as well, and strikes out strikes.
        strikes.forEach((place) => {
          const target = events[place % events.length];
          events.push({
            id: `x${events.length}`,
            at: events.at(-1)?.at ?? "",
            device: "phone",
            seq: events.length + 1,
            type: "correction",
            replaces: target?.id ?? "",
            void: true,
          });
        });
        const live = new LiveOuting(plan);
        events.forEach((event, index) => {
          const state = live.take(event);
          if (index % 7 === 0 || index === events.length - 1)
            expect(state).toEqual(foldOuting(plan, events.slice(0, index + 1)));
        });
      }),
      { numRuns: 500 },
    );
  });

  it("goes back far in a long outing as well, and comes to the same", () => {
    const plan = planOf({ line: { count: 20 } });
    const moments = Array.from(
      { length: 400 },
      (_, n) => ["gave 1/1", "gave 2/1", "off: gave 0/1", "near: tried 1/2"][(n * 7) % 4] ?? "",
    );
    const events = readMoments(moments, "flex");
    const live = new LiveOuting(plan);
    events.forEach((event) => live.take(event));
    for (const place of [400, 399, 260, 128, 64, 5, 400, 271]) {
      const strike = { type: "correction", replaces: events[place]?.id ?? "", void: true };
      const seq = events.length + 1;
      const event = { id: `s${seq}`, at: events.at(-1)?.at ?? "", device: "phone", seq, ...strike } as RecordEvent;
      events.push(event);
      expect(live.take(event)).toEqual(foldOuting(plan, events));
    }
  });

  it("undoes a whole long outing one by one, goes on from there, and brings the middle of it back", () => {
    const plan = planOf({ line: { count: 20 } });
    const events = readMoments(
      Array.from({ length: 300 }, (_, n) => ["gave 1/1", "off: gave 2/1", "near: tried 1/2"][n % 3] ?? ""),
      "flex",
    );
    const live = new LiveOuting(plan);
    events.forEach((event) => live.take(event));
    const add = (fields: Record<string, unknown>): RecordEvent => {
      const seq = events.length + 1;
      const event = {
        id: `u${seq}`,
        at: events.at(-1)?.at ?? "",
        device: "phone",
        seq,
        ...fields,
      } as unknown as RecordEvent;
      events.push(event);
      live.take(event);
      return event;
    };
    const strikes: RecordEvent[] = [];
    for (let n = 0; n < 280; n += 1) {
      strikes.push(add({ type: "correction", replaces: live.lastStanding()?.id, void: true }));
      if (n % 40 === 39) expect(live.state).toEqual(foldOuting(plan, events));
    }
    add({ type: "ask", step: "flex", side: "near", answer: "gave", phase: 0, mood: 0 });
    expect(live.state).toEqual(foldOuting(plan, events));
    for (const index of [150, 0, 279, 3]) {
      add({ type: "correction", replaces: strikes[index]?.id, void: true });
      expect(live.state).toEqual(foldOuting(plan, events));
    }
    expect(live.lastStanding()).toMatchObject({ phase: 0, mood: 0 });
  });

  it("is told the same in whatever order two phones' events come", () => {
    const plan = planOf();
    const own = readMoments(["gave 1/1", "gave 1/3", "off: gave 1/1", "undo"], "flex");
    const other = readMoments(["tried 1/1", "gave 2/1"], "yield-hind").map((event) => ({
      ...event,
      id: `o-${event.id}`,
      device: "other",
    }));
    const live = new LiveOuting(plan);
    [...other, ...own].forEach((event) => live.take(event));
    expect(live.state).toEqual(foldOuting(plan, [...own, ...other]));
    const again = own[1];
    expect(again && live.take(again)).toBe(live.state);
  });
});
