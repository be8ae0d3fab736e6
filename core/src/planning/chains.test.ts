import { describe, expect, it } from "vitest";
import { foldOuting, linkOf, type OutingPlan } from "../outing";
import { PROGRAMS, refsOf, everythingUnder, type Program } from "../programs";
import { addDays, foldRecord } from "../record";
import { gather, judgeGathered, nextAtAge, whatNext } from "../readiness";
import { broughtUp, shortRecord, type ShortOuting } from "../readiness/cases/notation";
import cases from "./cases/chains.json" with { type: "json" };
import { writeBrief, type Brief } from ".";

/** One line of cases/chains.json; how outings are written stands in the README beside the judge's cases. */
interface Case {
  id: string;
  why: string;
  program?: string;
  months?: number;
  /** Steps steady beforehand: `^x` is x with all it rests on. And of those, which are not. */
  steady?: string[];
  without?: string[];
  outings?: ShortOuting[];
  now?: number;
  /** What happens in the pen of that day. */
  pen?: string;
  expect: {
    first?: string;
    /** Pieces on the card: `a < b` waits until b is good today; without it, `a` may stand open or wait. */
    pieces?: string[];
    not?: string[];
    /** Among what is checked cold. */
    cold?: string[];
    /** So many pieces at most, and so many that are quite new. */
    most?: number;
    new?: number;
    /** After what happened in the pen: pieces that may be worked, and such as wait. */
    open?: string[];
    shut?: string[];
  };
}

function programOf(id: string): Program {
  const program = PROGRAMS.find((one) => one.id === id);
  if (!program) throw new Error(`no program ${id}`);
  return program;
}

function steadyOf(program: Program, wanted: readonly string[], without: readonly string[]): string[] {
  const ids = new Set(
    wanted.flatMap((one) => {
      if (!one.startsWith("^")) return [one];
      const id = one.slice(1);
      // With what the gate before it asks for.
      const gates = program.gates.filter(({ before }) => before.includes(id));
      const asked = refsOf(gates.flatMap(({ needs }) => needs)).map(({ step }) => step);
      return [id, ...asked].flatMap((step) => [...everythingUnder(program, step), step]);
    }),
  );
  return program.steps.map(({ id }) => id).filter((id) => ids.has(id) && !without.includes(id));
}

function cardOf({
  program: id = "loose-pen-start",
  months = 40,
  steady = [],
  without = [],
  outings = [],
  now = -6,
}: Case): {
  program: Program;
  brief: Brief;
} {
  const program = programOf(id);
  const record = shortRecord([...broughtUp(program, steadyOf(program, steady, without)), ...outings]);
  const folded = foldRecord(record);
  const gathered = gather(folded, program);
  const today = addDays("2026-01-10", now);
  const judgements = judgeGathered(gathered, today);
  const next = nextAtAge(whatNext(gathered, judgements, today), program, months);
  const days = new Set(folded.outings.map(({ day }) => day));
  const firstDay = folded.outings[0]?.day ?? null;
  const { outings: all } = folded;
  const brief = writeBrief({
    program,
    judgements,
    next,
    outings: all,
    workDays: days.size,
    firstDay,
    today,
    monthsAtLeast: months,
  });
  return { program, brief };
}

/** Pieces of a card that may be worked after what happened in the pen. */
function openAfter({ program, brief }: ReturnType<typeof cardOf>, pen: string, now: number): string[] {
  const [outing] = shortRecord([[now, pen]]).outings;
  const plan: OutingPlan = {
    program,
    startedAt: outing?.startedAt ?? "",
    exercises: [...brief.checkCold, ...brief.edge],
    known: [],
    caps: brief.caps,
  };
  const state = foldOuting(plan, outing?.events ?? []);
  return plan.exercises.filter((one) => linkOf(state, plan, one).isOpen).map(({ step }) => step);
}

describe("a card's chain", () => {
  it.each(cases as unknown as Case[])("$id: $why", (one) => {
    const { expect: wanted, now = -6, pen = "" } = one;
    const card = cardOf(one);
    const { edge, checkCold } = card.brief;
    const ids = edge.map(({ step }) => step);
    if (wanted.first) expect(ids[0]).toBe(wanted.first);
    for (const piece of wanted.pieces ?? []) {
      const [step = "", base] = piece.split(" < ");
      expect(ids).toContain(step);
      const waiting = edge.find((each) => each.step === step)?.after?.filter(({ stands }) => !stands) ?? [];
      if (base !== undefined) expect(waiting.map((each) => each.step)).toContain(base);
    }
    for (const step of wanted.not ?? []) expect(ids).not.toContain(step);
    for (const step of wanted.cold ?? []) expect(checkCold.map((each) => each.step)).toContain(step);
    if (wanted.most !== undefined) expect(ids.length).toBeLessThanOrEqual(wanted.most);
    if (wanted.new !== undefined)
      expect(edge.filter(({ outings }) => outings === 0).length).toBeLessThanOrEqual(wanted.new);
    const open = openAfter(card, pen, now);
    for (const step of wanted.open ?? []) expect(open).toContain(step);
    for (const step of wanted.shut ?? []) {
      expect([...ids, ...checkCold.map((each) => each.step)]).toContain(step);
      expect(open).not.toContain(step);
    }
  });

  it("is said in at least thirty cases, each with its reason", () => {
    expect(cases.length).toBeGreaterThanOrEqual(30);
    for (const { why } of cases) expect(why.length).toBeGreaterThan(15);
    expect(new Set(cases.map(({ id }) => id)).size).toBe(cases.length);
  });
});
