import { beforeEach, describe, expect, it, vi } from "vitest";
import { outingPlanSchema, type OutingPlanBody, type RailView } from "@still-pine/contract/http";
import { planCheckUp } from "@still-pine/core/checkup";
import { loosePenStart } from "@still-pine/core/programs";
import { createGathered, readAbout } from "@still-pine/core/readiness";
import type { RecordEvent } from "@still-pine/core/record";
import { InMemory, type KeptOuting } from "../outbox/kept";
import { Sender } from "../outbox/sender";
import { outingFrom } from "./join";
import { PenSession } from "./session";

const START = "2026-06-10T10:00:00.000Z";
const at = (second: number): string => new Date(Date.parse(START) + second * 1000).toISOString();
let local: Map<string, string>;
beforeEach(() => {
  local = new Map([["still-pine.device", "pen"]]);
  vi.stubGlobal("localStorage", {
    getItem: (name: string) => local.get(name) ?? null,
    setItem: (name: string, value: string) => void local.set(name, value),
  });
});

const view = (more: Partial<RailView> = {}): RailView => ({
  outing: "o1",
  horse: "h1",
  horseName: "Moss",
  timeZone: "Europe/Dublin",
  words: "american",
  program: { id: "loose-pen-start", version: 2 },
  startedAt: START,
  isOver: false,
  plan: null,
  events: [],
  arrival: 0,
  ...more,
});
const ask = (id: string, device: string, second: number, seq: number, more: object = {}): RecordEvent =>
  ({
    id,
    at: at(second),
    type: "ask",
    step: "flex",
    side: "near",
    phase: 1,
    answer: "gave",
    mood: 1,
    device,
    seq,
    ...more,
  }) as RecordEvent;

async function session(outing: KeptOuting = outingFrom(view())): Promise<{ pen: PenSession; kept: InMemory }> {
  const kept = new InMemory();
  await kept.keepOuting(outing, []);
  const pen = await PenSession.open(outing.id, kept);
  if (!pen) throw new Error("no outing");
  return { pen, kept };
}

describe("an outing joined from another device", () => {
  it("has the plan of whoever began it, or what its own events say", () => {
    const plan = {
      exercises: [{ step: "flex", line: { count: 5, worth: "clean" }, isNew: true, sticky: "off", last: {} }],
      known: ["lead"],
      caps: { workingMinutes: 12, inHandMinutes: 30 },
    };
    expect(outingFrom(view({ plan }))).toMatchObject({ ...plan, isJoined: true, isOver: false });
    const events = [
      { id: "o1:start", at: START, type: "outing-start", workingMinutes: 15, inHandMinutes: 40 },
      { id: "l", at: START, type: "finish-line", step: "lead", count: 2 },
    ] as unknown as RecordEvent[];
    expect(outingFrom(view({ events, arrival: 7 }))).toMatchObject({
      exercises: [{ step: "lead", line: { count: 2, worth: "clean" } }],
      known: [],
      caps: { workingMinutes: 15, inHandMinutes: 40 },
      arrival: 7,
    });
  });
});

