import { gunzipSync } from "node:zlib";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { RecordEvent } from "@still-pine/core/record";
import { FORGOTTEN_MS, runningOutings } from "../outbox/running";
import { beginOuting } from "../pen/begin";
import { InMemory, keeper, type KeptEvent, type KeptMedia, type KeptOuting } from "./kept";
import { store } from "../store";
import { keepSending, sendKept, sendSoon } from "./send";
import { backOffMs, Sender, type Sent } from "./sender";

/** Without IndexedDB the page's own memory is the keeper. */
const event = (id: string, outing = "o1"): KeptEvent => ({
  outing,
  horse: "h1",
  sent: 0,
  event: { id, at: "2026-06-01T09:00:00Z", type: "note", text: id } as RecordEvent,
});
const media = (id: string, more: Partial<KeptMedia> = {}): KeptMedia => ({
  id,
  outing: "o1",
  horse: "h1",
  kind: "voice",
  parts: [new Blob(["one"], { type: "audio/webm" }), new Blob(["two"])],
  thumbnail: null,
  isWhole: true,
  sent: 0,
  ...more,
});

type Answer = (url: string, body: unknown) => Response | Promise<Response>;
let asked: { url: string; body: unknown }[] = [];

function answerWith(answer: Answer): void {
  vi.stubGlobal("fetch", async (url: string, { body, headers }: { body: unknown; headers: Record<string, string> }) => {
    if (url === "/api/hello") return json({ product: "still-pine", now: null });
    const isSmall = headers["Content-Encoding"] === undefined;
    const read = isSmall ? body : gunzipSync(Buffer.from(await (body as Blob).arrayBuffer())).toString();
    asked.push({ url, body: read });
    return answer(url, read);
  });
}
const json = (body: unknown, status = 200): Response => new Response(JSON.stringify(body), { status });
const idsIn = (body: unknown): string[] =>
  (JSON.parse(String(body)) as { events: { event: { id: string } }[] }).events.map((one) => one.event.id);
/** A server that stores all it is sent. */
const stores: Answer = (url, body) =>
  url === "/api/events"
    ? json({ results: idsIn(body).map((id) => ({ id, result: "stored" })), changes: [] })
    : json({ id: /\/media\/([^/?]+)/.exec(url)?.[1] });

beforeEach(async () => {
  asked = [];
  vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined });
  answerWith(stores);
  await sendKept();
  asked = [];
});
afterEach(() => vi.unstubAllGlobals());

describe("sending now and then", () => {
  it("tries again soon what failed, whoever sent it, not when the quiet time is over", async () => {
    vi.useFakeTimers();
    const nobody = { addEventListener: () => undefined, removeEventListener: () => undefined };
    vi.stubGlobal("window", nobody);
    vi.stubGlobal("document", { ...nobody, visibilityState: "visible" });
    const stop = keepSending();
    try {
      await vi.advanceTimersByTimeAsync(1000);
      answerWith(() => Promise.reject(new TypeError("no network")));
      await (await keeper()).keepEvents([event("late")]);
      sendSoon();
      await vi.advanceTimersByTimeAsync(500);
      expect(store.getState().sending).toMatchObject({ trouble: "no-network", waiting: 1 });
      answerWith(stores);
      asked = [];
      await vi.advanceTimersByTimeAsync(backOffMs(1, 1));
      expect(asked.map(({ body }) => idsIn(body))).toEqual([["late"]]);
      expect(store.getState().sending).toMatchObject({ trouble: null, waiting: 0 });
    } finally {
      stop();
      vi.useRealTimers();
    }
  });
});

