import type { Pool, PoolClient } from "pg";
import {
  canonical,
  isTooDeep,
  LEVELS_MOST,
  misfits,
  parseEvent,
  shown,
  type InputProblem,
} from "@still-pine/contract/record";
import type { EventResult } from "@still-pine/contract/http";
import { isCorrection, resolveCorrections, type RecordEvent } from "@still-pine/core/record";
import type { Program } from "@still-pine/core/programs";
import type { VerdictChange } from "@still-pine/core/readiness";
import { inTransaction } from "../db/pool";
import { outingTopic, tell } from "../live/hub";
import { programOf } from "@still-pine/contract/views";
import { updateReadModels } from "../read-models/update";
import { chainsOf, correctionsOf, eventsById, horsesOfOutings, insertEvents, rootOf, type StoredEvent } from "./events";
import { lockHorses, type StoredHorse } from "./horses";
import { withIds } from "./labels";
import type { Yard } from "./yard";

export interface Offered {
  horse: string;
  outing: string | null;
  event: unknown;
}

export interface Taken {
  results: EventResult[];
  changes: { horse: string; changes: VerdictChange[] }[];
}

/** What is known of the batch while it is looked through: an event that is refused leaves a gap. */
interface Batch {
  offered: readonly Offered[];
  candidates: (StoredEvent | null)[];
  refused: Map<number, InputProblem[]>;
}

/**
 * Takes a batch of events: each is stored, was there already, or is refused with the reason; a bad one does not stop the
 * good ones. Sending the same batch again, in parts or in another order, changes nothing. What is derived of the horses is
 * brought up to them in the same transaction.
 */
export async function takeEvents(pool: Pool, yard: Yard, offered: readonly Offered[], now: string): Promise<Taken> {
  return inTransaction(pool, (client) => take(client, yard, offered, now, true));
}

/**
 * As `takeEvents`, inside a transaction of the caller's.
 *
 * @param isNew written just now, not read from a file that may be old
 * @param refusedBefore what of the batch is not looked at, by its place, and why
 */
export async function take(
  client: PoolClient,
  yard: Yard,
  offered: readonly Offered[],
  now: string,
  isNew = false,
  refusedBefore: ReadonlyMap<number, InputProblem[]> = new Map(),
): Promise<Taken> {
  const horses = await lockHorses(
    client,
    yard.id,
    offered.map((one) => one.horse),
  );
  const batch: Batch = { offered, candidates: [], refused: new Map(refusedBefore) };
  batch.candidates = offered.map((one, index) =>
    batch.refused.has(index) ? null : readOne(one, index, horses, batch.refused, isNew),
  );
  await refuseStrangers(client, yard, batch);
  await refuseUnfitCorrections(client, yard, batch, horses);
  await nameByIds(client, yard, batch);

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
    const unfit = await voidUnfit(client, yard, own, programOf(horse.programId), now);
    changes.push({ horse: id, changes: await updateReadModels(client, yard, horse, [...own, ...unfit], now) });
  }
  const outings = firsts.flatMap((one) => (isFresh(one) && one.outingId !== null ? [one.outingId] : []));
  await tell(
    client,
    outings.map((outing) => outingTopic(yard.id, outing)),
  );
  return { results: resultsOf(batch, stored, fresh, now), changes };
}

function readOne(
  { horse, outing, event }: Offered,
  index: number,
  horses: ReadonlyMap<string, StoredHorse>,
  refused: Map<number, InputProblem[]>,
  isNew: boolean,
): StoredEvent | null {
  const at = `events[${index}]`;
  const refuse = (...why: InputProblem[]): null => {
    refused.set(index, why);
    return null;
  };
  const known = horses.get(horse);
  if (!known) return refuse({ path: `${at}.horse`, expected: "a horse of this yard", found: shown(horse) });
  if (isTooDeep(event))
    return refuse({
      path: `${at}.event`,
      expected: `at most ${LEVELS_MOST} levels of lists and objects`,
      found: "more",
    });
  const bad = unstorable(event) ?? unstorable(outing);
  if (bad) return refuse({ path: `${at}.event`, expected: "text a database can hold", found: bad });
  const parsed = parseEvent(event, ["events", index, "event"], programOf(known.programId), isNew);
  if (parsed.problems) return refuse(...parsed.problems);
  return { horseId: horse, outingId: outing, event: parsed.event };
}

