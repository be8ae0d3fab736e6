import type { Pool } from "pg";
import { DIARY_PAGE, type Diary, type YardView } from "@still-pine/contract/http";
import { programThen, type HorsePort, type OutingParts, type YardPort } from "@still-pine/contract/views";
import { dayIn, foldRecord, type Day, type HorseId } from "@still-pine/core/record";
import type { ProgramBook, ProgramFile } from "@still-pine/core/programs";
import { aboutOf, gather, horseProgram, type Standing } from "@still-pine/core/readiness";
import type { Db } from "../db/pool";
import { foldHorseEvents, foldOutings } from "../read-models/fold-outings";
import { judgeAnew } from "../read-models/rebuild";
import { judgeStored } from "../read-models/state";
import { namesOfRecorders } from "../store/devices";
import { eventsOfHorse } from "../store/events";
import { horsesToJudge, readFold, readLines } from "../store/horse-states";
import { cameWith, findHorse, type StoredHorse } from "../store/horses";
import { listLabels, loadLabels, type Labels } from "../store/labels";
import { runningOutings } from "../store/live";
import { countOutings, findOuting, lateOutings, listOutings } from "../store/outings";
import { filedOutings } from "../store/owners";
import { listDrafts, publishedPrograms } from "../store/programs";
import { toRecord } from "../store/record";
import { listTroubles } from "../store/troubles";
import type { Yard } from "../store/yard";

/** The yard as the database has it, for the answers that a phone gives by itself too. */
export function storedYard(db: Pool, yard: Yard, now: string): YardPort {
  const today = dayIn(yard.timeZone, now);
  const labels = once(() => loadLabels(db, yard.id));
  return {
    yard: async () => yardView(yard, await labels(), today),
    labels: (kind) => listLabels(db, yard.id, kind),
    running: async () => runningOutings(db, yard.id, await labels(), now),
    troubles: () => listTroubles(db, yard.id),
    programs: async () => {
      const [published, drafts] = await Promise.all([publishedPrograms(db, yard.id), listDrafts(db, yard.id)]);
      return { published, drafts };
    },
    lines: async () => (await freshLines(db, yard, now)).map((line) => JSON.parse(line)),
    horse: async (id) => {
      const row = await findHorse(db, yard.id, id);
      return row && storedHorse(db, yard, row, today, labels);
    },
  };
}

function storedHorse(db: Pool, yard: Yard, row: StoredHorse, today: Day, labels: () => Promise<Labels>): HorsePort {
  const { id } = row;
  const standing = once(async () => standingOf(db, yard, row, today));
  const shown = async () => foldRecord(toRecord(yard, row, await eventsOfHorse(db, yard.id, id), await labels()));
  return {
    row,
    today,
    standing,
    labels,
    diary: async (skip) => diaryPage(db, yard, id, skip, await labels()),
    ofHorse: async () => foldHorseEvents(db, yard, row, await labels()),
    latest: async (most) => {
      const late = await lateOutings(db, yard.id, id, most);
      return (await foldOutings(db, yard, row, late, await labels())).outings;
    },
    asked: async (most) => (await foldOutings(db, yard, row, await lateOutings(db, yard.id, id, most, true))).outings,
    gathered: async () => {
      const folded = await shown();
      return { gathered: gather(folded, (await standing()).program), outings: folded.outings };
    },
    gatheredOf: async (step) => {
      const folded = await shown();
      return { folded, gathered: gather(folded, horseProgram(cameWith(row), aboutOf(folded), yard.book), step) };
    },
    outing: async (said) => outingParts(db, yard, row, said, { labels: await labels(), standing }),
  };
}

/** Looks something up when it is first asked for. */
function once<Found>(find: () => Promise<Found>): () => Promise<Found> {
  let found: Promise<Found> | null = null;
  return () => (found ??= find());
}

/** A yard's own programs, every version; left out where it has none. */
export const programsOf = ({ files }: ProgramBook): { programs?: readonly ProgramFile[] } =>
  files.length > 0 ? { programs: files } : {};

function yardView({ id: _id, book, ...fields }: Yard, labels: Labels, today: Day): YardView {
  return {
    ...fields,
    ...programsOf(book),
    today,
    places: [...labels.place.values()],
    people: [...labels.person.values()],
  };
}

/** The lines of the string as JSON, each judged for today. */
async function freshLines(db: Pool, yard: Yard, now: string): Promise<string[]> {
  const stale = await horsesToJudge(db, yard.id, dayIn(yard.timeZone, now));
  if (stale.length > 0) await judgeAnew(db, yard, stale, now);
  return readLines(db, yard.id);
}

/** The string as JSON. Lines that lie ready for today are handed on as they are. */
export async function stringText(db: Pool, yard: Yard, now: string): Promise<string> {
  const [lines, view] = await Promise.all([freshLines(db, yard, now), storedYard(db, yard, now).yard()]);
  return `{"yard":${JSON.stringify(view)},"horses":[${lines.join(",")}]}`;
}

/** A horse's verdicts of today from its stored fold. */
export async function standingOf(db: Db, yard: Yard, horse: StoredHorse, today: Day): Promise<Standing> {
  const fold = await readFold(db, yard.id, horse.id);
  if (!fold) throw new Error("a horse has no read model: run bin/rebuild");
  return judgeStored(db, yard, horse, fold, today);
}

/** A page of the diary. */
export async function diaryPage(db: Db, yard: Yard, horse: HorseId, skip: number, labels: Labels): Promise<Diary> {
  // One after the other: it may be a single connection that sees one moment.
  const outings = await listOutings(db, yard.id, horse, { skip, most: DIARY_PAGE }, labels);
  return { outings, total: await countOutings(db, yard.id, horse) };
}

interface AlreadyKnown {
  labels: Labels;
  standing: () => Promise<Standing>;
}

async function outingParts(
  db: Pool,
  yard: Yard,
  horse: StoredHorse,
  saidId: string,
  { labels, standing }: AlreadyKnown,
): Promise<OutingParts | null> {
  // A device may know it by the id it was written down under.
  const said = { horse: horse.id, outing: saidId };
  const { id } = (await filedOutings(db, yard.id, [said]))(said);
  const summary = await findOuting(db, yard.id, horse.id, id, labels);
  if (!summary) return null;
  const { folded, outings } = await foldOutings(db, yard, horse, [id], labels);
  const [outing] = outings;
  if (!outing) return null;
  const whole = foldRecord(toRecord(yard, horse, await eventsOfHorse(db, yard.id, horse.id)));
  const place = whole.outings.findIndex((one) => one.id === outing.id);
  const before = { ...whole, outings: whole.outings.slice(0, place) };
  const { program } = await standing();
  return {
    summary,
    outing,
    folded,
    // Verdicts are of the record as the judge reads it, with ids.
    judged: whole.outings[place] ?? outing,
    before: gather(before, programThen(outing, program, aboutOf(whole), yard.book)),
    recorders: await namesOfRecorders(db, yard.id, [
      ...new Set(outing.history.flatMap(({ device }) => (device === undefined ? [] : [device]))),
    ]),
  };
}
