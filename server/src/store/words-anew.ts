import type { WordAnew } from "@still-pine/core/readiness";
import type { HorseId, YardId } from "@still-pine/core/record";
import type { Db } from "../db/pool";

/** Words that an update of the judge found otherwise, and that nobody has read of yet. */
export interface HorseAnew {
  horse: HorseId;
  words: WordAnew[];
}

/** By the names of the horses. */
export async function listWordsAnew(db: Db, yardId: YardId): Promise<HorseAnew[]> {
  const { rows } = await db.query<HorseAnew>(
    `select w.horse_id as horse, w.words from words_anew w join horse h on h.yard_id = w.yard_id and h.id = w.horse_id
     where w.yard_id = $1 and h.buried_at is null order by h.name, h.id`,
    [yardId],
  );
  return rows;
}

/** Keeps what an update changed. What an earlier one changed and nobody has read yet is told with it, from the word before that. */
export async function keepWordsAnew(db: Db, yardId: YardId, horse: HorseId, words: readonly WordAnew[]): Promise<void> {
  const { rows } = await db.query<HorseAnew>("select words from words_anew where yard_id = $1 and horse_id = $2", [
    yardId,
    horse,
  ]);
  const earlier = new Map(rows[0]?.words.map((one) => [one.step, one]));
  const later = new Set(words.map(({ step }) => step));
  const both = [
    ...[...earlier.values()].filter(({ step }) => !later.has(step)),
    ...words.map((one) => ({ ...one, from: earlier.get(one.step)?.from ?? one.from })),
  ].filter(({ from, to }) => from !== to);
  if (both.length === 0) await db.query("delete from words_anew where yard_id = $1 and horse_id = $2", [yardId, horse]);
  else
    await db.query(
      `insert into words_anew (yard_id, horse_id, words) values ($1, $2, $3)
       on conflict (yard_id, horse_id) do update set words = excluded.words`,
      [yardId, horse, JSON.stringify(both)],
    );
}

/** They were read: said once is enough. */
export async function dropWordsAnew(db: Db, yardId: YardId): Promise<void> {
  await db.query("delete from words_anew where yard_id = $1", [yardId]);
}
