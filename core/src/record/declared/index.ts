/**
 * Every type of event with its fields and their limits, declared once: the types of TypeScript, the schemas, the JSON Schema, the
 * tables of docs/record-format.md, the forms of the screens and the columns of the CSV are all made from this.
 */
import type { EventType, Field, SaidBy } from "./fields";
import { HORSE_EVENTS } from "./of-horses";
import { OTHER_EVENTS } from "./of-entries";
import { HEAD, OUTING_EVENTS, UNDER } from "./of-outings";

export type { EventType, Field, FieldIs, SaidBy } from "./fields";

const DECLARED = [...OUTING_EVENTS, ...HORSE_EVENTS, ...OTHER_EVENTS] as const;
/** A declaration by the type it declares. */
export type Declared = { [One in (typeof DECLARED)[number] as One["type"]]: One };

export const EVENT_TYPES: readonly EventType[] = DECLARED;
export const HEAD_FIELDS: readonly Field[] = HEAD;
export const PROGRAM_FIELDS: readonly Field[] = UNDER;
/** What an outing's head says, and what it was worked under. */
export type SaidInHead = SaidBy<typeof HEAD> & SaidBy<typeof UNDER>;

const byType = new Map(EVENT_TYPES.map((one) => [one.type, one]));

export function eventTypeOf(type: unknown): EventType | undefined {
  return typeof type === "string" ? byType.get(type) : undefined;
}