describe("sending", () => {
  it("sends what waits, each once, and nothing when nothing waits", async () => {
    await (await keeper()).keepEvents([event("a"), event("b")]);
    expect(await sendKept()).toBe("all");
    expect(asked.map(({ body }) => idsIn(body))).toEqual([["a", "b"]]);
    expect(await sendKept()).toBe("all");
    expect(asked).toHaveLength(1);
  });

  it("joins a round that runs already", async () => {
    await (await keeper()).keepEvents([event("c")]);
    await Promise.all([sendKept(), sendKept(), sendKept()]);
    expect(asked).toHaveLength(1);
  });

  it.each([
    ["nobody answers", "no-network", () => Promise.reject(new TypeError("failed to fetch"))],
    ["the server is ill", "ill", () => json({ title: "ill" }, 503)],
    ["a gateway is ill", "ill", () => new Response("<h1>Bad gateway</h1>", { status: 502 })],
    ["something else answers", "not-still-pine", () => json({ hello: "world" })],
    ["a sign-in page answers", "not-still-pine", () => new Response("<html>Welcome to the guest network</html>")],
    ["this phone is not paired", "not-paired", () => json({ why: "unknown" }, 401)],
    ["this phone is shut out", "withdrawn", () => json({ why: "withdrawn" }, 401)],
    ["its key has ended", "expired", () => json({ why: "expired" }, 401)],
    ["another yard answers", "other-yard", () => json({ why: "other-yard" }, 401)],
    ["somebody else's door answers", "not-still-pine", () => json({ error: "unauthorized" }, 401)],
    ["too much was asked", "ill", () => json({ detail: "later" }, 429)],
  ] as [string, Sent, Answer][])(
    "keeps everything while %s (%s), and sends it afterwards",
    async (name, why, answer) => {
      await (await keeper()).keepEvents([event(`kept while ${name}`)]);
      answerWith(answer);
      expect(await sendKept()).toBe(why);
      expect(store.getState().sending).toMatchObject({ waiting: 1, trouble: why });
      expect((await (await keeper()).unsent()).map((one) => one.event.id)).toEqual([`kept while ${name}`]);
      answerWith(stores);
      expect(await sendKept()).toBe("all");
      expect(await (await keeper()).unsent()).toEqual([]);
      expect(store.getState().sending).toMatchObject({ waiting: 0, trouble: null, sentAt: expect.any(String) });
    },
  );

  it("goes in batches the server takes", async () => {
    await (await keeper()).keepEvents(Array.from({ length: 1100 }, (_, n) => event(`many-${n}`)));
    expect(await sendKept()).toBe("all");
    expect(asked.map(({ body }) => idsIn(body).length)).toEqual([500, 500, 100]);
  });

  it("keeps what was refused, with the reason, and does not send it for ever", async () => {
    await (await keeper()).keepEvents([event("good", "o2"), event("bad", "o2")]);
    answerWith((_url, body) =>
      json(
        {
          results: idsIn(body).map((id) =>
            id === "bad"
              ? { id, result: "refused", why: [{ path: "step", expected: "a step", found: "none" }] }
              : { id, result: "stored" },
          ),
        },
        422,
      ),
    );
    expect(await sendKept()).toBe("all");
    const kept = await (await keeper()).events("o2");
    expect(kept.map((one) => [one.event.id, one.sent, one.refused])).toEqual([
      ["good", 1, undefined],
      ["bad", 2, "step expected a step, found none"],
    ]);
  });
});

describe("one poisoned event among a thousand", () => {
  it("is found though it spoils its whole batch, waits with the reason, and all others go, each once", async () => {
    const stored: string[] = [];
    await (await keeper()).keepEvents(Array.from({ length: 1000 }, (_, n) => event(`p-${n}`, "o3")));
    answerWith((_url, body) => {
      const ids = idsIn(body);
      if (ids.includes("p-617")) return json({ detail: "Some fields are not as expected.", errors: [] }, 400);
      stored.push(...ids);
      return json({ results: ids.map((id) => ({ id, result: "stored" })), changes: [] });
    });
    expect(await sendKept()).toBe("all");
    expect(stored).toHaveLength(999);
    expect(new Set(stored).size).toBe(999);
    expect((await (await keeper()).refused()).map((one) => [one.event.id, one.refused])).toContainEqual([
      "p-617",
      "Some fields are not as expected.",
    ]);
    expect(store.getState().sending.refused).toBeGreaterThan(0);
  });
});

describe("waiting between tries", () => {
  it("is longer each time, half a minute at most, and not the same for all phones", () => {
    const waits = [1, 2, 3, 4, 5, 6, 20].map((failures) => backOffMs(failures, 0.5));
    expect(waits).toEqual([2000, 4000, 8000, 16_000, 30_000, 30_000, 30_000]);
    expect([backOffMs(1, 0), backOffMs(1, 1)]).toEqual([1500, 2500]);
  });
});

