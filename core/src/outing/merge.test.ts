import { describe, expect, it } from "vitest";
import { loosePenStart } from "../programs";
import { foldRecord, isAsk, type HorseRecord, type RecordEvent } from "../record";
import { randomFrom, tellOfDevices, type DeviceStory } from "../simulated";
import { foldOuting, LiveOuting, type OutingPlan } from ".";

/** Core itself knows no machine; how many stories its test plays is told from outside. */
declare const process: { env: Record<string, string | undefined> };

/** A seeded tenth here; bin/bench runs all ten thousand. */
const RUNS = Number(process.env["MERGE_RUNS"] ?? 150);
const FIRST = Number(process.env["MERGE_SEED"] ?? 1);

const PLAN: OutingPlan = {
  program: loosePenStart,
  startedAt: "2026-06-10T10:00:00.000Z",
  exercises: [],
  known: [],
  caps: { workingMinutes: 20, inHandMinutes: 40 },
};

const record = (outing: string, events: readonly RecordEvent[]): HorseRecord => ({
  yard: { timeZone: "Europe/Dublin" },
  horse: { id: "h", name: "Moss", foaled: "2022-05-01", foaledPrecision: "month", sex: "mare" },
  program: { id: loosePenStart.id },
  horseEvents: [],
  outings: [{ id: outing, startedAt: PLAN.startedAt, endedAt: PLAN.startedAt, events: [...events] }],
});

/** As `toEqual`, whose looking through is left for where there is a difference. */
function expectSame(one: unknown, other: unknown): void {
  if (JSON.stringify(one) !== JSON.stringify(other)) expect(one).toEqual(other);
}

/** What a story comes to where everybody has everything: the same on every device and on the server, nothing lost or doubled. */
function play({ seed, outing, devices, acts }: DeviceStory): void {
  const random = randomFrom(seed + 1);
  const shuffled = <Item>(list: readonly Item[]): Item[] =>
    list
      .map((item) => ({ item, at: random() }))
      .toSorted((a, b) => a.at - b.at)
      .map(({ item }) => item);
  const server = new Map<string, RecordEvent>();
  const disks = new Map(devices.map((device) => [device, new Map<string, RecordEvent>()]));
  const diskOf = (device: string): RecordEvent[] => [...(disks.get(device)?.values() ?? [])];
  const live = new Map(devices.map((device) => [device, new LiveOuting(PLAN)]));
  const take = (device: string, events: readonly RecordEvent[]): void => {
    // One by one or all together comes to the same.
    if (random() < 0.8) live.get(device)?.takeAll(events);
    else for (const event of events) live.get(device)?.take(event);
    for (const event of events) disks.get(device)?.set(event.id, event);
  };
  const meet = (device: string, act: { lost: boolean; repeated: boolean; reversed: boolean }): void => {
    const own = diskOf(device);
    const sent = act.repeated ? [...own, ...own] : own;
    for (const event of act.reversed ? sent.toReversed() : sent) if (!server.has(event.id)) server.set(event.id, event);
    if (!act.lost) take(device, act.reversed ? shuffled([...server.values()]) : [...server.values()]);
  };
  for (const act of acts)
    if (act.do === "record") take(act.device, [act.event]);
    else if (act.do === "meet") meet(act.device, act);
    else {
      const again = new LiveOuting(PLAN);
      again.takeAll(diskOf(act.device));
      live.set(act.device, again);
    }
  for (const [device, one] of live) expectSame(one.state, foldOuting(PLAN, diskOf(device)));
  for (const device of devices) meet(device, { lost: false, repeated: false, reversed: false });

  const all = acts.flatMap((act) => (act.do === "record" ? [act.event] : []));
  expect(new Set(server.keys())).toEqual(new Set(all.map(({ id }) => id)));
  const whole = foldOuting(PLAN, shuffled(all));
  const folded = foldRecord(record(outing, shuffled(all)));
  for (const [device, one] of live) {
    expectSame(one.state, whole);
    const own = foldRecord(record(outing, diskOf(device)));
    expectSame([own.outings, own.pairs], [folded.outings, folded.pairs]);
  }
  // What the judge counts is what the coach counted, asks of steps nobody knows aside.
  const counted = folded.outings[0]?.events.filter(isAsk) ?? [];
  expect(counted).toHaveLength(whole.asks);
  const ids = new Set(counted.map(({ id }) => id));
  for (const [kept, other] of folded.pairs) expect([ids.has(kept), ids.has(other)]).toEqual([true, false]);
}

