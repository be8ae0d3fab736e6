import type { HorseId, OutingId } from "@still-pine/core/record";
import type { Pool, PoolClient } from "pg";
import {
  canonical,
  isTooDeep,
  LEVELS_MOST,
  parseEvent,
  pathInWords,
  shown,
  unstorable,
  type InputProblem,
} from "@still-pine/contract/record";
import type { EventResult } from "@still-pine/contract/http";
import type { ProgramBook } from "@still-pine/core/programs";
import type { VerdictChange } from "@still-pine/core/readiness";
import { inTransaction } from "../db/pool";
import { outingTopic, tell } from "../live/hub";
import { updateReadModels } from "../read-models/update";
import { isStoredCorrection, type StoredCorrection } from "../store/corrections";
import { eventsById, insertEvents, type StoredEvent } from "../store/events";
import { strikeUnfit, unfitCorrections } from "./fitting";
import { cameWith, lockHorses, type StoredHorse } from "../store/horses";
import { withIds } from "../store/labels";
import { claimOutings, filedOutings } from "../store/owners";
import { holdYard, type Yard } from "../store/yard";

export interface Offered {
  horse: HorseId;
  outing: OutingId | null;
  event: unknown;
}

export interface Taken {
  results: EventResult[];
  changes: { horse: HorseId; changes: VerdictChange[] }[];
}

/** What is known of the batch while it is looked through: an event that is refused leaves a gap. */
interface Batch {
  offered: readonly Offered[];
  candidates: (StoredEvent | null)[];
  refused: Map<number, InputProblem[]>;
  where: Where;
}

type Place = readonly PropertyKey[];
/** Where in what was sent an item stands, and the event within it; empty for who names the place himself. */
export type Where = (index: number) => { item: Place; event: Place };
const inBatch: Where = (index) => ({ item: ["events", index], event: ["events", index, "event"] });
/** For a file whose lines are named by whoever read it. */
export const byItself: Where = () => ({ item: [], event: [] });

/**
 * Takes a batch of events: each is stored, was there already, or is refused with the reason; a bad one does not stop the
 * good ones. Sending the same batch again, in parts or in another order, changes nothing. What is derived of the horses is
 * brought up to them in the same transaction.
 */
export async function takeEvents(pool: Pool, yard: Yard, offered: readonly Offered[], now: string): Promise<Taken> {
  return inTransaction(pool, async (client) =>
    take(client, await holdYard(client, yard), offered, now, { isNew: true }),
  );
}

/** What is known of whoever sends a batch. */
export interface Sender {
  /** Written just now, not read from a file that may be old. */
  isNew?: boolean;
  /** How problems name what they are about; as a place in the batch where nothing is said. */
  where?: Where;
  /** What of the batch is not looked at, by its place, and why. */
  refused?: ReadonlyMap<number, InputProblem[]>;
  /** Whether they may be shown what is stored; all of it where nothing is said. */
  maySee?: (stored: StoredEvent) => boolean;
  /** Whether they may correct what is there; all of it, and what is still to come, where nothing is said. */
  mayCorrect?: (there: StoredEvent) => boolean;
  /** Whoever takes a long record in parts has everything derived made anew when all of it is there, or not at all. */
  leavesDerived?: boolean;
}

/** As `takeEvents`, inside a transaction of the caller's. @param yard as `holdYard` gives it */
export async function take(
  client: PoolClient,
  yard: Yard,
  offered: readonly Offered[],
  now: string,
  sender: Sender = {},
): Promise<Taken> {
  const { isNew = false, refused = new Map(), maySee = () => true, where = inBatch } = sender;
  const horses = await lockHorses(
    client,
    yard.id,
    offered.map((one) => one.horse),
  );
  const batch: Batch = { offered, candidates: [], refused: new Map(refused), where };
  batch.candidates = offered.map((one, index) =>
    batch.refused.has(index) ? null : readOne(one, index, { horses, book: yard.book }, batch, isNew),
  );
  const unclaimed = await fileOutings(client, yard, batch);
  await refuseUnfitCorrections(client, yard, batch, horses, sender);
  await nameByIds(client, yard, batch);
  const given = await claimNewOutings(client, yard, batch, unclaimed);
  const firsts = firstOfEach(batch.candidates);
  const fresh = await insertEvents(client, yard.id, firsts);
  const isFresh = ({ event }: StoredEvent): boolean => fresh.has(event.id);
  const before = await eventsById(
    client,
    yard.id,
    firsts.filter((one) => !isFresh(one)).map(({ event }) => event.id),
  );
  const stored = new Map([...firsts.filter(isFresh), ...before].map((one) => [one.event.id, one]));

  const changes: Taken["changes"] = [];
  for (const [id, horse] of horses) {
    const own = firsts.filter((one) => one.horseId === id && isFresh(one));
    const ofHorse = { horse: id, program: yard.book.goneBy(cameWith(horse)), fresh: own };
    const struck = await strikeUnfit(client, yard, ofHorse, now);
    if (sender.leavesDerived) continue;
    const isNewOuting = (outing: OutingId): boolean => given.has(outing);
    changes.push({
      horse: id,
      changes: await updateReadModels(client, yard, horse, [...own, ...struck], isNewOuting, now),
    });
  }
  const outings = firsts.flatMap((one) => (isFresh(one) && one.outingId !== null ? [one.outingId] : []));
  await tell(
    client,
    outings.map((outing) => outingTopic(yard.id, outing)),
  );
  return { results: resultsOf(batch, stored, fresh, maySee, now), changes };
}

