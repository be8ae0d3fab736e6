import { readFileSync } from "node:fs";
import Ajv from "ajv/dist/2020.js";
import { describe, expect, it } from "vitest";
import { CATALOGUE, PROGRAMS, SCHOOLS } from "@still-pine/core/programs";
import { type HorseRecord, EVENT_TYPES } from "@still-pine/core/record";
import { parseRecord, PROBLEMS_SHOWN, recordJsonSchema, recordToText, typesInMarkdown } from ".";

const NOW = "2026-06-10T12:00:00Z";
const EXAMPLE = readFileSync(new URL("../../../docs/example-record.json", import.meta.url), "utf8");

/** The example with one thing changed, named by a path of keys. */
function changed(path: (string | number)[], value: unknown): unknown {
  const record = JSON.parse(EXAMPLE) as Record<string | number, unknown>;
  const last = path.at(-1) ?? "";
  const holder = path
    .slice(0, -1)
    .reduce<Record<string | number, unknown>>((at, key) => at[key] as Record<string | number, unknown>, record);
  if (value === undefined) delete holder[last];
  else holder[last] = value;
  return record;
}

const problemsOf = (input: unknown, now = NOW): string[] => {
  const parsed = parseRecord(input, now);
  return parsed.ok ? [] : parsed.problems.map(({ path, expected, found }) => `${path}: ${expected}; ${found}`);
};
const warningsOf = (input: unknown, now = NOW): string[] => {
  const parsed = parseRecord(input, now);
  return parsed.ok ? parsed.warnings.map((one) => one.text) : ["not read"];
};
const EVENT = ["outings", 0, "events", 0];

describe("the example of docs/record-format.md", () => {
  it("holds every type there is but the two a file leaves out", () => {
    const { horseEvents, outings } = JSON.parse(EXAMPLE) as HorseRecord;
    const types = new Set<string>(
      [...horseEvents, ...outings.flatMap((outing) => outing.events)].map((event) => event.type),
    );
    const left = EVENT_TYPES.map(({ type }) => type).filter((type) => !types.has(type));
    expect(left).toEqual(["outing-start", "outing-end"]);
  });

  it("stands beside tables made from the catalogue", () => {
    const text = readFileSync(new URL("../../../docs/record-format.md", import.meta.url), "utf8");
    expect(text).toContain(`<!-- types -->\n\n${typesInMarkdown()}\n\n<!-- end of types -->`);
  });

  it("is read without a warning, and written again with the same content", () => {
    const parsed = parseRecord(JSON.parse(EXAMPLE), NOW);
    expect(parsed.ok && parsed.warnings).toEqual([]);
    expect(parsed.ok && JSON.parse(recordToText(parsed.record))).toEqual(JSON.parse(EXAMPLE));
  });

  it("fits the JSON Schema in docs, which is the one generated from the contract", () => {
    const schema = JSON.parse(
      readFileSync(new URL("../../../docs/horse-record.schema.json", import.meta.url), "utf8"),
    ) as object;
    expect(schema).toEqual(recordJsonSchema());
    const validate = new Ajv({ strict: false, validateFormats: false }).compile(schema);
    expect([validate(JSON.parse(EXAMPLE)), validate.errors]).toEqual([true, null]);
    expect(validate(changed([...EVENT, "answer"], 3))).toBe(true);
    expect(validate(changed(["version"], 2))).toBe(false);
    expect(validate(changed(["horse", "sex"], "cow"))).toBe(false);
  });
});

describe("an ask of a later shape", () => {
  const validate = new Ajv({ strict: false, validateFormats: false }).compile(recordJsonSchema());
  const withAsk = (fields: object): unknown => {
    const record = JSON.parse(EXAMPLE) as HorseRecord;
    const ask = { id: "new", at: "2026-06-01T09:10:00Z", type: "ask", step: "flex", side: "near", answer: "tried" };
    return changed(["outings", 0, "events"], [...(record.outings[0]?.events ?? []), { ...ask, ...fields }]);
  };

  it.each([
    [{ v: 2, rung: "3s", gait: "walk" }, true],
    [{ v: 3, rung: "3s" }, true],
    [{ v: 2, rung: 3 }, false],
    [{ v: 2, rung: "" }, false],
    [{ v: 2, gait: "gallop" }, false],
    // In the former shape these are names that nobody knows: whatever they hold is handed on.
    [{ rung: 3, gait: { of: "his own" } }, true],
    [{ v: 1, rung: [], purpose: 7 }, true],
  ])("%j is read: %j", (fields, isRead) => {
    const parsed = parseRecord(withAsk(fields), NOW);
    expect(parsed.ok).toBe(isRead);
    if (!parsed.ok) return;
    expect(validate(withAsk(fields))).toBe(true);
    const { outings } = JSON.parse(recordToText(parsed.record)) as HorseRecord;
    expect(outings[0]?.events.find(({ id }) => id === "new")).toMatchObject(fields);
  });
});

