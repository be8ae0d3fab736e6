import type { Pool } from "pg";
import type { Db } from "../db/pool";
import {
  DIARY_PAGE,
  type Diary,
  type FeelView,
  type HorseView,
  type OutingSummary,
  type OutingView,
  type StepView,
  type YardView,
} from "@still-pine/contract/http";
import { composeFeel, composeHorse, composeOuting, composeStep, programThen } from "@still-pine/contract/views";
import { dayIn, foldRecord, type Day } from "@still-pine/core/record";
import type { ProgramBook, ProgramFile } from "@still-pine/core/programs";
import { aboutOf, gather, horseProgram, type Standing } from "@still-pine/core/readiness";
import { foldHorseEvents, foldOutings } from "../read-models/fold-outings";
import { horsesToJudge, judgeStored, readFold, readLines } from "../read-models/state";
import { judgeAnew } from "../read-models/rebuild";
import { namesOfRecorders } from "../store/devices";
import { eventsOfHorse } from "../store/events";
import { findHorse, type StoredHorse } from "../store/horses";
import { loadLabels, type Labels } from "../store/labels";
import { filedOutings } from "../store/owners";
import { toRecord } from "../store/record";
import type { Yard } from "../store/yard";

/** The string as JSON. Lines that lie ready for today are handed on as they are. */
export async function stringText(db: Pool, yard: Yard, now: string): Promise<string> {
  const today = dayIn(yard.timeZone, now);
  const stale = await horsesToJudge(db, yard.id, today);
  if (stale.length > 0) await judgeAnew(db, yard, stale, now);
  const [lines, view] = await Promise.all([readLines(db, yard.id), yardOnly(db, yard, now)]);
  return `{"yard":${JSON.stringify(view)},"horses":[${lines.join(",")}]}`;
}

/** A yard's own programs, every version; left out where it has none. */
export const programsOf = ({ files }: ProgramBook): { programs?: readonly ProgramFile[] } =>
  files.length > 0 ? { programs: files } : {};

export async function yardOnly(db: Pool, yard: Yard, now: string): Promise<YardView> {
  return yardView(yard, await loadLabels(db, yard.id), dayIn(yard.timeZone, now));
}

export function yardView({ id: _id, book, ...fields }: Yard, labels: Labels, today: Day): YardView {
  return {
    ...fields,
    ...programsOf(book),
    today,
    places: [...labels.place.values()],
    people: [...labels.person.values()],
  };
}

/** A horse's verdicts of today from its stored fold; null where the yard has no such horse. */
export async function standingOfHorse(
  db: Pool,
  yard: Yard,
  id: string,
  today: Day,
): Promise<{ horse: StoredHorse; standing: Standing } | null> {
  const horse = await findHorse(db, yard.id, id);
  if (!horse) return null;
  const fold = await readFold(db, yard.id, id);
  if (!fold) throw new Error("a horse has no read model: run bin/rebuild");
  return { horse, standing: await judgeStored(db, yard, horse, fold, today) };
}

interface OutingRow {
  id: string;
  day: Day;
  started_at: Date;
  ended_at: Date;
  place: string | null;
  handler: string | null;
  asks: number;
  mishaps: number;
  steps: string[];
}

const summaryOf = (row: OutingRow, labels: Labels): OutingSummary => ({
  id: row.id,
  day: row.day,
  startedAt: row.started_at.toISOString(),
  endedAt: row.ended_at.toISOString(),
  place: row.place === null ? null : (labels.place.get(row.place) ?? row.place),
  handler: row.handler === null ? null : (labels.person.get(row.handler) ?? row.handler),
  asks: row.asks,
  mishaps: row.mishaps,
  steps: row.steps,
});

const OUTING_COLUMNS = "id, day, started_at, ended_at, place, handler, asks, mishaps, steps";

/** A page of a horse's outings, the latest first; null where the yard has no such horse. */
export async function diary(db: Pool, yard: Yard, id: string, skip = 0): Promise<Diary | null> {
  if (!(await findHorse(db, yard.id, id))) return null;
  return outingsOf(db, yard, id, skip, await loadLabels(db, yard.id));
}

