import type { Pool } from "pg";
import type { HorsePack, PackView } from "@still-pine/contract/http";
import { BRIEF_OUTINGS } from "@still-pine/contract/views";
import type { RecordEvent, HorseId, OutingId, YardId } from "@still-pine/core/record";
import { inSnapshot, type Db } from "../db/pool";
import { correctionsOf } from "../store/corrections";
import { eventsOfOutings, horseEventsOf, type StoredEvent } from "../store/events";
import { markOfHorse, marksOfHorses, readFold } from "../store/horse-states";
import { findHorse } from "../store/horses";
import { lateOutings } from "../store/outings";
import { loadLabels } from "../store/labels";
import { listTroubles } from "../store/troubles";
import type { Yard } from "../store/yard";
import { diaryPage, programsOf } from "./stored-yard";

/** What a phone keeps so that it can show and judge a horse without a network. */

export async function packView(db: Pool, yard: Yard): Promise<PackView> {
  const [labels, troubles, horses] = await Promise.all([
    loadLabels(db, yard.id),
    listTroubles(db, yard.id),
    marksOfHorses(db, yard.id),
  ]);
  const { id, name, timeZone, units, words, version, book } = yard;
  return {
    yard: { id, name, timeZone, units, words, version, ...programsOf(book) },
    place: [...labels.place],
    person: [...labels.person],
    horses,
    ...(troubles.length > 0 ? { troubles } : {}),
  };
}

/** Null where the yard has no such horse. */
export function horsePack(db: Pool, yard: Yard, id: string): Promise<HorsePack | null> {
  return inSnapshot(db, async (client) => {
    const horse = await findHorse(client, yard.id, id);
    const fold = horse && (await readFold(client, yard.id, id));
    if (!horse || !fold) return null;
    const ids = (await lateOutings(client, yard.id, id, BRIEF_OUTINGS)).toReversed();
    const ofHorse = await withCorrections(client, yard.id, id, await horseEventsOf(client, yard.id, id));
    const ofOutings = await withCorrections(client, yard.id, id, await eventsOfOutings(client, yard.id, ids));
    const { name, foaled, foaledPrecision, sex, programId, version } = horse;
    return {
      mark: await markOfHorse(client, yard.id, id),
      row: { id, name, foaled, foaledPrecision, sex, programId, version },
      fold: { ...fold },
      ofHorse: ofHorse.map(({ event }) => event),
      outings: ids.map((outing) => ({
        id: outing,
        events: ofOutings.filter(({ outingId }) => outingId === outing).map(({ event }) => event),
      })),
      diary: await diaryPage(client, yard, id, 0, await loadLabels(client, yard.id)),
    };
  });
}

/** Corrections stand with what they correct, wherever they were stored. */
async function withCorrections(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  own: readonly StoredEvent[],
): Promise<{ outingId: OutingId | null; event: RecordEvent }[]> {
  if (own.length === 0) return [];
  const known = new Map(own.map((one) => [one.event.id, one]));
  for (const one of await correctionsOf(db, yardId, horseId, own)) {
    const { event } = one;
    if (known.has(event.id)) continue;
    const target = known.get((event as { replaces?: string }).replaces ?? "");
    known.set(event.id, { ...one, outingId: target ? target.outingId : one.outingId });
  }
  return [...known.values()];
}
