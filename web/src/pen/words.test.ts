import { describe, expect, it } from "vitest";
import { loosePenStart } from "@still-pine/core/programs";
import type { RecordEvent } from "@still-pine/core/record";
import { clockOf, shortly, withPlace } from "./words";

const event = (fields: Record<string, unknown>): RecordEvent =>
  ({ id: "e", at: "2026-06-01T09:00:00Z", ...fields }) as unknown as RecordEvent;

describe("an entry as short as it can be said", () => {
  it.each([
    [{ type: "ask", answer: "gave", phase: 0, mood: 0 }, "Gave · thought · loose"],
    [{ type: "ask", answer: "gave", mood: 4 }, "Gave · over"],
    [{ type: "ask", answer: "none" }, "None"],
    [{ type: "ask", answer: "tried", phase: 3, mood: 2, waitSeconds: 1.5 }, "Tried · press · watchful · after 1.5 s"],
    [{ type: "sign", sign: "hind-rested" }, "Sign: hind rested"],
    [{ type: "startle", size: 1 }, "Fright: a flinch"],
    [{ type: "startle", size: 4, recoverSeconds: 30 }, "Fright: away, quiet after 30 s"],
    [{ type: "mishap", personHurt: false }, "Mishap"],
    [{ type: "mishap", personHurt: true }, "Mishap: a person hurt"],
    [{ type: "tired", seen: "loses-rhythm" }, "Tired: loses rhythm"],
    [{ type: "offer", step: "flex" }, "Offered unasked"],
    [{ type: "dwell", seconds: 12 }, "Stood 12 s"],
    [{ type: "enough", why: "weather" }, "Enough: weather"],
    [{ type: "media", kind: "voice" }, "Voice note"],
    [{ type: "media", kind: "photo" }, "Photo"],
    [{ type: "clock-moved", bySeconds: 60 }, "Clock moved"],
  ])("%j", (fields, words) => {
    expect(shortly(event(fields), loosePenStart)).toBe(words);
  });

  it("says its step and side with it, where it has them", () => {
    const ask = { type: "ask", step: "flex", side: "off", answer: "gave", phase: 1, mood: 1 };
    expect(withPlace(event(ask), loosePenStart, "american")).toBe("Lateral flexion, off side: gave · hint · quiet");
    const own = { type: "offer", step: "my-own-step" };
    expect(withPlace(event(own), loosePenStart, "american")).toBe("my-own-step: offered unasked");
    expect(withPlace(event({ type: "sign", sign: "yawn" }), loosePenStart, "american")).toBe("Sign: yawn");
  });

  it("counts seconds as a clock does", () => {
    expect([0, 9, 65.9, 600, 3725].map(clockOf)).toEqual(["0:00", "0:09", "1:05", "10:00", "62:05"]);
  });
});