/** A page of the diary. */
export async function outingsOf(db: Db, yard: Yard, id: string, skip: number, labels: Labels): Promise<Diary> {
  // One after the other: it may be a single connection that sees one moment.
  const { rows } = await db.query<OutingRow>(
    `select ${OUTING_COLUMNS} from outing where yard_id = $1 and horse_id = $2
     order by started_at desc, id desc offset $3 limit $4`,
    [yard.id, id, skip, DIARY_PAGE],
  );
  const total = await db.query<{ n: number }>(
    "select count(*)::int as n from outing where yard_id = $1 and horse_id = $2",
    [yard.id, id],
  );
  return { outings: rows.map((row) => summaryOf(row, labels)), total: total.rows[0]?.n ?? 0 };
}

export async function horseView(db: Pool, yard: Yard, id: string, now: string): Promise<HorseView | null> {
  const today = dayIn(yard.timeZone, now);
  const judged = await standingOfHorse(db, yard, id, today);
  if (!judged) return null;
  const labels = await loadLabels(db, yard.id);
  const [page, { events, folded }] = await Promise.all([
    outingsOf(db, yard, id, 0, labels),
    foldHorseEvents(db, yard, judged.horse, labels),
  ]);
  return composeHorse({
    yard: yardView(yard, labels, today),
    row: judged.horse,
    standing: judged.standing,
    today,
    labels,
    page,
    ofHorse: { events, folded },
  });
}

export async function stepView(db: Pool, yard: Yard, id: string, step: string, now: string): Promise<StepView | null> {
  const horse = await findHorse(db, yard.id, id);
  if (!horse) return null;
  const today = dayIn(yard.timeZone, now);
  const [events, labels] = await Promise.all([eventsOfHorse(db, yard.id, id), loadLabels(db, yard.id)]);
  const folded = foldRecord(toRecord(yard, horse, events, labels));
  const gathered = gather(folded, horseProgram(horse.programId, aboutOf(folded), yard.book), step);
  const state = gathered.byId.get(step);
  const judged = state && (await standingOfHorse(db, yard, id, today));
  if (!judged) return null;
  return composeStep({ row: horse, standing: judged.standing, today, folded, gathered, state });
}

const FEEL_OUTINGS = 40;

/** Where the answers given in the last outings lay on the feel square; null where the yard has no such horse. */
export async function feelView(db: Pool, yard: Yard, id: string): Promise<FeelView | null> {
  const horse = await findHorse(db, yard.id, id);
  if (!horse) return null;
  const { rows } = await db.query<{ id: string }>(
    `select id from outing where yard_id = $1 and horse_id = $2 and asks > 0 order by started_at desc, id desc limit $3`,
    [yard.id, id, FEEL_OUTINGS],
  );
  const { outings } = await foldOutings(
    db,
    yard,
    horse,
    rows.map((row) => row.id),
  );
  return composeFeel(outings);
}

export async function outingView(
  db: Pool,
  yard: Yard,
  id: string,
  saidId: string,
  now: string,
): Promise<OutingView | null> {
  const today = dayIn(yard.timeZone, now);
  // A device may know it by the id it was written down under.
  const said = { horse: id, outing: saidId };
  const outingId = (await filedOutings(db, yard.id, [said]))(said).id;
  const [{ rows }, judged, labels] = await Promise.all([
    db.query<OutingRow>(`select ${OUTING_COLUMNS} from outing where yard_id = $1 and horse_id = $2 and id = $3`, [
      yard.id,
      id,
      outingId,
    ]),
    standingOfHorse(db, yard, id, today),
    loadLabels(db, yard.id),
  ]);
  const [row] = rows;
  if (!row || !judged) return null;
  const { folded, outings } = await foldOutings(db, yard, judged.horse, [outingId], labels);
  const [outing] = outings;
  if (!outing) return null;
  const whole = foldRecord(toRecord(yard, judged.horse, await eventsOfHorse(db, yard.id, judged.horse.id)));
  const place = whole.outings.findIndex((one) => one.id === outing.id);
  const before = { ...whole, outings: whole.outings.slice(0, place) };
  return composeOuting({
    row: judged.horse,
    standing: judged.standing,
    today,
    summary: summaryOf(row, labels),
    outing,
    folded,
    // Verdicts are of the record as the judge reads it, with ids.
    judged: whole.outings[place] ?? outing,
    before: gather(before, programThen(outing, judged.standing.program, aboutOf(whole), yard.book)),
    recorders: await namesOfRecorders(db, yard.id, [
      ...new Set(outing.history.flatMap(({ device }) => (device === undefined ? [] : [device]))),
    ]),
  });
}
