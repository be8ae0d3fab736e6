import { horseLine } from "@still-pine/contract/views";
import { judgeFold, type HorseFold, type Standing, type StepWords } from "@still-pine/core/readiness";
import type { Day } from "@still-pine/core/record";
import type { Db } from "../db/pool";
import { findState, writeState } from "../store/horse-states";
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
  const stored = await findState(db, yard.id, horse.id);
  if (!stored) return null;
  const { fold, judgedOn, line } = stored;
  const words = judgedOn === today ? line.trail : (await judgeStored(db, yard, horse, fold, today)).judgements;
  return { fold, words };
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

/** Stores what was folded of a horse with the line it gives today. */
export async function keepState(
  db: Db,
  yard: Yard,
  horse: StoredHorse,
  { fold, standing, today }: { fold: HorseFold; standing: Standing; today: Day },
): Promise<void> {
  await writeState(db, yard.id, horse.id, { fold, judgedOn: today, line: horseLine(horse, standing, today) });
}
