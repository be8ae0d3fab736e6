import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PROGRAMS, type Program } from "../programs";
import { addDays, foldRecord } from "../record";
import { gather, judgeGathered, mayWork, whatNext } from "../readiness";
import { shortRecord, type ShortOuting } from "../readiness/cases/notation";
import { foldOuting } from "./live";
import { linkOf } from "./links";
import { linkChanges } from "./opened";
import type { OutingPlan } from "./types";

const program = PROGRAMS[0] as Program;
const YESTERDAY = -1;
const TODAY = 0;

/** One ask of the base: its rung, answer and mood. */
const token = fc
  .tuple(
    fc.constantFrom("g", "g", "g", "g", "t", "n", "a", "u"),
    fc.constantFrom("1", "1", "1", "2", "3"),
    fc.constantFrom("", "", "", "", "^5m-10s"),
  )
  .map(([answer, mood, rung]) => `-${answer}${mood}${rung}`);
const asks = (most: number) => fc.array(token, { maxLength: most });
const more = fc.constantFrom("", "", "", "", "; sign shut-down", "; sign yawn");
const day = fc
  .tuple(asks(9), more)
  .map(([tokens, extra]) => (tokens.length === 0 ? "" : `share-space ${tokens.join(" ")}${extra}`));

function planOf(before: readonly ShortOuting[]): OutingPlan {
  const gathered = gather(foldRecord(shortRecord(before)), program);
  const today = addDays("2026-01-10", TODAY);
  const { work, follow } = whatNext(gathered, judgeGathered(gathered, today), today);
  const exercises = [...work, ...follow].map(({ step, after }) => ({
    step,
    line: { count: 3, worth: "clean" as const },
    isNew: false,
    sticky: null,
    last: {},
    ...(after ? { after } : {}),
  }));
  return {
    program,
    startedAt: `${today}T10:00:00.000Z`,
    exercises,
    known: [],
    caps: { workingMinutes: 60, inHandMinutes: 60 },
  };
}

/** Whether turning to face may be worked at the end of a day: in the pen, and by the judge who hears all of it. */
function askedBoth(yesterday: string, today: string): { pen: boolean; judge: boolean } {
  const before: ShortOuting[] = yesterday === "" ? [] : [[YESTERDAY, yesterday]];
  const plan = planOf(before);
  const [outing] = shortRecord([[TODAY, today]]).outings;
  const state = foldOuting(plan, outing?.events ?? []);
  const faceUp = plan.exercises.find(({ step }) => step === "face-up");
  const gathered = gather(foldRecord(shortRecord([...before, [TODAY, today]])), program);
  return {
    pen: faceUp !== undefined && linkOf(state, plan, faceUp).isOpen,
    judge: mayWork(gathered, "face-up", addDays("2026-01-10", TODAY)).may === "yes",
  };
}

describe("a link of the chain", () => {
  it("is open in the pen just when the judge would let it be worked", () => {
    fc.assert(
      fc.property(day, day, (yesterday, today) => {
        const { pen, judge } = askedBoth(yesterday, today);
        expect(pen).toBe(judge);
      }),
      { numRuns: 300 },
    );
  });

  it("is never closed by a miss that had been a clean ask", () => {
    fc.assert(
      fc.property(day, fc.array(token, { minLength: 1, maxLength: 9 }), fc.nat(), (yesterday, tokens, at) => {
        const better = tokens.map((one, place) => (place === at % tokens.length ? "-g1" : one));
        const { pen } = askedBoth(yesterday, `share-space ${tokens.join(" ")}`);
        expect(!pen || askedBoth(yesterday, `share-space ${better.join(" ")}`).pen).toBe(true);
      }),
      { numRuns: 300 },
    );
  });

  it("opens and closes in the order in which it came, each time by an entry", () => {
    const plan = planOf([]);
    const [outing] = shortRecord([
      [TODAY, "share-space -g1x3; face-up 1g1x3; share-space -n1; share-space -g1x5"],
    ]).outings;
    const events = outing?.events ?? [];
    const changes = linkChanges(plan, events).filter(({ step }) => step === "face-up" || step === "first-touch");
    expect(
      changes.map(({ step, isOpen, bases, entry }) => [
        step,
        isOpen,
        bases,
        events.findIndex(({ id }) => id === entry),
      ]),
    ).toEqual([
      ["face-up", true, ["share-space"], 2],
      ["first-touch", true, ["share-space", "face-up"], 5],
      ["face-up", false, ["share-space"], 6],
      ["first-touch", false, ["share-space"], 6],
      ["face-up", true, ["share-space"], 11],
      ["first-touch", true, ["share-space", "face-up"], 11],
    ]);
  });

  it("stays shut after a mishap with what it rests on in hand", () => {
    const plan = planOf([]);
    const [outing] = shortRecord([[TODAY, "share-space -g1x3"]]).outings;
    const events = outing?.events ?? [];
    const faceUp = plan.exercises.find(({ step }) => step === "face-up") ?? {};
    expect(linkOf(foldOuting(plan, events), plan, faceUp).isOpen).toBe(true);
    const mishap = {
      id: "z",
      at: `${addDays("2026-01-10", TODAY)}T10:30:00.000Z`,
      type: "mishap",
      kind: "kick",
      severity: 2,
      personHurt: false,
    } as const;
    expect(linkOf(foldOuting(plan, [...events, mishap]), plan, faceUp).isOpen).toBe(false);
  });
});
