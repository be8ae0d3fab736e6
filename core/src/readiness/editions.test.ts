import { describe, expect, it } from "vitest";
import { everythingUnder, SHIPPED, type Program } from "../programs";
import { addDays, foldRecord, type EventBody, type FoldedRecord, type HorseRecord } from "../record";
import { writeBrief } from "../planning";
import { aboutOf, adjustedProgram, chosenProgram } from "./about";
import { broughtUp, shortRecord, type ShortOuting } from "./cases/notation";
import { gather, gatherOn, type Gathered } from "./gather";
import { restoreGathered, saveGathered } from "./saved";
import { bringUp, currentJudges, foldHorse, judgeFold } from "./horse-fold";
import { judgeGathered } from "./judge";
import { describeMove, gatherAfterMove, heldBy } from "./moving";
import { whatNext } from "./next";
import { createGathered } from "./states";
import type { Judgement } from "./types";

const first = SHIPPED.find("loose-pen-start", 2);
const second = SHIPPED.find("loose-pen-start", 3);
const GONE = "step-up-back";
const HEIRS = ["step-up", "step-back"];
const TODAY = addDays("2026-01-10", 1);

const under = [...everythingUnder(first, GONE), GONE];
const ids = first.steps.map(({ id }) => id).filter((id) => under.includes(id));
/** A horse that steps up and back since a week, and what came then. */
const recordOf = (
  late: readonly ShortOuting[] = [],
  said: readonly (EventBody & { step?: string })[] = [],
): HorseRecord => ({
  ...shortRecord([...broughtUp(first, ids), ...late]),
  horseEvents: said.map((body, index) => ({ id: `said-${index}`, at: "2026-01-10T08:00:00.000Z", ...body })),
});
const under2 = (folded: FoldedRecord, program: Program): Gathered =>
  gather(folded, adjustedProgram(program, aboutOf(folded)));
const judged = (record: HorseRecord, program: Program): Map<string, Judgement> =>
  new Map(judgeGathered(under2(foldRecord(record), program), TODAY).map((one) => [one.step, one]));
const words = (record: HorseRecord, program: Program, steps: readonly string[]): unknown[] =>
  steps.map((step) => judged(record, program).get(step)?.status);

describe("an ask of a step that became two", () => {
  it("counts for both, as it counted for the one", () => {
    const record = recordOf();
    expect(words(record, first, [GONE])).toEqual(["steady"]);
    expect(words(record, second, HEIRS)).toEqual(["steady", "steady"]);
    const side = (program: Program, step: string): unknown => judged(record, program).get(step)?.sides.none;
    for (const heir of HEIRS) expect(side(second, heir)).toEqual(side(first, GONE));
  });

  it("is a miss of both where it was one", () => {
    const record = recordOf([
      [0, `${GONE} 1n1 1n1 2n2`],
      [1, `${GONE} 1n1`],
    ]);
    expect(words(record, first, [GONE])).toEqual(["slipped"]);
    expect(words(record, second, HEIRS)).toEqual(["slipped", "slipped"]);
  });

  it("counts at the rung that stands at the same place: four steps are four steps straight", () => {
    const asked = (rung: string): HorseRecord => shortRecord([[0, `${GONE} 1g1^${rung}`]]);
    const clean = (rung: string): unknown[] =>
      HEIRS.map((step) => judged(asked(rung), second).get(step)?.sides.none?.weightClean);
    expect(clean("4")).toEqual([1, 1]);
    expect(clean("2")).toEqual([0, 0]);
    expect(clean("-")).toEqual([0, 0]);
  });

  it("of the former shape counts by its steps, and is offered to be said in full of each", () => {
    const record = shortRecord([[0, `${GONE} 1g1^former 1g1=4^former`]]);
    const fold = foldHorse(foldRecord(record), second, true, SHIPPED);
    const standing = judgeFold(fold, foldRecord(record).outings[0] ?? null, TODAY, SHIPPED);
    expect(standing.formerAsks.map(({ step, rung, asks }) => [step, rung, asks])).toEqual([
      ["step-up", "4", 1],
      ["step-back", "4-straight", 1],
    ]);
  });

  it("is no ask of the quarters' other half: what was recorded of them counts for them alone", () => {
    const record = shortRecord([[0, "hind-moving near 1g1x5; hind-moving off 1g1x5"]]);
    expect(words(record, second, ["hind-moving", "roll-back"])).toEqual(["coming", "untried"]);
  });

  it("comes to the same gathered at once, and saved and taken up again", () => {
    const folded = foldRecord(recordOf([[0, `${GONE} 1g1 2n2; flex near 1g1`]]));
    const about = aboutOf(folded);
    let saved = saveGathered(createGathered(second, about));
    for (const outing of folded.outings)
      saved = saveGathered(gatherOn(restoreGathered(second, about, saved), [outing]));
    const words = (gathered: Gathered): unknown =>
      judgeGathered(gathered, TODAY).map(({ step, status }) => [step, status]);
    expect(words(restoreGathered(second, about, saved))).toEqual(words(gather(folded, second)));
  });
});

