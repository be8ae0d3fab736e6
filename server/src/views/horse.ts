import type { Pool } from "pg";
import type {
  HorseView,
  OutingSummary,
  OutingView,
  StepView,
  StringHorse,
  StringView,
  YardView,
} from "@still-pine/contract/http";
import {
  ageInWords,
  ageOn,
  dayIn,
  daysBetween,
  foldRecord,
  isCorrection,
  type Day,
  type FoldedOuting,
  type FoldedRecord,
  type HorseRecord,
} from "@still-pine/core/record";
import { findProgram, loosePenStart, type Program } from "@still-pine/core/programs";
import {
  explainStep,
  gather,
  judgeGathered,
  openSummary,
  waitingSteps,
  type Gathered,
  type Judgement,
} from "@still-pine/core/readiness";
import { eventsOfHorse, eventsOfYard } from "../store/events";
import { findHorse, listHorses, type StoredHorse } from "../store/horses";
import { loadLabels, type Labels } from "../store/labels";
import { toRecord, workDays } from "../store/record";
import type { Yard } from "../store/yard";

/** A horse with its record folded and judged for one day. */
export interface Judged {
  stored: StoredHorse;
  record: HorseRecord;
  folded: FoldedRecord;
  gathered: Gathered;
  judgements: Judgement[];
  program: Program;
}

/** Loads and judges one horse; null when the yard has none of this id. `wholeHistory` names a step whose asks are all kept. */
export async function judgeHorse(
  db: Pool,
  yard: Yard,
  id: string,
  now: string,
  wholeHistory?: string,
): Promise<Judged | null> {
  const stored = await findHorse(db, yard.id, id);
  if (!stored) return null;
  const [events, labels] = await Promise.all([eventsOfHorse(db, yard.id, id), loadLabels(db, yard.id)]);
  return judge(stored, toRecord(yard, stored, events, labels), dayIn(yard.timeZone, now), wholeHistory);
}

function judge(stored: StoredHorse, record: HorseRecord, today: Day, wholeHistory?: string): Judged {
  const program = findProgram(stored.programId) ?? loosePenStart;
  const folded = foldRecord(record);
  const gathered = gather(folded, program, wholeHistory);
  return { stored, record, folded, gathered, program, judgements: judgeGathered(gathered, today) };
}

export async function stringView(db: Pool, yard: Yard, now: string): Promise<StringView> {
  const today = dayIn(yard.timeZone, now);
  const [horses, events, labels] = await Promise.all([
    listHorses(db, yard.id),
    eventsOfYard(db, yard.id),
    loadLabels(db, yard.id),
  ]);
  const byHorse = groupByHorse(events);
  return {
    yard: yardView(yard, labels, today),
    horses: horses.map((horse) =>
      horseLine(judge(horse, toRecord(yard, horse, byHorse.get(horse.id) ?? [], labels), today), today),
    ),
  };
}

function groupByHorse<Event extends { horseId: string }>(events: readonly Event[]): Map<string, Event[]> {
  const groups = new Map<string, Event[]>();
  for (const event of events) {
    const group = groups.get(event.horseId);
    if (group) group.push(event);
    else groups.set(event.horseId, [event]);
  }
  return groups;
}

export async function yardOnly(db: Pool, yard: Yard, now: string): Promise<YardView> {
  return yardView(yard, await loadLabels(db, yard.id), dayIn(yard.timeZone, now));
}

function yardView(yard: Yard, labels: Labels, today: Day): YardView {
  return {
    name: yard.name,
    timeZone: yard.timeZone,
    today,
    places: [...labels.place.values()],
    people: [...labels.person.values()],
  };
}

