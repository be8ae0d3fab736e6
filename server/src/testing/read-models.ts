import type { HorseId } from "@still-pine/core/record";
import type { Db } from "../db/pool";

/** Everything that is derived from events, as text to compare; of one horse, or of all. */
export async function readModelsAsText(db: Db, horse?: HorseId): Promise<string[]> {
  const tables = ["outing", "ledger", "horse_state"];
  const lines: string[] = [];
  for (const table of tables) {
    const { rows } = await db.query<{ line: string }>(
      `select ${`'${table}'`} || ' ' || to_jsonb(t)::text as line from ${table} t where $1::text is null or horse_id = $1 order by 1`,
      [horse ?? null],
    );
    lines.push(...rows.map(({ line }) => line));
  }
  return lines;
}
