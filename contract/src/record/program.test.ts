import { readFileSync } from "node:fs";
import Ajv from "ajv/dist/2020.js";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { SCHOOLS, type ProgramFile } from "@still-pine/core/programs";
import { parseProgram, programJsonSchema } from ".";

const [loose] = SCHOOLS;
if (!loose) throw new Error("no school");
const OURS: ProgramFile = { ...loose, id: "own-ours", name: "Ours" };
const placesOf = (input: unknown): string[] => {
  const parsed = parseProgram(input, true);
  return parsed.ok ? [] : parsed.problems.map(({ path }) => path);
};

describe("a program's file", () => {
  it("fits the JSON Schema in docs, which is the one generated from the contract; so does every school", () => {
    const schema = JSON.parse(
      readFileSync(new URL("../../../docs/program.schema.json", import.meta.url), "utf8"),
    ) as object;
    expect(schema).toEqual(programJsonSchema());
    const validate = new Ajv({ strict: false, validateFormats: false }).compile(schema);
    for (const school of SCHOOLS)
      expect([school.id, validate(school), validate.errors]).toEqual([school.id, true, null]);
    expect(validate({ ...OURS, ways: { pressure: "harder" } })).toBe(false);
  });

  it("reads the smallest one of docs/programs.md as the whole catalogue under another name", () => {
    const text = readFileSync(new URL("../../../docs/programs.md", import.meta.url), "utf8");
    const example = /```json\n([\s\S]*?)```/.exec(text)?.[1] ?? "";
    const parsed = parseProgram(JSON.parse(example), true);
    expect(parsed.ok && [parsed.program.steps.length, parsed.program.gates.length]).toEqual([99, 10]);
  });

  it.each<[object, string]>([
    [{ needs: { "face-up": [{ step: 7 }] } }, "needs.face-up[0]"],
    [{ ways: { pressure: "harder" } }, "ways.pressure"],
    [{ coach: { stickyShare: 0 } }, "coach.stickyShare"],
    [{ standards: { stand: { mood: 9 } } }, "standards.stand.mood"],
    [{ standards: { stand: { rung: "2m-60s" } } }, "standards.stand.rung"],
    [{ needs: { "face-up": [{ step: "share-space", rung: "2m" }] } }, 'steps "face-up".needs[0]'],
    [{ ownSteps: [{ id: "own-a" }] }, "ownSteps[0].name"],
    [{ road: [] }, "road"],
    [{ judge: { gateDays: 1 } }, "judge.gateDays"],
    [{ stop: [] }, "stop"],
    [{ needs: { "face-up": ["nowhere"] } }, 'steps "face-up".needs[0]'],
  ])("that is broken is refused with the place: %j", (part, place) => {
    expect(placesOf({ ...OURS, ...part }).some((path) => path.startsWith(place))).toBe(true);
  });

  it("says what is wrong with anything at all, and never throws", () => {
    fc.assert(
      fc.property(fc.anything(), fc.constantFrom(...Object.keys(OURS), "ways", "road", "standards"), (value, name) => {
        const parsed = parseProgram({ ...OURS, [name]: value }, true);
        expect(parsed.ok || parsed.problems.length > 0).toBe(true);
      }),
      { numRuns: 400, seed: 23 },
    );
  });
});
