import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { RecordEvent } from "@still-pine/core/record";
import { beginOuting, FORGOTTEN_MS, runningOutings } from "./begin";
import { keeper, type KeptEvent, type KeptMedia } from "./kept";
import { sendKept } from "./send";

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
  vi.stubGlobal("fetch", async (url: string, { body }: { body: unknown }) => {
    asked.push({ url, body });
    return answer(url, body);
  });
}
const json = (body: unknown, status = 200): Response => new Response(JSON.stringify(body), { status });
const idsIn = (body: unknown): string[] =>
  (JSON.parse(String(body)) as { events: { event: { id: string } }[] }).events.map((one) => one.event.id);
/** A server that stores all it is sent. */
const stores: Answer = (url, body) =>
  url === "/api/events"
    ? json({ results: idsIn(body).map((id) => ({ id, result: "stored" })), changes: [] })
    : json({});

beforeEach(async () => {
  asked = [];
  vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined });
  answerWith(stores);
  await sendKept();
  asked = [];
});
afterEach(() => vi.unstubAllGlobals());

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
    ["nobody answers", () => Promise.reject(new TypeError("failed to fetch"))],
    ["the server is ill", () => json({ title: "ill" }, 503)],
    ["something else answers", () => json({ hello: "world" })],
  ] as [string, Answer][])("keeps everything while %s, and sends it afterwards", async (name, answer) => {
    await (await keeper()).keepEvents([event(`kept while ${name}`)]);
    answerWith(answer);
    expect(await sendKept()).toBe("later");
    expect((await (await keeper()).unsent()).map((one) => one.event.id)).toEqual([`kept while ${name}`]);
    answerWith(stores);
    expect(await sendKept()).toBe("all");
    expect(await (await keeper()).unsent()).toEqual([]);
  });

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
      ["bad", 1, "step expected a step, found none"],
    ]);
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
    expect(await sendKept()).toBe("later");
    expect((await kept.unsentMedia()).map(({ id }) => id)).toEqual(["later"]);
    answerWith(stores);
    expect(await sendKept()).toBe("all");
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
