import type { Pool, PoolClient } from "pg";
import type { NamedProgram } from "@still-pine/core/programs";
import { currentJudges, wordsAnew } from "@still-pine/core/readiness";
import { dayIn, type Horse } from "@still-pine/core/record";
import { inTransaction } from "../db/pool";
import { insertHorse, listHorses, lockAllHorses, lockHorses, type StoredHorse } from "../store/horses";
import { holdYard, type Yard } from "../store/yard";
import { findState, horsesGoingBy, horsesNotFoldedBy, readFold } from "../store/horse-states";
import { keepWordsAnew } from "../store/words-anew";
import { judgeStored, keepState } from "./state";
import { rebuildHorse } from "./update";

/** Stores a new horse with its read models. Sent twice it changes nothing; returns whether it was new. */
export async function addHorse(
  client: PoolClient,
  said: Yard,
  horse: Horse,
  program: NamedProgram,
  now: string,
  extra: Record<string, unknown> = {},
): Promise<boolean> {
  const yard = await holdYard(client, said);
  const isNew = await insertHorse(client, yard.id, horse, program, extra);
  if (isNew) await rebuildLocked(client, yard, horse.id, now);
  return isNew;
}

/** Makes all read models of the yard anew from the events, horse by horse. Returns how many horses that were. */
export async function rebuildYard(db: Pool, yard: Yard, now: string): Promise<number> {
  const horses = await listHorses(db, yard.id);
  await rebuildHorses(
    db,
    yard,
    horses.map(({ id }) => id),
    now,
  );
  return horses.length;
}

/**
 * Makes the read models of horses that have none, or that another version of judge or program made: after an update of Still Pine. Words
 * that it finds otherwise are kept, to be told once.
 */
export async function rebuildMissing(db: Pool, yard: Yard, now: string): Promise<number> {
  const ids = await horsesNotFoldedBy(db, yard.id, currentJudges(yard.book));
  for (const id of ids)
    await inTransaction(db, async (client) => {
      const held = await holdYard(client, yard);
      const horse = (await lockHorses(client, yard.id, [id])).get(id);
      if (!horse) return;
      const before = await findState(client, yard.id, id);
      const day = dayIn(yard.timeZone, now);
      const { judgements } = await rebuildHorse(client, held, horse, day);
      if (!before) return;
      const words = wordsAnew({ words: before.line.trail, day: before.judgedOn }, { judgements, day });
      if (words.length > 0) await keepWordsAnew(client, yard.id, id, words);
    });
  return ids.length;
}

/** Makes everything derived of these horses anew, each in a transaction of its own. */
export async function rebuildHorses(db: Pool, yard: Yard, ids: readonly string[], now: string): Promise<void> {
  for (const id of ids)
    await inTransaction(db, async (client) => rebuildLocked(client, await holdYard(client, yard), id, now));
}

/** As `rebuildYard`, inside a transaction of the caller's: for a change that touches every day at once. */
export async function rebuildWithin(client: PoolClient, yard: Yard, now: string): Promise<void> {
  const today = dayIn(yard.timeZone, now);
  for (const horse of (await lockAllHorses(client, yard.id)).values()) await rebuildHorse(client, yard, horse, today);
}

/** The same for those horses alone that go by a program: it has a new version. Returns how many horses that were. */
export async function rebuildThoseBy(client: PoolClient, yard: Yard, programId: string, now: string): Promise<number> {
  const ids = await horsesGoingBy(client, yard.id, programId);
  const today = dayIn(yard.timeZone, now);
  for (const horse of (await lockHorses(client, yard.id, ids)).values()) await rebuildHorse(client, yard, horse, today);
  return ids.length;
}

/** Makes everything derived of one horse anew, inside a transaction of the caller's. */
export async function rebuildLocked(client: PoolClient, yard: Yard, id: string, now: string): Promise<void> {
  const horse = (await lockHorses(client, yard.id, [id])).get(id);
  if (horse) await rebuildHorse(client, yard, horse, dayIn(yard.timeZone, now));
}

/** Judges these horses for today from their stored folds, and keeps their lines of the string. */
export async function judgeAnew(db: Pool, yard: Yard, ids: readonly string[], now: string): Promise<void> {
  for (const id of ids)
    await inTransaction(db, async (client) => {
      const held = await holdYard(client, yard);
      const horse = (await lockHorses(client, yard.id, [id])).get(id);
      if (horse) await judgeLocked(client, held, horse, now);
    });
}

/** As `judgeAnew` for one horse that is locked already. */
export async function judgeLocked(client: PoolClient, yard: Yard, horse: StoredHorse, now: string): Promise<void> {
  const today = dayIn(yard.timeZone, now);
  const fold = await readFold(client, yard.id, horse.id);
  if (!fold) {
    await rebuildHorse(client, yard, horse, today);
    return;
  }
  const standing = await judgeStored(client, yard, horse, fold, today);
  await keepState(client, yard, horse, { fold, standing, today });
}
