import type { PoolClient } from "pg";
import {
  bringUp,
  describeChanges,
  isInWork,
  judgeFold,
  readAbout,
  type Standing,
  type VerdictChange,
} from "@still-pine/core/readiness";
import { dayIn, isClockSkew, type Day, type FoldedOuting, type OutingId } from "@still-pine/core/record";
import { isStoredCorrection, targetsOf } from "../store/corrections";
import type { StoredEvent } from "../store/events";
import type { StoredHorse } from "../store/horses";
import type { Yard } from "../store/yard";
import { dropRows, writeLedger, type LedgerRow } from "../store/ledger-rows";
import { writeOutings } from "../store/outings";
import { horseRows, outingRows } from "./ledger-rows";
import { foldHorseEvents, foldOutings } from "./fold-outings";
import { keepState, readState } from "./state";
import { gatherHorse } from "./gather-horse";

/**
 * Brings the read models of one horse up to events just stored, in the same transaction. Reads the outings that were
 * touched and goes on from the stored fold; only what changes an older outing reads the whole record.
 *
 * @param fresh the events that are new, of this horse
 * @param isNewOuting whether an outing has its first entry among them; any other may be within the fold already
 * @returns what they changed in the verdicts
 */
export async function updateReadModels(
  client: PoolClient,
  yard: Yard,
  horse: StoredHorse,
  fresh: readonly StoredEvent[],
  isNewOuting: (outing: OutingId) => boolean,
  now: string,
): Promise<VerdictChange[]> {
  if (fresh.length === 0) return [];
  const today = dayIn(yard.timeZone, now);
  const targets = await targetsOf(client, yard.id, horse.id, fresh.filter(isStoredCorrection), fresh);
  const concerned = [...targets.values()];
  const touched = new Set(concerned.flatMap(({ outingId }) => outingId ?? []));
  const before = await readState(client, yard, horse, today);
  const fold = before?.fold ?? null;
  // To go on past the open outing it has to be read too.
  const wanted = new Set(touched);
  if (fold?.open) wanted.add(fold.open.id);

  const { outings, folded } = await foldOutings(client, yard, horse, [...wanted]);
  const ofHorse = concerned.some(({ outingId }) => outingId === null)
    ? await foldHorseEvents(client, yard, horse)
    : null;
  const inWork = ofHorse ? isInWork(ofHorse.standing) : (fold?.inWork ?? true);
  const about = ofHorse ? readAbout(ofHorse.standing, yard.timeZone) : fold?.about;

  const up = fold && about ? bringUp(fold, { about, inWork, outings, isNew: isNewOuting }, yard.book) : null;
  const { fold: next, open } = up ?? (await gatherHorse(client, yard, horse));

  const ids = new Set(concerned.map(({ event }) => event.id));
  const rows: LedgerRow[] = [];
  const written = outings.filter((outing) => touched.has(outing.id));
  const moved = await writeOutings(client, yard.id, horse.id, written);
  for (const outing of written)
    rows.push(...outingRows(outing, folded, moved.has(outing.id) || isSeenByTwo(outing) ? null : ids));
  if (ofHorse) rows.push(...horseRows(ofHorse.events, ofHorse.folded, yard.timeZone, ids));
  await writeLedger(client, yard.id, horse.id, rows);

  const standing = judgeFold(next, open, today, yard.book);
  await keepState(client, yard, horse, { fold: next, standing, today });
  return before ? describeChanges(before.words, standing.judgements, standing.program) : [];
}

/**
 * Where two devices wrote, a new entry can change which of two older sightings of one ask counts; a measured clock moves them
 * all.
 */
function isSeenByTwo({ history }: FoldedOuting): boolean {
  const devices = new Set(history.flatMap(({ device }) => device ?? []));
  return devices.size > 1 || history.some(isClockSkew);
}

const ROWS_AT_A_TIME = 2000;

/** Makes everything derived of one horse anew from its events, so many outings at a time. Takes no notice of what stood there before. @returns what he is judged to be now */
export async function rebuildHorse(client: PoolClient, yard: Yard, horse: StoredHorse, today: Day): Promise<Standing> {
  await dropRows(client, yard.id, horse.id);
  const write = async (rows: readonly LedgerRow[]): Promise<void> => {
    for (let from = 0; from < rows.length; from += ROWS_AT_A_TIME)
      await writeLedger(client, yard.id, horse.id, rows.slice(from, from + ROWS_AT_A_TIME), "new");
  };
  const { fold, open, ofHorse } = await gatherHorse(client, yard, horse, async ({ outings, folded }) => {
    await writeOutings(client, yard.id, horse.id, outings);
    await write(outings.flatMap((outing) => outingRows(outing, folded, null)));
  });
  await write(horseRows(ofHorse.events, ofHorse.folded, yard.timeZone, null));
  const standing = judgeFold(fold, open, today, yard.book);
  await keepState(client, yard, horse, { fold, standing, today });
  return standing;
}
