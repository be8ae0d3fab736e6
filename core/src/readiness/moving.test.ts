import { describe, expect, it } from "vitest";
import { everythingUnder, SHIPPED, loosePenStart, type Program } from "../programs";
import { addDays, foldRecord, type HorseRecord } from "../record";
import { horseProgram, aboutOf } from "./about";
import { broughtUp, shortRecord } from "./cases/notation";
import { gather } from "./gather";
import { judgeGates } from "./gates";
import { judgeGathered } from "./judge";
import { describeMove, gatherAfterMove, heldBy } from "./moving";
import { whatNext } from "./next";

const TODAY = addDays("2026-01-10", -6);
const program = (id: string): Program => {
  const found = SHIPPED.known(id);
  if (!found) throw new Error(`no program ${id}`);
  return found;
};
const marker = program("marker-and-reward");

/** A horse that leads and stands, by the loose pen's road. */
const leads = ["stand", "lead"];
const ids = loosePenStart.steps
  .map(({ id }) => id)
  .filter((id) => [...everythingUnder(loosePenStart, "stand"), ...leads].includes(id));
const record = shortRecord(broughtUp(loosePenStart, ids));
const folded = foldRecord(record);
const from = gather(folded, loosePenStart);

/** The record with the move in it, as the application writes it down. */
const moved = (to: Program, counted: readonly string[]): HorseRecord => ({
  ...record,
  horseEvents: [
    { id: "move", at: `${TODAY}T09:00:00.000Z`, type: "program", program: to.id, programVersion: to.version, counted },
  ],
});

describe("a horse that moves to another program", () => {
  it("takes along what he holds: a mark he never learned does not undo his leading", () => {
    const to = gatherAfterMove(folded, from, marker, TODAY);
    const words = new Map(judgeGathered(to, TODAY).map(({ step, status }) => [step, status]));
    expect([words.get("lead"), words.get("stand"), words.get("halter-on"), words.get("marker")]).toEqual([
      "steady",
      "steady",
      "steady",
      "untried",
    ]);
    const plain = judgeGathered(gather(folded, marker), TODAY).find(({ step }) => step === "lead");
    expect(plain?.status).toBe("coming");
  });

  it("is told beforehand what counts, what is a gap under what he does, what is new, what is left", () => {
    const move = describeMove(from, gatherAfterMove(folded, from, marker, TODAY), TODAY);
    expect(move.counts).toEqual(expect.arrayContaining(["lead", "stand", "halter-on", "first-touch"]));
    expect(move.gaps.map(({ step }) => step)).toEqual(["marker", "target", "food-manners"]);
    expect(move.asksMore).toEqual([]);
    expect(move.fresh).toEqual([]);
    expect(move.leaves).toEqual(expect.arrayContaining(["move-off", "turn-through"]));
  });

  it("has the same verdicts from his record once the move is in it", () => {
    const counted = heldBy(from, TODAY);
    const after = foldRecord(moved(marker, counted));
    const about = aboutOf(after);
    expect(about.carried).toEqual(counted);
    const chosen = horseProgram({ id: "loose-pen-start" }, about, SHIPPED);
    expect(chosen.id).toBe("marker-and-reward");
    const shown = judgeGathered(gatherAfterMove(folded, from, marker, TODAY), TODAY);
    const kept = judgeGathered(gather(after, chosen), TODAY);
    expect(kept.map(({ step, status }) => [step, status])).toEqual(shown.map(({ step, status }) => [step, status]));
  });

  it("opens no gate by it: a gate asks for its own steps, clean and fresh, wherever he comes from", () => {
    const to = gatherAfterMove(folded, from, marker, TODAY);
    const gates = new Map(judgeGates(to, TODAY).map((gate) => [gate.gate, gate]));
    const lacking = gates.get("tie")?.needs.filter(({ met }) => !met);
    expect(lacking?.map(({ anyOf }) => anyOf)).toEqual([["head-down"], ["yield-hind"]]);
    expect(gates.get("first-ride")?.met).toBe(false);
  });

  it("lacks nothing of what lies under what he does by being carried: the gaps are what is next", () => {
    const to = gatherAfterMove(folded, from, marker, TODAY);
    const { work } = whatNext(to, judgeGathered(to, TODAY), TODAY);
    expect(work.map(({ step }) => step)).toContain("marker");
  });

  it("moves back to the very verdicts he had", () => {
    const there = gatherAfterMove(folded, from, marker, TODAY);
    const back = gatherAfterMove(folded, there, loosePenStart, TODAY);
    const words = (one: typeof from): [string, string][] =>
      judgeGathered(one, TODAY).map(({ step, status }) => [step, status]);
    expect(words(back)).toEqual(words(from));
  });
});
