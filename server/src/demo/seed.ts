import type { Pool } from "pg";
import { v7 } from "uuid";
import { dayIn } from "@still-pine/core/record";
import { buildDemoYard, DEMO_SHOWS, DEMO_YARD, type Random } from "@still-pine/core/simulated";
import { inTransaction, type Db } from "../db/pool";
import { inPieces, storeRecord } from "../store/import";
import { createYard, type Yard } from "../store/yard";

/** A UUIDv7 that is the same for the same seed. */
const seededId = (msecs: number, random: Random): string =>
  v7({
    msecs,
    random: Uint8Array.from({ length: 16 }, () => Math.floor(random() * 256)),
    seq: Math.floor(random() * 2 ** 31),
  });

/** Makes the demo yard: all of it, or nothing. */
export async function seedDemoYard(db: Pool, now: string): Promise<Yard> {
  return inTransaction(db, async (client) => {
    const yard = await createYard(client, DEMO_YARD.name, DEMO_YARD.timeZone);
    for (const record of buildDemoYard(dayIn(yard.timeZone, now), seededId))
      await storeRecord(client, yard, inPieces(record), now);
    await client.query(
      "update yard set demo_until = (select max(arrival) from event where yard_id = $1) where id = $1",
      [yard.id],
    );
    return yard;
  });
}

/**
 * Whether a yard is the demo and nothing else: no horse and no entry in it is a person's own. Of one that was made before this
 * was kept only the horses' names and the times of its entries tell; in doubt it is a person's own.
 */
export async function isNothingButDemo(db: Db, yardId: string): Promise<boolean> {
  const { rows } = await db.query<{ isDemo: boolean }>(
    `select case when y.demo_until is not null then
         not exists (select from event e where e.yard_id = y.id and e.arrival > y.demo_until)
         and not exists (select from horse h where h.yard_id = y.id
           and not exists (select from event e where e.yard_id = y.id and e.horse_id = h.id and e.arrival <= y.demo_until))
       else y.name = $2
         and not exists (select from horse h where h.yard_id = y.id and not h.name = any($3))
         and (select count(*) from horse h where h.yard_id = y.id) = cardinality($3::text[])
         and not exists (select from event e where e.yard_id = y.id and e.at > y.created_at)
       end as "isDemo"
     from yard y where y.id = $1`,
    [yardId, DEMO_YARD.name, [...DEMO_SHOWS.keys()]],
  );
  return rows[0]?.isDemo === true;
}