describe("what the other device records", () => {
  it("counts here, is kept as sent, and is not this device's to take back", async () => {
    const { pen, kept } = await session();
    await pen.receive([ask("r1", "rail", 5, 1), ask("r2", "rail", 15, 2, { mood: 3 })], false);
    expect(pen.read()).toMatchObject({ last: null, fromOther: { id: "r2" } });
    expect(pen.read().state.asks).toBe(2);
    expect((await kept.events("o1")).map(({ event, sent }) => [event.id, sent])).toEqual([
      ["r1", 1],
      ["r2", 1],
    ]);
    pen.undo();
    expect(pen.read().state.asks).toBe(2);
    // Heard of again, it changes nothing.
    await pen.receive([ask("r1", "rail", 5, 1)], false);
    expect(await kept.events("o1")).toHaveLength(2);
  });

  it("of the same ask: the less clean counts, and one's own stays one's own to take back", async () => {
    const { pen } = await session();
    pen.takeUp("flex");
    pen.press({ phase: 1, mood: 1 }, false);
    const own = pen.read().last;
    if (!own) throw new Error("nothing recorded");
    const second = (Date.parse(own.at) - Date.parse(START)) / 1000 + 1;
    await pen.receive([ask("r1", "rail", second, 1, { side: own["side" as keyof RecordEvent], mood: 3 })], false);
    expect(pen.read().state.asks).toBe(1);
    expect(pen.read().state.tightRun).toEqual(["r1"]);
    expect(pen.read().last?.id).toBe(own.id);
    pen.undo();
    expect(pen.read().state.asks).toBe(1);
    expect(pen.read().last).toBeNull();
  });

  it("its end is told, and what is written here goes on counting", async () => {
    const { pen } = await session();
    await pen.receive(
      [{ id: "o1:end", at: at(60), type: "outing-end", device: "pen-2", seq: 9 } as RecordEvent],
      false,
    );
    expect(pen.read()).toMatchObject({ isEndedElsewhere: true, isOver: false });
    pen.press({ phase: 1, mood: 1 }, false);
    expect(pen.read().state.asks).toBe(1);
  });
});

describe("a browser that forgot who it was", () => {
  it("goes on as the device that began the outing, with its count", async () => {
    const { id, ...outing } = outingFrom(view());
    const kept = new InMemory();
    const start = { id: `${id}:start`, at: START, type: "outing-start", device: "before", seq: 41 } as RecordEvent;
    await kept.keepOuting({ ...outing, id, isJoined: false }, [
      { outing: id, horse: "h1", event: start, sent: 0 },
      { outing: id, horse: "h1", event: ask("a", "before", 5, 57), sent: 0 },
    ]);
    local.clear();
    const pen = await PenSession.open(id, kept);
    expect(pen?.read().last?.id).toBe("a");
    pen?.press({ phase: 1, mood: 0 }, false);
    expect(pen?.read().last).toMatchObject({ device: "before", seq: 58 });
  });
});

describe("a clock that is two hours out", () => {
  it("is set right in the running outing, with its beginning and everything so far, and goes on from there", async () => {
    const behindSeconds = 7200;
    const saidStart = new Date(Date.now() - 60_000);
    const realStart = saidStart.getTime() + behindSeconds * 1000;
    const kept = new InMemory();
    const outing: KeptOuting = { ...outingFrom(view()), isJoined: false, startedAt: saidStart.toISOString() };
    const start = { id: "o1:start", at: outing.startedAt, type: "outing-start", device: "pen", seq: 1 } as RecordEvent;
    await kept.keepOuting(outing, [{ outing: "o1", horse: "h1", event: start, sent: 1 }]);
    const pen = await PenSession.open("o1", kept);
    if (!pen) throw new Error("no outing");
    pen.takeUp("flex");
    pen.press({ phase: 1, mood: 1 }, false);
    expect(pen.now() - Date.parse(pen.plan.startedAt)).toBeLessThan(70_000);
    const skew = {
      id: "s",
      at: new Date().toISOString(),
      type: "clock-skew",
      of: "pen",
      behindSeconds,
      device: "pen",
      seq: 9,
    };
    await pen.receive([skew as unknown as RecordEvent], true);
    expect(Date.parse(pen.plan.startedAt)).toBe(realStart);
    const inHand = pen.now() - Date.parse(pen.plan.startedAt);
    expect(inHand).toBeGreaterThan(50_000);
    expect(inHand).toBeLessThan(70_000);
    expect(pen.read().state.spurt?.from).toBeGreaterThan(realStart);
    // What is recorded next carries what the device says, as all before it.
    local.set("still-pine.seq", "9");
    pen.press({ phase: 1, mood: 0 }, false);
    expect(Date.parse(pen.read().last?.at ?? "")).toBeLessThan(Date.now() + 1000);
    expect(pen.read().state.asks).toBe(2);
    expect(pen.now() - Date.parse(pen.plan.startedAt)).toBeLessThan(70_000);
    // Opened again it is the same.
    await new Promise((resolve) => setTimeout(resolve, 0));
    await kept.keepEvents([{ outing: "o1", horse: "h1", event: skew as unknown as RecordEvent, sent: 1 }]);
    const again = await PenSession.open("o1", kept);
    expect(Date.parse(again?.plan.startedAt ?? "")).toBe(realStart);
    expect(again?.read().state.asks).toBe(2);
  });
});

