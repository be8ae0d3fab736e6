import type { ProgramBook } from "@still-pine/core/programs";
import { foldHorse, goOn, isInWork, type HorseFold } from "@still-pine/core/readiness";
import { compareOutings, type FoldedOuting, type FoldedRecord } from "@still-pine/core/record";
import type { Db } from "../db/pool";
import { cameWith, type StoredHorse } from "../store/horses";
import { sizesOfOutings, type Sized } from "../store/outings";
import type { Yard } from "../store/yard";
import { foldHorseEvents, foldOutings } from "./fold-outings";

/** Outings that were folded together, and what that says of their entries. */
interface Group {
  outings: readonly FoldedOuting[];
  folded: FoldedRecord;
}

/** So many entries are held in memory at a time; an outing is not taken apart. */
const EVENTS_AT_A_TIME = 5000;

/**
 * Gathers a horse's whole record anew, so many outings at a time: what it comes to is what the fold of all at once would give.
 *
 * @param onGroup is given each outing once, in any order
 * @param most entries at a time
 */
export async function gatherHorse(
  db: Db,
  yard: Yard,
  horse: StoredHorse,
  onGroup: (group: Group) => Promise<void> = () => Promise.resolve(),
  most = EVENTS_AT_A_TIME,
): Promise<{ fold: HorseFold; open: FoldedOuting | null; ofHorse: Awaited<ReturnType<typeof foldHorseEvents>> }> {
  const ofHorse = await foldHorseEvents(db, yard, horse);
  const empty = foldHorse(
    { ...ofHorse.folded, ofHorse: ofHorse.standing, outings: [] },
    cameWith(horse),
    isInWork(ofHorse.standing),
    yard.book,
  );
  const gathered = new Gathering(empty, yard.book);
  const keys: (Sized & { startedAt: string })[] = [];
  for (const group of inGroups(await sizesOfOutings(db, yard.id, horse.id), most)) {
    const { folded, outings } = await foldOutings(db, yard, horse, idsOf(group));
    const events = new Map(group.map((one) => [one.id, one.events]));
    keys.push(...outings.map(({ id, startedAt }) => ({ id, startedAt, events: events.get(id) ?? 0 })));
    gathered.add(outings);
    await onGroup({ outings, folded });
  }
  if (gathered.isInOrder) return { fold: gathered.fold, open: gathered.open, ofHorse };
  // Corrections and measured clocks move outings: now it is known where each of them lies.
  const again = new Gathering(empty, yard.book);
  for (const group of inGroups(keys.toSorted(compareOutings), most))
    again.add((await foldOutings(db, yard, horse, idsOf(group))).outings);
  return { fold: again.fold, open: again.open, ofHorse };
}

const idsOf = (group: readonly Sized[]): string[] => group.map(({ id }) => id);

/** A fold that is gone on with group by group, for as long as they come in order. */
class Gathering {
  isInOrder = true;
  open: FoldedOuting | null = null;

  constructor(
    public fold: HorseFold,
    private readonly book: ProgramBook,
  ) {}

  add(outings: readonly FoldedOuting[]): void {
    const [first] = outings;
    if (!first) return;
    if (this.open && compareOutings(this.open, first) > 0) this.isInOrder = false;
    if (!this.isInOrder) return;
    this.fold = goOn(this.fold, this.open ? [this.open, ...outings] : outings, this.book);
    this.open = outings.at(-1) ?? null;
  }
}

function* inGroups<Item extends Sized>(items: readonly Item[], most: number): Generator<Item[]> {
  let group: Item[] = [];
  let events = 0;
  for (const item of items) {
    if (group.length > 0 && events + item.events > most) {
      yield group;
      group = [];
      events = 0;
    }
    group.push(item);
    events += item.events;
  }
  if (group.length > 0) yield group;
}
