import { beforeEach, describe, expect, it, vi } from "vitest";
import type { RecordEvent } from "@still-pine/core/record";
import { readOutboxFile, waitingAsFile } from "./file";
import { keeper } from "./kept";
import type { SendState } from "./slice";
import { sendingInWords, TROUBLE_WORDS } from "./trouble-words";
import { shownTime } from "./use-sending";

const IDLE: SendState = {
  waiting: 0,
  refused: 0,
  media: 0,
  trouble: null,
  sentAt: null,
  isLasting: true,
  isShort: false,
};
const said = (part: Partial<SendState>, aloneSince: string | null = null, isBehind = false): string =>
  sendingInWords({ ...IDLE, ...part }, (at) => at, { aloneSince, isBehind });

describe("the one quiet place", () => {
  it.each<[string, Partial<SendState>, string | null]>([
    ["Nothing waits to be sent", {}, null],
    ["Sent 10:42", { sentAt: "10:42" }, null],
    ["On this device only: 43 · No network", { waiting: 43, sentAt: "10:42", trouble: "no-network" }, null],
    ["Sent 10:42 · No network · as known 10:40", { sentAt: "10:42" }, "10:40"],
    ["On this device only: 2 and 1 picture or voice note", { waiting: 2, media: 1 }, null],
    ["On this device only: 3 pictures and voice notes", { media: 3 }, null],
    ["Sent 10:42 · 1 cannot be sent", { sentAt: "10:42", refused: 1 }, null],
    ["Nothing waits to be sent · This phone is not paired", { trouble: "not-paired" }, null],
    ["Sent 10:42 · room is short", { sentAt: "10:42", isShort: true }, null],
    // A lost network is no news where nothing waits for it.
    ["Sent 10:42", { sentAt: "10:42", trouble: "no-network" }, null],
  ])("%s", (words, part, aloneSince) => {
    expect(said(part, aloneSince)).toBe(words);
  });

  it("says where verdicts cannot go on from what is known here", () => {
    expect(said({ waiting: 1 }, "10:40", true)).toBe(
      "On this device only: 1 · No network · verdicts as they were 10:40",
    );
  });

  it("for everything that can be in the way there is what to do about it", () => {
    for (const { why, todo } of Object.values(TROUBLE_WORDS)) {
      expect(why).toMatch(/^[A-Z][^.]+$/);
      expect(todo).toMatch(/\.$/);
    }
  });

  it("a time of today stands alone, one of another day with its day", () => {
    const now = new Date("2026-06-10T18:00:00");
    expect(shownTime("2026-06-10T10:42:00", now)).toMatch(/^10:42/);
    expect(shownTime("2026-06-08T10:42:00", now)).toMatch(/8/);
  });
});

describe("what waits, as a file", () => {
  beforeEach(() => {
    vi.stubGlobal("localStorage", {
      getItem: (name: string) => (name === "still-pine.device" ? "phone" : null),
      setItem: () => undefined,
    });
  });
  const event = { id: "f1", at: "2026-06-10T10:00:00Z", type: "note", text: "n" } as RecordEvent;

  it("holds what waits and what was refused, and comes in as the same events", async () => {
    const kept = await keeper();
    await kept.keepEvents([
      { horse: "h1", outing: "o1", event, sent: 0 },
      { horse: "h1", outing: null, event: { ...event, id: "f2" }, sent: 2, refused: "why" },
      { horse: "h1", outing: "o1", event: { ...event, id: "f3" }, sent: 1 },
    ]);
    const file = await waitingAsFile("2026-06-11T08:00:00Z");
    expect(file).toMatchObject({ format: "still-pine/outbox", version: 1, device: "phone", yard: null });
    const read = readOutboxFile(JSON.stringify(file), null);
    expect(read).toEqual([
      { horse: "h1", outing: "o1", event, sent: 0 },
      { horse: "h1", outing: null, event: { ...event, id: "f2" }, sent: 0 },
    ]);
  });

  it.each([
    ["{", "expected JSON"],
    ["[]", "no file of waiting entries"],
    ['{"format":"still-pine/outbox","version":2}', "no file of waiting entries"],
    ['{"format":"still-pine/outbox","version":1,"yard":"y2","device":"d","writtenAt":"x","events":[]}', "another yard"],
  ])("%s is refused in words", (text, words) => {
    expect(readOutboxFile(text, "y1")).toContain(words);
  });
});