function readOne(
  { horse, outing, event }: Offered,
  index: number,
  { horses, book }: { horses: ReadonlyMap<string, StoredHorse>; book: ProgramBook },
  { refused, where }: Pick<Batch, "refused" | "where">,
  isNew: boolean,
): StoredEvent | null {
  const { item, event: place } = where(index);
  const refuse = (...why: InputProblem[]): null => {
    refused.set(index, why);
    return null;
  };
  const known = horses.get(horse);
  if (!known)
    return refuse({ path: pathInWords([...item, "horse"]), expected: "a horse of this yard", found: shown(horse) });
  if (isTooDeep(event))
    return refuse({
      path: pathInWords(place),
      expected: `at most ${LEVELS_MOST} levels of lists and objects`,
      found: "more",
    });
  const bad = unstorable(event) ?? unstorable(outing);
  if (bad) return refuse({ path: pathInWords(place), expected: "text a database can hold", found: bad });
  const parsed = parseEvent(event, [...place], book.goneBy(cameWith(known)), isNew);
  if (parsed.problems) return refuse(...parsed.problems);
  return { horseId: horse, outingId: outing, event: parsed.event };
}

function resultsOf(
  { offered, candidates, refused, where }: Batch,
  stored: ReadonlyMap<string, StoredEvent>,
  fresh: ReadonlySet<string>,
  maySee: (stored: StoredEvent) => boolean,
  now: string,
): EventResult[] {
  const said = new Set<string>();
  return offered.map((item, index): EventResult => {
    const id = String((item.event as { id?: unknown } | null)?.id ?? "");
    const why = refused.get(index);
    const one = candidates[index];
    if (why || !one) return { id, result: "refused", why: why ?? [] };
    const there = stored.get(id);
    // What was stored just now is the very one.
    if (there && there !== one && canonical(there) !== canonical(one))
      return {
        id,
        result: "refused",
        why: [
          {
            path: pathInWords([...where(index).event, "id"]),
            expected: maySee(there)
              ? `an id of its own, or the same event as the one stored under it: ${shortly(there)}`
              : "an id of its own: this one is taken",
            found: `${shortly(one)}, other content under the same id`,
          },
        ],
      };
    const result = fresh.has(id) && !said.has(id) ? "stored" : "already there";
    said.add(id);
    return {
      id,
      result,
      ...(one.event.at > now && Date.parse(one.event.at) > Date.parse(now) ? { warning: "clock-suspect" } : {}),
    };
  });
}

const SHOWN_MOST = 300;

/** An event as one can name it in a message. */
function shortly({ horseId, outingId, event }: StoredEvent): string {
  const text = canonical({ horse: horseId, outing: outingId, event });
  return text.length > SHOWN_MOST ? `${text.slice(0, SHOWN_MOST)}…` : text;
}

function firstOfEach(candidates: readonly (StoredEvent | null)[]): StoredEvent[] {
  const first = new Map<string, StoredEvent>();
  for (const one of candidates) if (one && !first.has(one.event.id)) first.set(one.event.id, one);
  return [...first.values()];
}

/** An outing belongs to one horse: what is sent for another horse's is refused. @returns outings that are nobody's yet, with their horses */
async function fileOutings(client: PoolClient, yard: Yard, batch: Batch): Promise<Map<string, string>> {
  const filed = await filedOutings(
    client,
    yard.id,
    batch.candidates.flatMap((one) => (one?.outingId ? [{ horse: one.horseId, outing: one.outingId }] : [])),
  );
  const unclaimed = new Map<string, string>();
  for (const [index, one] of batch.candidates.entries()) {
    if (!one?.outingId) continue;
    const said = { horse: one.horseId, outing: one.outingId };
    const { id, owner } = filed(said);
    const whose = owner ?? unclaimed.get(id) ?? null;
    if (whose === null) unclaimed.set(id, one.horseId);
    if (whose === null || whose === one.horseId) one.outingId = id;
    else refuse(batch, index, [strangeOuting(batch.where(index).item, one.outingId)]);
  }
  return unclaimed;
}