describe("phones on one outing", () => {
  it(
    `${RUNS} stories of cuts, crashes, repeats and clocks that are out end with one fold for all, from seed ${FIRST}`,
    () => {
      const pairs = { stories: 0 };
      for (let seed = FIRST; seed < FIRST + RUNS; seed += 1) {
        const story = tellOfDevices(seed, 20 + (seed % 60));
        try {
          play(story);
        } catch (cause) {
          throw new Error(`story ${seed}`, { cause });
        }
        if (story.devices.length > 1) pairs.stories += 1;
      }
      // Stories of one phone alone would prove little.
      expect(pairs.stories).toBeGreaterThan(RUNS / 2);
    },
    60_000 + RUNS * 60,
  );
});

describe("stories that found something", () => {
  it("13: where the second sighting counts and the first does not, the entries after the first are not lost", () => {
    expect(() => play(tellOfDevices(13, 33))).not.toThrow();
  });
});

describe("one ask seen by two phones", () => {
  const at = (second: number): string => new Date(Date.parse(PLAN.startedAt) + second * 1000).toISOString();
  const ask = (id: string, device: string, second: number, more: object = {}): RecordEvent =>
    ({
      id,
      at: at(second),
      type: "ask",
      step: "yield-hind",
      side: "near",
      answer: "gave",
      phase: 1,
      mood: 1,
      device,
      seq: second + 1,
      ...more,
    }) as RecordEvent;

  it("counts once, as the less clean of the two, until one of them is struck out", () => {
    const live = new LiveOuting(PLAN);
    live.take(ask("a", "pen", 10));
    live.take(ask("b", "rail", 12, { mood: 3 }));
    expect([live.state.asks, live.state.tightRun]).toEqual([1, ["b"]]);
    live.take({
      id: "c",
      at: at(20),
      type: "correction",
      replaces: "b",
      void: true,
      device: "pen",
      seq: 30,
    } as RecordEvent);
    expect([live.state.asks, live.state.tightRun]).toEqual([1, []]);
    expect(live.state).toEqual(foldOuting(PLAN, live.history));
  });

  it("is two asks where they are further apart, on another side, or by one phone", () => {
    const asks = (...list: RecordEvent[]): number => foldOuting(PLAN, list).asks;
    expect(asks(ask("a", "pen", 10), ask("b", "rail", 13))).toBe(1);
    expect(asks(ask("a", "pen", 10), ask("b", "rail", 14))).toBe(2);
    expect(asks(ask("a", "pen", 10), ask("b", "rail", 11, { side: "off" }))).toBe(2);
    expect(asks(ask("a", "pen", 10), ask("b", "pen", 11))).toBe(2);
  });

  it("is found where one clock is hours out and was measured, and its time is set right", () => {
    const wrong = ask("b", "rail", 12 + 7200, { seq: 1 });
    const measured = {
      id: "m",
      at: at(7300),
      type: "clock-skew",
      of: "rail",
      behindSeconds: -7200,
      device: "rail",
      seq: 2,
    } as RecordEvent;
    const events = [ask("a", "pen", 10), wrong];
    expect(foldOuting(PLAN, events).asks).toBe(2);
    expect(foldOuting(PLAN, [...events, measured])).toMatchObject({ asks: 1 });
    const live = new LiveOuting(PLAN);
    for (const event of [...events, measured]) live.take(event);
    expect(live.state).toEqual(foldOuting(PLAN, [...events, measured]));
    const folded = foldRecord(record("o", [ask("a", "pen", 10), ask("z", "rail", 40 + 7200, { seq: 1 }), measured]));
    expect(folded.outings[0]?.events.find(({ id }) => id === "z")?.at).toBe(at(40));
  });
});
