import { createHash } from "node:crypto";
import type { ProgramBook } from "@still-pine/core/programs";
import { Tokenizer, TokenParser, TokenType } from "@streamparser/json";
import {
  canonical,
  parseRecord,
  programChosenBy,
  PROBLEMS_SHOWN,
  RecordReader,
  type InputProblem,
  type Known,
  type ReadThrough,
} from "@still-pine/contract/record";
import { isCorrection, type Outing, type RecordEvent } from "@still-pine/core/record";
import { jsonMistake } from "../refusals/json-mistake";
import { Refusal } from "../refusals/refusal";
import { ItemsOnDisk } from "./items-on-disk";

/** A record file, to be read any number of times. */
export interface RecordFile {
  bytes: number;
  open(): AsyncIterable<Buffer>;
}

/** A record file that has been read and is sound, with the own programs it goes by. Its entries may be gone through again and again. */
export interface ReadRecord extends Omit<Extract<ReadThrough, { ok: true }>, "ok"> {
  horseEvents: Iterable<RecordEvent>;
  outings: Iterable<Outing>;
  /** Lets go of what it lies in. */
  close(): Promise<void>;
}

/** Larger files are read piece by piece, from the disk; smaller ones at once, which is quicker. */
const WHOLE_MOST_BYTES = 8 * 1024 * 1024;
/** An entry is one object or a few; a record as large as may be has some two million entries. */
const PARTS_MOST = 6_000_000;
const LIST = 0x5b;
const OBJECT = 0x7b;
const NEW_LINE = 0x0a;

/**
 * Reads a record file, or says what is wrong with it.
 *
 * @param book of the yard that reads it
 * @param name of the file in an archive; there what cannot be read of a record is set aside, and the rest of it taken
 * @param wholeMost bytes; a larger file is read piece by piece
 */
export async function readRecord(
  file: RecordFile,
  book: ProgramBook,
  now: string,
  name?: string,
  wholeMost = WHOLE_MOST_BYTES,
): Promise<ReadRecord> {
  await refuseManyParts(file, name);
  return file.bytes > wholeMost ? readInPieces(file, book, now, name) : readWhole(file, book, now, name);
}

/** Lists and objects of a JSON text, and signs in its words that look like them: counted before it is taken apart, which costs memory for each. */
async function refuseManyParts(file: RecordFile, name?: string): Promise<void> {
  let count = 0;
  for await (const piece of file.open()) {
    for (const byte of piece) if (byte === LIST || byte === OBJECT) count += 1;
    if (count > PARTS_MOST)
      throw new Refusal(
        "refused",
        "Not a horse record",
        `${fileInWords(name)} has more than ${PARTS_MOST / 1_000_000} million lists and objects; no record has. Nothing was stored.`,
      );
  }
}

const fileInWords = (name: string | undefined): string => name ?? "The file";

const notJson = (name: string | undefined, mistake: string, cause: unknown): Refusal =>
  new Refusal("unreadable", "Bad input", `${fileInWords(name)} is not JSON: ${mistake}`, {}, { cause });

const notARecord = (name: string | undefined, problems: readonly InputProblem[]): Refusal =>
  new Refusal("refused", "Not a horse record", `${fileInWords(name)} cannot be read as a horse record.`, {
    errors: problems.slice(0, PROBLEMS_SHOWN),
  });

async function readWhole(file: RecordFile, book: ProgramBook, now: string, name?: string): Promise<ReadRecord> {
  const pieces: Buffer[] = [];
  for await (const piece of file.open()) pieces.push(piece);
  const text = Buffer.concat(pieces).toString("utf8");
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (cause) {
    throw notJson(name, jsonMistake(text), cause);
  }
  const read = parseRecord(json, now, { asideFrom: name, book });
  if (!read.ok) throw notARecord(name, read.problems);
  const { horseEvents, outings, ...head } = read.record;
  return { ...read, head, horseEvents, outings, close: () => Promise.resolve() };
}

