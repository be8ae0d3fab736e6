import { beforeEach, describe, expect, it } from "vitest";
import { DOUBLE_MS } from "./presses";
import { sayFault, toRung, turnChip } from "./moves";
import type { PenSession } from "./session";
import { open, pass, settled, setUp, typesOf, type Fillable } from "./testing";
import { startWatch } from "./watching";

beforeEach(setUp);

describe("the line over the pad", () => {
  const asksOf = async (kept: Fillable): Promise<unknown[]> =>
    (await kept.events("o")).flatMap(({ event }) => (event.type === "ask" ? [event] : []));

  it("goes with every ask, as version 2, until it is changed", async () => {
    const { session, kept } = await open();
    expect(session.read().line).toEqual({ rung: "lean" });
    session.press({ phase: 1, mood: 1 }, true);
    session.say({ rung: "to-the-shoulder" });
    session.press({ phase: 1, mood: 1 }, true);
    pass(DOUBLE_MS);
    session.press({ phase: 1, mood: 1 }, true);
    await settled();
    const rungs = ["lean", "to-the-shoulder", "to-the-shoulder"];
    expect(await asksOf(kept)).toMatchObject(rungs.map((rung) => ({ v: 2, rung })));
  });

  it("is each side's own, and is there again after the page was closed", async () => {
    const { session, kept } = await open();
    session.press({ phase: 1, mood: 1 }, true);
    session.say({ rung: "3s" });
    session.goToSide("off");
    expect(session.read().line.rung).toBe("lean");
    session.goToSide("near");
    await settled();
    expect((await open(kept)).session.read().line.rung).toBe("3s");
  });

  it("changed between an ask and its late answer makes the answer one of the next ask", async () => {
    const { session } = await open();
    session.press({ phase: 1, mood: 1 }, true);
    session.say({ rung: "to-the-shoulder" });
    session.answer("against", true);
    expect(session.read()).toMatchObject({ armed: "against", last: { answer: "gave", rung: "lean" } });
  });

  it("stays as it is when the last entry is taken back", async () => {
    const { session } = await open();
    session.press({ phase: 1, mood: 1 }, true);
    session.say({ rung: "3s" });
    session.undo();
    expect(session.read()).toMatchObject({ last: null, line: { rung: "3s" } });
  });

  it("is written by keys too", async () => {
    const { session } = await open();
    toRung(session, 1);
    expect(session.read().line.rung).toBe("to-the-shoulder");
    toRung(session, -1);
    toRung(session, -1);
    expect(session.read().line.rung).toBe("lean");
    session.takeUp("lead");
    turnChip(session, 0);
    expect(session.read().line).toMatchObject({ reach: "at-him" });
    turnChip(session, 5);
    expect(session.read().line).toEqual({ rung: "4-steps", reach: "at-him" });
  });
});

describe("a watch", () => {
  const started = async (): Promise<{ session: PenSession; kept: Fillable }> => {
    const opened = await open();
    opened.session.takeUp("tie");
    opened.session.say({ rung: "10min" });
    startWatch(opened.session);
    return opened;
  };
  const end = (session: PenSession): unknown => session.read().last;

  it("is kept when it starts, and a second start of the same is none", async () => {
    const { session, kept } = await started();
    startWatch(session);
    await settled();
    expect((await typesOf(kept)).filter((type) => type === "watch")).toEqual(["watch"]);
    expect(session.read().state.watches).toHaveLength(1);
  });

  it("ended by the person is an ask of the highest rung its time reached, in the unit of the step", async () => {
    const { session } = await started();
    const [watch] = session.read().state.watches;
    pass(154_000);
    session.press({ mood: 1 }, true);
    expect(end(session)).toMatchObject({
      answer: "gave",
      rung: "2min",
      dose: 2.5,
      watch: watch?.id,
      endedBy: "person",
    });
    expect(session.read().state.watches).toEqual([]);
    pass(DOUBLE_MS);
    session.press({ mood: 1 }, true);
    expect(end(session)).not.toHaveProperty("watch");
  });

  it("ended at once is one of the smallest, and never one of the rung that was meant", async () => {
    const { session } = await started();
    pass(3000);
    session.press({ mood: 0 }, true);
    expect(end(session)).toMatchObject({ rung: "comes-forward", dose: 0 });
  });

  it("ended by the horse is a miss of the rung that was meant", async () => {
    const { session } = await started();
    pass(154_000);
    session.answer("none", true);
    session.press({ mood: 3 }, true);
    expect(end(session)).toMatchObject({ answer: "none", rung: "10min", dose: 2.5, endedBy: "horse" });
  });

  it("runs on while the phone is locked, over midnight and while something else is asked", async () => {
    const { session, kept } = await started();
    session.takeUp("flex");
    session.press({ phase: 1, mood: 1 }, true);
    expect(end(session)).not.toHaveProperty("watch");
    pass(26 * 3_600_000);
    const again = (await open(kept)).session;
    await settled();
    again.takeUp("tie");
    again.press({ mood: 1 }, true);
    expect(end(again)).toMatchObject({ rung: "10min", dose: 1560 });
  });

  it("that was a mistake is taken back, and a press is an ask again", async () => {
    const { session } = await started();
    session.undo();
    pass(60_000);
    session.press({ mood: 1 }, true);
    expect(end(session)).not.toHaveProperty("watch");
    expect(end(session)).toMatchObject({ rung: "10min" });
  });
});

describe("what was wrong with the last ask, by a digit", () => {
  it("is one of the step's faults, a bolt, mine, a reminder, a probe or one more bump; anything else is nothing", async () => {
    const { session } = await open();
    const faults = ["feet-move", "tilts"] as const;
    sayFault(session, 1, faults);
    expect(session.read().last).toBeNull();
    session.press({ phase: 1, mood: 1 }, true);
    const said = (digit: number): unknown => {
      sayFault(session, digit, faults);
      return session.read().last;
    };
    expect(said(2)).toMatchObject({ fault: "tilts" });
    expect(said(5)).toMatchObject({ fault: "tilts" });
    expect(said(0)).toMatchObject({ after: "bolted" });
    said(9);
    expect(said(9)).toMatchObject({ helps: 2 });
    expect(said(7)).toMatchObject({ purpose: "reminder" });
    expect(said(8)).toMatchObject({ purpose: "probe" });
    expect(said(6)).toMatchObject({ answer: "neutral", rung: "lean" });
  });
});
