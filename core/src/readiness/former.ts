import type { Program } from "../programs";
import type { Gathered } from "./states";

const readings = new WeakMap<Program, Program>();

/** A program by which every ask of the former shape was made in full, as they were all read once. */
export function formerReading(program: Program): Program {
  const known = readings.get(program);
  if (known) return known;
  const steps = program.steps.map((step) => ({ ...step, ladder: { ...step.ladder, inFullUntil: Infinity } }));
  const reading = { ...program, steps };
  readings.set(program, reading);
  return reading;
}

/**
 * Lays beside what was gathered the same by the former reading: a gate that was once behind a horse by that stays behind him, also where
 * it would not be enough today. Nothing else rests on it.
 */
export function layFormerBeside(gathered: Gathered, former: Gathered): Gathered {
  gathered.former = former;
  gathered.gates.forEach((gate, place) => {
    gate.former = former.gates[place] ?? null;
    gate.isAhead = null;
  });
  return former;
}
