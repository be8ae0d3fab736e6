import { beforeAll, describe, expect, it } from "vitest";
import { ALL_ENDPOINTS, type HorsePack, type PackView } from "@still-pine/contract/http";
import { ANSWERS } from "@still-pine/contract/views";
import type { RecordEvent } from "@still-pine/core/record";
import { bringInDemo } from "../server/src/testing/demo";
import { call, yardsForTests, type TestYard } from "../server/src/testing/throw-away";
import { answer } from "../web/src/alone/answer";
import { deviceYard, type DeviceStore } from "../web/src/alone/device-yard";
import type { HorseAlone, OwnEvent } from "../web/src/alone/horse-alone";

/**
 * One suite for the two ways of knowing a yard: the database and what a device keeps. Whatever is declared to be answered offline is
 * asked of both, and the answers are compared field by field.
 */

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW);
let home: TestYard;
let horses: { id: string; name: string }[];
/** A phone that was with the yard, and one that came home since and sent what it had recorded. */
let phone: DeviceStore;
let recorded: OwnEvent[] = [];

const fromServer = async (path: string): Promise<unknown> => (await call(`${home.url}/api/${path}`, "GET")).body;
const fromDevice = (path: string, seen: HorseAlone[] = []): Promise<unknown> =>
  answer(path, deviceYard(phone, NOW, seen));

beforeAll(async () => {
  home = yard();
  horses = await bringInDemo(home);
  const packs = new Map<string, HorsePack>();
  for (const { id } of horses) packs.set(id, (await fromServer(`horses/${id}/pack`)) as HorsePack);
  phone = {
    yard: (await fromServer("pack")) as PackView,
    horse: async (id) => packs.get(id) ?? null,
    recorded: async (id) => (id === horses[0]?.id ? recorded : []),
  };
}, 120_000);

/** An answer under its path, so that what differs says of which. */
const here = async (path: string, seen?: HorseAlone[]) => ({ [path]: await fromDevice(path, seen) });
const there = async (path: string) => ({ [path]: await fromServer(path) });

/** Versions of labels are for changing them, which a device alone does not. */
const withoutVersions = (labels: unknown): unknown =>
  (labels as { id: string; label: string }[]).map(({ id, label }) => ({ id, label }));

const pathsOf = (horse: string): string[] =>
  ["", "/brief", "/outings", "/feel", "/check-up"].map((part) => `horses/${horse}${part}`);

