import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { HorseRecord } from "@still-pine/core/record";

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
  it("prints now, horse, program, ten judgements in catalogue order and warnings", () => {
    const { status, stdout, stderr } = run(["--now", NOW, fileWith(EXAMPLE)]);
    expect([status, stderr]).toEqual([0, ""]);
    const result = JSON.parse(stdout);
    expect(Object.keys(result)).toEqual(["now", "horse", "program", "steps", "warnings"]);
    expect(result.horse).toMatchObject({ id: "h-1", name: "Thrift" });
    expect(result.steps.map((one: { step: string }) => one.step)).toEqual([
      "share-space",
      "catch-rope",
      "first-touch",
      "head-rub",
      "swap-sides",
      "body-rub",
      "halter-on",
      "give-halter",
      "yield-hind",
      "flex",
    ]);
    expect(Object.keys(result.steps[9])).toEqual(["step", "status", "held", "sides", "findings", "toOpen"]);
    expect(result.steps[9].sides.off).toEqual({
      status: "begun",
      weightClean: 1.5,
      weightNot: 0.5,
      sure: expect.any(Number),
      days: 1,
      lastClean: "2026-06-01",
    });
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
    if (outing) outing.events = Array.from({ length: 25 }, (_, n) => ({ id: `n${n}`, at: NOW, type: "note" }));
    const lines = run(["--now", NOW, "-"], JSON.stringify(record)).stderr.trim().split("\n");
    expect(lines).toHaveLength(21);
    expect(lines.at(-1)).toBe("standard input: and 5 more");
  });

  it("refuses 600 MB by its size, with the limit", () => {
    const file = fileWith("");
    truncateSync(file, 600 * 1024 * 1024);
    const began = Date.now();
    const { status, stderr } = run([file]);
    expect([status, stderr]).toEqual([2, `${file}: expected a record of at most 256 MB, found 600 MB\n`]);
    expect(Date.now() - began).toBeLessThan(5000);
  });

  it("names a missing file, a folder, a bad option and a bad instant", () => {
    expect(run([path.join(folder, "none")]).stderr).toContain("found no such file");
    expect(run([folder]).stderr).toContain("found a folder");
    expect(run(["--nwo", "x"]).stderr).toContain("--nwo: no such option");
    expect(run(["--now", "soon", "-"]).stderr).toContain("--now: expected an instant");
    expect(run([]).stderr).toContain("usage: bin/assess");
  });
});
