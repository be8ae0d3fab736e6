import { describe, expect, it } from "vitest";
import { gather, judgeGates, judgeGathered, whatNext } from "../readiness";
import { advise, startOuting } from "../outing";
import { foldRecord } from "../record";
import { buildDemoYard } from "../simulated";
import { findStepAnywhere, isUnknown, ProgramBook, SCHOOLS, SHIPPED, type ProgramFile } from ".";

const [loose] = SCHOOLS;
if (!loose) throw new Error("no school");
const ours = (about: string, version = 1, more: Partial<ProgramFile> = {}): ProgramFile => ({
  ...loose,
  id: "own-ours",
  name: "Our way",
  version,
  about,
  ...more,
});
const ford: ProgramFile["ownSteps"] = [
  {
    id: "own-ford",
    stage: "riding",
    name: "Stands in the ford",
    side: "none",
    ends: "stop",
    phase: null,
    mood: 1,
    needs: ["share-space"],
  },
];

describe("a yard's book of programs", () => {
  it("finds a program by its id in its current version, or in the one asked for, a former one of ours too", () => {
    const book = new ProgramBook([ours("First."), ours("Second.", 2)]);
    expect(book.find("own-ours").about).toBe("Second.");
    expect(book.find("own-ours", 1).about).toBe("First.");
    expect(book.find("loose-pen-start").version).toBe(3);
    expect(book.find("loose-pen-start", 2).version).toBe(2);
    expect(book.find("loose-pen-start", 1).version).toBe(1);
    expect(book.all.map(({ id }) => id)).toEqual([...SHIPPED.all.map(({ id }) => id), "own-ours"]);
  });

  it("is another one with more in it; what is in it already stays as it is", () => {
    const book = new ProgramBook([ours("First.")]);
    const more = book.with([ours("Not taken."), ours("Second.", 2)]);
    expect([book.find("own-ours").about, more.find("own-ours").about]).toEqual(["First.", "Second."]);
    expect(more.find("own-ours", 1).about).toBe("First.");
    expect(book.with([ours("Not taken.")])).toBe(book);
  });

  it("knows nothing of another yard's book", () => {
    const first = new ProgramBook([ours("The first yard's.")]);
    const second = new ProgramBook([ours("The second yard's.")]);
    expect([first.find("own-ours").about, second.find("own-ours").about]).toEqual([
      "The first yard's.",
      "The second yard's.",
    ]);
    expect(SHIPPED.known("own-ours")).toBeUndefined();
  });

  it("has no version of a program of ours from a yard: an id that ships is ours", () => {
    const book = new ProgramBook([{ ...loose, version: 99, about: "Not ours." }]);
    expect(book.find(loose.id).version).toBe(3);
    expect(book.has(loose.id, 99)).toBe(false);
  });

  it("names a step that only another program of the yard has", () => {
    const book = new ProgramBook([ours("With a ford.", 1, { ownSteps: ford, road: undefined as never })]);
    expect(findStepAnywhere(book.find("marker-and-reward"), "own-ford")?.name).toBe("Stands in the ford");
    expect(findStepAnywhere(SHIPPED.find("marker-and-reward"), "own-ford")).toBeUndefined();
  });
});

describe("a program that is not there", () => {
  const unknown = SHIPPED.find("own-lost", 3);

  it("is an unknown one, never another in its place, and the same each time", () => {
    expect(isUnknown(unknown)).toBe(true);
    expect([unknown.id, unknown.version]).toEqual(["own-lost", 3]);
    expect(SHIPPED.find("own-lost", 3)).toBe(unknown);
    expect(isUnknown(SHIPPED.find("loose-pen-start", 7))).toBe(true);
    expect(isUnknown(SHIPPED.find("loose-pen-start"))).toBe(false);
  });

  it("gives no verdict, opens no gate and proposes nothing", () => {
    const [record] = buildDemoYard("2026-06-10", (msecs) => `${msecs}`);
    if (!record) throw new Error("no horse");
    const gathered = gather(foldRecord(record), unknown);
    const judgements = judgeGathered(gathered, "2026-06-10");
    expect(judgements).toEqual([]);
    expect(judgeGates(gathered, "2026-06-10")).toEqual([]);
    expect(whatNext(gathered, judgements, "2026-06-10").work).toEqual([]);
  });

  it("leaves the coach what safety needs, and nothing else", () => {
    const plan = {
      program: unknown,
      startedAt: "2026-06-10T08:00:00Z",
      exercises: [],
      known: [],
      caps: { workingMinutes: 20, inHandMinutes: 30 },
    };
    const state = { ...startOuting(plan), step: "flex" };
    const at = Date.parse(plan.startedAt);
    expect(advise(state, plan, at)).toMatchObject({ verb: "go-on", reason: "start" });
    expect(advise(state, plan, at + 40 * 60_000)).toMatchObject({ verb: "finish", reason: "cap" });
  });

  it("names the steps of the catalogue, so that recording goes on", () => {
    expect(findStepAnywhere(unknown, "flex")?.name).toBe(
      SHIPPED.find("loose-pen-start").steps.find(({ id }) => id === "flex")?.name,
    );
  });
});
