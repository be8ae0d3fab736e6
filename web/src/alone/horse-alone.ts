import type { HorsePack, PackView } from "@still-pine/contract/http";
import { changeLabels, toOuting, withLabels, type HorseRow, type Labels } from "@still-pine/contract/views";
import type { ProgramBook, ProgramFile } from "@still-pine/core/programs";
import {
  bringUp,
  foldHorse,
  isInWork,
  judgeFold,
  programOfRecord,
  readAbout,
  restoreFold,
  type Gathered,
  type HorseFold,
  type Standing,
} from "@still-pine/core/readiness";
import {
  dayIn,
  foldRecord,
  type Day,
  type FoldedOuting,
  type FoldedRecord,
  type RecordEvent,
  type OutingId,
} from "@still-pine/core/record";
import { bookOf } from "../book/book-of";

/** An entry that was recorded here: of which outing, or of the horse itself. */
export interface OwnEvent {
  outing: OutingId | null;
  event: RecordEvent;
}

/** A horse as this device knows him by itself: the last that came from the server, and what was recorded here since. */
export interface HorseAlone {
  row: HorseRow;
  today: Day;
  standing: Standing;
  labels: Labels;
  /** The last outings, in order, as the judge reads them. */
  judged: readonly FoldedOuting[];
  /** The same for a person to read. */
  folded: FoldedRecord;
  /** What is said of the horse itself. */
  ofHorse: readonly RecordEvent[];
  /** Every outing of his is known here. */
  isWhole: boolean;
  /** What was gathered before the latest outing; null where it cannot be told from here. */
  before: () => Gathered | null;
  /** Older outings were changed here: verdicts are as they were until the server has read it all. */
  isBehind: boolean;
}

const labelsOf = ({ place, person }: PackView): Labels => ({ place: new Map(place), person: new Map(person) });

/** Puts a horse together from his pack and what was recorded here, as the server does from its own. */
export function standAlone(yard: PackView, pack: HorsePack, own: readonly OwnEvent[], now: string): HorseAlone {
  const { timeZone } = yard.yard;
  const today = dayIn(timeZone, now);
  const labels = labelsOf(yard);
  const known = knownEvents(pack);
  const ids = idsByLabel(labels);
  const fresh = own.filter(({ event }) => !known.has(event.id)).map((one) => ({ ...one, event: ids(one.event) }));

  const byOuting = new Map(pack.outings.map(({ id, events }) => [id, [...events]]));
  for (const { outing, event } of fresh)
    if (outing !== null) byOuting.set(outing, [...(byOuting.get(outing) ?? []), event]);
  const ofHorse = [...pack.ofHorse, ...fresh.flatMap(({ outing, event }) => (outing === null ? [event] : []))];
  const record = (name: (event: RecordEvent) => RecordEvent) =>
    foldRecord({
      yard: { timeZone },
      horse: pack.row,
      program: { id: pack.row.programId },
      horseEvents: ofHorse.map(name),
      outings: [...byOuting].map(([id, events]) => toOuting(id, events.map(name))),
    });
  const asJudged = record((event) => event);
  const book = bookOf(yard.yard.programs as readonly ProgramFile[] | undefined);
  const gone = goOnAlone(pack, asJudged, fresh, timeZone, book);
  return {
    row: pack.row,
    today,
    standing: judgeFold(gone.fold, gone.open, today, book),
    labels,
    judged: asJudged.outings,
    folded: record((event) => withLabels(event, labels)),
    ofHorse: ofHorse.map((event) => withLabels(event, labels)),
    isWhole: isWhole(pack),
    before: () => (gone.isBehind ? null : restoreFold(gone.fold, book)),
    isBehind: gone.isBehind,
  };
}

/** The fold brought up to what was recorded here, as far as it can be gone on from. */
function goOnAlone(
  pack: HorsePack,
  folded: FoldedRecord,
  fresh: readonly OwnEvent[],
  timeZone: string,
  book: ProgramBook,
): { fold: HorseFold; open: FoldedOuting | null; isBehind: boolean } {
  const { fold } = pack;
  const about = readAbout(folded.ofHorse, timeZone);
  const inWork = isInWork(folded.ofHorse);
  // Everything there is of him lies here: then it is gathered anew, whatever was changed.
  if (isWhole(pack)) {
    const whole = foldHorse(folded, programOfRecord(pack.fold), inWork, book);
    return { fold: whole, open: folded.outings.at(-1) ?? null, isBehind: false };
  }
  const touched = new Set(fresh.flatMap(({ outing }) => outing ?? []));
  const known = new Set([...pack.outings, ...pack.diary.outings].map(({ id }) => id));
  // What lies further back than this device knows is told by this: a new outing begins here.
  const begun = new Set(fresh.flatMap(({ outing, event }) => (event.type === "outing-start" ? (outing ?? []) : [])));
  const isNew = (outing: OutingId): boolean => begun.has(outing) && !known.has(outing);
  const later = folded.outings.filter(({ id }) => touched.has(id) || id === fold.open?.id);
  const up = bringUp(fold, { about, inWork, outings: later, isNew }, book);
  if (up) return { ...up, isBehind: false };
  const open = folded.outings.find(({ id }) => id === fold.open?.id) ?? null;
  return { fold: { ...fold, inWork }, open, isBehind: true };
}

const isWhole = ({ diary, outings }: HorsePack): boolean => diary.total <= outings.length;

const knownEvents = ({ ofHorse, outings }: HorsePack): ReadonlySet<string> =>
  new Set([...ofHorse, ...outings.flatMap(({ events }) => events)].map(({ id }) => id));

/** Recorded here with labels, judged by ids; a label the yard does not know yet stands for itself. */
function idsByLabel({ place, person }: Labels): (event: RecordEvent) => RecordEvent {
  const turned = {
    place: new Map([...place].map(([id, label]) => [label, id])),
    person: new Map([...person].map(([id, label]) => [label, id])),
  };
  return (event) => changeLabels(event, (kind, label) => turned[kind].get(label) ?? label);
}