/** Begins an outing, and sends ahead what it sets out with. @returns that, as the server takes it */
async function sendAhead(begun: KeptOuting): Promise<{ kept: InMemory; plan: OutingPlanBody }> {
  const sent: unknown[] = [];
  const { kept } = await session(begun);
  const sender = new Sender({
    keeper: () => Promise.resolve(kept),
    holding: new Map(),
    headers: () => ({}),
    now: () => Date.parse(START),
    stamp: (body, { at }) => ({ id: "s1", at, device: "pen", seq: 1, ...body }),
    device: () => "pen",
    fetch: (url, { body }) => {
      if (url.endsWith("/plan")) sent.push(JSON.parse(String(body)));
      return Promise.resolve(new Response("{}", { status: 200 }));
    },
  });
  await sender.round();
  return { kept, plan: outingPlanSchema.parse(sent[0]) };
}

describe("an outing with a shut gate within a ladder that is joined", () => {
  it("has it at the rail as in the pen, by what the pen sent ahead", async () => {
    vi.useFakeTimers({ toFake: ["Date"], now: Date.parse(START) });
    const upTo = [{ step: "tie", rung: "ring-held", gate: "tie" }];
    const exercises = [
      { step: "tie", line: { count: 3, worth: "clean" as const }, isNew: false, sticky: null, last: {} },
    ];
    const { plan } = await sendAhead({ ...outingFrom(view()), isJoined: false, exercises, upTo });
    const { pen: rail } = await session(outingFrom(view({ plan })));
    rail.say({ rung: "10min" });
    expect(rail.read().advice).toMatchObject({ reason: "past-gate", gate: "tie", rung: "ring-held" });
    rail.say({ rung: "ring-held" });
    expect(rail.read().advice).toMatchObject({ verb: "go-on", reason: "start" });
    vi.useRealTimers();
  });
});

describe("a check-up that is joined", () => {
  it("has the same coach at the rail as in the pen, by what the pen sent ahead", async () => {
    vi.useFakeTimers({ toFake: ["Date"], now: Date.parse(START) });
    const gathered = createGathered(loosePenStart, readAbout([], "UTC"));
    const { tests, known, spared, expected } = planCheckUp(
      gathered,
      { stages: ["first-handling", "halter"] },
      "2026-06-10",
    );
    const checkUp = { tests, known, spared: spared.map(({ step }) => step), expected };
    const begun: KeptOuting = { ...outingFrom(view()), isJoined: false, checkUp };
    const { kept, plan } = await sendAhead(begun);
    expect(plan.checkUp).toEqual(checkUp);

    const pen = await PenSession.open("o1", kept);
    const { pen: rail } = await session(outingFrom(view({ plan })));
    expect(rail.read().advice).toEqual(pen?.read().advice);
    expect(rail.read().advice).toMatchObject({ verb: "go-on", reason: "check-start", step: tests[0]?.step });
    const events = [ask("c1", "pen", 5, 1, { step: tests[0]?.step, side: "none", phase: 0 })];
    await pen?.receive(events, true);
    await rail.receive(events, true);
    expect(rail.read().advice).toEqual(pen?.read().advice);
    expect(rail.read().advice.reason).toMatch(/^check-/);
    vi.useRealTimers();
  });
});
