import type { StepId } from "../record";
import { closest, distance } from "fastest-levenshtein";
import { heirsOf } from "./editions";
import { placeOfRung } from "./ladders";
import type { Gate, Need, NeedRef, Program, Step, StepMark } from "./types";

/** Every step a list of needs names, whichever way. */
export function refsOf(needs: readonly Need[]): readonly NeedRef[] {
  let refs = refsKnown.get(needs);
  if (!refs) refsKnown.set(needs, (refs = listRefs(needs)));
  return refs;
}

function listRefs(needs: readonly Need[]): NeedRef[] {
  const refs: NeedRef[] = [];
  for (const { anyOf } of needs) for (const way of anyOf) refs.push(...way);
  return refs;
}

/** Every step a gate names, before a ride too. */
const refsOfGate = ({ needs, ridden }: Gate): readonly NeedRef[] =>
  ridden ? [...refsOf(needs), ...refsOf(ridden.needs)] : refsOf(needs);

/** Lists of needs are never changed in place, and are gone through again and again. */
const refsKnown = new WeakMap<readonly Need[], readonly NeedRef[]>();

export function findStep(program: Program, id: string): Step | undefined {
  return indexOf(program).byId.get(id);
}

/** The steps of a program that entries of this step are of: the step itself, or what a later edition made of it. */
export function stepsFor(program: Program, id: StepId): readonly Step[] {
  const own = findStep(program, id);
  return own ? [own] : heirsOf(id).flatMap((heir) => findStep(program, heir) ?? []);
}

/** Ids of steps as a program has them; one that it has not, and that became none of its steps, stays as it is. */
export const idsFor = (program: Program, ids: readonly StepId[]): StepId[] =>
  ids.flatMap((id) => {
    const steps = stepsFor(program, id);
    return steps.length > 0 ? steps.map((step) => step.id) : [id];
  });

/** Steps of a program that have a mark, in the order of its road. */
export const stepsMarked = (program: Pick<Program, "steps">, mark: StepMark): readonly Step[] =>
  program.steps.filter(({ marks }) => marks.includes(mark));

interface Index {
  byId: ReadonlyMap<string, Step>;
  /** Needs before what rests on them. */
  inOrder: readonly Step[];
  gates: ReadonlyMap<string, readonly Gate[]>;
  /** Filled as it is asked for. */
  under: Map<string, string[]>;
}
const indices = new WeakMap<Program, Index>();

function indexOf(program: Program): Index {
  let index = indices.get(program);
  if (!index) {
    const byId = new Map(program.steps.map((step) => [step.id, step]));
    const gates = new Map<string, Gate[]>();
    for (const gate of program.gates)
      for (const { step } of refsOfGate(gate))
        if (!gates.get(step)?.includes(gate)) gates.set(step, [...(gates.get(step) ?? []), gate]);
    indices.set(program, (index = { byId, inOrder: sort(program.steps, byId), gates, under: new Map() }));
  }
  return index;
}

function sort(steps: readonly Step[], byId: ReadonlyMap<string, Step>): Step[] {
  const sorted = new Set<Step>();
  const open = new Set<Step>();
  const visit = (step: Step): void => {
    if (sorted.has(step) || open.has(step)) return;
    open.add(step);
    for (const ref of refsOf(step.needs)) {
      const under = byId.get(ref.step);
      if (under) visit(under);
    }
    sorted.add(step);
  };
  steps.forEach(visit);
  return [...sorted];
}

/** All steps of a program, each after everything it rests on. */
export function stepsInOrder(program: Program): readonly Step[] {
  return indexOf(program).inOrder;
}

/** The gates in whose lists a step stands. */
export function gatesOf(program: Program, stepId: StepId): readonly Gate[] {
  return indexOf(program).gates.get(stepId) ?? [];
}

