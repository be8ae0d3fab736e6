import type { PoolClient } from "pg";
import { misfits, parseEvent, shown, type InputProblem } from "@still-pine/contract/record";
import type { Program } from "@still-pine/core/programs";
import { compareEvents, resolveCorrections, type RecordEvent, type HorseId } from "@still-pine/core/record";
import { correctionsOf, isStoredCorrection, rootsIn, targetsOf, type StoredCorrection } from "../store/corrections";
import { insertEvents, type StoredEvent } from "../store/events";
import type { Yard } from "../store/yard";

/** What corrections leave must be right in itself, judged in their effective order, whatever the order they come in. */

/** Entries of one horse that are about to be stored, or just were. */
interface OfOneHorse {
  horse: HorseId;
  program: Program;
  fresh: readonly StoredEvent[];
}

/** An entry with all that is said of it. */
interface Corrected {
  root: StoredEvent;
  stored: StoredCorrection[];
  fresh: StoredCorrection[];
}

/** So many corrections of one entry are tried one by one for which of them does not fit; of more all new ones are refused. */
const TRIED_MOST = 500;

/** What is wrong with an entry as it stands after these corrections. */
function problemsAfter(
  root: StoredEvent,
  corrections: readonly StoredCorrection[],
  program: Program,
): InputProblem[] | undefined {
  const standing = resolveCorrections([root.event, ...corrections.map(({ event }) => event)]).standingOf(root.event);
  if (standing.voided || standing.event === root.event) return undefined;
  return parseEvent(standing.event, ["with"], program).problems;
}

/**
 * New corrections that do not fit, and why. Of what they correct and is not known yet only this is known: whether any type of
 * entry has such fields.
 */
export async function unfitCorrections(
  client: PoolClient,
  yard: Yard,
  { horse, program, fresh }: OfOneHorse,
): Promise<Map<string, InputProblem[]>> {
  const unfit = new Map<string, InputProblem[]>();
  const corrections = fresh.filter(isStoredCorrection);
  if (corrections.length === 0) return unfit;
  const { corrected, stray } = await correctedBy(client, yard, horse, corrections, fresh);
  for (const { event } of stray) {
    const given = event.with ?? {};
    const bad = misfits(given);
    if (event.replaces === event.id)
      unfit.set(event.id, [{ path: "replaces", expected: "another event", found: "itself" }]);
    else if (bad.length > 0)
      unfit.set(
        event.id,
        bad.map((field) => ({
          path: `with.${field}`,
          expected: "a value such a field can have",
          found: shown(given[field]),
        })),
      );
  }
  for (const { root, stored, fresh: own } of corrected) {
    if (!problemsAfter(root, [...stored, ...own], program)) continue;
    // What came first and does not fit is struck out below: neither it nor what only now comes to count is the fault of these.
    const accepted = countingAlready(root, stored);
    if (problemsAfter(root, accepted, program)) continue;
    for (const one of own.toSorted((a, b) => compareEvents(a.event, b.event))) {
      const isTooMany = stored.length + own.length > TRIED_MOST;
      const problems = problemsAfter(root, isTooMany ? [...accepted, ...own] : [...accepted, one], program);
      if (problems) unfit.set(one.event.id, problems);
      else accepted.push(one);
    }
  }
  return unfit;
}

/** Of the corrections of an entry those that reach it without any new one. */
function countingAlready(root: StoredEvent, stored: readonly StoredCorrection[]): StoredCorrection[] {
  const rootOf = rootsIn(new Map([root, ...stored].map((one) => [one.event.id, one])));
  return stored.filter(({ event }) => rootOf(event.id) === root);
}

/** Entries these corrections are about, each with every correction of it; and the corrections of what is not known. */
async function correctedBy(
  client: PoolClient,
  yard: Yard,
  horse: HorseId,
  corrections: readonly StoredCorrection[],
  fresh: readonly StoredEvent[],
): Promise<{ corrected: Corrected[]; stray: StoredCorrection[] }> {
  const known = await targetsOf(client, yard.id, horse, corrections, fresh);
  const rootOfNew = rootsIn(known);
  const roots = new Map<string, Corrected>();
  const stray: StoredCorrection[] = [];
  for (const one of corrections) {
    const root = rootOfNew(one.event.id);
    if (root) roots.set(root.event.id, { root, stored: [], fresh: [] });
    else stray.push(one);
  }
  if (roots.size > 0)
    await addCorrections(client, yard, horse, roots, known, new Set(corrections.map(({ event }) => event.id)));
  return { corrected: [...roots.values()], stray };
}

