import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  alwaysAbove,
  everythingUnder,
  findStep,
  loosePenStart,
  PROGRAMS,
  refsOf,
  sidesOf,
  type Program,
} from "../programs";
import { addDays, foldRecord, type Day, type FoldedOuting } from "../record";
import { ageFor, gather, judgeGates, judgeGathered, mayWork, nextAtAge, whatNext, type Gathered } from "../readiness";
import { broughtUp, shortRecord, type ShortOuting } from "../readiness/cases/notation";
import { writeBrief, type Brief } from ".";

/** A part of the ten thousand here; the long proofs draw all. */
const RECORDS = fc.readConfigureGlobal().numRuns ?? 60;
const ENOUGH_MS = 60_000 + RECORDS * 200;

/** Asks of a step on all its sides: clean, or a miss. */
function asksOf(program: Program, id: string, isClean: boolean): string[] {
  const step = findStep(program, id);
  if (!step) return [];
  const clean = `${step.standard.phase ?? "-"}g${Math.min(1, step.standard.mood)}`;
  const ask = isClean ? `${clean}x3` : `${step.standard.phase === null ? "-" : 3}n2`;
  return sidesOf(step).map((side) => `${id} ${side === "none" ? "" : `${side} `}${ask}`);
}

interface History {
  program: Program;
  outings: ShortOuting[];
  today: number;
  months: number;
}

/** A horse brought up to somewhere on a program's road, then worked here and there, well or badly, rested, and met again. */
const history = fc
  .record({
    program: fc.constantFrom(...PROGRAMS),
    known: fc.double({ min: 0, max: 1, noNaN: true }),
    gaps: fc.array(fc.constantFrom(0, 1, 1, 2, 5, 13, 14, 40, 155), { maxLength: 5 }),
    work: fc.array(fc.array(fc.tuple(fc.nat(), fc.boolean()), { minLength: 1, maxLength: 6 }), {
      minLength: 5,
      maxLength: 5,
    }),
    rest: fc.constantFrom(0, 0, 1, 3, 13, 14, 30, 155, 400),
    months: fc.constantFrom(6, 18, 30, 36, 48, 240),
  })
  .map(({ program, known, gaps, work, rest, months }): History => {
    const road = program.steps.map(({ id }) => id);
    const ids = road.slice(0, Math.round(known * road.length));
    let day = -7;
    const outings = gaps.map((gap, at): ShortOuting => {
      day += gap;
      const asks = (work[at] ?? []).flatMap(([n, isClean]) =>
        asksOf(program, road[n % Math.min(road.length, ids.length + 8)] ?? "", isClean),
      );
      return [day, asks.join("; ")];
    });
    return { program, outings: [...broughtUp(program, ids), ...outings], today: day + rest, months };
  });

const dayOf = (n: number): Day => addDays("2026-01-10", n);

function read({ program, outings }: Pick<History, "program" | "outings">): {
  gathered: Gathered;
  outings: readonly FoldedOuting[];
} {
  const folded = foldRecord(shortRecord(outings));
  return { gathered: gather(folded, program), outings: folded.outings };
}

function cardOf(
  { program, months, ...record }: History,
  today: Day,
): { brief: Brief; gathered: Gathered; work: string[]; named: string[] } {
  const { gathered, outings } = read({ program, outings: record.outings });
  const judgements = judgeGathered(gathered, today);
  const next = nextAtAge(whatNext(gathered, judgements, today), program, months);
  const brief = writeBrief({
    program,
    judgements,
    next,
    outings: outings.slice(-20),
    workDays: new Set(outings.map(({ day }) => day)).size,
    firstDay: outings[0]?.day ?? null,
    today,
    monthsAtLeast: months,
  });
  const isProposed = ({ reason }: { reason: string }): boolean => !["held", "too-young", "bit-weeks"].includes(reason);
  const work = next.work.filter(isProposed).map(({ step }) => step);
  const others = [...next.checkCold, ...next.follow].map(({ step }) => step);
  return { brief, gathered, work, named: [...work, ...others] };
}

/** Steps that may be worked, and those of which only the rungs before a gate. */
function openOn(gathered: Gathered, today: Day): Map<string, "yes" | "small"> {
  return new Map(
    gathered.program.steps.flatMap(({ id }) => {
      const { may } = mayWork(gathered, id, today);
      return may === "no" ? [] : [[id, may] as const];
    }),
  );
}

const isNoMore = (later: Map<string, "yes" | "small">, before: Map<string, "yes" | "small">): string[] =>
  [...later].flatMap(([id, may]) => (before.get(id) === "yes" || before.get(id) === may ? [] : [`${id}: ${may}`]));

