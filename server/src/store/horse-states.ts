import type { StringHorse } from "@still-pine/contract/http";
import type { HorseFold } from "@still-pine/core/readiness";
import type { DaySums } from "@still-pine/core/evidence";
import type { Day, HorseId, YardId } from "@still-pine/core/record";
import type { Db } from "../db/pool";

/** What was folded of each horse, and his line of the string. All of it is derived and can be made anew. */

interface StoredState {
  fold: HorseFold;
  /** The day his line is of. */
  judgedOn: Day;
  line: StringHorse;
}

/** Null where nothing of the horse was folded yet. */
export async function findState(db: Db, yardId: YardId, horseId: HorseId): Promise<StoredState | null> {
  const { rows } = await db.query<StoredState>(
    `select fold, judged_on as "judgedOn", line from horse_state where yard_id = $1 and horse_id = $2`,
    [yardId, horseId],
  );
  return rows[0] ?? null;
}

/** The stored fold of a horse; null where nothing of it was folded yet. */
export async function readFold(db: Db, yardId: YardId, horseId: HorseId): Promise<HorseFold | null> {
  const { rows } = await db.query<{ fold: HorseFold }>(
    "select fold from horse_state where yard_id = $1 and horse_id = $2",
    [yardId, horseId],
  );
  return rows[0]?.fold ?? null;
}

export async function writeState(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  { fold, judgedOn, line }: StoredState,
): Promise<void> {
  await db.query(
    `insert into horse_state (yard_id, horse_id, fold, judged_on, line) values ($1, $2, $3, $4, $5)
     on conflict (yard_id, horse_id) do update set fold = excluded.fold, judged_on = excluded.judged_on, line = excluded.line`,
    [yardId, horseId, JSON.stringify(fold), judgedOn, JSON.stringify(line)],
  );
}

/** Horses of the yard whose line is missing, or was made for another day than this. */
export async function horsesToJudge(db: Db, yardId: YardId, today: Day): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select h.id from horse h left join horse_state s on s.yard_id = h.yard_id and s.horse_id = h.id
     where h.yard_id = $1 and s.judged_on is distinct from $2::date order by h.id`,
    [yardId, today],
  );
  return rows.map(({ id }) => id);
}

/** Horses that none of these versions of judge and program has folded. */
export async function horsesNotFoldedBy(db: Db, yardId: YardId, judges: readonly string[]): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select h.id from horse h left join horse_state s on s.yard_id = h.yard_id and s.horse_id = h.id
     where h.yard_id = $1 and not coalesce(s.judge = any($2), false) order by h.id`,
    [yardId, judges],
  );
  return rows.map(({ id }) => id);
}

/** Horses that go by a program. */
export async function horsesGoingBy(db: Db, yardId: YardId, programId: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    "select horse_id as id from horse_state where yard_id = $1 and program_id = $2 order by horse_id",
    [yardId, programId],
  );
  return rows.map(({ id }) => id);
}

/** Horses that go by a program whose id begins so. */
export async function horsesGoingByAny(db: Db, yardId: YardId, beginning: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    "select horse_id as id from horse_state where yard_id = $1 and starts_with(program_id, $2)",
    [yardId, beginning],
  );
  return rows.map(({ id }) => id);
}

/** What each horse's record says of how asks of one day hang together, his latest outing left out. */
export async function readDaySums(db: Db, yardId: YardId): Promise<DaySums[]> {
  const { rows } = await db.query<{ sums: DaySums }>(
    `select s.day_sums as sums from horse_state s join horse h on h.yard_id = s.yard_id and h.id = s.horse_id
     where s.yard_id = $1 and h.buried_at is null and s.day_sums is not null order by h.id`,
    [yardId],
  );
  return rows.map(({ sums }) => sums);
}

/** The lines of the string as they lie there, in the order of names. */
export async function readLines(db: Db, yardId: YardId): Promise<string[]> {
  const { rows } = await db.query<{ line: string }>(
    `select s.line::text as line from horse_state s join horse h on h.yard_id = s.yard_id and h.id = s.horse_id
     where s.yard_id = $1 and h.buried_at is null order by h.name, h.id`,
    [yardId],
  );
  return rows.map(({ line }) => line);
}

/** How far the record of each horse of the string has come, in the order of names: another mark is something new of him. */
export async function marksOfHorses(db: Db, yardId: YardId): Promise<{ id: string; mark: string }[]> {
  const { rows } = await db.query<{ id: string; mark: string }>(
    `select h.id, ${MARK} as mark from ${OF_HORSE} where h.yard_id = $1 and h.buried_at is null order by h.name, h.id`,
    [yardId],
  );
  return rows;
}

/** How far the record of one horse has come. */
export async function markOfHorse(db: Db, yardId: YardId, horseId: HorseId): Promise<string> {
  const { rows } = await db.query<{ mark: string }>(
    `select ${MARK} as mark from ${OF_HORSE} where h.yard_id = $1 and h.id = $2`,
    [yardId, horseId],
  );
  return rows[0]?.mark ?? "";
}

const MARK = `h.version::text || '.' || coalesce((
  select max(e.arrival) from event e where e.yard_id = h.yard_id and e.horse_id = h.id), 0)::text || '.' || s.judge`;
const OF_HORSE = "horse h join horse_state s on s.yard_id = h.yard_id and s.horse_id = h.id";
