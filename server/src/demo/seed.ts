import type { Pool } from "pg";
import { v7 } from "uuid";
import { dayIn } from "@still-pine/core/record";
import { buildDemoYard, DEMO_YARD, type Random } from "@still-pine/core/simulated";
import { inTransaction } from "../db/pool";
import { storeRecord } from "../store/import";
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
      await storeRecord(client, yard, record, now);
    return yard;
  });
}
