import { closest, distance } from "fastest-levenshtein";
import type { Program } from "./types";

/** Ids of all steps that `stepId` rests on, directly or through others, without itself. */
export function everythingUnder(program: Program, stepId: string): string[] {
  const byId = new Map(program.steps.map((step) => [step.id, step]));
  const seen = new Set<string>();
  const visit = (id: string): void => {
    for (const need of byId.get(id)?.needs ?? [])
      for (const under of need.anyOf)
        if (!seen.has(under)) {
          seen.add(under);
          visit(under);
        }
  };
  visit(stepId);
  return program.steps.map((step) => step.id).filter((id) => seen.has(id) && id !== stepId);
}

/** The known step whose id is nearest in spelling, or undefined when none is near (more than half of it differs). */
export function nearestStep(program: Program, unknownId: string): string | undefined {
  const best = closest(
    unknownId.slice(0, 64),
    program.steps.map((step) => step.id),
  );
  return distance(unknownId, best) <= Math.max(unknownId.length, best.length) / 2 ? best : undefined;
}

/** What is wrong with a program's graph, in words; empty when it is sound. */
export function problemsOf(program: Program): string[] {
  const problems: string[] = [];
  const before = new Set<string>();
  const all = new Set(program.steps.map((step) => step.id));
  for (const step of program.steps) {
    if (before.has(step.id)) problems.push(`${step.id} stands twice`);
    for (const need of step.needs) {
      if (need.anyOf.length === 0) problems.push(`${step.id} has an empty need`);
      for (const id of need.anyOf) {
        if (!all.has(id)) problems.push(`${step.id} rests on ${id}, which does not exist`);
        else if (!before.has(id)) problems.push(`${step.id} rests on ${id}, which does not stand before it`);
      }
    }
    before.add(step.id);
  }
  return problems;
}
