import { MOODS, PHASES, SIDES, WAYS_OF_WORK, ZONES } from "@still-pine/core/record";
import type { Quantity } from "@still-pine/core/body";

/** How a field of an event is told: what it takes, and the fields that stand in many types. */

export type FieldIs =
  | { kind: "choice"; values: readonly (string | number)[] }
  | { kind: "whole" | "number"; least: number; most: number; unit?: string }
  /** In kg, cm, m or °C; typed in the yard's units, with what was typed kept in `typed`. */
  | { kind: "measure"; quantity: Quantity; least: number; most: number }
  | { kind: "text"; most: number; long?: boolean }
  | { kind: "texts"; most: number; each: number }
  | { kind: "label"; of: "place" | "person" }
  | { kind: "yes-no" }
  | { kind: "day" }
  | { kind: "instant" }
  | { kind: "step" }
  | { kind: "id" }
  | { kind: "true" }
  | { kind: "fields" };

export interface Field {
  name: string;
  /** As a form names it. */
  label: string;
  needed: boolean;
  /** Asked of whoever writes it now; a file written before may lack it. */
  neededNow?: boolean;
  says: string;
  is: FieldIs;
}

export interface EventType {
  type: string;
  name: string;
  /** What it is said of. */
  of: "outing" | "horse" | "either";
  says: string;
  fields: readonly Field[];
  /** Made by the application itself and never typed into a form. */
  byHand: boolean;
}

/** A field in short: its name, its label, what it takes, and what a reader has to know. */
export type Short = [name: string, label: string, is: FieldIs, says?: string];
export const needed = ([name, label, is, says = ""]: Short): Field => ({ name, label, needed: true, says, is });
export const maybe = ([name, label, is, says = ""]: Short): Field => ({ name, label, needed: false, says, is });
export const choice = (values: readonly (string | number)[]): FieldIs => ({ kind: "choice", values });
export const whole = (least: number, most: number, unit?: string): FieldIs => ({
  kind: "whole",
  least,
  most,
  ...(unit ? { unit } : {}),
});
export const seconds = (most: number): FieldIs => ({ kind: "number", least: 0, most, unit: "s" });
export const measure = (quantity: Quantity, least: number, most: number): FieldIs => ({
  kind: "measure",
  quantity,
  least,
  most,
});
export const words: FieldIs = { kind: "text", most: 2000 };
export const yesNo: FieldIs = { kind: "yes-no" };
export const dose: FieldIs = { kind: "number", least: 0, most: 100_000 };
export const HOUR_SECONDS = 3600;

export const step: Short = ["step", "Step", { kind: "step" }, "Step id of the program."];
export const side: Short = ["side", "Side", choice(SIDES), "`none` or absent for a step without sides."];
export const phase: Short = [
  "phase",
  "Phase",
  choice(PHASES),
  "What it took: 0 a thought, 1 a hint, 2 an ask, 3 a press, 4 firm. Absent where the step has none.",
];
export const mood: Short = [
  "mood",
  "Mood",
  choice(MOODS),
  "0 loose, 1 quiet, 2 watchful, 3 tight, 4 over. Needed with `gave`.",
];
export const direction: Short = ["direction", "Direction", choice(["near", "off"]), "near is to the left."];
export const work: Short = ["work", "How", choice(WAYS_OF_WORK)];
export const zone: Short = ["zone", "Where on him", choice(ZONES)];