/** Puts every correction of some entries to the one it is about, wherever it stands in its chain. */
async function addCorrections(
  client: PoolClient,
  yard: Yard,
  horse: HorseId,
  roots: ReadonlyMap<string, Corrected>,
  known: Map<string, StoredEvent>,
  isNew: ReadonlySet<string>,
): Promise<void> {
  const held = [...[...roots.values()].map(({ root }) => root), ...known.values()];
  for (const one of await correctionsOf(client, yard.id, horse, held)) known.set(one.event.id, one);
  const rootOf = rootsIn(known);
  for (const one of known.values()) {
    if (!isStoredCorrection(one)) continue;
    const corrected = roots.get(rootOf(one.event.id)?.event.id ?? "");
    if (corrected) (isNew.has(one.event.id) ? corrected.fresh : corrected.stored).push(one);
  }
}

/**
 * A correction may come before what it corrects, or before what makes it count. Where it then turns out not to fit, the entry
 * stands as it would without it: it is struck out by one of ours, which says why. Call when the fresh ones are stored.
 *
 * @returns what was stored for that
 */
export async function strikeUnfit(
  client: PoolClient,
  yard: Yard,
  { horse, program, fresh }: OfOneHorse,
  now: string,
): Promise<StoredEvent[]> {
  if (fresh.length === 0) return [];
  const corrections = fresh.filter(isStoredCorrection);
  const known = await targetsOf(client, yard.id, horse, corrections, fresh);
  const rootOf = rootsIn(known);
  const roots = new Map<string, Corrected>();
  for (const one of fresh) {
    const root = isStoredCorrection(one) ? rootOf(one.event.id) : one;
    if (root) roots.set(root.event.id, { root, stored: [], fresh: [] });
  }
  const isNew = new Set(corrections.map(({ event }) => event.id));
  await addCorrections(client, yard, horse, roots, known, isNew);
  const isCorrected = (one: Corrected): boolean => one.stored.length + one.fresh.length > 0;
  const made = [...roots.values()].filter(isCorrected).flatMap((one) => strikesFor(one, program, now));
  const stored = await insertEvents(client, yard.id, made);
  return made.filter(({ event }) => stored.has(event.id));
}

/** Strikes that leave an entry right in itself: of those that came early first, and of these what would not do by itself. */
function strikesFor({ root, stored, fresh }: Corrected, program: Program, now: string): StoredEvent[] {
  const strikes: StoredCorrection[] = [];
  const fits = (): boolean => !problemsAfter(root, [...stored, ...fresh, ...strikes], program);
  const strike = (which: readonly StoredCorrection[]): void => {
    for (const one of which) strikes.push(strikeOut(one, now));
  };
  if (fits()) return [];
  const counting = (list: readonly StoredCorrection[]): StoredCorrection[] => {
    const resolved = resolveCorrections([root, ...stored, ...fresh].map(({ event }) => event));
    const by = new Set(resolved.standingOf(root.event).by.map(({ id }) => id));
    return list.filter(({ event }) => by.has(event.id));
  };
  const early = counting(stored);
  const unfitAlone = early.filter((one) => problemsAfter(root, [one], program));
  strike(unfitAlone);
  if (!fits()) strike(early.filter((one) => !unfitAlone.includes(one)));
  if (!fits()) strike(counting(fresh));
  return strikes;
}

const ID_MOST = 200;

function strikeOut({ horseId, outingId, event }: StoredCorrection, now: string): StoredCorrection {
  return {
    horseId,
    outingId,
    event: {
      id: `${event.id}:unfit`.slice(-ID_MOST),
      at: event.at,
      recordedAt: now,
      type: "correction",
      replaces: event.id,
      void: true,
      text: "It came before what it corrects, and does not fit it.",
    } as RecordEvent as StoredCorrection["event"],
  };
}
