import { describe, expect, it } from "vitest";
import { loosePenStart } from "../programs";
import { judgeRecord } from "./judge";
import { eveningOf, shortRecord, steadyOutings, type ShortOuting } from "./cases/notation";
import cases from "./cases/verdicts.json" with { type: "json" };

interface Expected {
  status: string;
  near?: string;
  off?: string;
  met?: string[];
  unmet?: string[];
  there?: string[];
  absent?: string[];
  weights?: Record<string, [number, number]>;
}

interface Case {
  id: string;
  why: string;
  step: string;
  steady: string[] | "under";
  outings: ShortOuting[];
  now?: number;
  expect: Expected;
}

describe("the expected verdicts", () => {
  it("are at least forty, each with its reason", () => {
    expect(cases.length).toBeGreaterThanOrEqual(40);
    for (const one of cases) expect(one.why.length).toBeGreaterThan(20);
    expect(new Set(cases.map((one) => one.id)).size).toBe(cases.length);
  });

  it.each(cases as unknown as Case[])("$id: $why", (one) => {
    const outings = [...steadyOutings(loosePenStart, one.steady, one.step), ...one.outings];
    const now = eveningOf(one.now ?? outings.at(-1)?.[0] ?? 0);
    const judgement = judgeRecord(shortRecord(outings), loosePenStart, now).find((j) => j.step === one.step);
    const found = (key: string) => {
      const [code, side] = key.split("@");
      return judgement?.findings.filter((f) => f.code === code && (side === undefined || f.side === side)) ?? [];
    };
    const { expect: wanted } = one;
    expect(judgement?.status).toBe(wanted.status);
    if (wanted.near) expect(judgement?.sides.near?.status).toBe(wanted.near);
    if (wanted.off) expect(judgement?.sides.off?.status).toBe(wanted.off);
    for (const key of wanted.met ?? [])
      expect([key, found(key).map((f) => f.met)]).toEqual([key, found(key).map(() => true)]);
    for (const key of wanted.met ?? []) expect([key, found(key).length > 0]).toEqual([key, true]);
    for (const key of [...(wanted.unmet ?? []), ...(wanted.there ?? [])])
      expect([key, found(key).some((f) => !f.met)]).toEqual([key, true]);
    for (const key of wanted.absent ?? []) expect([key, found(key)]).toEqual([key, []]);
    for (const [side, [clean, not]] of Object.entries(wanted.weights ?? {})) {
      expect(judgement?.sides[side as "near" | "off"]?.weightClean).toBeCloseTo(clean, 4);
      expect(judgement?.sides[side as "near" | "off"]?.weightNot).toBeCloseTo(not, 4);
    }
    expect(judgement?.toOpen.length === 0).toBe(judgement?.status === "steady");
  });
});
