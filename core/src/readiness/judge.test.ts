import { describe, expect, it } from "vitest";
import { SHIPPED, loosePenStart, type Program, type SideKey } from "../programs";
import { judgeRecord } from "./judge";
import {
  broughtUp,
  eveningOf,
  shortRecord,
  steadyIds,
  steadyOutings,
  type ShortAbout,
  type ShortOuting,
} from "./cases/notation";
import firstSteps from "./cases/verdicts.json" with { type: "json" };
import said from "./cases/said.json" with { type: "json" };
import memories from "./cases/two-memories.json" with { type: "json" };
import wholeRoad from "./cases/whole-road.json" with { type: "json" };

interface Expected {
  status: string;
  near?: string;
  off?: string;
  sides?: Partial<Record<SideKey, string>>;
  met?: string[];
  unmet?: string[];
  there?: string[];
  absent?: string[];
  weights?: Partial<Record<SideKey, [number, number]>>;
  held?: boolean;
  open?: string[];
}

interface Case {
  id: string;
  why: string;
  step: string;
  steady?: string[] | string;
  about?: ShortAbout[];
  outings: ShortOuting[];
  now?: number;
  expect: Expected;
}

const first = SHIPPED.known("loose-pen-start", 1);
if (!first) throw new Error("no first version");

const check =
  (program: Program, before: (program: Program, ids: readonly string[]) => ShortOuting[]) => (one: Case) => {
    const outings = [...before(program, steadyIds(program, one.steady, one.step)), ...one.outings];
    const now = eveningOf(one.now ?? outings.at(-1)?.[0] ?? 0);
    const judgement = judgeRecord(shortRecord(outings, one.about), program, now).find((j) => j.step === one.step);
    const found = (key: string) => {
      const [code, side] = key.split("@");
      return judgement?.findings.filter((f) => f.code === code && (side === undefined || f.side === side)) ?? [];
    };
    const { expect: wanted } = one;
    expect(judgement?.status).toBe(wanted.status);
    const words = {
      ...wanted.sides,
      ...(wanted.near ? { near: wanted.near } : {}),
      ...(wanted.off ? { off: wanted.off } : {}),
    };
    for (const [side, word] of Object.entries(words))
      expect([side, judgement?.sides[side as SideKey]?.status]).toEqual([side, word]);
    for (const key of wanted.met ?? []) {
      expect([key, found(key).length > 0]).toEqual([key, true]);
      expect([key, found(key).map((f) => f.met)]).toEqual([key, found(key).map(() => true)]);
    }
    for (const key of [...(wanted.unmet ?? []), ...(wanted.there ?? [])])
      expect([key, found(key).some((f) => !f.met)]).toEqual([key, true]);
    for (const key of wanted.absent ?? []) expect([key, found(key)]).toEqual([key, []]);
    for (const [side, weights] of Object.entries(wanted.weights ?? {})) {
      expect(judgement?.sides[side as SideKey]?.weightClean).toBeCloseTo(weights[0], 4);
      expect(judgement?.sides[side as SideKey]?.weightNot).toBeCloseTo(weights[1], 4);
    }
    if (wanted.held !== undefined) expect(judgement?.held).toBe(wanted.held);
    if (wanted.open)
      expect(
        judgement?.toOpen.map(({ code, side, count }) => `${code}${side ? `@${side}` : ""}:${count ?? 1}`),
      ).toEqual(wanted.open);
    expect(judgement?.toOpen.length === 0).toBe(judgement?.status === "steady");
  };

describe("the expected verdicts", () => {
  const cases = [...firstSteps, ...wholeRoad, ...said, ...memories];

  it("are at least two hundred and fifty, each with its reason", () => {
    expect(cases.length).toBeGreaterThanOrEqual(250);
    for (const one of cases) expect(one.why.length).toBeGreaterThan(20);
    expect(new Set(cases.map((one) => one.id)).size).toBe(cases.length);
  });

  it("see every rule and finding met or unmet, and every word", () => {
    const named = (field: "met" | "unmet" | "there" | "absent"): Set<string> =>
      new Set(
        (cases as unknown as Case[]).flatMap((one) => (one.expect[field] ?? []).map((key) => key.split("@")[0] ?? "")),
      );
    const [met, unmet, there, absent] = [named("met"), named("unmet"), named("there"), named("absent")];
    for (const rule of [
      "clean-share",
      "both-sides",
      "different-days",
      "cold-asks",
      "relaxed",
      "light",
      "elsewhere",
      "fresh",
      "rests-on",
    ])
      expect([rule, met.has(rule) && unmet.has(rule)]).toEqual([rule, true]);
    for (const code of [
      "force-creep",
      "reacts",
      "dull",
      "braced",
      "shut-down",
      "side-gap",
      "not-proven-relaxed",
      "cold-check-due",
      "needs-slipped",
      "lucky",
      "unsaid",
      "spoiled",
      "anticipates",
      "overridden",
      "held",
    ])
      expect([code, there.has(code) && absent.has(code)]).toEqual([code, true]);
    expect(new Set(cases.map((one) => one.expect.status))).toEqual(
      new Set(["untried", "begun", "coming", "steady", "rusty", "slipped"]),
    );
  });
});

describe("the first ten steps, as their first version judges them", () => {
  it.each(firstSteps as unknown as Case[])("$id: $why", (one) => {
    expect.hasAssertions();
    check(first, steadyOutings)(one);
  });
});

describe("the whole road", () => {
  it.each(wholeRoad as unknown as Case[])("$id: $why", (one) => {
    expect.hasAssertions();
    check(loosePenStart, broughtUp)(one);
  });
});

describe("a word with two memories", () => {
  it.each(memories as unknown as Case[])("$id: $why", (one) => {
    expect.hasAssertions();
    check(loosePenStart, broughtUp)(one);
  });
});

describe("an ask that says how it was put", () => {
  it.each(said as unknown as Case[])("$id: $why", (one) => {
    expect.hasAssertions();
    check(loosePenStart, broughtUp)(one);
  });
});