describe("a program that is not known here", () => {
  it("is kept, and said: his verdicts are by another one", () => {
    const record = JSON.parse(EXAMPLE) as HorseRecord;
    const event = { id: "own", at: "2026-06-01T08:00:00Z", type: "program", program: "own-ours", programVersion: 1 };
    const parsed = parseRecord({ ...record, horseEvents: [...record.horseEvents, event] }, NOW);
    expect(parsed.ok && parsed.warnings.map(({ code, event: id }) => [code, id])).toEqual([["unknown-program", "own"]]);
    expect(parsed.ok && parsed.record.horseEvents.some(({ id }) => id === "own")).toBe(true);
  });

  it("comes along in the file, and its own steps are then known", () => {
    const record = JSON.parse(EXAMPLE) as HorseRecord;
    const [loose] = SCHOOLS;
    const [step] = CATALOGUE.steps;
    const gate = { id: "own-gate-work", name: "Opens a gate", side: "none", needs: ["lead"], end: true };
    const programs = [
      {
        ...loose,
        id: "own-ours",
        name: "Ours",
        road: [...CATALOGUE.steps.map(({ id }) => id), gate.id],
        ownSteps: [{ ...step, ...gate }],
      },
    ];
    const ask = {
      id: "own-ask",
      at: "2026-06-01T09:20:00Z",
      type: "ask",
      step: gate.id,
      answer: "gave",
      phase: 1,
      mood: 1,
    };
    const [outing, ...others] = record.outings;
    const file = {
      ...record,
      program: { id: "own-ours" },
      programs,
      outings: [{ ...outing, events: [...(outing?.events ?? []), ask] }, ...others],
    };
    expect(warningsOf(file)).toEqual([]);
    const parsed = parseRecord(file, NOW);
    expect(parsed.ok && parsed.own.map(({ id }) => id)).toEqual(["own-ours"]);
    expect(problemsOf({ ...file, programs: [] })).toEqual([expect.stringContaining("program.id: one of ")]);
  });
});