describe("a clock that is out", () => {
  const at = (seconds: number): string => new Date(Date.parse("2026-06-01T09:00:00Z") + seconds * 1000).toISOString();

  /** A device whose clock says so many seconds more than the server's, and whose answers take two. */
  async function measured(aheadSeconds: number, clockOffset = 0) {
    const kept = new InMemory();
    const outing = { id: "o1", horse: "h1", startedAt: at(0), isOver: false, isPlanSent: true, clockOffset };
    await kept.keepOuting(outing as KeptOuting, [
      { ...event("a"), event: { ...event("a").event, device: "phone", seq: 1 } as RecordEvent },
    ]);
    let now = Date.parse(at(aheadSeconds));
    let seq = 1;
    const sender = new Sender({
      keeper: async () => kept,
      holding: new Map(),
      headers: () => ({}),
      now: () => now,
      stamp: (body, { at }) => ({ id: `s${(seq += 1)}`, at, device: "phone", seq, ...body }),
      device: () => "phone",
      fetch: async (url, { body }) => {
        if (url !== "/api/hello")
          return json({ results: idsIn(body).map((id) => ({ id, result: "stored" })), changes: [] });
        now += 2000;
        return json({ product: "still-pine", now: at(1) });
      },
    });
    const round = () => sender.round();
    await round();
    const skews = async (): Promise<unknown[]> =>
      (await kept.events("o1")).flatMap((one) => (one.event.type === "clock-skew" ? [one.event] : []));
    return { kept, round, skews };
  }

  it("a year in the past, an hour in the future: what it is behind is said in the outing, once, and sent with it", async () => {
    for (const ahead of [-365 * 86_400, 3600]) {
      const { kept, skews } = await measured(ahead);
      expect(await skews()).toMatchObject([{ of: "phone", behindSeconds: -ahead, device: "phone" }]);
      expect(await kept.unsent()).toEqual([]);
    }
  });

  it("that is right enough is let be; the way there and back is no skew", async () => {
    expect(await (await measured(0)).skews()).toEqual([]);
    expect(await (await measured(1.5)).skews()).toEqual([]);
  });

  it("that was set right in the middle of an outing is told from how the outing counted", async () => {
    expect(await (await measured(0, 7_200_000)).skews()).toMatchObject([{ behindSeconds: -7200 }]);
  });

  it("is not asked for again within a minute, however often something is sent", async () => {
    const { kept, round, skews } = await measured(600);
    await kept.keepEvents([{ ...event("b"), event: { ...event("b").event, device: "phone", seq: 9 } as RecordEvent }]);
    await round();
    expect(await skews()).toHaveLength(1);
    expect(await kept.unsent()).toEqual([]);
  });
});

describe("photos and voice notes", () => {
  const urls = (): string[] => asked.map(({ url }) => url);

  it("go once they are whole, with their small picture, and are let go of then", async () => {
    const kept = await keeper();
    await kept.keepMedia(media("half", { isWhole: false }));
    await kept.keepMedia(media("whole"));
    await kept.keepMedia(media("photo", { kind: "photo", thumbnail: new Blob(["small"]) }));
    expect(await sendKept()).toBe("all");
    expect(urls()).toEqual([
      "/api/horses/h1/media/whole?outing=o1",
      "/api/horses/h1/media/photo?outing=o1",
      "/api/media/photo/thumbnail",
    ]);
    expect(await new Response(asked[0]?.body as Blob).text()).toBe("onetwo");
    expect((await kept.unsentMedia()).map(({ id }) => id)).toEqual(["half"]);
    await kept.keepMedia(media("half", { sent: 1 }));
  });

  it("that are refused stay on the device; those nobody answered for are sent again", async () => {
    const kept = await keeper();
    await kept.keepMedia(media("odd"));
    answerWith(() => json({ detail: "Expected a picture." }, 415));
    expect(await sendKept()).toBe("all");
    await kept.keepMedia(media("later"));
    answerWith(() => json({}, 503));
    expect(await sendKept()).toBe("ill");
    expect((await kept.unsentMedia()).map(({ id }) => id)).toEqual(["later"]);
    answerWith(stores);
    expect(await sendKept()).toBe("all");
  });
});

describe("an answer that is no success", () => {
  it.each([
    ["a page of a guest network", () => json({}), "not-still-pine"],
    ["nothing at all", () => new Response(""), "not-still-pine"],
    ["another one's", () => json({ id: "another" }), "not-still-pine"],
    ["a refusal without a word", () => new Response("", { status: 404 }), "not-still-pine"],
    ["that nothing changed", () => new Response(null, { status: 304 }), "not-still-pine"],
  ] as const)("lets go of no photo: %s", async (_what, answer, trouble) => {
    const kept = await keeper();
    await kept.keepMedia(media("only"));
    answerWith(answer);
    expect(await sendKept()).toBe(trouble);
    expect((await kept.unsentMedia()).map(({ id }) => id)).toEqual(["only"]);
    answerWith(stores);
    expect(await sendKept()).toBe("all");
    expect(await kept.unsentMedia()).toEqual([]);
  });

  it("to the small picture has both sent again", async () => {
    const kept = await keeper();
    await kept.keepMedia(media("both", { kind: "photo", thumbnail: new Blob(["small"]) }));
    answerWith((url, body) => (url.endsWith("/thumbnail") ? json({}, 503) : stores(url, body)));
    expect(await sendKept()).toBe("ill");
    expect((await kept.unsentMedia()).map(({ id }) => id)).toEqual(["both"]);
    answerWith(stores);
    expect(await sendKept()).toBe("all");
  });

  it("leaves the plan of an outing to be sent again", async () => {
    const kept = await keeper();
    const outing = { id: "planned", horse: "h1", startedAt: "2026-06-01T09:00:00Z", isOver: false, exercises: [] };
    await kept.keepOuting({ ...outing, clockOffset: 0 } as unknown as KeptOuting, [event("p", "planned")]);
    answerWith((url, body) => (url.endsWith("/plan") ? json({ detail: "No such outing." }, 404) : stores(url, body)));
    expect(await sendKept()).toBe("all");
    expect((await kept.outing("planned"))?.isPlanSent).not.toBe(true);
    answerWith(stores);
    await kept.keepEvents([event("q", "planned")]);
    expect(await sendKept()).toBe("all");
    expect((await kept.outing("planned"))?.isPlanSent).toBe(true);
    await kept.changeOuting("planned", { isOver: true });
  });
});

