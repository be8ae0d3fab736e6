import type { Pool } from "pg";
import {
  DIARY_PAGE,
  type Diary,
  type EntryView,
  type FeelView,
  type HorseView,
  type OutingSummary,
  type OutingView,
  type StepView,
  type YardView,
} from "@still-pine/contract/http";
import {
  dayIn,
  foldRecord,
  isAsk,
  isCorrection,
  isSeries,
  type CorrectionEvent,
  type Day,
  type FoldedOuting,
  type FoldedRecord,
  type RecordEvent,
} from "@still-pine/core/record";
import { findProgram } from "@still-pine/core/programs";
import {
  aboutOf,
  adjustedProgram,
  describeChanges,
  explainStep,
  findingInWords,
  gather,
  gatherOn,
  horseProgram,
  judgeState,
  wordsOf,
  type Gathered,
  type Judgement,
  type VerdictChange,
} from "@still-pine/core/readiness";
import { foldHorseEvents, foldOutings } from "../read-models/fold-outings";
import type { Standing } from "../read-models/horse-fold";
import { horseLine } from "../read-models/line";
import { horsesToJudge, judgeStored, readFold, readLines } from "../read-models/state";
import { judgeAnew } from "../read-models/rebuild";
import { namesOfRecorders } from "../store/devices";
import { eventsOfHorse } from "../store/events";
import { findHorse, type StoredHorse } from "../store/horses";
import { loadLabels, type Labels } from "../store/labels";
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

export async function yardOnly(db: Pool, yard: Yard, now: string): Promise<YardView> {
  return yardView(yard, await loadLabels(db, yard.id), dayIn(yard.timeZone, now));
}

export function yardView({ id: _id, ...fields }: Yard, labels: Labels, today: Day): YardView {
  return { ...fields, today, places: [...labels.place.values()], people: [...labels.person.values()] };
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

/** Places and people that a finding names by their ids, by their labels. */
function named(judgement: Judgement, { place, person }: Labels): Judgement {
  const nameOf = (id: string): string => place.get(id) ?? person.get(id) ?? id;
  return {
    ...judgement,
    findings: judgement.findings.map((finding) => {
      const have = finding.have as { what?: string; shown?: string[] } | null;
      return finding.code === "elsewhere" && have?.shown
        ? { ...finding, have: { what: have.what ?? "", shown: have.shown.map(nameOf) } }
        : finding;
    }),
  };
}

/** A page of a horse's outings, the latest first; null where the yard has no such horse. */
export async function diary(db: Pool, yard: Yard, id: string, skip = 0): Promise<Diary | null> {
  if (!(await findHorse(db, yard.id, id))) return null;
  return outingsOf(db, yard, id, skip, await loadLabels(db, yard.id));
}

async function outingsOf(db: Pool, yard: Yard, id: string, skip: number, labels: Labels): Promise<Diary> {
  const [{ rows }, total] = await Promise.all([
    db.query<OutingRow>(
      `select ${OUTING_COLUMNS} from outing where yard_id = $1 and horse_id = $2
       order by started_at desc, id desc offset $3 limit $4`,
      [yard.id, id, skip, DIARY_PAGE],
    ),
    db.query<{ n: number }>("select count(*)::int as n from outing where yard_id = $1 and horse_id = $2", [
      yard.id,
      id,
    ]),
  ]);
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
  const latestFirst = events.toSorted((a, b) => Date.parse(b.at) - Date.parse(a.at));
  return {
    yard: yardView(yard, labels, today),
    horse: horseLine(judged.horse, judged.standing, today),
    judgements: judged.standing.judgements.map((one) => named(one, labels)),
    gates: judged.standing.gates,
    next: judged.standing.next,
    outings: page.outings,
    outingCount: page.total,
    entries: entriesOf(latestFirst, folded),
  };
}

export async function stepView(db: Pool, yard: Yard, id: string, step: string, now: string): Promise<StepView | null> {
  const horse = await findHorse(db, yard.id, id);
  if (!horse) return null;
  const today = dayIn(yard.timeZone, now);
  const [events, labels] = await Promise.all([eventsOfHorse(db, yard.id, id), loadLabels(db, yard.id)]);
  const folded = foldRecord(toRecord(yard, horse, events, labels));
  const gathered = gather(folded, horseProgram(horse.programId, aboutOf(folded)), step);
  const state = gathered.byId.get(step);
  const judged = state && (await standingOfHorse(db, yard, id, today));
  if (!judged) return null;
  return {
    horse: horseLine(horse, judged.standing, today),
    judgement: judgeState(gathered, state, today),
    standard: state.step.standard,
    asks: explainStep(folded, gathered, step),
    said: entriesOf(
      folded.ofHorse.filter(
        (event) => SAID_OF_STEPS.includes(event.type) && ((event as { step?: string }).step ?? step) === step,
      ),
      folded,
    ),
  };
}

/** What a person can say of a step that bears on it. */
const SAID_OF_STEPS: readonly string[] = ["standard", "override", "hold"];

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
  return {
    outings: outings.map(({ id: outing, day }) => ({ id: outing, day })),
    answers: outings.flatMap(({ events }, index) => countAnswers(events).map((one) => ({ outing: index, ...one }))),
  };
}