describe("a broken record names the place and what was expected", () => {
  it.each([
    [["format"], "other", 'format: "still-pine/horse-record"; "other"'],
    [["version"], 2, "version: 1; 2"],
    [["yard", "timeZone"], "Europe/Nowhere", 'yard.timeZone: a time zone such as Europe/Dublin; "Europe/Nowhere"'],
    [["horse", "foaled"], "2023-02-30", 'horse.foaled: a day such as 2023-05-01; "2023-02-30"'],
    [["horse", "name"], "", 'horse.name: a text that is not empty; ""'],
    [["program", "id"], "other", `program.id: one of ${PROGRAMS.map(({ id }) => id).join(", ")}; "other"`],
    [["outings"], "none", 'outings: an array; "none"'],
    [
      ["outings", 0, "endedAt"],
      "2026-06-01T08:00:00Z",
      'outings[0].endedAt: an end not before the start, 2026-06-01T09:00:00Z; "2026-06-01T08:00:00Z"',
    ],
    [["outings", 0, "startedAt"], "today", 'outings[0].startedAt: an instant such as 2026-05-01T09:30:00Z; "today"'],
    [[...EVENT, "phase"], 9, "outings[0].events[0].phase: one of 0, 1, 2, 3, 4; 9"],
    [[...EVENT, "side"], "left", 'outings[0].events[0].side: one of "near", "off", "none"; "left"'],
    [
      [...EVENT, "side"],
      undefined,
      "outings[0].events[0].side: near or off, because flex is asked on two sides; nothing",
    ],
    [[...EVENT, "mood"], undefined, "outings[0].events[0].mood: a mood from 0 to 4 with an answer that gave; nothing"],
    [
      [...EVENT, "phase"],
      undefined,
      "outings[0].events[0].phase: a phase from 0 to 4, because flex is judged by it; nothing",
    ],
    [[...EVENT, "id"], undefined, "outings[0].events[0].id: a string; nothing"],
    [EVENT, 7, "outings[0].events[0]: an object; 7"],
  ] as [(string | number)[], unknown, string][])("%j set to %j", (path, value, problem) => {
    expect(problemsOf(changed(path, value))).toContain(problem);
  });

  it("and all of its problems at once", () => {
    const record = changed(
      ["outings", 0, "events"],
      Array.from({ length: 30 }, (_, n) => ({
        id: `e${n}`,
        at: NOW,
        type: "ask",
        step: "flex",
        side: "near",
        phase: 9,
        answer: "gave",
        mood: 1,
      })),
    );
    expect(problemsOf(record)).toHaveLength(30);
    expect(PROBLEMS_SHOWN).toBe(20);
  });

  it("a series with more clean than asked, a correction that leaves nonsense", () => {
    const events = [
      {
        id: "s",
        at: "2026-06-01T09:01:00Z",
        type: "series",
        step: "flex",
        side: "near",
        count: 3,
        clean: 4,
        first: "gave",
        worst: "gave",
        phase: 1,
        mood: 1,
      },
      {
        id: "a",
        at: "2026-06-01T09:02:00Z",
        type: "ask",
        step: "flex",
        side: "near",
        phase: 1,
        answer: "gave",
        mood: 1,
      },
      { id: "c", at: "2026-06-01T09:03:00Z", type: "correction", replaces: "a", with: { mood: 8 } },
      { id: "d", at: "2026-06-01T09:03:00Z", type: "correction", replaces: "a" },
    ];
    expect(problemsOf(changed(["outings", 0, "events"], events))).toEqual([
      "outings[0].events[0].clean: at most the count, 3; 4",
      "outings[0].events[3]: either void: true or with: {changed fields}; an object",
      "outings[0].events[2].with.mood: one of 0, 1, 2, 3, 4; 8",
    ]);
  });

  it("the same id with other content; the same event twice is one", () => {
    const event = { id: "a", at: "2026-06-01T09:02:00Z", type: "note", text: "x" };
    expect(problemsOf(changed(["outings", 0, "events"], [event, { ...event, text: "y" }]))).toEqual([
      'outings[0].events[1].id: an id of its own: outings[0].events[0] has the same id and other content; "a"',
    ]);
    const parsed = parseRecord(
      changed(["outings", 0, "events"], [event, { text: "x", type: "note", at: "2026-06-01T09:02:00Z", id: "a" }]),
      NOW,
    );
    expect(parsed.ok && parsed.record.outings[0]?.events).toHaveLength(1);
  });

  it("one that goes a hundred thousand levels deep", () => {
    const deep = JSON.parse(`${"[".repeat(100_000)}${"]".repeat(100_000)}`) as unknown;
    expect(problemsOf(changed(["horse", "extra"], deep))).toEqual([": at most 64 levels of lists and objects; more"]);
  });

  it("what is no object at all", () => {
    for (const input of [null, 3, "x", []]) expect(problemsOf(input).length).toBeGreaterThan(0);
  });
});

describe("a warning says what was kept and not judged", () => {
  it("an unknown step with the nearest known one, an unknown type, a side where there is none", () => {
    expect(warningsOf(changed([...EVENT, "step"], "flexx"))).toEqual([
      'the step "flexx" is not known; the nearest known one is flex; kept and not judged',
    ]);
    expect(warningsOf(changed(EVENT, { id: "e-1", at: NOW, type: "murmur" }))).toEqual([
      'the type "murmur" is not known; kept and not judged',
    ]);
    expect(warningsOf(changed([...EVENT, "step"], "catch-rope"))).toEqual(["catch-rope has no sides; near is ignored"]);
  });

  it("a clock that runs ahead is kept, however far: the server stores such a time, and what it stores comes in again", () => {
    for (const now of ["2026-06-01T00:00:00Z", "2026-05-01T00:00:00Z", "1990-05-01T00:00:00Z"]) {
      const warnings = warningsOf(JSON.parse(EXAMPLE), now);
      expect(warnings.length).toBeGreaterThan(0);
      expect(warnings.every((text) => text.includes("later than now"))).toBe(true);
    }
  });

  it("a correction of nothing", () => {
    const stray = { id: "c", at: "2026-06-01T09:03:00Z", type: "correction", replaces: "gone", void: true };
    expect(warningsOf(changed(["outings", 0, "events"], [stray]))).toEqual([
      'the correction changes nothing: "gone" is not in this record, or leads back to it',
    ]);
  });
});

describe("what of an archive's record cannot be read", () => {
  it("is named by its place in the file, also behind an outing that is set aside whole", () => {
    const record = JSON.parse(EXAMPLE);
    record.outings.unshift({ id: "no-start", events: [] });
    record.outings[1].events.unshift({ id: "no-time", type: "note", text: "n" });
    const parsed = parseRecord(record, NOW, { asideFrom: "record.json" });
    expect(parsed.ok && parsed.aside.map(({ file, path }) => [file, path])).toEqual([
      ["record.json", "outings[0].startedAt"],
      ["record.json", "outings[1].events[0].at"],
    ]);
    expect(parsed.ok && parsed.record.outings.length).toBe(record.outings.length - 1);
  });
});
