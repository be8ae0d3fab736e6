import type { Pool } from "pg";
import { v7 } from "uuid";
import { dayIn, type YardId } from "@still-pine/core/record";
import { buildDemoYard, DEMO_SHOWS, DEMO_YARD, type Random } from "@still-pine/core/simulated";
import { inTransaction, type Db } from "../db/pool";
import { inPieces, storeRecord } from "../recording/import";
import { isDemoAlone, markAsDemo } from "../store/demo";
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
    await markAsDemo(client, yard.id);
    return yard;
  });
}

/** Whether a yard is the demo and nothing else: no horse and no entry in it is a person's own. */
export const isNothingButDemo = (db: Db, yardId: YardId): Promise<boolean> =>
  isDemoAlone(db, yardId, { name: DEMO_YARD.name, horses: [...DEMO_SHOWS.keys()] });
