import type { PoolClient } from "pg";
import type { Conflict, EventResult, ImportedHorse } from "@still-pine/contract/http";
import type { HorseRecord, Outing, RecordEvent, HorseId } from "@still-pine/core/record";
import { namedIn, shown, type RecordHead } from "@still-pine/contract/record";
import { addHorse, rebuildLocked } from "../read-models/rebuild";
import { findHorse } from "../store/horses";
import { eventsById } from "../store/events";
import { loadLabels, withLabels } from "../store/labels";
import { fileApart, filedOutings, horsesOfOutings } from "../store/owners";
import { extraOf, toEvents, type FiledEvent } from "../store/record";
import { take } from "./take-events";
import type { Yard } from "../store/yard";

/** A record whose entries may be more than memory holds: they are gone through from first to last. */
export interface RecordInPieces {
  head: RecordHead;
  horseEvents: Iterable<RecordEvent>;
  outings: Iterable<Outing>;
}

export function inPieces({ horseEvents, outings, ...head }: HorseRecord): RecordInPieces {
  return { head, horseEvents, outings };
}

/** Entries stored at a time: few enough to keep memory flat, enough to keep the database busy. */
const AT_A_TIME = 4000;

/** What is said of the horse itself, then outing by outing: an outing is not taken apart. */
function* inParts({ horseEvents, outings }: RecordInPieces): Generator<Part> {
  let part: Part = { horseEvents: [], outings: [] };
  let events = 0;
  function* grownBy(more: number): Generator<Part> {
    events += more;
    if (events < AT_A_TIME) return;
    yield part;
    part = { horseEvents: [], outings: [] };
    events = 0;
  }
  for (const event of horseEvents) {
    part.horseEvents.push(event);
    yield* grownBy(1);
  }
  for (const outing of outings) {
    part.outings.push(outing);
    yield* grownBy(outing.events.length + STARTS_AND_ENDS);
  }
  if (events > 0) yield part;
}

interface Part {
  horseEvents: RecordEvent[];
  outings: Outing[];
}

/** Entries that an outing of a file may not have and is given. */
const STARTS_AND_ENDS = 2;

/** Conflicts that are told one by one. */
const CONFLICTS_SHOWN = 200;

/** What came of a record so far. */
class Tally {
  stored = 0;
  alreadyThere = 0;
  readonly newOutings = new Set<string>();
  readonly conflicts: Conflict[] = [];

  /** Call before they are stored: those that are nobody's yet are new. */
  async addOutings(client: PoolClient, yard: Yard, outings: readonly Outing[]): Promise<void> {
    const ids = outings.map(({ id }) => id);
    const there = await horsesOfOutings(client, yard.id, ids);
    for (const id of ids) if (!there.has(id)) this.newOutings.add(id);
  }

  add(results: readonly EventResult[], offered: readonly FiledEvent[]): void {
    for (const [index, one] of results.entries()) {
      if (one.result === "stored") this.stored += 1;
      else if (one.result === "already there") this.alreadyThere += 1;
      else
        for (const why of one.why ?? [])
          if (this.conflicts.length < CONFLICTS_SHOWN)
            this.conflicts.push({ ...why, path: one.id, file: offered[index]?.event as RecordEvent });
    }
  }
}

/**
 * Stores a record as a new horse, or adds what is new to the horse it belongs to. What is there already with other content
 * stays as it is and is named.
 *
 * @param isPreview all of it is taken back again: nothing is derived then
 */
export async function storeRecord(
  client: PoolClient,
  yard: Yard,
  record: RecordInPieces,
  now: string,
  isPreview = false,
): Promise<ImportedHorse> {
  const { horse } = record.head;
  // Read by the newest version where none is said, and from then on by its edition.
  const named = namedIn(record.head);
  const isNew = await addHorse(
    client,
    yard,
    horse,
    { ...named, version: named.version ?? yard.book.known(named.id)?.version },
    now,
    extraOf(record.head),
  );
  const own = await findHorse(client, yard.id, horse.id);
  const tally = new Tally();
  for (const field of ["name", "foaled", "foaledPrecision", "sex"] as const)
    if (own && own[field] !== horse[field])
      tally.conflicts.push({ path: `horse.${field}`, expected: shown(own[field]), found: shown(horse[field]) });
  const parts = inParts(record);
  const [first, second] = [parts.next(), parts.next()];
  // A record of many parts is derived once, when all of it is there.
  const isShort = second.done === true;
  const store = async (part: Part): Promise<void> => {
    const leavesDerived = !isShort || isPreview;
    const filed = await fileEach(client, yard, horse.id, part.outings);
    const events = [
      ...part.horseEvents.map((event): FiledEvent => ({ outing: null, event })),
      ...filed.flatMap(toEvents),
    ];
    await tally.addOutings(client, yard, filed);
    const offered = events.map((one) => ({ horse: horse.id, ...one }));
    tally.add((await take(client, yard, offered, now, { leavesDerived })).results, events);
  };
  if (!first.done) await store(first.value);
  if (!second.done) await store(second.value);
  for (const part of parts) await store(part);
  if (!isShort && !isPreview && tally.stored > 0) await rebuildLocked(client, yard, horse.id, now);
  return {
    horse: horse.id,
    name: horse.name,
    isNew,
    stored: tally.stored,
    alreadyThere: tally.alreadyThere,
    outings: tally.newOutings.size,
    media: 0,
    conflicts: await withWhatIsThere(client, yard, tally.conflicts),
  };
}

/** Outings under the ids they are filed under: one that another horse has already is filed apart. */
async function fileEach(client: PoolClient, yard: Yard, horse: HorseId, outings: readonly Outing[]): Promise<Outing[]> {
  const said = [...new Set(outings.map(({ id }) => id))].map((outing) => ({ horse, outing }));
  const filed = await filedOutings(client, yard.id, said);
  const ids = new Map<string, string>();
  for (const one of said) {
    const { id, owner } = filed(one);
    ids.set(one.outing, owner === null || owner === horse ? id : await fileApart(client, yard.id, one));
  }
  return outings.map((outing) => ({ ...outing, id: ids.get(outing.id) ?? outing.id }));
}

/** Conflicts with what is stored under the same ids, as it reads. */
async function withWhatIsThere(client: PoolClient, yard: Yard, conflicts: readonly Conflict[]): Promise<Conflict[]> {
  const ids = conflicts.map(({ path }) => path);
  const stored = new Map((await eventsById(client, yard.id, ids)).map(({ event }) => [event.id, event]));
  const labels = await loadLabels(client, yard.id);
  return conflicts.map((one) => {
    const there = stored.get(one.path);
    return there ? { ...one, there: withLabels(there, labels) } : one;
  });
}