function resultsOf(
  { offered, candidates, refused }: Batch,
  stored: ReadonlyMap<string, StoredEvent>,
  fresh: ReadonlySet<string>,
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
            path: `events[${index}].event.id`,
            expected: `an id of its own, or the same event as the one stored under it: ${shortly(there)}`,
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

/** An outing belongs to one horse. */
async function refuseStrangers(client: PoolClient, yard: Yard, batch: Batch): Promise<void> {
  const ids = batch.candidates.flatMap((one) => one?.outingId ?? []);
  const owners = await horsesOfOutings(client, yard.id, ids);
  batch.candidates.forEach((one, index) => {
    if (!one?.outingId) return;
    const owner = owners.get(one.outingId);
    if (owner === undefined) owners.set(one.outingId, one.horseId);
    else if (owner !== one.horseId)
      refuse(batch, index, [
        { path: `events[${index}].outing`, expected: "an outing of the same horse", found: shown(one.outingId) },
      ]);
  });
}

/**
 * Changed fields must leave an event that is right in itself, after all corrections of it, and an event of the same horse. Of
 * what has not come yet only this is known: whether any type of event has such fields.
 */
async function refuseUnfitCorrections(
  client: PoolClient,
  yard: Yard,
  batch: Batch,
  horses: ReadonlyMap<string, StoredHorse>,
): Promise<void> {
  const isTheirs = (one: StoredEvent | null): one is StoredEvent => one !== null && isCorrection(one.event);
  const corrections = batch.candidates.filter(isTheirs);
  if (corrections.length === 0) return;
  const fresh = firstOfEach(batch.candidates);
  const chains = await chainsOf(client, yard.id, corrections, fresh);
  const targets = await eventsById(
    client,
    yard.id,
    corrections.map(({ event }) => (isCorrection(event) ? event.replaces : "")),
  );
  const known = new Map([...fresh, ...targets].map((one) => [one.event.id, one]));
  const whole = [...new Set([...chains.values()].flatMap((chain) => rootOf(chain) ?? []))];
  const all = [...whole, ...fresh.filter(isTheirs), ...(await correctionsOf(client, yard.id, whole))];
  const { standingOf } = resolveCorrections(all.map(({ event }) => event));
  batch.candidates.forEach((one, index) => {
    if (!isTheirs(one) || !isCorrection(one.event)) return;
    const at = `events[${index}].event`;
    const target = known.get(one.event.replaces);
    const root = rootOf(chains.get(one.event.id));
    if (one.event.replaces === one.event.id)
      refuse(batch, index, [{ path: `${at}.replaces`, expected: "another event", found: "itself" }]);
    else if ((target ?? root) && (target ?? root)?.horseId !== one.horseId)
      refuse(batch, index, [
        { path: `${at}.replaces`, expected: "an event of this horse's record", found: shown(one.event.replaces) },
      ]);
    else if (root) {
      const problems = problemsAfter(
        root.event,
        one.event.id,
        standingOf,
        programOf(horses.get(one.horseId)?.programId ?? ""),
      );
      if (problems)
        refuse(
          batch,
          index,
          problems.map((problem) => ({ ...problem, path: `${at}.${problem.path}` })),
        );
    } else {
      const given = one.event.with ?? {};
      const bad = misfits(given);
      if (bad.length > 0)
        refuse(
          batch,
          index,
          bad.map((field) => ({
            path: `${at}.with.${field}`,
            expected: "a value such a field can have",
            found: shown(given[field]),
          })),
        );
    }
  });
}

/** What is wrong with an event as it stands after its corrections, if this one is among those that made it so. */
function problemsAfter(
  root: RecordEvent,
  correction: string,
  standingOf: ReturnType<typeof resolveCorrections>["standingOf"],
  program: Program,
): InputProblem[] | undefined {
  const standing = standingOf(root);
  if (standing.voided || standing.event === root || !standing.by.some(({ id }) => id === correction)) return undefined;
  return parseEvent(standing.event, ["with"], program).problems;
}

/**
 * A correction may come before what it corrects. Where it then turns out not to fit, the event stands as it was written and
 * the correction is struck out by one of ours, which says why.
 */
async function voidUnfit(
  client: PoolClient,
  yard: Yard,
  fresh: readonly StoredEvent[],
  program: Program,
  now: string,
): Promise<StoredEvent[]> {
  const targets = fresh.filter(({ event }) => !isCorrection(event));
  if (targets.length === 0) return [];
  const waiting = await correctionsOf(client, yard.id, targets);
  const early = waiting.filter((one) => !fresh.some(({ event }) => event.id === one.event.id));
  if (early.length === 0) return [];
  const { standingOf } = resolveCorrections([...targets, ...waiting].map(({ event }) => event));
  const voids = targets.flatMap(({ event }) => {
    const standing = standingOf(event);
    if (standing.voided || !parseEvent(standing.event, ["with"], program).problems) return [];
    const suspects = standing.by.filter(({ id }) => early.some((one) => one.event.id === id));
    const isUnfit = (correction: RecordEvent): boolean => {
      const alone = resolveCorrections([event, correction]).standingOf(event).event;
      return parseEvent(alone, ["with"], program).problems !== undefined;
    };
    // Where each would do by itself, it is all of them together that do not.
    const unfit = suspects.some(isUnfit) ? suspects.filter(isUnfit) : suspects;
    return unfit.flatMap(({ id }) => early.find((one) => one.event.id === id) ?? []);
  });
  const made = voids.map(({ horseId, outingId, event }): StoredEvent => ({
    horseId,
    outingId,
    event: {
      id: `${event.id}:unfit`.slice(-200),
      at: event.at,
      recordedAt: now,
      type: "correction",
      replaces: event.id,
      void: true,
      text: "It came before what it corrects, and does not fit it.",
    } as RecordEvent,
  }));
  const stored = await insertEvents(client, yard.id, made);
  return made.filter(({ event }) => stored.has(event.id));
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

/** PostgreSQL's JSON holds neither NUL nor half a surrogate pair. Names what cannot be stored, or undefined. */
function unstorable(value: unknown): string | undefined {
  if (typeof value === "string")
    return value.includes("\0") ? "a NUL character" : /\p{Cs}/u.test(value) ? "half a character" : undefined;
  if (typeof value !== "object" || value === null) return undefined;
  for (const [key, field] of Object.entries(value)) {
    const bad = unstorable(key) ?? unstorable(field);
    if (bad) return bad;
  }
  return undefined;
}
