import { type HorseRecord, type RecordEvent } from "@still-pine/core/record";
import { type ProgramFile } from "@still-pine/core/programs";
import { type InputProblem, type InputWarning, type SetAside } from "./problems";
import { type Reading, RecordReader } from "./record-reader";

export type ParsedRecord =
  | { ok: true; record: HorseRecord; own: ProgramFile[]; warnings: InputWarning[]; aside: SetAside[] }
  | { ok: false; problems: InputProblem[] };

/**
 * Reads a horse record that has been parsed as JSON. Reports every problem, not the first.
 *
 * @param reading.asideFrom the file's name, where what cannot be read of it is set aside and the rest is taken: one odd entry of an
 * archive bars no yard. Without it anything that cannot be read refuses the whole
 * @param reading.book the programs of the yard that reads it
 * @param now ISO 8601; events later than this are kept with a warning: a clock that was wrong, or a year mistyped
 * @returns the record, and apart from it the own programs that came along: whoever takes it in decides whether they are taken too
 */
export function parseRecord(input: unknown, now: string, { asideFrom, book }: Reading = {}): ParsedRecord {
  const isObject = typeof input === "object" && input !== null && !Array.isArray(input);
  const { horseEvents: ofHorse, outings: parts } = (isObject ? input : {}) as Record<string, unknown>;
  const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
  const head = isObject ? { ...input, horseEvents: withoutItems(ofHorse), outings: withoutItems(parts) } : input;
  const reader = new RecordReader(head, list(ofHorse).map(programChosenBy), now, { asideFrom, book });
  const horseEvents = list(ofHorse).flatMap((event, index) => reader.horseEvent(event, index) ?? []);
  const outings = list(parts).flatMap((outing, index) => reader.outing(outing, index) ?? []);
  const unfit = reader.checkCorrections([...outings.flatMap((outing) => outing.events), ...horseEvents]);
  const read = reader.end();
  if (!read.ok) return read;
  const { head: rest, ...said } = read;
  const fitting = (events: RecordEvent[]): RecordEvent[] =>
    unfit.size === 0 ? events : events.filter(({ id }) => !unfit.has(id));
  const record = {
    ...rest,
    horseEvents: fitting(horseEvents),
    outings: outings.map((outing) => ({ ...outing, events: fitting(outing.events) })),
  } as HorseRecord;
  return { record, ...said };
}

/** A list without what is in it; anything else stays, to be named as what it is. */
const withoutItems = (value: unknown): unknown => (Array.isArray(value) ? [] : value);

/** The id of the program that an entry of the horse's own chooses; empty where it chooses none. */
export const programChosenBy = (event: unknown): string =>
  typeof event === "object" && event !== null ? String((event as { program?: unknown }).program) : "";
