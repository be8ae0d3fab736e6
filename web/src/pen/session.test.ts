import { beforeEach, describe, expect, it } from "vitest";
import type { RecordEvent } from "@still-pine/core/record";
import { foldOuting } from "@still-pine/core/outing";
import { InMemory } from "../outbox/kept";
import { planOf } from "../outbox/plan-of";
import { DOUBLE_MS } from "./presses";
import { PenSession } from "./session";
import { dials, open, OUTING, pass, settled, setUp, typesOf } from "./testing";
import { shortly } from "./words";
import { actionOf, DEFAULT_KEYS, PEN_ACTIONS } from "./keys";

beforeEach(setUp);

describe("a press on the pad", () => {
  it("is called kept when it is, not when the press before it is", async () => {
    const { session, kept } = await open();
    let writeFirst = (): void => undefined;
    let writeSecond = (): void => undefined;
    kept.slowness = [
      new Promise((resolve) => (writeFirst = resolve)),
      new Promise((resolve) => (writeSecond = resolve)),
    ];
    session.press({ phase: 1, mood: 0 }, true);
    await settled();
    session.press({ phase: 1, mood: 1 }, true);
    writeFirst();
    await settled();
    expect(await typesOf(kept)).toEqual(["ask"]);
    expect(session.read()).toMatchObject({ last: { mood: 1 }, keeping: "writing" });
    writeSecond();
    await settled();
    expect(session.read().keeping).toBe("kept");
    expect(await typesOf(kept)).toEqual(["ask", "ask"]);
  });

  it("is one ask with step, side, answer and time, and is kept before it is felt", async () => {
    const { session, kept } = await open();
    const felt: string[] = [];
    session.listen({
      onKept: (event, keeping) => felt.push(`${shortly(event, session.plan.program)}: ${keeping}`),
      onVerb: () => undefined,
    });
    session.goToSide("off");
    pass(5000);
    session.press({ phase: 1, mood: 0 }, true);
    expect(felt).toEqual([]);
    await settled();
    expect(felt.at(-1)).toBe("Gave · hint · loose: kept");
    expect((await kept.events("o")).at(-1)?.event).toMatchObject({
      type: "ask",
      step: "flex",
      side: "off",
      answer: "gave",
      phase: 1,
      mood: 0,
      at: new Date(1_005_000).toISOString(),
    });
  });

  it("twice the same within a quarter of a second is one; another square is another ask", async () => {
    const { session } = await open();
    expect(session.press({ phase: 1, mood: 1 }, true)).toBe(true);
    pass(DOUBLE_MS - 1);
    expect(session.press({ phase: 1, mood: 1 }, true)).toBe(false);
    expect(session.press({ phase: 2, mood: 1 }, true)).toBe(true);
    expect(session.press({ phase: 2, mood: 1 }, false)).toBe(true);
    pass(DOUBLE_MS);
    expect(session.press({ phase: 2, mood: 1 }, true)).toBe(true);
    expect(session.read().state.asks).toBe(4);
  });
});

describe("another answer", () => {
  it("is that of the ask just recorded, of the next one, or of one without a feel", async () => {
    const { session } = await open();
    session.press({ phase: 1, mood: 1 }, true);
    pass(1000);
    session.answer("tried", true);
    expect(session.read().last).toMatchObject({ answer: "tried", phase: 1 });
    pass(9000);
    session.answer("none", true);
    expect(session.read().armed).toBe("none");
    session.press({ phase: 2, mood: 2 }, true);
    expect(session.read()).toMatchObject({ armed: "gave", last: { answer: "none", phase: 2 } });
    pass(9000);
    session.answer("against", true);
    pass(1000);
    session.answer("against", true);
    expect(session.read().last).toMatchObject({ type: "ask", answer: "against" });
    expect(session.read().last).not.toHaveProperty("phase");
  });
});

describe("undo", () => {
  it("takes back entry by entry to the first, and leaves side and exercise as they are", async () => {
    const { session, kept } = await open();
    session.press({ phase: 1, mood: 1 }, true);
    session.enter({ type: "sign", sign: "yawn" }, true);
    session.takeUp("lead");
    session.press({ phase: 2, mood: 2 }, true);
    session.undo();
    expect(session.read().last).toMatchObject({ type: "sign" });
    session.undo();
    session.undo();
    expect([session.read().last, session.read().state.asks]).toEqual([null, 0]);
    expect(session.here.step).toBe("lead");
    session.undo();
    await settled();
    expect((await typesOf(kept)).filter((type) => type === "correction")).toHaveLength(3);
  });
});