function countAnswers(events: readonly RecordEvent[]): Omit<FeelView["answers"][number], "outing">[] {
  const counts = new Map<string, Omit<FeelView["answers"][number], "outing">>();
  for (const event of events) {
    if (!isAsk(event) || event.answer !== "gave" || event.mood === undefined) continue;
    const { step, phase = null, mood } = event;
    const key = `${step} ${phase} ${mood}`;
    const one = counts.get(key);
    if (one) one.count += 1;
    else counts.set(key, { step, phase, mood, count: 1 });
  }
  return [...counts.values()];
}

export async function outingView(
  db: Pool,
  yard: Yard,
  id: string,
  outingId: string,
  now: string,
): Promise<OutingView | null> {
  const today = dayIn(yard.timeZone, now);
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
  return {
    horse: horseLine(judged.horse, judged.standing, today),
    outing: summaryOf(row, labels),
    head: outing.head,
    ...(await verdictsThen(db, yard, judged, outing)),
    entries: entriesOf(
      outing.history.filter((event) => event.type !== "outing-start" && event.type !== "outing-end"),
      folded,
    ),
    pairs: folded.pairs,
    recorders: await namesOfRecorders(db, yard.id, [
      ...new Set(outing.history.flatMap(({ device }) => (device === undefined ? [] : [device]))),
    ]),
  };
}

/** Words of the steps of an outing: after it, as the program it was worked under judged, and today. */
async function verdictsThen(
  db: Pool,
  yard: Yard,
  { horse, standing }: { horse: StoredHorse; standing: Standing },
  outing: FoldedOuting,
): Promise<Pick<OutingView, "program" | "verdicts" | "changes">> {
  const { program: id, programVersion: version } = outing.head;
  const under = typeof id === "string" && typeof version === "number" ? findProgram(id, version) : undefined;
  const folded = foldRecord(toRecord(yard, horse, await eventsOfHorse(db, yard.id, horse.id)));
  const place = folded.outings.findIndex((one) => one.id === outing.id);
  const program = adjustedProgram(under ?? standing.program, aboutOf(folded));
  const gathered = gather({ ...folded, outings: folded.outings.slice(0, place) }, program);
  const was = wordsOf(gathered, outing.day);
  gatherOn(gathered, folded.outings.slice(place, place + 1));
  const words = wordsOf(gathered, outing.day);
  const then = new Map(words.map((one) => [one.step, one.status]));
  const now = new Map(standing.judgements.map((one) => [one.step, one.status]));
  const steps = [...new Set(outing.events.flatMap((event) => (isAsk(event) || isSeries(event) ? event.step : [])))];
  return {
    program: typeof id === "string" && typeof version === "number" ? { id, version } : null,
    verdicts: steps.map((step) => ({ step, before: then.get(step) ?? null, now: now.get(step) ?? null })),
    changes: describeChanges(was, words, program).map((change) => ({
      change,
      why: whyNotSteady(gathered, change, outing.day),
    })),
  };
}

const REASONS_SHOWN = 2;

/** What a step still lacks after a change, or a side of it; nothing where it is steady. */
function whyNotSteady(gathered: Gathered, { step, side }: VerdictChange, day: Day): string[] {
  const state = gathered.byId.get(step);
  if (!state) return [];
  return judgeState(gathered, state, day)
    .findings.filter((one) => !one.met && (side === undefined || one.side === undefined || one.side === side))
    .filter(({ code }) => side === undefined || code !== "both-sides")
    .slice(0, REASONS_SHOWN)
    .map((finding) => findingInWords(finding, gathered.program));
}

/** Entries with all that was said of them; corrections are not entries themselves. */
function entriesOf(events: readonly RecordEvent[], { corrections: { standingOf, all } }: FoldedRecord): EntryView[] {
  const byTarget = new Map<string, CorrectionEvent[]>();
  for (const event of all)
    if (event.replaces !== event.id) byTarget.set(event.replaces, [...(byTarget.get(event.replaces) ?? []), event]);
  const chainOf = (target: string, passed: ReadonlySet<string>): EntryView["corrections"] =>
    (byTarget.get(target) ?? [])
      .filter(({ id }) => !passed.has(id))
      .flatMap((event) => [
        { event, undone: standingOf(event).voided },
        ...chainOf(event.id, new Set([...passed, event.id])),
      ]);
  return events
    .filter((event) => !isCorrection(event))
    .map((event) => {
      const standing = standingOf(event);
      return { event, current: standing.event, voided: standing.voided, corrections: chainOf(event.id, new Set()) };
    });
}