/** Ids of all steps that `stepId` rests on, directly or through others, without itself. */
export function everythingUnder(program: Program, stepId: StepId): readonly string[] {
  const known = indexOf(program).under.get(stepId);
  if (known) return known;
  const seen = new Set<string>();
  const visit = (id: string): void => {
    for (const { step } of refsOf(findStep(program, id)?.needs ?? []))
      if (!seen.has(step)) {
        seen.add(step);
        visit(step);
      }
  };
  visit(stepId);
  const under = program.steps.map((step) => step.id).filter((id) => seen.has(id) && id !== stepId);
  indexOf(program).under.set(stepId, under);
  return under;
}

/** The known step whose id is nearest in spelling, or undefined when none is near (more than half of it differs). */
export function nearestStep(program: Program, unknownId: string): string | undefined {
  if (program.steps.length === 0) return undefined;
  const best = closest(
    unknownId.slice(0, 64),
    program.steps.map((step) => step.id),
  );
  return distance(unknownId, best) <= Math.max(unknownId.length, best.length) / 2 ? best : undefined;
}

/** One thing wrong with a program: where, what should stand there, and what does. */
export interface ProgramProblem {
  path: readonly (string | number)[];
  expected: string;
  found: string;
}

/** All that is wrong with a program's graph; empty when it is sound. */
export function problemsOf(program: Program): ProgramProblem[] {
  return [...repeats(program), ...strangers(program), ...circles(program), ...shutGates(program), ...loose(program)];
}

function repeats({ steps, gates }: Program): ProgramProblem[] {
  const of = (list: readonly { id: string }[], name: string): ProgramProblem[] => {
    const seen = new Set<string>();
    return list.flatMap(({ id }, index) => {
      if (seen.has(id))
        return [{ path: [name, index, "id"], expected: "an id of its own", found: `${id}, which stands there before` }];
      seen.add(id);
      return [];
    });
  };
  return [...of(steps, "steps"), ...of(gates, "gates")];
}

/** Needs that name nothing, something unknown, or more of a step than it has. */
function strangers(program: Program): ProgramProblem[] {
  const { steps, gates, stop, optional } = program;
  const check = (needs: readonly Need[], path: readonly (string | number)[]): ProgramProblem[] =>
    needs.flatMap((need, index) => {
      const at = [...path, index];
      if (need.anyOf.length === 0 || need.anyOf.some((way) => way.length === 0))
        return [{ path: at, expected: "at least one step", found: "none" }];
      return listRefs([need]).flatMap((ref) => stranger(program, ref, at));
    });
  const known = (ids: readonly string[], path: readonly (string | number)[]): ProgramProblem[] =>
    ids.flatMap((id, index) =>
      findStep(program, id)
        ? []
        : [{ path: [...path, index], expected: "a step of this program", found: id } satisfies ProgramProblem],
    );
  return [
    ...steps.flatMap((step, index) => check(step.needs, ["steps", index, "needs"])),
    ...gates.flatMap((gate, index) => [
      ...check(gate.needs, ["gates", index, "steps"]),
      ...check(gate.ridden?.needs ?? [], ["gates", index, "ridden"]),
      ...known(gate.before, ["gates", index, "before"]),
    ]),
    ...known(stop, ["stop"]),
    ...known(optional, ["optional"]),
  ];
}

function stranger(program: Program, { step: id, rung }: NeedRef, path: readonly (string | number)[]): ProgramProblem[] {
  const step = findStep(program, id);
  if (!step) return [{ path, expected: "a step of this program", found: id }];
  if (typeof rung === "string" && placeOfRung(step.ladder, rung) < 0)
    return [
      { path, expected: `a rung of ${step.id}: ${step.ladder.rungs.map((one) => one.id).join(", ")}`, found: rung },
    ];
  return typeof rung === "number" && rung > step.rungs.length
    ? [{ path, expected: `a rung from 1 to ${step.rungs.length} of ${step.id}`, found: String(rung) }]
    : [];
}