describe("a device without room", () => {
  it("keeps entries in the page, says how many, and writes them all as soon as there is room", async () => {
    const { session, kept } = await open();
    session.press({ phase: 1, mood: 1 }, true);
    await settled();
    kept.isFull = true;
    session.press({ phase: 2, mood: 1 }, true);
    session.press({ phase: 3, mood: 1 }, true);
    await settled();
    expect(session.read()).toMatchObject({ pageOnly: 2, keeping: "page-only" });
    expect(session.unkept).toHaveLength(2);
    expect(await typesOf(kept)).toHaveLength(1);
    kept.isFull = false;
    session.press({ phase: 0, mood: 1 }, true);
    await settled();
    expect(session.read()).toMatchObject({ pageOnly: 0, keeping: "kept" });
    expect(await typesOf(kept)).toEqual(["ask", "ask", "ask", "ask"]);
  });

  it("lets go of what the server has meanwhile", async () => {
    const { session, kept } = await open();
    kept.isFull = true;
    session.press({ phase: 1, mood: 1 }, true);
    await settled();
    session.forget([...session.unkept]);
    expect(session.read().pageOnly).toBe(0);
  });
});

describe("an outing taken up again", () => {
  it("stands exactly where it was", async () => {
    const { session, kept } = await open();
    session.press({ phase: 1, mood: 1 }, true);
    session.goToSide("off");
    session.enter({ type: "startle", size: 2 }, true);
    pass(4000);
    session.dwell();
    await settled();
    const { session: again } = await open(kept);
    expect(again.read().state).toEqual(session.read().state);
    expect(again.read()).toMatchObject({ dwellFrom: 1_004_000, isOver: false });
    pass(6000);
    again.quiet();
    again.dwell();
    expect(again.lastOf(({ type }) => type === "dwell")).toMatchObject({ seconds: 6 });
    expect(again.standing(again.read().state.fright?.id ?? "")).toMatchObject({ recoverSeconds: 10 });
    expect(foldOuting(planOf(OUTING), again.history)).toEqual(again.read().state);
  });

  it("takes an answer pressed after a change of side or step for the next ask, not for the one before", async () => {
    const { session, kept } = await open();
    session.takeUp("flex");
    session.press({ phase: 1, mood: 1 }, true);
    session.goToSide("off");
    session.answer("none", true);
    expect(session.read().armed).toBe("none");
    session.press({ phase: 1, mood: 1 }, true);
    session.takeUp("yield-hind");
    session.answer("against", true);
    expect(session.read().armed).toBe("against");
    await settled();
    const asks = (await kept.events("o")).map(({ event }) => event as RecordEvent & Record<string, unknown>);
    expect(asks.filter(({ type }) => type === "ask" || type === "correction").map(({ answer }) => answer)).toEqual([
      "gave",
      "none",
    ]);
  });

  it("is over once it was ended, and the end is kept first", async () => {
    const { session, kept } = await open();
    await session.finish();
    expect(await typesOf(kept)).toEqual(["outing-end"]);
    expect((await open(kept)).session.read().isOver).toBe(true);
  });

  it("is none where this device keeps no such outing", async () => {
    expect(await PenSession.open("other", new InMemory(), dials)).toBeNull();
  });
});

describe("a clock that is set in the middle", () => {
  it("is noted, and the times go on", async () => {
    const { session, kept } = await open();
    session.press({ phase: 1, mood: 1 }, true);
    const steady = dials.steady;
    const wall = dials.wall;
    dials.wall = () => wall() + 7_200_000;
    dials.steady = () => steady();
    pass(1000);
    session.tick();
    session.press({ phase: 2, mood: 1 }, true);
    await settled();
    dials.wall = wall;
    const events = (await kept.events("o")).map(({ event }) => event as RecordEvent & Record<string, unknown>);
    expect(events.map(({ type, at, bySeconds }) => [type, Date.parse(at), bySeconds])).toEqual([
      ["ask", 1_000_000, undefined],
      ["clock-moved", 1_001_000, 7200],
      ["ask", 1_001_000, undefined],
    ]);
    expect((await kept.outing("o"))?.clockOffset).toBe(-7_200_000);
  });
});

describe("keys", () => {
  it("mean what the map says, letters in either case, and nothing else", () => {
    expect(actionOf(DEFAULT_KEYS, "1")).toBe("digit-1");
    expect(actionOf(DEFAULT_KEYS, "F")).toBe("fright");
    expect(actionOf(DEFAULT_KEYS, "constructor")).toBeUndefined();
    for (const action of Object.values(DEFAULT_KEYS)) expect(PEN_ACTIONS).toHaveProperty(action);
    for (const action of Object.keys(PEN_ACTIONS)) expect(Object.values(DEFAULT_KEYS)).toContain(action);
  });
});
