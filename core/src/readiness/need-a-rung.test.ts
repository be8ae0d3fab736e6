import { describe, expect, it } from "vitest";
import { buildProgram, CATALOGUE, findStep, problemsOf, SCHOOLS, type Program, type ProgramFile } from "../programs";
import { unsafePartsOf } from "../programs/safety";
import { SAFEGUARD } from "../programs/shipped";
import { foldRecord } from "../record";
import { eveningOf, shortRecord, type ShortOuting } from "./cases/notation";
import { gather, judgeRecord, openSummary } from ".";
import { restoreGathered, saveGathered } from "./saved";

const programOf = (more: Partial<ProgramFile>): Program =>
  buildProgram({ ...(SCHOOLS[0] as ProgramFile), id: "by-rungs", ...more }, CATALOGUE);

/** Three days at a rung of sharing the pen, and turning to face in full, in two places and by two people. */
const days = (rung: string): ShortOuting[] =>
  [0, 1, 2].map((day): ShortOuting => [
    day,
    `${day === 1 ? "at Top yard; by B; " : ""}share-space -g1^${rung}!sx2 -g1^${rung}!mx2; sign yawn; face-up 1g1!sx2 1g1!mx2; sign yawn`,
  ]);
const wordsAt = (program: Program, rung: string) => {
  const judged = judgeRecord(shortRecord(days(rung)), program, eveningOf(2));
  return ["share-space", "face-up"].map((id) => judged.find(({ step }) => step === id)?.status);
};

describe("a need that asks for a rung of a step by its id", () => {
  const program = programOf({ needs: { "face-up": [{ step: "share-space", rung: "3m-10s" }] } });

  it("is met by that rung and by any higher one, though the step itself is not there yet", () => {
    expect(wordsAt(program, "3m-10s")).toEqual(["begun", "steady"]);
    expect(wordsAt(program, "1m-10s")).toEqual(["begun", "steady"]);
    expect(wordsAt(program, "1m-30s")).toEqual(["steady", "steady"]);
    expect(wordsAt(program, "5m-10s")).toEqual(["begun", "coming"]);
  });

  it("says as far as which rung it is wanted", () => {
    const judged = judgeRecord(shortRecord(days("5m-10s")), program, eveningOf(2));
    const facing = judged.find(({ step }) => step === "face-up");
    expect(facing?.toOpen.map(({ text }) => text)).toEqual(["first make steady: Shares the pen as far as 3m 10s"]);
    expect(openSummary(facing?.toOpen ?? [], program)).toContain("Shares the pen");
  });

  it("is gone on with from what was kept as if all were read anew", () => {
    const folded = foldRecord(shortRecord(days("3m-10s")));
    const gathered = gather(folded, program);
    const saved = JSON.parse(JSON.stringify(saveGathered(gathered))) as ReturnType<typeof saveGathered>;
    expect(Object.keys(saved.steps)).toContain("share-space@3m-10s");
    expect(saveGathered(restoreGathered(program, gathered.about, saved))).toEqual(saved);
  });

  it("is no sound program where the ladder has no such rung", () => {
    const problems = problemsOf(programOf({ needs: { "face-up": [{ step: "share-space", rung: "2m" }] } }));
    expect(problems).toMatchObject([
      { expected: "a rung of share-space: 5m-10s, 3m-10s, 1m-10s, 1m-30s", found: "2m" },
    ]);
  });
});

describe("a standard that is named by its rung", () => {
  it("is that rung, with its dose and its distance where it is measured", () => {
    const program = programOf({ standards: { "share-space": { rung: "3m-10s" }, draw: { rung: "ten-steps" } } });
    expect(findStep(program, "share-space")?.standard.dose).toMatchObject({
      amount: 10,
      unit: "seconds",
      at: "at 3 m",
    });
    expect(findStep(program, "draw")?.ladder.standard).toBe(1);
    expect(wordsAt(program, "3m-10s")).toEqual(["steady", "steady"]);
    expect(wordsAt(program, "5m-10s")).toEqual(["begun", "coming"]);
  });

  it("is not let down where a gate rests on the step", () => {
    const found = (more: Partial<ProgramFile>): string[] =>
      unsafePartsOf(programOf(more), SAFEGUARD).map((one) => one.found);
    expect(found({})).toEqual([]);
    expect(found({ standards: { "head-rub": { rung: "forehead" } } })).toEqual(["no farther than forehead"]);
    expect(found({ standards: { "head-rub": { rung: "ear-held" } } })).toEqual([]);
  });
});
