import type { PoolClient } from "pg";
import type { Conflict, ImportedHorse } from "@still-pine/contract/http";
import type { HorseRecord, RecordEvent } from "@still-pine/core/record";
import { shown } from "@still-pine/contract/record";
import { addHorse } from "../read-models/rebuild";
import { findHorse } from "./horses";
import { eventsById, horsesOfOutings } from "./events";
import { loadLabels, withLabels } from "./labels";
import { extraOf, toEvents } from "./record";
import { take } from "./take-events";
import type { Yard } from "./yard";

/** Conflicts that are told one by one. */
const CONFLICTS_SHOWN = 200;

/**
 * Stores a record as a new horse, or adds what is new to the horse it belongs to. What is there already with other content
 * stays as it is and is named.
 */
export async function storeRecord(
  client: PoolClient,
  yard: Yard,
  record: HorseRecord,
  now: string,
): Promise<ImportedHorse> {
  const { horse } = record;
  const isNew = await addHorse(client, yard, horse, record.program.id, now, extraOf(record));
  const own = await findHorse(client, yard.id, horse.id);
  const there = await horsesOfOutings(
    client,
    yard.id,
    record.outings.map(({ id }) => id),
  );
  const events = toEvents(record).map(({ outing, event }) => ({ horse: horse.id, outing, event }));
  const { results } = await take(client, yard, events, now);
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
