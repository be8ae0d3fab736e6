import type { Pool, PoolClient } from "pg";
import { canonical, isTooDeep, LEVELS_MOST, parseEvent, type InputProblem } from "@still-pine/contract/record";
import type { EventResult } from "@still-pine/contract/http";
import { isCorrection, resolveCorrections, type RecordEvent } from "@still-pine/core/record";
import { findProgram, loosePenStart, type Program } from "@still-pine/core/programs";
import { inTransaction } from "../db/pool";
import { eventsById, eventsOfHorse, horsesOfOutings, insertEvents, type StoredEvent } from "./events";
import { findHorse } from "./horses";
import { idsForLabels } from "./labels";

export interface Offered {
  horse: string;
  outing: string | null;
  event: unknown;
}

interface Candidate extends StoredEvent {
  id: string;
}

/**
 * Takes a batch of events: each is stored, was there already, or is refused with the reason; a bad one does not stop the
 * good ones. Sending the same batch again, in parts or in another order, changes nothing.
 */
export async function takeEvents(pool: Pool, yardId: string, offered: readonly Offered[]): Promise<EventResult[]> {
  return inTransaction(pool, (client) => take(client, yardId, offered));
}

/** As `takeEvents`, inside a transaction of the caller's. */
export async function take(client: PoolClient, yardId: string, offered: readonly Offered[]): Promise<EventResult[]> {
  const refused = new Map<number, InputProblem[]>();
  const programs = await programsOf(client, yardId, offered);
  const candidates: (Candidate | null)[] = offered.map(({ horse, outing, event }, index) => {
    const program = programs.get(horse);
    const path = ["events", index, "event"];
    if (!program) {
      refused.set(index, [{ path: `events[${index}].horse`, expected: "a horse of this yard", found: horse }]);
      return null;
    }
    if (isTooDeep(event)) {
      refused.set(index, [
        {
          path: `events[${index}].event`,
          expected: `at most ${LEVELS_MOST} levels of lists and objects`,
          found: "more",
        },
      ]);
      return null;
    }
    const parsed = parseEvent(event, path, program);
    const unfit = parsed.event && unstorable(parsed.event);
    if (parsed.problems || unfit) {
      refused.set(
        index,
        parsed.problems ?? [
          { path: `events[${index}].event`, expected: "text a database can hold", found: unfit ?? "" },
        ],
      );
      return null;
    }
    return { id: parsed.event.id, horseId: horse, outingId: outing, event: parsed.event };
  });

  await refuseStrangers(client, yardId, candidates, refused);
  await refuseBadEnds(client, yardId, candidates, refused);
  await refuseBadCorrections(client, yardId, candidates, programs, refused);
  await withIds(client, yardId, candidates);

  const firsts = firstOfEach(candidates);
  const fresh = await insertEvents(client, yardId, firsts);
  const alreadyThere = firsts.filter((one) => !fresh.has(one.id)).map((one) => one.id);
  const kept = [...firsts.filter((one) => fresh.has(one.id)), ...(await eventsById(client, yardId, alreadyThere))];
  const stored = new Map(kept.map((one) => [one.event.id, one]));

  const said = new Set<string>();
  return offered.map((item, index): EventResult => {
    const id = String((item.event as { id?: unknown } | null)?.id ?? "");
    const why = refused.get(index);
    const one = candidates[index];
    if (why || !one) return { id, result: "refused", why: why ?? [] };
    const there = stored.get(one.id);
    if (there && canonical(asSent(there)) !== canonical(asSent(one)))
      return {
        id,
        result: "refused",
        why: [
          {
            path: `events[${index}].event.id`,
            expected: "an id of its own, or the same event as the one stored under it",
            found: `${id} with other content`,
          },
        ],
      };
    const result = fresh.has(id) && !said.has(id) ? "stored" : "already there";
    said.add(id);
    return { id, result };
  });
}

const asSent = ({ horseId, outingId, event }: StoredEvent): unknown => ({ horseId, outingId, event });

function firstOfEach(candidates: readonly (Candidate | null)[]): Candidate[] {
  const first = new Map<string, Candidate>();
  for (const one of candidates) if (one && !first.has(one.id)) first.set(one.id, one);
  return [...first.values()];
}

async function programsOf(
  client: PoolClient,
  yardId: string,
  offered: readonly Offered[],
): Promise<Map<string, Program>> {
  const programs = new Map<string, Program>();
  for (const id of new Set(offered.map((one) => one.horse))) {
    const horse = await findHorse(client, yardId, id);
    if (horse) programs.set(id, findProgram(horse.programId) ?? loosePenStart);
  }
  return programs;
}

