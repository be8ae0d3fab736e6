/**
 * What are the steps, and what does each rest on? Programs are data; phases and moods on the 0–4 scales of the record,
 * doses in the unit each step names. Standards are Still Pine's own judgement.
 */
import { loosePenStart } from "./loose-pen-start";
import type { Program, Step } from "./types";

export type * from "./types";
export { loosePenStart };
export { everythingUnder, nearestStep, problemsOf } from "./graph";

export const PROGRAMS: readonly Program[] = [loosePenStart];

/** The program with this id, or undefined. */
export function findProgram(id: string): Program | undefined {
  return PROGRAMS.find((program) => program.id === id);
}

/** The sides a step is asked on: near and off, or none. */
export function sidesOf(step: Pick<Step, "side">): readonly ("near" | "off" | "none")[] {
  return step.side === "none" ? (["none"] as const) : (["near", "off"] as const);
}