/** Steps that rest on themselves in the end, each circle once. */
function circles(program: Program): ProgramProblem[] {
  const found: ProgramProblem[] = [];
  const done = new Set<string>();
  /** The steps on the way to the one at hand, in order. */
  const trail = new Set<string>();
  const visit = (step: Step): void => {
    if (trail.has(step.id)) {
      const index = program.steps.indexOf(step);
      const way = [...trail];
      found.push({
        path: ["steps", index, "needs"],
        expected: "needs that do not lead back to the step itself",
        found: [...way.slice(way.indexOf(step.id)), step.id].join(" rests on "),
      });
      return;
    }
    if (done.has(step.id)) return;
    trail.add(step.id);
    for (const ref of refsOf(step.needs)) {
      const under = findStep(program, ref.step);
      if (under) visit(under);
    }
    trail.delete(step.id);
    done.add(step.id);
  };
  program.steps.forEach(visit);
  return found;
}

/** Gates that could never open, because a step of theirs rests on what they stand before. */
function shutGates(program: Program): ProgramProblem[] {
  return program.gates.flatMap((gate, index) => {
    if (gate.before.length === 0) return [];
    const behind = gate.before.map((id) => everythingAbove(program, id));
    const isBehind = ({ step }: NeedRef): boolean => behind.every((ids) => ids.has(step));
    return gate.needs
      .filter((need) => need.anyOf.every((way) => way.some(isBehind)))
      .map((need) => ({
        path: ["gates", index, "steps"],
        expected: "steps that can be reached before the gate",
        found: `${need.anyOf
          .flat()
          .map((ref) => ref.step)
          .join(" or ")}, which rests on ${gate.before.join(", ")}`,
      }));
  });
}

/** Ids of a step and of all that rests on it, directly or through others. Of steps that rest on each other it may leave some out. */
function everythingAbove(program: Program, stepId: StepId): ReadonlySet<string> {
  const above = new Set<string>([stepId]);
  for (const { id, needs } of stepsInOrder(program))
    if (refsOf(needs).some(({ step }) => above.has(step))) above.add(id);
  return above;
}

/** Steps that nothing rests on and that are not marked as an end. */
function loose(program: Program): ProgramProblem[] {
  const carried = new Set<string>();
  for (const { needs } of program.steps) for (const { step } of refsOf(needs)) carried.add(step);
  for (const gate of program.gates) for (const { step } of refsOfGate(gate)) carried.add(step);
  return program.steps.flatMap((step, index) =>
    step.end || carried.has(step.id) || program.stop.includes(step.id)
      ? []
      : [{ path: ["steps", index, "end"], expected: "true, because nothing rests on it", found: "not marked" }],
  );
}

const resting = new WeakMap<Program, ReadonlyMap<StepId, number>>();

/**
 * How many steps of a road rest on one, whichever way is taken: directly, through others, or through a gate that asks for it. What most
 * rests on is best begun early.
 */
export function howMuchRestsOn(program: Program, step: StepId): number {
  let known = resting.get(program);
  if (!known) resting.set(program, (known = countResting(program)));
  return known.get(step) ?? 0;
}

function countResting({ steps, gates }: Program): ReadonlyMap<StepId, number> {
  const over = new Map<StepId, Set<StepId>>();
  const note = (needs: readonly Need[], above: readonly StepId[]): void => {
    for (const { step } of refsOf(needs)) {
      const set = over.get(step) ?? new Set();
      above.forEach((one) => set.add(one));
      over.set(step, set);
    }
  };
  for (const { id, needs } of steps) note(needs, [id]);
  for (const { before, needs, ridden } of gates) {
    note(needs, before);
    note(ridden?.needs ?? [], ridden?.before ?? []);
  }
  const countFrom = (start: StepId): number => {
    const seen = new Set<StepId>();
    const open = [start];
    for (let at = open.pop(); at !== undefined; at = open.pop())
      for (const one of over.get(at) ?? [])
        if (!seen.has(one)) {
          seen.add(one);
          open.push(one);
        }
    return seen.size;
  };
  return new Map(steps.map(({ id }) => [id, countFrom(id)]));
}