function horseLine({ stored, record, judgements, program, folded }: Judged, today: Day): StringHorse {
  const days = workDays(record);
  const [first] = days;
  const [next] = waitingSteps(judgements, program);
  return {
    id: stored.id,
    name: stored.name,
    foaled: stored.foaled,
    foaledPrecision: stored.foaledPrecision,
    sex: stored.sex,
    version: stored.version,
    age: ageInWords(ageOn(stored.foaled, stored.foaledPrecision, today)),
    inWork: isInWork(record, folded),
    workDays: days.length,
    calendarDays: first === undefined ? 0 : Math.max(1, daysBetween(first, today) + 1),
    lastOuting: days.at(-1) ?? null,
    trail: judgements.map(({ step, status, sides }) => ({
      step,
      status,
      sides: Object.fromEntries(
        Object.entries(sides).map(([side, one]) => [side, { status: one.status, sure: one.sure }]),
      ),
    })),
    waitsOn: next ? { step: next.step, status: next.status, text: openSummary(next.toOpen, program) } : null,
  };
}

/** The last rest or return that stands says whether a horse is in work. */
function isInWork(record: HorseRecord, folded: FoldedRecord): boolean {
  const last = record.horseEvents
    .filter(
      (event) => (event.type === "rest" || event.type === "return") && !folded.corrections.standingOf(event).voided,
    )
    .toSorted((a, b) => Date.parse(a.at) - Date.parse(b.at) || (a.id < b.id ? -1 : 1))
    .at(-1);
  return last?.type !== "rest";
}

function outingSummary(outing: FoldedOuting): OutingSummary {
  const asks = outing.events.filter((event) => event.type === "ask" || event.type === "series") as {
    step: string;
    count?: number;
  }[];
  return {
    id: outing.id,
    day: outing.day,
    startedAt: outing.startedAt,
    endedAt: outing.endedAt,
    place: outing.place ?? null,
    handler: outing.handler ?? null,
    asks: asks.reduce((sum, one) => sum + (one.count ?? 1), 0),
    steps: [...new Set(asks.map((one) => one.step))],
    mishaps: outing.events.filter((event) => event.type === "mishap").length,
  };
}

export async function horseView(db: Pool, yard: Yard, id: string, now: string): Promise<HorseView | null> {
  const judged = await judgeHorse(db, yard, id, now);
  if (!judged) return null;
  const today = dayIn(yard.timeZone, now);
  return {
    yard: await yardOnly(db, yard, now),
    horse: horseLine(judged, today),
    judgements: judged.judgements,
    outings: judged.folded.outings.map(outingSummary).toReversed(),
  };
}

export async function stepView(db: Pool, yard: Yard, id: string, step: string, now: string): Promise<StepView | null> {
  const judged = await judgeHorse(db, yard, id, now, step);
  const judgement = judged?.judgements.find((one) => one.step === step);
  if (!judged || !judgement) return null;
  return {
    horse: horseLine(judged, dayIn(yard.timeZone, now)),
    judgement,
    asks: explainStep(judged.folded, judged.gathered, step),
  };
}

export async function outingView(
  db: Pool,
  yard: Yard,
  id: string,
  outingId: string,
  now: string,
): Promise<OutingView | null> {
  const judged = await judgeHorse(db, yard, id, now);
  const outing = judged?.folded.outings.find((one) => one.id === outingId);
  if (!judged || !outing) return null;
  const everything = judged.folded.outings.flatMap((one) => one.history).filter(isCorrection);
  const { standingOf } = judged.folded.corrections;
  const chainOf = (target: string): OutingView["entries"][number]["corrections"] =>
    everything
      .filter((correction) => correction.replaces === target && correction.id !== target)
      .flatMap((event) => [{ event, undone: standingOf(event).voided }, ...chainOf(event.id)]);
  return {
    horse: horseLine(judged, dayIn(yard.timeZone, now)),
    outing: outingSummary(outing),
    entries: outing.history
      .filter((event) => !isCorrection(event) && event.type !== "outing-start" && event.type !== "outing-end")
      .map((event) => {
        const standing = standingOf(event);
        return { event, current: standing.event, voided: standing.voided, corrections: chainOf(event.id) };
      }),
  };
}