describe("what was said of a step that became two", () => {
  it("a hold binds both, and whoever holds one of them holds the former whole", () => {
    const held = (program: Program, step: string, wanted: readonly string[]): unknown[] =>
      wanted.map((one) => judged(recordOf([], [{ type: "hold", step, reason: "sore back" }]), program).get(one)?.held);
    expect(held(second, GONE, [...HEIRS, "lead"])).toEqual([true, true, false]);
    expect(held(first, "step-back", [GONE, "lead"])).toEqual([true, false]);
    expect(held(second, "step-back", HEIRS)).toEqual([false, true]);
  });

  it("a standard, an override and what counted on are those of both", () => {
    const adjusted = recordOf([], [{ type: "standard", step: GONE, phase: 0, reason: "his way" }]);
    expect(words(adjusted, first, [GONE])).toEqual(words(adjusted, second, HEIRS).slice(0, 1));
    const program = adjustedProgram(second, aboutOf(foldRecord(adjusted)));
    expect(HEIRS.map((id) => program.steps.find((step) => step.id === id)?.standard.phase)).toEqual([0, 0]);
    const allowed = recordOf(
      [
        [0, `${GONE} 1n1x3`],
        [1, `${GONE} 1n1x3`],
      ],
      [{ type: "override", step: GONE, reason: "he knows it" }],
    );
    for (const heir of HEIRS)
      expect(
        judged(allowed, second)
          .get(heir)
          ?.findings.map(({ code }) => code),
      ).toContain("overridden");
    const counted = recordOf([], [{ type: "program", program: second.id, programVersion: 3, counted: [GONE] }]);
    expect(aboutOf(foldRecord(counted)).carried).toEqual([GONE]);
    expect(words(counted, second, HEIRS)).toEqual(["steady", "steady"]);
  });

  it("its own word comes before that of the whole", () => {
    const record = recordOf(
      [],
      [
        { type: "standard", step: GONE, phase: 0, mood: 0, reason: "his way" },
        { type: "standard", step: "step-up", phase: 2, reason: "his way" },
      ],
    );
    const program = adjustedProgram(second, aboutOf(foldRecord(record)));
    const standards = HEIRS.map((id) => program.steps.find((step) => step.id === id)?.standard);
    expect(standards.map((standard) => standard?.phase)).toEqual([2, 0]);
    // Of the mood it says nothing: what was said of the whole holds.
    expect(standards.map((standard) => standard?.mood)).toEqual([0, 0]);
  });
});

