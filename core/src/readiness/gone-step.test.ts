import { describe, expect, it } from "vitest";
import {
  buildProgram,
  CATALOGUE,
  loosePenStart,
  PROGRAMS,
  refsOf,
  SCHOOLS,
  SHIPPED,
  type ProgramFile,
} from "../programs";
import { foldRecord } from "../record";
import { broughtUp, eveningOf, shortRecord } from "./cases/notation";
import { gather, judgeGates, judgeRecord, whatNext } from ".";

const [file] = SCHOOLS;
const withNeeds = (needs: ProgramFile["needs"]) =>
  buildProgram({ ...(file as ProgramFile), id: "renamed", needs: { ...file?.needs, ...needs } }, CATALOGUE);
const record = shortRecord(broughtUp(loosePenStart, ["share-space", "face-up", "give-halter"]));
const judged = (needs: ProgramFile["needs"]) => judgeRecord(record, withNeeds(needs), eveningOf(-7));
const stepOf = (needs: ProgramFile["needs"]) => judged(needs).find(({ step }) => step === "face-up");

describe("a need that names a step that is not there", () => {
  it("is unmet, and is said with what would open it", () => {
    expect(stepOf({ "face-up": ["share-space"] })?.status).toBe("steady");
    const gone = stepOf({ "face-up": ["shares-a-field"] });
    expect(gone?.status).toBe("coming");
    expect(gone?.findings.find(({ code, met }) => code === "rests-on" && !met)?.have).toMatchObject({
      step: "shares-a-field",
      status: "untried",
    });
    expect(gone?.toOpen).toMatchObject([{ code: "rests-on", step: "shares-a-field" }]);
  });

  it("is no less so beside one that is there, and does not close another way", () => {
    expect(stepOf({ "face-up": ["share-space", "shares-a-field"] })?.status).toBe("coming");
    expect(stepOf({ "face-up": [{ all: ["share-space", "shares-a-field"] }] as never })?.status).toBe("coming");
    expect(stepOf({ "face-up": [["shares-a-field", "share-space"]] })?.status).toBe("steady");
  });

  it("shuts a gate that asks for it, and is never proposed itself", () => {
    const program = { ...withNeeds({ "halter-on": ["gone"] }) };
    const gates = program.gates.map((gate) =>
      gate.id === "halter" ? { ...gate, needs: [{ anyOf: [[{ step: "gone" }]] }] } : gate,
    );
    const gathered = gather(foldRecord(record), { ...program, gates });
    expect(judgeGates(gathered, "2026-02-01").find(({ gate }) => gate === "halter")).toMatchObject({ met: false });
    const next = whatNext(gathered, judgeRecord(record, { ...program, gates }, eveningOf(-7)), "2026-02-01");
    expect(next.work.map(({ step }) => step)).not.toContain("gone");
  });

  it("stands in none of the programs that ship", () => {
    for (const program of [...PROGRAMS, SHIPPED.find("loose-pen-start", 1)]) {
      const has = new Set(program.steps.map(({ id }) => id));
      const gates = program.gates.flatMap(({ needs, ridden }) => [...refsOf(needs), ...refsOf(ridden?.needs ?? [])]);
      const refs = [...program.steps.flatMap(({ needs }) => refsOf(needs)), ...gates];
      expect([program.id, refs.filter(({ step }) => !has.has(step))]).toEqual([program.id, []]);
    }
  });
});
