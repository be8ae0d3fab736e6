import type { PoolClient } from "pg";
import type { Conflict, EventResult, ImportedHorse } from "@still-pine/contract/http";
import type { HorseRecord, RecordEvent } from "@still-pine/core/record";
import { shown } from "@still-pine/contract/record";
import { addHorse } from "../read-models/rebuild";
import { findHorse } from "./horses";
import { eventsById } from "./events";
import { loadLabels, withLabels } from "./labels";
import { fileApart, filedOutings, horsesOfOutings } from "./owners";
import { extraOf, toEvents } from "./record";
import { take, type Offered } from "./take-events";
import type { Yard } from "./yard";

/** Entries stored at a time: few enough to keep memory flat, enough to keep the database busy. */
const AT_A_TIME = 4000;

/** What is said of the horse itself, then outing by outing: an outing is not taken apart. */
function* inParts(events: readonly Offered[]): Generator<Offered[]> {
  let part: Offered[] = [];
  for (const event of events) {
    if (part.length >= AT_A_TIME && event.outing !== part.at(-1)?.outing) {
      yield part;
      part = [];
    }
    part.push(event);
  }
  if (part.length > 0) yield part;
}

/** Conflicts that are told one by one. */
const CONFLICTS_SHOWN = 200;

/**
 * Stores a record as a new horse, or adds what is new to the horse it belongs to. What is there already with other content
 * stays as it is and is named.
 */
export async function storeRecord(
  client: PoolClient,
  yard: Yard,
  file: HorseRecord,
  now: string,
): Promise<ImportedHorse> {
  const { horse } = file;
  const isNew = await addHorse(client, yard, horse, file.program.id, now, extraOf(file));
  const record = await withFiledOutings(client, yard, file);
  const own = await findHorse(client, yard.id, horse.id);
  const there = await horsesOfOutings(
    client,
    yard.id,
    record.outings.map(({ id }) => id),
  );
  const events = toEvents(record).map(({ outing, event }) => ({ horse: horse.id, outing, event }));
  const results: EventResult[] = [];
  for (const part of inParts(events)) results.push(...(await take(client, yard, part, now)).results);
  const inHead = (["name", "foaled", "foaledPrecision", "sex"] as const).flatMap((field): Conflict[] =>
    own && own[field] !== horse[field]
      ? [{ path: `horse.${field}`, expected: shown(own[field]), found: shown(horse[field]) }]
      : [],
  );
  const inEvents = results.flatMap((one, index): Conflict[] =>
    one.result === "refused"
      ? (one.why ?? []).map((why) => ({ ...why, path: one.id, file: events[index]?.event as RecordEvent }))
      : [],
  );
  const conflicts = [...inHead, ...inEvents].slice(0, CONFLICTS_SHOWN);
  const stored = new Map(
    (
      await eventsById(
        client,
        yard.id,
        conflicts.map(({ path }) => path),
      )
    ).map(({ event }) => [event.id, event]),
  );
  const labels = await loadLabels(client, yard.id);
  return {
    horse: horse.id,
    name: horse.name,
    isNew,
    stored: results.filter((one) => one.result === "stored").length,
    alreadyThere: results.filter((one) => one.result === "already there").length,
    outings: new Set(record.outings.map(({ id }) => id)).size - there.size,
    media: 0,
    conflicts: conflicts.map((one) => {
      const there = stored.get(one.path);
      return there ? { ...one, there: withLabels(there, labels) } : one;
    }),
  };
}

/** A record with its outings under the ids they are filed under: one that another horse has already is filed apart. */
async function withFiledOutings(client: PoolClient, yard: Yard, record: HorseRecord): Promise<HorseRecord> {
  const saidOf = (outing: string) => ({ horse: record.horse.id, outing });
  const filed = await filedOutings(
    client,
    yard.id,
    record.outings.map(({ id }) => saidOf(id)),
  );
  const ids = new Map<string, string>();
  for (const { id } of record.outings) {
    const { id: own, owner } = filed(saidOf(id));
    if (!ids.has(id))
      ids.set(id, owner === null || owner === record.horse.id ? own : await fileApart(client, yard.id, saidOf(id)));
  }
  return { ...record, outings: record.outings.map((outing) => ({ ...outing, id: ids.get(outing.id) ?? outing.id })) };
}