/** An outing belongs to one horse. */
async function refuseStrangers(
  client: PoolClient,
  yardId: string,
  candidates: (Candidate | null)[],
  refused: Map<number, InputProblem[]>,
): Promise<void> {
  const owners = await horsesOfOutings(
    client,
    yardId,
    candidates.flatMap((one) => one?.outingId ?? []),
  );
  candidates.forEach((one, index) => {
    if (!one?.outingId) return;
    const owner = owners.get(one.outingId);
    if (owner === undefined) owners.set(one.outingId, one.horseId);
    else if (owner !== one.horseId)
      refuse(candidates, refused, index, [
        { path: `events[${index}].outing`, expected: "an outing of the same horse", found: one.outingId },
      ]);
  });
}

/** An outing does not end before it starts. */
async function refuseBadEnds(
  client: PoolClient,
  yardId: string,
  candidates: (Candidate | null)[],
  refused: Map<number, InputProblem[]>,
): Promise<void> {
  const ends = candidates.filter((one) => one?.event.type === "outing-end");
  if (ends.length === 0) return;
  const starts = new Map<string, string>();
  const { rows } = await client.query<{ outing_id: string; body: RecordEvent }>(
    "select outing_id, body from event where yard_id = $1 and outing_id = any($2) and type = 'outing-start'",
    [yardId, ends.map((one) => one?.outingId)],
  );
  for (const row of rows) starts.set(row.outing_id, row.body.at);
  for (const one of candidates)
    if (one?.outingId && one.event.type === "outing-start") starts.set(one.outingId, one.event.at);
  candidates.forEach((one, index) => {
    if (!one?.outingId || one.event.type !== "outing-end") return;
    const start = starts.get(one.outingId);
    if (start !== undefined && Date.parse(one.event.at) < Date.parse(start))
      refuse(candidates, refused, index, [
        { path: `events[${index}].event.at`, expected: `an end not before the start, ${start}`, found: one.event.at },
      ]);
  });
}

/** Changed fields must leave an event that is right in itself, after all corrections of it. */
async function refuseBadCorrections(
  client: PoolClient,
  yardId: string,
  candidates: (Candidate | null)[],
  programs: Map<string, Program>,
  refused: Map<number, InputProblem[]>,
): Promise<void> {
  for (const [horse, program] of programs) {
    const corrections = candidates.filter((one) => one?.horseId === horse && isCorrection(one.event));
    if (corrections.length === 0) continue;
    const before = await eventsOfHorse(client, yardId, horse);
    const known = new Map<string, RecordEvent>(before.map((row) => [row.event.id, row.event]));
    for (const one of candidates) if (one?.horseId === horse && !known.has(one.id)) known.set(one.id, one.event);
    const all = [...known.values()];
    const { standingOf, stray } = resolveCorrections(all);
    const strays = new Set(stray.map((one) => one.id));
    const bad = new Map<string, InputProblem[]>();
    for (const event of all) {
      const standing = standingOf(event);
      const last = standing.by.at(-1);
      if (!last || standing.voided || standing.event === event) continue;
      const { problems } = parseEvent(standing.event, ["with"], program);
      if (problems) bad.set(last.id, problems);
    }
    candidates.forEach((one, index) => {
      if (!one || !isCorrection(one.event)) return;
      const problems = bad.get(one.id);
      const at = `events[${index}].event`;
      if (strays.has(one.id))
        refuse(candidates, refused, index, [
          { path: `${at}.replaces`, expected: "an event of this horse's record", found: one.event.replaces },
        ]);
      else if (problems)
        refuse(
          candidates,
          refused,
          index,
          problems.map((problem) => ({ ...problem, path: `${at}.${problem.path}` })),
        );
    });
  }
}

function refuse(
  candidates: (Candidate | null)[],
  refused: Map<number, InputProblem[]>,
  index: number,
  why: InputProblem[],
): void {
  refused.set(index, why);
  candidates[index] = null;
}

/** Labels of people and places become ids. */
async function withIds(client: PoolClient, yardId: string, candidates: (Candidate | null)[]): Promise<void> {
  const starts = candidates.filter((one): one is Candidate => one?.event.type === "outing-start");
  if (starts.length === 0) return;
  const field = (name: "place" | "handler"): string[] =>
    starts.flatMap(({ event }) => ((event as Record<string, unknown>)[name] as string | undefined) ?? []);
  const places = await idsForLabels(client, yardId, "place", field("place"));
  const people = await idsForLabels(client, yardId, "person", field("handler"));
  for (const one of starts) {
    const { place, handler } = one.event as { place?: string; handler?: string };
    one.event = {
      ...one.event,
      ...(place === undefined ? {} : { place: places.get(place) ?? place }),
      ...(handler === undefined ? {} : { handler: people.get(handler) ?? handler }),
    };
  }
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
