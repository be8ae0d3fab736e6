import type { StepId } from "../record";
import gatedRungs from "./catalogue/gated-rungs.json" with { type: "json" };
import { findStep } from "./graph";
import { placeOfRung } from "./ladders";
import type { Gate, Program, Step } from "./types";

/** As the catalogue writes it down: the gate, the rung it stands before, and what the smaller rungs rest on. */
interface GatedRungFile {
  gate: string;
  before: string;
  needs: readonly StepId[];
}

const GATED: ReadonlyMap<StepId, GatedRungFile> = new Map(Object.entries(gatedRungs));

/** A gate that stands within a step's ladder: what is smaller may be worked while it is shut. */
export interface GatedRung {
  gate: Gate;
  /** Id and place of the last rung before the gate. */
  rung: string;
  place: number;
  /** Steps that have to be there for those smaller rungs. */
  needs: readonly StepId[];
}

/**
 * The gate within a step's ladder; null where a program has none. Where a program lacks the gate, the rung or one of the steps, the gate
 * stands before all of the step: the cautious reading. What the smaller rungs rest on is common practice, no published source.
 */
export function gatedRungOf(program: Program, { id, ladder }: Step): GatedRung | null {
  const file = GATED.get(id);
  const gate = program.gates.find((one) => one.id === file?.gate);
  if (!file || !gate?.before.includes(id) || file.needs.some((need) => !findStep(program, need))) return null;
  const place = placeOfRung(ladder, file.before) - 1;
  const rung = ladder.rungs[place];
  return rung && place < ladder.standard ? { gate, rung: rung.id, place, needs: file.needs } : null;
}