describe("what lies on the device", () => {
  it("is let go of two weeks after it was over and sent, and not before", async () => {
    const kept = new InMemory();
    const outing = (id: string, more: Partial<KeptOuting>): KeptOuting =>
      ({ id, horse: "h1", startedAt: "2026-06-01T09:00:00Z", isOver: true, ...more }) as KeptOuting;
    const sent = (id: string): KeptEvent => ({ ...event(`${id}-e`, id), sent: 1 });
    await kept.keepOuting(outing("old", {}), [sent("old")]);
    await kept.keepOuting(outing("unsent", {}), [sent("unsent"), event("waits", "unsent")]);
    await kept.keepOuting(outing("refused", {}), [{ ...sent("refused"), sent: 2 }]);
    await kept.keepOuting(outing("running", { isOver: false }), [sent("running")]);
    await kept.keepOuting(outing("late", { startedAt: "2026-06-20T09:00:00Z" }), [sent("late")]);
    await kept.letGo("2026-06-15T00:00:00Z");
    expect((await kept.outings()).map(({ id }) => id)).toEqual(["unsent", "refused", "running", "late"]);
    expect(await kept.events("old")).toEqual([]);
    expect(await kept.events("unsent")).toHaveLength(2);
  });
});

describe("an outing on this device", () => {
  const plan = {
    horse: "h9",
    horseName: "Moss",
    program: { id: "loose-pen-start", version: 2 },
    exercises: [
      { step: "flex", line: { count: 3, worth: "clean" as const }, isNew: false, sticky: null, last: {} },
      { step: "lead", line: { count: 2, worth: "tried" as const, dose: 10 }, isNew: true, sticky: null, last: {} },
    ],
    known: [],
    caps: { workingMinutes: 30, inHandMinutes: 60 },
    timeZone: "Europe/Dublin",
    words: "american" as const,
  };

  it("begins with its head and its finish lines, so that its record says by itself what was planned", async () => {
    const { id } = await beginOuting(plan, { place: "Round pen", caught: "ran", caughtSeconds: 90 });
    const events = (await (await keeper()).events(id)).map((one) => one.event);
    expect(events).toMatchObject([
      {
        id: `${id}:start`,
        type: "outing-start",
        place: "Round pen",
        caught: "ran",
        program: "loose-pen-start",
        programVersion: 2,
        workingMinutes: 30,
        inHandMinutes: 60,
      },
      { type: "finish-line", step: "flex", count: 3, worth: "clean" },
      { type: "finish-line", step: "lead", count: 2, worth: "tried", dose: 10 },
    ]);
    expect((await runningOutings()).map((one) => one.id)).toContain(id);
  });

  it("that nobody ended is closed with its last entry after two hours, once, and not a minute earlier", async () => {
    const { id } = await beginOuting(plan, {});
    const kept = await keeper();
    const lastAt = Date.now() + 600_000;
    const last = { id: `${id}-n`, at: new Date(lastAt).toISOString(), type: "note", text: "n" } as RecordEvent;
    await kept.keepEvents([{ outing: id, horse: "h9", event: last, sent: 0 }]);
    const isRunning = async (now: number): Promise<boolean> => (await runningOutings(now)).some((one) => one.id === id);
    expect(await isRunning(lastAt + FORGOTTEN_MS - 60_000)).toBe(true);
    expect(await isRunning(lastAt + FORGOTTEN_MS)).toBe(false);
    expect(await isRunning(lastAt + 2 * FORGOTTEN_MS)).toBe(false);
    const ends = (await kept.events(id)).filter((one) => one.event.type === "outing-end");
    expect(ends.map((one) => one.event)).toMatchObject([{ id: `${id}:end`, at: last.at, unended: true }]);
  });
});
