import type { YardId } from "@still-pine/core/record";
import type { Db } from "../db/pool";

/** Everything the yard holds now is the demo's; what comes in later is a person's own. */
export async function markAsDemo(db: Db, yardId: YardId): Promise<void> {
  await db.query("update yard set demo_until = (select max(arrival) from event where yard_id = $1) where id = $1", [
    yardId,
  ]);
}

/**
 * Whether a yard is the demo and nothing else: no horse and no entry in it is a person's own. Of one that was made before this
 * was kept only the horses' names and the times of its entries tell; in doubt it is a person's own.
 */
export async function isDemoAlone(
  db: Db,
  yardId: YardId,
  demo: { name: string; horses: readonly string[] },
): Promise<boolean> {
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
    [yardId, demo.name, demo.horses],
  );
  return rows[0]?.isDemo === true;
}
