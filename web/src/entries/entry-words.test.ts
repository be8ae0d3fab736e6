import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { loosePenStart, ProgramBook, SCHOOLS, SHIPPED, type ProgramFile } from "@still-pine/core/programs";
import { type CorrectionEvent, type HorseRecord, type RecordEvent, EVENT_TYPES } from "@still-pine/core/record";
import { changesInWords, entryInWords } from "./entry-words";

const head = { id: "e", at: "2026-06-01T10:00:00Z" };
const say = (event: Record<string, unknown>): string =>
  entryInWords({ ...head, ...event } as RecordEvent, loosePenStart);

describe("an entry of a horse that goes by another program", () => {
  it("says the phases in its words", () => {
    const ask = { ...head, type: "ask", step: "flex", side: "near", phase: 1, answer: "gave", mood: 1 } as RecordEvent;
    const school = SHIPPED.known("in-hand-classical-start");
    expect(school && entryInWords(ask, school)).toBe("Lateral flexion, near side: gave · phase 1 (stroke), quiet");
  });

  it("says the rung and how it was put, where the event's shape knows them", () => {
    const ask = {
      id: "e",
      at: "2026-05-01T08:00:00Z",
      type: "ask",
      step: "flag",
      side: "near",
      answer: "gave",
      mood: 1,
    };
    const line = { rung: "half", setting: "moving", gait: "walk", reach: "ropes-end", fault: "steps-off" };
    expect(entryInWords({ ...ask, v: 2, ...line } as RecordEvent, loosePenStart)).toBe(
      "Flag, near side: gave · quiet · half open · moving, steps off, walk, at the rope's end",
    );
    expect(entryInWords({ ...ask, rung: "half", gait: { of: 1 } } as unknown as RecordEvent, loosePenStart)).toBe(
      "Flag, near side: gave · quiet",
    );
  });

  it("names a step that only a yard's own program has, also where he goes by another one now", () => {
    const [loose] = SCHOOLS;
    const river = { id: "own-river", name: "Stands in the river", needs: ["lead"] };
    const ownSteps = [{ ...river, stage: "halter", side: "none", ends: "stop", phase: null, mood: 1, end: true }];
    const road = [...loosePenStart.steps.map(({ id }) => id), river.id];
    const book = new ProgramBook([{ ...loose, id: "own-by-the-river", ownSteps, road } as ProgramFile]);
    const ask = { ...head, type: "ask", step: river.id, answer: "gave", mood: 1 } as RecordEvent;
    expect(entryInWords(ask, book.find(loosePenStart.id))).toBe("Stands in the river: gave · quiet");
  });
});

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
    [
      { type: "startle", thing: "a bag", size: 2, held: "until-quiet", recoverSeconds: 20, side: "off" },
      "Startled at a bag: a step, seconds to recover 20 s, held until he was quiet, off side",
    ],
    [
      { type: "ask", step: "flex", side: "near", answer: "none", waitSeconds: 4, tool: "rope-end", fault: "leans" },
      "Lateral flexion, near side: none · rope end, leans, wait 4 s",
    ],
    [
      { type: "dwell", seconds: 12, where: "shoulder", reachM: 0.9, typed: { reachM: "3 ft" } },
      "Stood 12 s, shoulder, distance 3 ft",
    ],
    [{ type: "gait", gait: "canter", direction: "near", unasked: true }, "Gait: canter, near (left), not asked for"],
    [{ type: "weight", weightKg: 412.4 }, "Weight and girth: weight 412 kg"],
    [{ type: "height", heightCm: 157.48 }, "Height: withers 15.2 hands"],
    [{ type: "care", kind: "saddle-fit", text: "wide" }, "Care: saddle fit, “wide”"],
    [
      { type: "cue", cue: "a kiss", meaning: "next gait", phase: 0 },
      "Cue: a kiss means next gait, how light 0 thought",
    ],
    [{ type: "media", media: "m", kind: "clip", text: "off eye" }, "Clip: “off eye”"],
    [{ type: "media", media: "m", kind: "voice" }, "Voice note"],
    [{ type: "startle", size: 3 }, "Startled at something: a jump"],
    [{ type: "enough", why: "weather" }, "Enough for that day: weather"],
    [
      { type: "finish-line", step: "flex", count: 3, worth: "tried", phase: 2 },
      "Finish line, Lateral flexion: 3 tries or better, phase at most 2 ask",
    ],
    [{ type: "next-time", steps: ["flex"], text: "Off first." }, "Next time: Lateral flexion “Off first.”"],
    [{ type: "clock-moved", bySeconds: -60 }, "The device's clock was set by -60 s; the outing's times went on evenly"],
    [{ type: "whistle", size: 2 }, "whistle (kept, not known here)"],
  ])("%j", (event, words) => {
    expect(say(event)).toBe(words);
  });
});

describe("every type of the catalogue", () => {
  const example = JSON.parse(
    readFileSync(new URL("../../../docs/example-record.json", import.meta.url), "utf8"),
  ) as HorseRecord;
  const events = [...example.horseEvents, ...example.outings.flatMap((outing) => outing.events)];

  it.each(EVENT_TYPES.filter(({ type }) => !["correction", "outing-start", "outing-end"].includes(type)))(
    "$type has a line of its own words",
    ({ type }) => {
      const event = events.find((one) => one.type === type);
      if (!event) throw new Error("no example of it");
      const words = entryInWords(event, loosePenStart, "imperial");
      expect(words).not.toMatch(/undefined|kept, not known|\[object|null/);
      expect(words.length).toBeGreaterThan(4);
    },
  );
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
    const typed = { with: { weightKg: 408.2331, means: null, typed: { weightKg: "900 lb" } } };
    expect(changesInWords(correction(typed), false)).toBe("weightKg to 900 lb, means to nothing");
    expect(changesInWords(correction({ void: true, text: "why" } as never), false)).toBe("struck out (why)");
  });
});
