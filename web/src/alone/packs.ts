import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { HorsePack, PackView } from "@still-pine/contract/http";

/** What this device keeps of the yard to work alone. Nothing is recorded here: all of it can be fetched again. */

interface Shape extends DBSchema {
  yard: { key: "pack"; value: { pack: PackView; at: string } };
  horses: { key: string; value: HorsePack };
}

let opened: Promise<IDBPDatabase<Shape> | null> | null = null;

const packs = (): Promise<IDBPDatabase<Shape> | null> => (opened ??= open());

async function open(): Promise<IDBPDatabase<Shape> | null> {
  try {
    return await openDB<Shape>("still-pine.day", 1, {
      upgrade(db) {
        db.createObjectStore("yard");
        db.createObjectStore("horses", { keyPath: "row.id" });
      },
      blocking: (_current, _blocked, event) => (event.target as IDBDatabase).close(),
    });
  } catch {
    // A browser that keeps nothing shows nothing by itself either.
    return null;
  }
}

/** The yard as it was last fetched, and when; null where nothing was. */
export async function yardPack(): Promise<{ pack: PackView; at: string } | null> {
  return (await (await packs())?.get("yard", "pack")) ?? null;
}

export async function horsePack(id: string): Promise<HorsePack | null> {
  return (await (await packs())?.get("horses", id)) ?? null;
}

/** Forgets everything: another yard, or this device was shut out. */
export async function forgetPacks(): Promise<void> {
  const db = await packs();
  await db?.clear("yard");
  await db?.clear("horses");
}

type Fetch = (path: string) => Promise<unknown>;

/**
 * Fetches what is new of the yard. Of a horse nothing is fetched that is here already.
 *
 * @param fetch an answer of the server's, or null where there is none
 * @returns whether all of it is here now
 */
export async function refreshPacks(fetch: Fetch, now: string): Promise<boolean> {
  const db = await packs();
  if (!db) return false;
  const pack = (await fetch("pack")) as PackView | null;
  if (!pack) return false;
  const wanted = new Set(pack.horses.map(({ id }) => id));
  for (const id of await db.getAllKeys("horses")) if (!wanted.has(id)) await db.delete("horses", id);
  for (const { id, mark } of pack.horses) {
    if ((await db.get("horses", id))?.mark === mark) continue;
    const fresh = (await fetch(`horses/${encodeURIComponent(id)}/pack`)) as HorsePack | null;
    if (!fresh) return false;
    await db.put("horses", fresh);
  }
  // Last: that it is there says that the horses are.
  await db.put("yard", { pack, at: now }, "pack");
  return true;
}