describe("a first time is small", () => {
  const program = loosePenStart;
  const cardWith = (outings: ShortOuting[], today: number): Brief["edge"] =>
    cardOf(
      { program, outings: [...broughtUp(program, knownBefore("tie")), ...outings], today, months: 48 },
      dayOf(today),
    ).brief.edge;
  const knownBefore = (id: string): string[] => {
    const under = new Set(everythingUnder(program, id));
    const asked = program.gates.filter(({ before }) => before.includes(id)).flatMap(({ needs }) => refsOf(needs));
    for (const { step } of asked) for (const one of [step, ...everythingUnder(program, step)]) under.add(one);
    return program.steps.map((step) => step.id).filter((step) => under.has(step));
  };
  const tied = (day: number, rung: string): ShortOuting => [day, `tie near -g1^${rung}; tie off -g1^${rung}`];

  it("of what he holds one quiet try is enough, of anything else three", () => {
    const fresh = cardWith([], -6).filter(({ isNew }) => isNew);
    expect(fresh.length).toBeGreaterThan(0);
    for (const { step, line } of fresh)
      expect([step, line.worth, line.count]).toEqual([
        step,
        "tried",
        findStep(program, step)?.kind === "moment" ? 3 : 1,
      ]);
  });

  it("a first tying is two minutes with a person beside, once, and not three times ten", () => {
    const tie = cardWith([tied(-6, "comes-forward"), tied(-5, "ring-held")], -4).find(({ step }) => step === "tie");
    expect(tie?.line).toMatchObject({ count: 1, rung: "2min" });
    const next = cardWith([tied(-6, "ring-held"), tied(-5, "2min")], -4).find(({ step }) => step === "tie");
    expect(next?.line.count).toBe(1);
    expect(next?.line.rung).toBeUndefined();
  });
});

describe("whatever proposes, over random records and all programs", () => {
  it(
    "names nothing beyond a shut gate, nothing on a rusty base, and nothing the horse is too young for",
    () => {
      let shut = 0;
      let rusty = 0;
      fc.assert(
        fc.property(history, (record) => {
          const today = dayOf(record.today);
          const { brief, gathered, work, named } = cardOf(record, today);
          const { program } = record;
          const judgements = new Map(judgeGathered(gathered, today).map((one) => [one.step, one]));
          const small = new Set(brief.upTo.map(({ step }) => step));
          const onCard = [...brief.checkCold, ...brief.edge].map(({ step }) => step);
          for (const gate of judgeGates(gathered, today)) {
            if (gate.behind || gate.met) continue;
            const { before = [], ridden } = program.gates.find(({ id }) => id === gate.gate) ?? {};
            // Of a gate with more to show before he is ridden only that part may be what is shut.
            if (ridden && ridden.needs.length > 0) continue;
            const beyond = new Set(before.flatMap((id) => [id, ...alwaysAbove(program, id)]));
            shut += 1;
            expect([...named, ...onCard].filter((id) => beyond.has(id) && !small.has(id))).toEqual([]);
          }
          for (const { id, needs } of program.steps) {
            const isRusty = (ids: readonly { step: string; rung?: unknown }[]): boolean =>
              ids.some((ref) => ref.rung === undefined && judgements.get(ref.step)?.status === "rusty");
            if (!needs.some(({ anyOf }) => anyOf.length > 0 && anyOf.every(isRusty))) continue;
            rusty += 1;
            expect(work).not.toContain(id);
            const piece = brief.edge.find(({ step }) => step === id);
            if (!piece) continue;
            // Then it is behind its check, which is on the card before it.
            const waits = (piece.after ?? []).filter(({ stands }) => !stands).map((base) => base.step);
            expect(waits.length).toBeGreaterThan(0);
            expect(onCard).toEqual(expect.arrayContaining(waits));
          }
          expect(onCard.filter((id) => (ageFor(program, id) ?? 0) > record.months)).toEqual([]);
          expect(named.filter((id) => (ageFor(program, id) ?? 0) > record.months)).toEqual([]);
        }),
        { numRuns: RECORDS },
      );
      expect(shut).toBeGreaterThan(RECORDS);
      expect(rusty).toBeGreaterThan(RECORDS);
    },
    ENOUGH_MS,
  );

  it(
    "opens nothing by a longer absence, by misses at the end, or by a younger age",
    () => {
      let closed = 0;
      fc.assert(
        fc.property(
          history,
          fc.constantFrom(1, 5, 13, 14, 30, 155),
          fc.array(fc.nat(), { minLength: 1, maxLength: 8 }),
          (record, longer, misses) => {
            const { program, outings, today } = record;
            const { gathered } = read(record);
            const before = openOn(gathered, dayOf(today));
            const later = openOn(gathered, dayOf(today + longer));
            closed += before.size - later.size;
            expect(isNoMore(later, before)).toEqual([]);
            const road = program.steps.map(({ id }) => id);
            const missed = misses.flatMap((n) => asksOf(program, road[n % road.length] ?? "", false));
            const { gathered: worse } = read({ program, outings: [...outings, [today, missed.join("; ")]] });
            expect(isNoMore(openOn(worse, dayOf(today)), before)).toEqual([]);
            // What misses leave closed stays closed a day later too.
            expect(isNoMore(openOn(worse, dayOf(today + 1)), openOn(gathered, dayOf(today)))).toEqual([]);
            const young = cardOf({ ...record, months: 6 }, dayOf(today));
            const grown = cardOf({ ...record, months: 240 }, dayOf(today));
            expect(young.named.filter((id) => !grown.named.includes(id))).toEqual([]);
          },
        ),
        { numRuns: RECORDS },
      );
      expect(closed).toBeGreaterThan(0);
    },
    ENOUGH_MS,
  );
});
