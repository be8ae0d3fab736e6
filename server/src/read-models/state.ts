import type { StringHorse } from "@still-pine/contract/http";
import { judgeFold, type HorseFold, type Standing, type StepWords } from "@still-pine/core/readiness";
import type { Day } from "@still-pine/core/record";
import type { Db } from "../db/pool";
import type { StoredHorse } from "../store/horses";
import type { Yard } from "../store/yard";
import { foldOutings } from "./fold-outings";

/** The stored fold of a horse with the words it gives today. */
interface HorseState {
  fold: HorseFold;
  words: readonly StepWords[];
}

/** Null where nothing of the horse was folded yet. */
export async function readState(db: Db, yard: Yard, horse: StoredHorse, today: Day): Promise<HorseState | null> {
  const { rows } = await db.query<{ fold: HorseFold; judged_on: Day; line: StringHorse }>(
    "select fold, judged_on, line from horse_state where yard_id = $1 and horse_id = $2",
    [yard.id, horse.id],
  );
  const [row] = rows;
  if (!row) return null;
  const words =
    row.judged_on === today ? row.line.trail : (await judgeStored(db, yard, horse, row.fold, today)).judgements;
  return { fold: row.fold, words };
}

/** The stored fold of a horse; null where nothing of it was folded yet. */
export async function readFold(db: Db, yardId: string, horseId: string): Promise<HorseFold | null> {
  const { rows } = await db.query<{ fold: HorseFold }>(
    "select fold from horse_state where yard_id = $1 and horse_id = $2",
    [yardId, horseId],
  );
  return rows[0]?.fold ?? null;
}

/** Verdicts of a stored fold: only the latest outing is read. */
export async function judgeStored(
  db: Db,
  yard: Yard,
  horse: StoredHorse,
  fold: HorseFold,
  today: Day,
): Promise<Standing> {
  const open = fold.open ? (await foldOutings(db, yard, horse, [fold.open.id])).outings[0] : undefined;
  return judgeFold(fold, open ?? null, today, yard.book);
}

interface NewState {
  fold: HorseFold;
  line: StringHorse;
  horse: StoredHorse;
  today: Day;
}

export async function writeState(db: Db, yardId: string, { fold, line, horse, today }: NewState): Promise<void> {
  await db.query(
    `insert into horse_state (yard_id, horse_id, fold, judged_on, line) values ($1, $2, $3, $4, $5)
     on conflict (yard_id, horse_id) do update set fold = excluded.fold, judged_on = excluded.judged_on, line = excluded.line`,
    [yardId, horse.id, JSON.stringify(fold), today, JSON.stringify(line)],
  );
}

/** Horses of the yard whose line is missing, or was made for another day than this. */
export async function horsesToJudge(db: Db, yardId: string, today: Day): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select h.id from horse h left join horse_state s on s.yard_id = h.yard_id and s.horse_id = h.id
     where h.yard_id = $1 and s.judged_on is distinct from $2::date order by h.id`,
    [yardId, today],
  );
  return rows.map(({ id }) => id);
}

/** The lines of the string as they lie there, in the order of names. */
export async function readLines(db: Db, yardId: string): Promise<string[]> {
  const { rows } = await db.query<{ line: string }>(
    `select s.line::text as line from horse_state s join horse h on h.yard_id = s.yard_id and h.id = s.horse_id
     where s.yard_id = $1 and h.buried_at is null order by h.name, h.id`,
    [yardId],
  );
  return rows.map(({ line }) => line);
}