const strangeOuting = (item: Place, outing: OutingId): InputProblem => ({
  path: pathInWords([...item, "outing"]),
  expected: "an outing of the same horse",
  found: shown(outing),
});

/** Gives new outings to the horses of their first entries; of two writers at one moment one comes first. @returns those given now */
async function claimNewOutings(
  client: PoolClient,
  yard: Yard,
  batch: Batch,
  unclaimed: ReadonlyMap<string, string>,
): Promise<ReadonlySet<string>> {
  if (unclaimed.size === 0) return new Set();
  const wanted = batch.candidates.flatMap((one) => (one?.outingId && unclaimed.has(one.outingId) ? [one] : []));
  // What is stored already claims nothing.
  const ids = wanted.map(({ event }) => event.id);
  const there = new Set((await eventsById(client, yard.id, ids)).map(({ event }) => event.id));
  const claims = new Map(
    wanted.flatMap(({ event, outingId, horseId }) => (there.has(event.id) ? [] : [[outingId ?? "", horseId] as const])),
  );
  const owners = await claimOutings(client, yard.id, claims);
  batch.candidates.forEach((one, index) => {
    if (!one?.outingId || !claims.has(one.outingId) || owners.get(one.outingId) === one.horseId) return;
    refuse(batch, index, [strangeOuting(batch.where(index).item, one.outingId)]);
  });
  return new Set([...owners.keys()].filter((id) => owners.get(id) === claims.get(id)));
}

/**
 * A correction names an entry of its own horse, and leaves it right in itself. One in a file may name another horse's: it had come
 * before what it names, is there, and changes nothing.
 */
async function refuseUnfitCorrections(
  client: PoolClient,
  yard: Yard,
  batch: Batch,
  horses: ReadonlyMap<string, StoredHorse>,
  { mayCorrect, isNew }: Sender,
): Promise<void> {
  const isTheirs = (one: StoredEvent | null): one is StoredCorrection => one !== null && isStoredCorrection(one);
  const corrections = batch.candidates.filter(isTheirs);
  if (corrections.length === 0) return;
  const stored = new Map(
    (
      await eventsById(
        client,
        yard.id,
        corrections.flatMap(({ event }) => [event.id, event.replaces]),
      )
    ).map((one) => [one.event.id, one]),
  );
  // What is sent again was looked at when it came first, whatever has come since.
  const fresh = firstOfEach(batch.candidates).filter(({ event }) => !stored.has(event.id));
  const known = new Map([...fresh.map((one) => [one.event.id, one] as const), ...stored]);
  const unfit = new Map<string, InputProblem[]>();
  for (const horse of new Set(fresh.filter(isTheirs).map(({ horseId }) => horseId))) {
    const known = horses.get(horse);
    if (!known) continue;
    const program = yard.book.goneBy(cameWith(known));
    const own = fresh.filter(({ horseId }) => horseId === horse);
    for (const [id, why] of await unfitCorrections(client, yard, { horse, program, fresh: own })) unfit.set(id, why);
  }
  batch.candidates.forEach((one, index) => {
    if (!isTheirs(one) || stored.has(one.event.id)) return;
    const target = known.get(one.event.replaces);
    const why =
      mayCorrect && !(target && mayCorrect(target))
        ? [{ path: "replaces", expected: "an entry of this phone's own", found: shown(one.event.replaces) }]
        : isNew && target && target.horseId !== one.horseId
          ? [{ path: "replaces", expected: "an event of this horse's record", found: shown(one.event.replaces) }]
          : unfit.get(one.event.id);
    if (why)
      refuse(
        batch,
        index,
        why.map((problem) => ({ ...problem, path: pathInWords([...batch.where(index).event, problem.path]) })),
      );
  });
}

function refuse(batch: Batch, index: number, why: InputProblem[]): void {
  batch.refused.set(index, why);
  batch.candidates[index] = null;
}

/** Labels of people and places become ids. */
async function nameByIds(client: PoolClient, yard: Yard, batch: Batch): Promise<void> {
  const kept = batch.candidates.filter((one) => one !== null);
  const events = await withIds(
    client,
    yard.id,
    kept.map(({ event }) => event),
  );
  kept.forEach((one, index) => {
    one.event = events[index] ?? one.event;
  });
}
