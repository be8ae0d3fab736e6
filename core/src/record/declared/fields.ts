import type { Quantity } from "../../body/units";
import type { StepId } from "../ids";
import { MOODS, PHASES, SIDES, WAYS_OF_WORK, ZONES } from "../vocabulary";

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
  /** Id of a rung of the ladder of the step it is said of. */
  | { kind: "rung" }
  | { kind: "id" }
  | { kind: "true" }
  | { kind: "fields" };

export interface Field<Name extends string = string, Is extends FieldIs = FieldIs, Needed extends boolean = boolean> {
  name: Name;
  /** As a form names it. */
  label: string;
  needed: Needed;
  /** Asked of whoever writes it now; a file written before may lack it. */
  neededNow?: boolean;
  /** The version of its event's shape that brought it. In an event of a former shape the name is one nobody knows. */
  since?: number;
  says: string;
  is: Is;
}

export interface EventType<Type extends string = string, Fields extends readonly Field[] = readonly Field[]> {
  type: Type;
  name: string;
  /** What it is said of. */
  of: "outing" | "horse" | "either";
  says: string;
  fields: Fields;
  /** Made by the application itself and never typed into a form. */
  byHand: boolean;
  /** May be written down by a helper at the rail, who was let in for one outing. */
  byHelper: boolean;
}

/** A field in short: its name, its label, what it takes, and what a reader has to know. */
export type Short<Name extends string = string, Is extends FieldIs = FieldIs> = readonly [
  name: Name,
  label: string,
  is: Is,
  says?: string,
];
export const needed = <const Name extends string, const Is extends FieldIs>([name, label, is, says = ""]: Short<
  Name,
  Is
>): Field<Name, Is, true> => ({ name, label, needed: true, says, is });
export const maybe = <const Name extends string, const Is extends FieldIs>([name, label, is, says = ""]: Short<
  Name,
  Is
>): Field<Name, Is, false> => ({ name, label, needed: false, says, is });

/** Fields that came with a later version of their event's shape. */
export const since = <const Fields extends readonly Field[]>(version: number, fields: Fields): Fields =>
  fields.map((field) => ({ ...field, since: version })) as readonly Field[] as Fields;

/** A type of event with its fields. */
export const make = <const Type extends string, const Fields extends readonly Field[]>(
  type: Type,
  name: string,
  of: EventType["of"],
  says: string,
  fields: Fields,
  { byHand = true, byHelper = false }: { byHand?: boolean; byHelper?: boolean } = {},
): EventType<Type, Fields> => ({ type, name, of, says, fields, byHand, byHelper });

export const choice = <const Values extends readonly (string | number)[]>(
  values: Values,
): { kind: "choice"; values: Values } => ({ kind: "choice", values });
export const whole = (
  least: number,
  most: number,
  unit?: string,
): { kind: "whole"; least: number; most: number; unit?: string } => ({
  kind: "whole",
  least,
  most,
  ...(unit ? { unit } : {}),
});
export const seconds = (most: number) => ({ kind: "number", least: 0, most, unit: "s" }) as const;
export const measure = (quantity: Quantity, least: number, most: number) =>
  ({ kind: "measure", quantity, least, most }) as const;
export const words = { kind: "text", most: 2000 } as const;
export const yesNo = { kind: "yes-no" } as const;
export const dose = { kind: "number", least: 0, most: 100_000 } as const;
export const HOUR_SECONDS = 3600;

export const step = ["step", "Step", { kind: "step" }, "Step id of the program."] as const;
export const side = ["side", "Side", choice(SIDES), "`none` or absent for a step without sides."] as const;
export const phase = [
  "phase",
  "Phase",
  choice(PHASES),
  "What it took: 0 a thought, 1 a hint, 2 an ask, 3 a press, 4 firm. Absent where the step has none.",
] as const;
export const mood = [
  "mood",
  "Mood",
  choice(MOODS),
  "0 loose, 1 quiet, 2 watchful, 3 tight, 4 over. Needed with `gave`.",
] as const;
export const direction = ["direction", "Direction", choice(["near", "off"]), "near is to the left."] as const;
export const work = ["work", "How", choice(WAYS_OF_WORK)] as const;
export const zone = ["zone", "Where on him", choice(ZONES)] as const;

/** What a field holds. */
type ValueOf<Is extends FieldIs> = Is extends { kind: "choice"; values: readonly (infer Value)[] }
  ? Value
  : Is extends { kind: "whole" | "number" | "measure" }
    ? number
    : Is extends { kind: "step" }
      ? StepId
      : Is extends { kind: "text" | "label" | "day" | "instant" | "id" | "rung" }
        ? string
        : Is extends { kind: "texts" }
          ? readonly string[]
          : Is extends { kind: "yes-no" }
            ? boolean
            : Is extends { kind: "true" }
              ? true
              : Record<string, unknown>;

type Named<Fields extends readonly Field[], Needed extends boolean> = Extract<Fields[number], { needed: Needed }>;

/** What an event says, as its fields are declared. */
export type SaidBy<Fields extends readonly Field[]> = {
  [One in Named<Fields, true> as One["name"]]: ValueOf<One["is"]>;
} & { [One in Named<Fields, false> as One["name"]]?: ValueOf<One["is"]> };
