import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { CATALOGUE, SCHOOLS } from "@still-pine/core/programs";
import type { HorseRecord, RecordEvent } from "@still-pine/core/record";

const ASSESS = new URL("../../../bin/assess", import.meta.url).pathname;
const EXAMPLE = readFileSync(new URL("../../../docs/example-record.json", import.meta.url), "utf8");
const NOW = "2026-06-02T10:00:00Z";
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), "still-pine-assess-"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const run = (args: string[], input?: string) => spawnSync(ASSESS, args, { encoding: "utf8", input });
const fileWith = (text: string): string => {
  const file = path.join(folder, "record.json");
  writeFileSync(file, text);
  return file;
};

describe("bin/assess", () => {
  it("says the same from its snapshot and from the program itself, which other settings of Node take", () => {
    const file = fileWith(EXAMPLE);
    for (const form of [[], ["--explain"], ["--table"], ["--step", "flex", "--explain"]]) {
      const words = ["--now", NOW, ...form, file];
      const plain = spawnSync(ASSESS, words, {
        encoding: "utf8",
        env: { ...process.env, NODE_OPTIONS: "--no-deprecation" },
      });
      expect(plain.stdout.length).toBeGreaterThan(300);
      expect(run(words).stdout).toBe(plain.stdout);
    }
  });

  it("prints now, horse, program, a judgement of every step in the order of the road, warnings, gates and what is next", () => {
    const { status, stdout, stderr } = run(["--now", NOW, fileWith(EXAMPLE)]);
    expect([status, stderr]).toEqual([0, ""]);
    const result = JSON.parse(stdout);
    expect(Object.keys(result)).toEqual(["now", "horse", "program", "steps", "warnings", "gates", "next"]);
    expect(result.horse).toMatchObject({ id: "h-1", name: "Thrift" });
    expect(result.program).toEqual({ id: "loose-pen-start", version: 3 });
    expect(result.steps.map((one: { step: string }) => one.step)).toEqual(CATALOGUE.steps.map(({ id }) => id));
    const flex = result.steps.find((one: { step: string }) => one.step === "flex");
    expect(result.gates.map((one: { gate: string }) => one.gate)).toContain("first-ride");
    expect(result.next.work[0]).toMatchObject({ step: "share-space" });
    expect(Object.keys(flex)).toEqual([
      "step",
      "status",
      "held",
      "sides",
      "findings",
      "toOpen",
      "lastAsked",
      "standsOn",
    ]);
    // His own standard of this step, a thought, stands in the example: the hints of that day are misses.
    expect(flex.sides.off).toEqual({
      status: "begun",
      weightClean: 0,
      weightNot: 2,
      longClean: 0,
      // The first ask of the day weighs one, and the next a half, less what the later outing outweighs.
      longNot: 1.25,
      sure: expect.any(Number),
      lately: expect.any(Number),
      days: 1,
      lastClean: null,
      outings: 1,
      standardAsked: expect.any(String),
    });
  });

  it("explains one step in sentences: why, by which rule, from which asks, and the least that would do", () => {
    const { status, stdout } = run(["--now", NOW, "--step", "flex", "--explain", "-"], EXAMPLE);
    expect(status).toBe(0);
    expect(stdout).toMatch(/^Thrift: Lateral flexion is begun \(/);
    expect(stdout).toMatch(/The least that would make it steady:\n( {2}- first make steady: .*\n)+/);
    expect(stdout).toMatch(/ {2}- about \d+ quiet outings of three or four clean asks on the off side/);
    expect(stdout).toMatch(
      /NOT {2}Often enough clean\. .* 90 % is asked\.\n {7}The rule: .*Beta\(1, 1\).*\n {7}From: 2026-/,
    );
  });

  it("ends without a word when whoever reads it has gone", () => {
    const { stdout, stderr } = spawnSync(
      "bash",
      ["-c", '"$0" "$1" | true; echo "${PIPESTATUS[0]}"', ASSESS, fileWith(EXAMPLE)],
      { encoding: "utf8" },
    );
    expect([stdout, stderr]).toEqual(["0\n", ""]);
  });

  it("prints a table for people", () => {
    const { status, stdout } = run(["--now", NOW, "--table", "-"], EXAMPLE);
    expect(status).toBe(0);
    expect(stdout).toMatch(/^Step +Word +Sides +The least that would make it steady\n/);
    expect(stdout).toMatch(/Lateral flexion +Begun +near \w+, off begun +first make steady: /);
    expect(stdout).toMatch(/\d+ more steps were never asked\.\n$/);
  });

  it("judges by a program of somebody's own", () => {
    const program = fileWith(
      JSON.stringify({
        id: "own",
        version: 3,
        name: "Own",
        about: "Easier.",
        stop: ["flex"],
        judge: { sure: 0.5, handlingSure: 0.5, gateSure: 0.5 },
      }),
    );
    const { status, stdout } = run(["--now", NOW, "--program", program, "--step", "flex", "-"], EXAMPLE);
    expect(status).toBe(0);
    const result = JSON.parse(stdout);
    expect(result.program).toEqual({ id: "own", version: 3 });
    expect(result.steps[0].findings.find((one: { code: string }) => one.code === "clean-share").need).toBe(0.5);
  });

  it("judges by a program of somebody's own that came along in the record", () => {
    const record = JSON.parse(EXAMPLE) as HorseRecord;
    const [loose] = SCHOOLS;
    const move = { id: "move", at: "2026-06-01T08:00:00Z", type: "program", program: "own-strict" };
    const file = {
      ...record,
      programs: [{ ...loose, id: "own-strict", version: 2, name: "Strict", judge: { gateSure: 0.95 } }],
      horseEvents: [...record.horseEvents, move],
    };
    const { status, stdout, stderr } = run(["--now", NOW, "--step", "flex", "-"], JSON.stringify(file));
    expect([status, stderr]).toEqual([0, ""]);
    const result = JSON.parse(stdout);
    expect(result.program).toEqual({ id: "own-strict", version: 2 });
    expect(result.steps[0].findings.find((one: { code: string }) => one.code === "clean-share").need).toBe(0.95);
  });

  it.each([
    [
      "a need in a circle",
      { needs: { "first-touch": ["swap-sides"] } },
      /steps "first-touch"\.needs: expected needs that do not lead back .*found first-touch rests on swap-sides rests on first-touch/,
    ],
    [
      "phase 7",
      {
        steps: [
          { id: "a", stage: "halter", name: "A", side: "none", ends: "give", phase: 7, mood: 1, needs: [], end: true },
        ],
        gates: [],
        stop: [],
      },
      /steps\[0\]\.phase: expected /,
    ],
    [
      "dose -1",
      {
        steps: [
          {
            id: "a",
            stage: "halter",
            name: "A",
            side: "none",
            ends: "give",
            phase: 1,
            mood: 1,
            dose: { amount: -1, unit: "steps" },
            needs: [],
            end: true,
          },
        ],
        gates: [],
        stop: [],
      },
      /steps\[0\]\.dose\.amount: expected /,
    ],
    ["an unknown step", { stop: ["flexx"] }, /stop\[0\]: expected a step of this program, found flexx/],
    ["a number out of range", { judge: { sure: 2 } }, /judge\.sure: expected /],
  ])("refuses a program with %s, naming the field", (_what, more, message) => {
    const program = fileWith(
      JSON.stringify({ id: "own", version: 1, name: "Own", about: "Own.", stop: ["flex"], ...more }),
    );
    const { status, stdout, stderr } = run(["--program", program, "-"], EXAMPLE);
    expect([status, stdout]).toEqual([2, ""]);
    expect(stderr).toMatch(message);
  });

  it("names the nearest step where --step names none, and refuses what does not go together", () => {
    const wrong = run(["--step", "flexx", "-"], EXAMPLE);
    expect([wrong.status, wrong.stderr]).toEqual([
      2,
      "--step: expected a step of Loose pen start, found flexx; the nearest is flex\n",
    ]);
    expect(run(["--table", "--explain", "-"], EXAMPLE).stderr).toContain("expected one of them, found both");
    expect(run(["--bogus", "-"], EXAMPLE)).toMatchObject({ status: 2, stdout: "" });
  });

  it("is the same to the byte from standard input, in another order, and with everything twice", () => {
    const record = JSON.parse(EXAMPLE) as HorseRecord;
    const turned = {
      ...record,
      outings: [...record.outings, ...record.outings].map((outing) => ({
        ...outing,
        events: [...outing.events.toReversed(), ...outing.events],
      })),
    };
    const plain = run(["--now", NOW, fileWith(EXAMPLE)]).stdout;
    expect(run([`--now=${NOW}`, "-"], EXAMPLE).stdout).toBe(plain);
    expect(run(["--now", NOW, "-"], JSON.stringify(turned)).stdout).toBe(plain);
  });

  it("says its warnings in the JSON and on stderr", () => {
    const { status, stdout, stderr } = run(["--now", NOW, "-"], EXAMPLE.replaceAll('"flex"', '"flexx"'));
    expect(status).toBe(0);
    expect(stderr).toBe('warning: the step "flexx" is not known; the nearest known one is flex; kept and not judged\n');
    expect(JSON.parse(stdout).warnings).toHaveLength(1);
  });

  it.each([
    [
      "broken JSON",
      '{"format": "still-pine/horse-record",\n  "version": }',
      /line 2, column 14: expected JSON, found "}/,
    ],
    [
      "another format",
      EXAMPLE.replace("still-pine/horse-record", "x"),
      /record.json: format: expected "still-pine\/horse-record", found "x"/,
    ],
    [
      "a phase of 9",
      EXAMPLE.replace('"phase": 1', '"phase": 9'),
      /outings\[0\].events\[0\].phase: expected one of 0, 1, 2, 3, 4, found 9/,
    ],
    ["nothing", "", /line 1, column 1: expected JSON, found the end of the text/],
  ])("%s: exit 2, one clear line, nothing on stdout", (_what, text, line) => {
    const { status, stdout, stderr } = run(["--now", NOW, fileWith(text)]);
    expect([status, stdout]).toEqual([2, ""]);
    expect(stderr.trim().split("\n")).toHaveLength(1);
    expect(stderr).toMatch(line);
  });

  it("names the first twenty problems and counts the rest", () => {
    const record = JSON.parse(EXAMPLE) as HorseRecord;
    const [outing] = record.outings;
    const untold = Array.from({ length: 25 }, (_, n) => ({ id: `n${n}`, at: NOW, type: "note" }));
    if (outing) outing.events = untold as RecordEvent[];
    const lines = run(["--now", NOW, "-"], JSON.stringify(record)).stderr.trim().split("\n");
    expect(lines).toHaveLength(21);
    expect(lines.at(-1)).toBe("standard input: and 5 more");
  });

  it("refuses what is too large by its size, with the limit, without reading it", () => {
    const file = fileWith("");
    // Nobody could read as much within the time of a test.
    truncateSync(file, 2 * 1024 ** 4);
    const { status, stderr } = run([file]);
    expect([status, stderr]).toEqual([2, `${file}: expected a record of at most 256 MB, found 2097152 MB\n`]);
  });

  it("names a missing file, a folder, a bad option and a bad instant", () => {
    expect(run([path.join(folder, "none")]).stderr).toContain("found no such file");
    expect(run([folder]).stderr).toContain("found a folder");
    expect(run(["/dev/zero"]).stderr).toBe("/dev/zero: expected a record of at most 256 MB, found more\n");
    expect(run(["--nwo", "x"]).stderr).toContain("--nwo: no such option");
    expect(run(["--now", "soon", "-"]).stderr).toContain("--now: expected an instant");
    expect(run([]).stderr).toContain("usage: bin/assess");
  });
});

describe("twenty thousand entries", () => {
  const ask = {
    at: "2026-06-09T09:00:00Z",
    v: 2,
    type: "ask",
    step: "flex",
    rung: "3s",
    side: "near",
    phase: 1,
    answer: "gave",
    mood: 1,
  };
  const file = (events: object[]): string =>
    fileWith(
      JSON.stringify({
        format: "still-pine/horse-record",
        version: 1,
        yard: { timeZone: "Europe/Dublin" },
        horse: { id: "h", name: "H", foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" },
        program: { id: "loose-pen-start" },
        horseEvents: [],
        outings: [{ id: "o", startedAt: ask.at, endedAt: ask.at, events }],
      }),
    );
  const MANY = 20_000;

  it("that each correct the one before are judged", { timeout: 30_000 }, () => {
    const chain = Array.from({ length: MANY }, (_, n) => ({
      id: `c${n}`,
      at: "2026-06-09T11:00:00Z",
      type: "correction",
      replaces: n === 0 ? "a" : `c${n - 1}`,
      void: true,
    }));
    const { status, stdout } = run(["--step", "flex", file([{ id: "a", ...ask }, ...chain])]);
    expect([status, JSON.parse(stdout).steps[0].sides.near.weightClean]).toEqual([0, 1]);
  });

  it("of one instant, by two devices, are judged", { timeout: 30_000 }, () => {
    const asks = Array.from({ length: MANY }, (_, n) => ({ id: `a${n}`, ...ask, device: n % 2 ? "x" : "y", seq: n }));
    const { status, stdout } = run(["--step", "flex", file(asks)]);
    expect([status, JSON.parse(stdout).steps[0].status]).toEqual([0, "begun"]);
  });
});
