import type { OutingPlanBody, RunningView } from "@still-pine/contract/http";
import type { RecordEvent, HorseId, OutingId, YardId } from "@still-pine/core/record";
import type { Db } from "../db/pool";
import type { Labels } from "./labels";

export interface Arrived {
  arrival: number;
  event: RecordEvent;
}

/** Events of an outing that came in after another, in the order of coming in. */
export async function eventsAfter(
  db: Db,
  yardId: YardId,
  outing: OutingId,
  after: number,
  most: number,
): Promise<Arrived[]> {
  const { rows } = await db.query<{ arrival: string; body: RecordEvent }>(
    `select arrival, body from event where yard_id = $1 and outing_id = $2 and arrival > $3 order by arrival limit $4`,
    [yardId, outing, after, most],
  );
  return rows.map(({ arrival, body }) => ({ arrival: Number(arrival), event: body }));
}

const RUNNING_HOURS = 24;

/** Outings begun within the last day, or in a future that a wrong clock made, and not ended. */
export async function runningOutings(db: Db, yardId: YardId, labels: Labels, now: string): Promise<RunningView> {
  const { rows } = await db.query<{
    outing: OutingId;
    horse: HorseId;
    horseName: string;
    at: Date;
    place: string | null;
    handler: string | null;
  }>(
    `select o.id as outing, h.id as horse, h.name as "horseName", s.at, o.place, o.handler
     from event s
     join outing o on o.yard_id = s.yard_id and o.id = s.outing_id
     join horse h on h.yard_id = o.yard_id and h.id = o.horse_id
     where s.yard_id = $1 and s.type = 'outing-start' and s.is_live
       and s.stored_at > $2::timestamptz - make_interval(hours => $3)
       and h.buried_at is null
       and not exists (select 1 from event e where e.yard_id = s.yard_id and e.outing_id = s.outing_id and e.type = 'outing-end')
     order by s.at, o.id`,
    [yardId, now, RUNNING_HOURS],
  );
  return rows.map(({ at, place, handler, ...row }) => ({
    ...row,
    startedAt: at.toISOString(),
    place: place === null ? null : (labels.place.get(place) ?? place),
    handler: handler === null ? null : (labels.person.get(handler) ?? handler),
  }));
}

/** Keeps what an outing set out with; the first one said stays. */
export async function keepPlan(db: Db, yardId: YardId, outing: OutingId, plan: OutingPlanBody): Promise<void> {
  await db.query(
    "insert into outing_plan (yard_id, outing_id, plan) values ($1, $2, $3) on conflict (yard_id, outing_id) do nothing",
    [yardId, outing, JSON.stringify(plan)],
  );
}

export async function findPlan(db: Db, yardId: YardId, outing: OutingId): Promise<OutingPlanBody | null> {
  const { rows } = await db.query<{ plan: OutingPlanBody }>(
    "select plan from outing_plan where yard_id = $1 and outing_id = $2",
    [yardId, outing],
  );
  return rows[0]?.plan ?? null;
}