describe("a horse and the edition he goes by", () => {
  const record = recordOf();
  const byRecord = (version?: number, events: HorseRecord["horseEvents"] = []): number => {
    const about = aboutOf(foldRecord({ ...record, horseEvents: events }));
    return chosenProgram({ id: "loose-pen-start", version }, about, SHIPPED).version;
  };
  const chosen = (program: string, version?: number): HorseRecord["horseEvents"] => [
    {
      id: "p",
      at: "2026-01-09T08:00:00.000Z",
      type: "program",
      program,
      ...(version ? { programVersion: version } : {}),
    },
  ];

  it("goes on by that of the version that was named, and by the newest where none was", () => {
    expect([byRecord(2), byRecord(1), byRecord(3), byRecord()]).toEqual([2, 2, 3, 3]);
    expect([byRecord(2, chosen("loose-pen-start", 3)), byRecord(3, chosen("loose-pen-start", 2))]).toEqual([3, 2]);
    // An entry that names no version stays on the edition of the record.
    expect([byRecord(2, chosen("weanling-course")), byRecord(3, chosen("weanling-course"))]).toEqual([1, 2]);
  });

  it("keeps what was gathered of him by a build that knew one edition only", () => {
    const folded = foldRecord(record);
    const { programVersion: _unsaid, ...old } = foldHorse(folded, { id: first.id, version: 2 }, true, SHIPPED);
    expect(old.judge.endsWith(" loose-pen-start 2")).toBe(true);
    expect(currentJudges(SHIPPED)).toContain(old.judge);
    const fresh = { about: aboutOf(folded), inWork: true, outings: [], isNew: () => false };
    const brought = bringUp(old, fresh, SHIPPED);
    expect(brought && judgeFold(brought.fold, null, TODAY, SHIPPED).program).toBe(first);
  });

  it("is told what the offered version makes of his record, and holds there what he held", () => {
    const folded = foldRecord(record);
    const from = gather(folded, first);
    const to = gatherAfterMove(folded, from, second, TODAY);
    const move = describeMove(from, to, TODAY);
    expect(move.fresh).toEqual(["roll-back"]);
    expect(move.leaves).toEqual([]);
    expect(move.asksMore).toEqual([]);
    expect(move.gaps).toEqual([]);
    expect(move.counts).toEqual(expect.arrayContaining(HEIRS));
    const held = heldBy(from, TODAY);
    expect(held).toContain(GONE);
    const taken = foldRecord({
      ...record,
      horseEvents: [
        { ...chosen("loose-pen-start", 3)[0], counted: held, at: `${TODAY}T09:00:00.000Z` },
      ] as HorseRecord["horseEvents"],
    });
    const word = (gathered: Gathered): unknown =>
      judgeGathered(gathered, TODAY).map(({ step, status }) => [step, status]);
    expect(word(gather(taken, second))).toEqual(word(to));
  });

  it("may go back again: what was recorded of a half since counts for the whole no more than it says", () => {
    const late = recordOf([[0, "step-up 1n1x4"]]);
    expect(words(late, second, HEIRS)).toEqual(["slipped", "steady"]);
    expect(words(late, first, [GONE])).toEqual(["steady"]);
  });

  it("finds the last time and the next time of both on the card", () => {
    const next = { id: "n", at: "2026-01-10T10:30:00.000Z", type: "next-time" as const, steps: [GONE] };
    const plain = recordOf([[0, `${GONE} 1g1x2; flex near 1g1`]]);
    const last = plain.outings.at(-1);
    const folded = foldRecord({
      ...plain,
      outings: plain.outings.map((one) => (one === last ? { ...one, events: [...one.events, next] } : one)),
    });
    const gathered = gather(folded, second);
    const judgements = judgeGathered(gathered, TODAY);
    const brief = writeBrief({
      program: second,
      judgements,
      next: whatNext(gathered, judgements, TODAY),
      outings: folded.outings,
      workDays: 4,
      firstDay: "2026-01-01",
      today: TODAY,
      monthsAtLeast: 40,
    });
    expect(brief.nextTime?.steps).toEqual(HEIRS);
    const again = brief.edge.filter(({ why }) => why === "again");
    expect(again.map(({ step }) => step)).toEqual(HEIRS);
    for (const { last: before, from: rungs } of again)
      expect([before.none?.asks, rungs?.none]).not.toContain(undefined);
  });
});
