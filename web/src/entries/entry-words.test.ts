import { describe, expect, it } from "vitest";
import { loosePenStart } from "@still-pine/core/programs";
import type { CorrectionEvent, RecordEvent } from "@still-pine/core/record";
import { changesInWords, entryInWords } from "./entry-words";

const head = { id: "e", at: "2026-06-01T10:00:00Z" };
const say = (event: Record<string, unknown>): string =>
  entryInWords({ ...head, ...event } as RecordEvent, loosePenStart);

describe("an entry in a line", () => {
  it.each([
    [
      { type: "ask", step: "flex", side: "near", phase: 1, answer: "gave", mood: 1 },
      "Lateral flexion, near side: gave · phase 1 (hint), quiet",
    ],
    [{ type: "ask", step: "share-space", answer: "gave", mood: 0 }, "Shares the pen: gave · loose"],
    [{ type: "ask", step: "flex", side: "off", answer: "none" }, "Lateral flexion, off side: none"],
    [{ type: "ask", step: "piaffe", side: "off", answer: "gave", mood: 1 }, "piaffe, off side: gave · quiet"],
    [
      { type: "ask", step: "flex", side: "near", phase: 1, answer: "gave", mood: 1, after: "bolted" },
      "Lateral flexion, near side: gave · phase 1 (hint), quiet, then bolted",
    ],
    [
      {
        type: "series",
        step: "flex",
        side: "off",
        count: 6,
        clean: 5,
        first: "gave",
        worst: "tried",
        phase: 1,
        mood: 1,
      },
      "Lateral flexion, off side: 6 from memory, 5 clean, first gave, worst tried · phase 1 (hint), quiet",
    ],
    [{ type: "sign", sign: "neck-lowered" }, "Sign: neck lowered"],
    [{ type: "note", text: "Better." }, "“Better.”"],
    [
      { type: "mishap", kind: "pull-back", severity: 3, personHurt: true, after: "a gate" },
      "Mishap: pull back, severity 3, a person hurt; a gate",
    ],
    [{ type: "startle", size: 2 }, "startle (kept, not known here)"],
  ])("%j", (event, words) => {
    expect(say(event)).toBe(words);
  });
});

describe("a correction in words", () => {
  const correction = (change: Partial<CorrectionEvent>): CorrectionEvent => ({
    ...head,
    type: "correction",
    replaces: "a",
    ...change,
  });

  it("says what was struck out, undone or changed, fields in the order of the entry", () => {
    expect(changesInWords(correction({ void: true }), false)).toBe("struck out");
    expect(changesInWords(correction({ void: true }), true)).toBe("undid that");
    expect(changesInWords(correction({ with: { mood: 1, phase: 0, answer: "gave", wind: "N" } }), false)).toBe(
      "answer to gave, phase to 0, mood to 1, wind to N",
    );
  });
});
