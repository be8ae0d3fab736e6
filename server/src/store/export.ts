import type { PoolClient } from "pg";
import { outingToText, recordClosing, recordOpening, recordToText } from "@still-pine/contract/record";
import { toOuting } from "@still-pine/contract/views";
import type { RecordEvent, HorseId, YardId } from "@still-pine/core/record";
import { eventsOfHorseAtMost, eventsOfOutings, horseEventsOf } from "./events";
import type { StoredHorse } from "./horses";
import { loadLabels, withLabels } from "./labels";
import { programsOfHorse } from "./programs";
import { toRecord, toRecordHead } from "./record";
import type { Yard } from "./yard";

/** Events read at a time: enough to keep the database busy, few enough to keep memory flat. */
const EVENTS_AT_A_TIME = 4000;

/**
 * A horse's record file, piece by piece, outing by outing; the same bytes as `recordToText`. Run it in one transaction that
 * sees one moment.
 */
export async function* recordPieces(client: PoolClient, yard: Yard, horse: StoredHorse): AsyncGenerator<string> {
  const labels = await loadLabels(client, yard.id);
  const own = yard.book.files.length > 0 ? await programsOfHorse(client, yard.id, horse) : [];
  const programs = own.length > 0 ? { programs: own } : {};
  const all = await eventsOfHorseAtMost(client, yard.id, horse.id, EVENTS_AT_A_TIME);
  if (all) {
    yield recordToText({ ...toRecord(yard, horse, all, labels), ...programs });
    return;
  }
  const ofHorse = await horseEventsOf(client, yard.id, horse.id);
  yield recordOpening(
    { ...toRecordHead(yard, horse), ...programs },
    ofHorse.map(({ event }) => withLabels(event, labels)),
  );
  let written = 0;
  for (const ids of inGroups(await outingsInOrder(client, yard.id, horse.id))) {
    const byOuting = new Map<string, RecordEvent[]>(ids.map((id) => [id, []]));
    for (const { outingId, event } of await eventsOfOutings(client, yard.id, ids))
      byOuting.get(outingId ?? "")?.push(withLabels(event, labels));
    let text = "";
    for (const [id, events] of byOuting) text += outingToText(toOuting(id, events), written++);
    yield text;
  }
  yield recordClosing(written);
}

interface OutingSize {
  id: string;
  start: number;
  events: number;
}

/** Outings by their start, as the file has them. */
async function outingsInOrder(client: PoolClient, yardId: YardId, horseId: HorseId): Promise<OutingSize[]> {
  const { rows } = await client.query<{ id: string; start: Date; events: number; measured: boolean }>(
    `select outing_id as id, coalesce(max(at) filter (where type = 'outing-start'), min(at)) as start, count(*)::int as events,
       bool_or(type = 'clock-skew') as measured
     from event where yard_id = $1 and horse_id = $2 and outing_id is not null group by outing_id`,
    [yardId, horseId],
  );
  const sizes: OutingSize[] = [];
  for (const { id, start, events, measured } of rows) {
    // A clock that was out and was measured: the start is where the whole outing says it was.
    const whole = measured ? await eventsOfOutings(client, yardId, [id]) : [];
    const at = measured
      ? Date.parse(
          toOuting(
            id,
            whole.map(({ event }) => event),
          ).startedAt,
        )
      : start.getTime();
    sizes.push({ id, start: at, events });
  }
  return sizes.toSorted((a, b) => a.start - b.start || (a.id < b.id ? -1 : 1));
}

function* inGroups(outings: readonly OutingSize[]): Generator<string[]> {
  let group: string[] = [];
  let events = 0;
  for (const outing of outings) {
    group.push(outing.id);
    events += outing.events;
    if (events < EVENTS_AT_A_TIME) continue;
    yield group;
    group = [];
    events = 0;
  }
  if (group.length > 0) yield group;
}
