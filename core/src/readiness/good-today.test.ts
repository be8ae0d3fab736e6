import { describe, expect, it } from "vitest";
import { loosePenStart } from "../programs";
import { addDays, foldRecord } from "../record";
import { broughtUp, shortRecord, steadyIds, type ShortOuting } from "./cases/notation";
import cases from "./cases/good-today.json" with { type: "json" };
import memories from "./cases/two-memories.json" with { type: "json" };
import { gather } from "./gather";
import { judgeGathered } from "./judge";
import { mayWork } from "./openings";

interface Case {
  id: string;
  why: string;
  step: string;
  steady?: string[] | string;
  outings: ShortOuting[];
  now: number;
  expect: {
    status?: string;
    /** Good today, on every side. */
    good?: boolean;
    /** What it was begun on that is not steady, and whether that is good today. */
    standsOn?: [step: string, good: boolean][];
    /** Whether it may be worked, and the finding that says why not. */
    may?: string;
    because?: string;
  };
}

describe("good for today", () => {
  it.each(cases as unknown as Case[])("$id: $why", ({ step, steady, outings, now, expect: wanted }) => {
    const known = broughtUp(loosePenStart, steadyIds(loosePenStart, steady, step));
    const gathered = gather(foldRecord(shortRecord([...known, ...outings])), loosePenStart);
    const today = addDays("2026-01-10", now);
    const judgement = judgeGathered(gathered, today).find((one) => one.step === step);
    expect(judgement?.step).toBe(step);
    if (wanted.status !== undefined) expect(judgement?.status).toBe(wanted.status);
    if (wanted.good !== undefined) expect(judgement?.goodToday ?? false).toBe(wanted.good);
    if (wanted.standsOn)
      expect((judgement?.standsOn ?? []).map((one) => [one.step, one.good])).toEqual(wanted.standsOn);
    const opening = mayWork(gathered, step, today);
    if (wanted.may !== undefined) expect(opening.may).toBe(wanted.may);
    if (wanted.because !== undefined) expect(opening).toMatchObject({ why: { code: wanted.because } });
  });

  it("is said, with the words of two memories, in at least eighty cases, each with its reason", () => {
    expect(cases.length + memories.length).toBeGreaterThanOrEqual(80);
    for (const { why } of cases) expect(why.length).toBeGreaterThan(15);
    expect(new Set(cases.map(({ id }) => id)).size).toBe(cases.length);
  });
});
