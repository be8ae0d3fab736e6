import { describe, expect, it } from "vitest";
import { everythingUnder, loosePenStart, SHIPPED, PROGRAMS, refsOf, type Program } from "../programs";
import { addDays, foldRecord } from "../record";
import { aboutOf } from "./about";
import { broughtUp, shortRecord, type ShortOuting } from "./cases/notation";
import cases from "./cases/next.json" with { type: "json" };
import { gather } from "./gather";
import { judgeGathered } from "./judge";
import { nextAtAge, whatNext } from "./next";
import type { WhatNext } from "./types";

interface Case {
  id: string;
  why: string;
  program: string;
  /** Steps steady beforehand: `^x` is x with all it rests on, `*` every one. */
  steady: string[];
  /** Age; three years and a few months where the case is not about it. */
  months?: number;
  before?: ShortOuting[];
  outings?: ShortOuting[];
  now?: number;
  expect: {
    /** What stands first; null at the end of the road. */
    next?: string | null;
    reason?: string;
    gate?: string;
    /** Steps that could be begun besides, and steps that could not. */
    also?: string[];
    notYet?: string[];
    /** One step with its reason, the months of age waited for, and the days left. */
    step?: [id: string, reason: string, months?: number | null, days?: number];
    /** Steps with the rung as far as which they may be worked, before a gate that is shut. */
    upTo?: [step: string, rung: string][];
  };
}

function steadyOf(program: Program, wanted: readonly string[]): string[] {
  const ids = wanted.flatMap((one) => {
    if (one === "*") return program.steps.map(({ id }) => id);
    if (one === "^contact-needs") {
      const needs = refsOf(program.steps.find(({ id }) => id === "contact")?.needs ?? []);
      return needs.flatMap(({ step }) => [...everythingUnder(program, step), step]);
    }
    return one.startsWith("^") ? [...everythingUnder(program, one.slice(1)), one.slice(1)] : [one];
  });
  return program.steps.map(({ id }) => id).filter((id) => ids.includes(id));
}

function nextOf({ program: id, steady, months = 40, before = [], outings = [], now = -6 }: Case): WhatNext {
  const program = SHIPPED.known(id);
  if (!program) throw new Error(`no program ${id}`);
  const folded = foldRecord(shortRecord([...before, ...broughtUp(program, steadyOf(program, steady)), ...outings]));
  expect(aboutOf(folded).program).toBeNull();
  const gathered = gather(folded, program);
  const today = addDays("2026-01-10", now);
  return nextAtAge(whatNext(gathered, judgeGathered(gathered, today), today), program, months);
}

describe("this horse, this program: next is", () => {
  it.each(cases as unknown as Case[])("$id: $why", (one) => {
    const { work, upTo } = nextOf(one);
    const { expect: wanted } = one;
    const ids = work.map(({ step }) => step);
    if (wanted.next === null) expect(ids).toEqual([]);
    else if (wanted.next !== undefined)
      expect([work[0]?.step, work[0]?.reason, work[0]?.gate]).toEqual([wanted.next, wanted.reason, wanted.gate]);
    for (const step of wanted.also ?? []) expect(ids).toContain(step);
    for (const step of wanted.notYet ?? []) expect(ids).not.toContain(step);
    if (wanted.step) {
      const [id, reason, months = null, days] = wanted.step;
      const found = work.find(({ step }) => step === id);
      expect([found?.reason, found?.months ?? null]).toEqual([reason, months]);
      if (days !== undefined) expect(found?.days).toBe(days);
    }
    if (wanted.upTo) expect(upTo.map(({ step, rung }) => [step, rung])).toEqual(wanted.upTo);
  });

  it("leaves the smaller rungs of a step beside the road beside it", () => {
    const program = { ...loosePenStart, optional: ["tie"] };
    const steady = broughtUp(program, steadyOf(program, ["^give-halter", "^yield-hind"]));
    const gathered = gather(foldRecord(shortRecord(steady)), program);
    const { work } = whatNext(gathered, judgeGathered(gathered, "2026-01-04"), "2026-01-04");
    expect(work.find(({ step }) => step === "tie")).toMatchObject({ reason: "beside" });
  });

  it("is said in at least fifty cases, every school among them, each with its reason", () => {
    expect(cases.length).toBeGreaterThanOrEqual(50);
    expect(new Set(cases.map(({ program }) => program))).toEqual(new Set(PROGRAMS.map(({ id }) => id)));
    for (const { why } of cases) expect(why.length).toBeGreaterThan(20);
    expect(new Set(cases.map(({ id }) => id)).size).toBe(cases.length);
  });
});
