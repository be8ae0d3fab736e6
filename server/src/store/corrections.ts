import { isCorrection, type CorrectionEvent, type HorseId, type YardId } from "@still-pine/core/record";
import type { Db } from "../db/pool";
import { readEvents, type StoredEvent } from "./events";

/**
 * Who corrects whom, in the database. A correction works within one horse's record and nowhere else: one that names an entry of
 * another horse changes nothing, whichever of the two came first.
 */

/** A correction as it is stored. */
export type StoredCorrection = StoredEvent & { event: CorrectionEvent };

export const isStoredCorrection = (one: StoredEvent): one is StoredCorrection => isCorrection(one.event);

/** Every correction in a horse's record. Chains of them are gone along here: link by link the database would be asked each time. */
const allCorrections = (db: Db, yardId: YardId, horseId: HorseId): Promise<StoredEvent[]> =>
  readEvents(db, "yard_id = $1 and horse_id = $2 and type = 'correction'", [yardId, horseId]);

/** All corrections of these entries of a horse, of those corrections, and so on, wherever in its record; not those given already. */
export async function correctionsOf(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  events: readonly StoredEvent[],
): Promise<StoredEvent[]> {
  const given = new Set(events.map(({ event }) => event.id));
  if (given.size === 0) return [];
  const naming = (ids: readonly string[]): Promise<StoredEvent[]> =>
    readEvents(db, "yard_id = $1 and horse_id = $2 and replaces = any($3) order by arrival", [yardId, horseId, ids]);
  const direct = (await naming([...given])).filter(({ event }) => !given.has(event.id));
  if (direct.length === 0) return [];
  const further = await naming(direct.map(({ event }) => event.id));
  if (further.every(({ event }) => given.has(event.id))) return direct;
  const byTarget = new Map<string, StoredCorrection[]>();
  for (const one of (await allCorrections(db, yardId, horseId)).filter(isStoredCorrection)) {
    const list = byTarget.get(one.event.replaces);
    if (list) list.push(one);
    else byTarget.set(one.event.replaces, [one]);
  }
  const found = new Map<string, StoredEvent>();
  const open = [...given];
  for (let id = open.pop(); id !== undefined; id = open.pop())
    for (const one of byTarget.get(id) ?? [])
      if (!given.has(one.event.id) && !found.has(one.event.id)) {
        found.set(one.event.id, one);
        open.push(one.event.id);
      }
  return [...found.values()];
}

/**
 * What corrections of a horse are about: the entries they name, the ones those name where they are corrections, and so on.
 *
 * @param fresh entries of the same horse that are not stored yet
 * @returns all of them by id, `fresh` among them
 */
export async function targetsOf(
  db: Db,
  yardId: YardId,
  horseId: HorseId,
  corrections: readonly StoredCorrection[],
  fresh: readonly StoredEvent[],
): Promise<Map<string, StoredEvent>> {
  const known = new Map(fresh.map((one) => [one.event.id, one]));
  const missingOf = (list: readonly StoredCorrection[]): string[] => [
    ...new Set(list.map(({ event }) => event.replaces).filter((id) => !known.has(id))),
  ];
  const keep = (list: readonly StoredEvent[]): void => {
    for (const one of list) if (!known.has(one.event.id)) known.set(one.event.id, one);
  };
  const read = async (ids: readonly string[]): Promise<StoredEvent[]> =>
    ids.length === 0 ? [] : readEvents(db, "yard_id = $1 and horse_id = $2 and id = any($3)", [yardId, horseId, ids]);
  const named = await read(missingOf(corrections));
  keep(named);
  const further = missingOf(named.filter(isStoredCorrection));
  if (further.length === 0) return known;
  const all = new Map(
    (await allCorrections(db, yardId, horseId)).filter(isStoredCorrection).map((one) => [one.event.id, one]),
  );
  const along: StoredCorrection[] = [];
  const open = [...further];
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const one = all.get(id);
    if (!one || known.has(id)) continue;
    known.set(id, one);
    along.push(one);
    open.push(one.event.replaces);
  }
  keep(await read([...new Set([...further.filter((id) => !known.has(id)), ...missingOf(along)])]));
  return known;
}

/** Looks up the entry at the end of a correction's chain; nothing where that is not known, or the chain leads back to itself. */
export function rootsIn(known: ReadonlyMap<string, StoredEvent>): (id: string) => StoredEvent | undefined {
  const found = new Map<string, StoredEvent | undefined>();
  return (id) => {
    const path: string[] = [];
    const passed = new Set<string>();
    let current = known.get(id);
    while (current && isStoredCorrection(current) && !found.has(current.event.id) && !passed.has(current.event.id)) {
      passed.add(current.event.id);
      path.push(current.event.id);
      current = known.get(current.event.replaces);
    }
    const root = current && isStoredCorrection(current) ? found.get(current.event.id) : current;
    for (const one of path) found.set(one, root);
    return root;
  };
}