describe("a device that is alone answers as the server does", () => {
  it("everything that is declared to be answered offline, and nothing else", () => {
    const declared = ALL_ENDPOINTS.filter(({ offline }) => offline).length;
    expect(Object.keys(ANSWERS).length).toBe(declared);
    expect(ALL_ENDPOINTS.filter(({ offline, method }) => offline && method !== "get")).toEqual([]);
  });

  it("of the yard: settings, places, people, troubles, programs", async () => {
    for (const path of ["yard", "troubles", "programs", "running"]) expect(await here(path)).toEqual(await there(path));
    for (const path of ["places", "people"])
      expect(withoutVersions(await fromDevice(path))).toEqual(withoutVersions(await fromServer(path)));
  });

  it("the whole string", async () => {
    expect(await fromDevice("string")).toEqual(await fromServer("string"));
  });

  it("every horse: his page, card, diary, feel and check-up", async () => {
    const paths: string[] = [];
    for (const { id } of horses) {
      // Of the feel the server looks back over more outings than a device keeps.
      const isLong = (await outingsOf(id)) > KEPT_OUTINGS;
      paths.push(...pathsOf(id).filter((path) => !isLong || !path.endsWith("/feel")));
    }
    expect(paths.length).toBeGreaterThan(20);
    for (const path of paths) expect(await here(path)).toEqual(await there(path));
  });

  it("the latest outing of each, and a step of a horse whose outings are all kept", async () => {
    for (const { id } of horses) {
      const { outings } = (await fromServer(`horses/${id}/outings`)) as { outings: { id: string; steps: string[] }[] };
      const [latest] = outings;
      if (!latest) continue;
      const outing = `horses/${id}/outings/${latest.id}`;
      const whole = (await fromServer(outing)) as object;
      expect(await here(outing)).toEqual({ [outing]: { ...whole, recorders: {} } });
      if (outings.length > KEPT_OUTINGS) continue;
      for (const step of latest.steps) {
        const path = `horses/${id}/steps/${step}`;
        expect(await here(path)).toEqual(await there(path));
      }
    }
  });

  it("of a long record a step shows the asks of the last twenty outings, and the same word", async () => {
    interface Step {
      judgement: { status: string };
      asks: { event: { id: string } }[];
    }
    let looked = 0;
    for (const { id } of horses) {
      const { outings, total } = (await fromServer(`horses/${id}/outings`)) as {
        outings: { id: string; steps: string[] }[];
        total: number;
      };
      if (total <= KEPT_OUTINGS) continue;
      const step = outings[0]?.steps[0] ?? "";
      const whole = (await fromServer(`horses/${id}/steps/${step}`)) as Step;
      const own = (await fromDevice(`horses/${id}/steps/${step}`)) as Step;
      const known = new Set(whole.asks.map(({ event }) => event.id));
      expect(own.judgement.status).toBe(whole.judgement.status);
      expect(own.asks.length).toBeGreaterThan(0);
      expect(own.asks.filter(({ event }) => !known.has(event.id))).toEqual([]);
      looked += 1;
    }
    expect(looked).toBeGreaterThan(0);
  });

  it("what is not there is not there for both", async () => {
    const [one] = horses;
    const paths = [
      "horses/nobody",
      "horses/nobody/brief",
      `horses/${one?.id}/steps/no-step`,
      `horses/${one?.id}/outings/no-outing`,
    ];
    for (const path of paths) {
      expect(await here(path)).toEqual({ [path]: null });
      expect({ path, status: (await call(`${home.url}/api/${path}`, "GET")).status }).toEqual({ path, status: 404 });
    }
  });

  it("after an outing that was recorded on the device and has reached the server", async () => {
    const [one] = horses;
    if (!one) throw new Error("the demo has horses");
    recorded = OUTING.map((event) => ({ outing: "alone-1", event }));
    await call(`${home.url}/api/events`, "POST", { events: recorded.map((entry) => ({ horse: one.id, ...entry })) });
    for (const path of pathsOf(one.id)) {
      const short = path.endsWith("/feel") && (await outingsOf(one.id)) > KEPT_OUTINGS;
      const seen: HorseAlone[] = [];
      if (!short) expect(await here(path, seen)).toEqual(await there(path));
      expect(seen.some(({ isBehind }) => isBehind)).toBe(false);
    }
  });
});

/** So many outings of a horse lie in his pack. */
const KEPT_OUTINGS = 20;
const outingsOf = async (id: string): Promise<number> =>
  ((await fromServer(`horses/${id}/outings`)) as { total: number }).total;

const stamped = (seq: number, at: string): Pick<RecordEvent, "id" | "at" | "device" | "seq"> => ({
  id: `alone-${seq}`,
  at,
  device: "phone-1",
  seq,
});

const OUTING: RecordEvent[] = [
  {
    ...stamped(1, "2026-06-10T10:00:00.000Z"),
    id: "alone-1:start",
    type: "outing-start",
    place: "Round pen",
    handler: "M",
    program: "loose-pen-start",
    programVersion: 1,
  },
  {
    ...stamped(2, "2026-06-10T10:01:00.000Z"),
    type: "ask",
    step: "flex",
    side: "near",
    answer: "gave",
    phase: 1,
    mood: 1,
  },
  {
    ...stamped(3, "2026-06-10T10:01:20.000Z"),
    type: "ask",
    step: "flex",
    side: "off",
    answer: "tried",
    phase: 2,
    mood: 2,
  },
  { ...stamped(4, "2026-06-10T10:02:00.000Z"), type: "sign", sign: "long-breath" },
  { ...stamped(5, "2026-06-10T10:12:00.000Z"), id: "alone-1:end", type: "outing-end" },
];