/** Taken apart once and laid down, looked through, and laid down again as it will be taken in. */
async function readInPieces(file: RecordFile, book: ProgramBook, now: string, name?: string): Promise<ReadRecord> {
  const apart = { horseEvents: await ItemsOnDisk.open(), outings: await ItemsOnDisk.open() };
  const sound = { horseEvents: await ItemsOnDisk.open<RecordEvent>(), outings: await ItemsOnDisk.open<Outing>() };
  const close = async (): Promise<void> => {
    await sound.horseEvents.close();
    await sound.outings.close();
  };
  try {
    const chosen = new Set<string>();
    const head = await takeApart(file, name, {
      horseEvents: (event) => {
        chosen.add(programChosenBy(event));
        apart.horseEvents.add(event);
      },
      outings: (outing) => apart.outings.add(outing),
    });
    const reader = new RecordReader(head, [...chosen], now, { asideFrom: name, known: byPrint, book });
    const corrected = new Set<string>();
    const notice = (event: RecordEvent): void => {
      if (isCorrection(event)) corrected.add(event.replaces);
    };
    let place = 0;
    for (const input of apart.horseEvents) {
      const event = reader.horseEvent(input, place++);
      if (!event) continue;
      notice(event);
      sound.horseEvents.add(event);
    }
    place = 0;
    for (const input of apart.outings) {
      const outing = reader.outing(input, place++);
      if (!outing) continue;
      outing.events.forEach(notice);
      sound.outings.add(outing);
    }
    const concerned: RecordEvent[] = [];
    if (corrected.size > 0)
      for (const event of everyEvent(sound)) if (isCorrection(event) || corrected.has(event.id)) concerned.push(event);
    const unfit = reader.checkCorrections(concerned);
    const read = reader.end();
    if (!read.ok) throw notARecord(name, read.problems);
    return { ...read, ...(unfit.size === 0 ? sound : without(sound, unfit)), close };
  } catch (cause) {
    await close();
    throw cause;
  } finally {
    await apart.horseEvents.close();
    await apart.outings.close();
  }
}

const LISTS = ["horseEvents", "outings"] as const;
type ListName = (typeof LISTS)[number];
const isList = (key: unknown): key is ListName => LISTS.some((one) => one === key);

/** Gives on the items of the long lists one by one. @returns the rest of the record, with these lists empty */
async function takeApart(
  file: RecordFile,
  name: string | undefined,
  onItem: Record<ListName, (item: unknown) => void>,
): Promise<unknown> {
  const head: Record<string, unknown> = {};
  let root: unknown;
  let at = 0;
  let isFirst = true;
  const tokenizer = new Tokenizer();
  const parser = new TokenParser({ paths: ["$.*", ...LISTS.map((list) => `$.${list}.*`)], keepStack: false });
  tokenizer.onToken = (token) => {
    at = token.offset;
    if (isFirst)
      root = token.token === TokenType.LEFT_BRACE ? head : token.token === TokenType.LEFT_BRACKET ? [] : token.value;
    isFirst = false;
    parser.write(token);
  };
  parser.onValue = ({ value, key, parent, stack }) => {
    const list = stack[1]?.key;
    if (stack.length === 2 && isList(list) && Array.isArray(parent)) onItem[list](value);
    if (stack.length !== 1 || root !== head || key === undefined) return;
    if (isList(key) && key in head) throw notARecord(name, [{ path: key, expected: "one list", found: "two lists" }]);
    setField(head, String(key), isList(key) && Array.isArray(value) ? [] : value);
  };
  try {
    for await (const piece of file.open()) tokenizer.write(piece);
    tokenizer.end();
    if (!parser.isEnded) parser.end();
  } catch (cause) {
    if (cause instanceof Refusal) throw cause;
    throw notJson(name, `something is wrong at or after ${await placeIn(file, at)}`, cause);
  }
  return root;
}

/** Any key is a field of the object alone. */
const setField = (object: object, key: string, value: unknown): void => {
  Object.defineProperty(object, key, { value, writable: true, enumerable: true, configurable: true });
};

/** A place in a text file as a person finds it. */
async function placeIn(file: RecordFile, offset: number): Promise<string> {
  let line = 1;
  let column = 1;
  let at = 0;
  for await (const piece of file.open())
    for (const byte of piece) {
      if (at === offset) return `line ${line}, column ${column}`;
      at += 1;
      column = byte === NEW_LINE ? 1 : column + 1;
      if (byte === NEW_LINE) line += 1;
    }
  return "its end";
}

/** That another entry under the same id has the same 48 bits of SHA-256 happens once in 300 million million. */
const byPrint: Known = {
  keep: (event) => printOf(event),
  isSame: (kept, event) => kept === printOf(event),
};
const PRINT_BYTES = 6;
const printOf = (event: RecordEvent): number =>
  createHash("sha256").update(canonical(event)).digest().readUIntBE(0, PRINT_BYTES);

type Entries = Pick<ReadRecord, "horseEvents" | "outings">;

function* everyEvent({ horseEvents, outings }: Entries): Generator<RecordEvent> {
  for (const { events } of outings) yield* events;
  yield* horseEvents;
}

/** Entries but those of these ids. */
function without({ horseEvents, outings }: Entries, ids: ReadonlySet<string>): Entries {
  const fits = ({ id }: RecordEvent): boolean => !ids.has(id);
  return {
    horseEvents: mapped(horseEvents, (event) => (fits(event) ? event : null)),
    outings: mapped(outings, (outing) => ({ ...outing, events: outing.events.filter(fits) })),
  };
}

const mapped = <Item>(items: Iterable<Item>, change: (item: Item) => Item | null): Iterable<Item> => ({
  *[Symbol.iterator]() {
    for (const item of items) {
      const changed = change(item);
      if (changed !== null) yield changed;
    }
  },
});
