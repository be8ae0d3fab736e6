import type { Page } from "@playwright/test";

/** Everything a phone keeps of the product: both its databases and its settings. */
export interface Device {
  databases: { name: string; version: number; stores: Record<string, { key?: string; value: unknown }[]> }[];
  local: Record<string, string>;
}

/** Room that is given up when the device is full says nothing. */
const LEFT = "reserve";

/** What the device of a page keeps, as plain data; photos and voice are left out. */
export function takeDevice(page: Page): Promise<Device> {
  return page.evaluate(async (left): Promise<Device> => {
    const done = <T>(asked: IDBRequest<T>): Promise<T> =>
      new Promise((resolve, reject) => {
        asked.addEventListener("success", () => resolve(asked.result));
        asked.addEventListener("error", () => reject(asked.error));
      });
    const databases: Device["databases"] = [];
    for (const { name = "" } of await indexedDB.databases()) {
      const db = await done(indexedDB.open(name));
      const stores: Device["databases"][number]["stores"] = {};
      for (const store of db.objectStoreNames) {
        if (store === left) continue;
        const at = db.transaction(store).objectStore(store);
        const [keys, values] = await Promise.all([done(at.getAllKeys()), done(at.getAll() as IDBRequest<unknown[]>)]);
        // Stores whose rows carry their key are filled without one.
        stores[store] = values.map((value, index) =>
          at.keyPath === null ? { key: String(keys[index]), value } : { value },
        );
      }
      databases.push({ name, version: db.version, stores });
      db.close();
    }
    return { databases, local: { ...localStorage } };
  }, LEFT);
}

/** Puts what another device kept into the one of a page, whose databases have been made; the page is opened anew afterwards. */
export function putDevice(page: Page, device: Device): Promise<void> {
  return page.evaluate(async ({ databases, local }) => {
    localStorage.clear();
    for (const [name, value] of Object.entries(local)) localStorage.setItem(name, value);
    for (const { name, stores } of databases) {
      const db = await new Promise<IDBDatabase>((resolve, reject) => {
        const asked = indexedDB.open(name);
        asked.addEventListener("success", () => resolve(asked.result));
        asked.addEventListener("error", () => reject(asked.error));
      });
      for (const [store, rows] of Object.entries(stores)) {
        const tx = db.transaction(store, "readwrite");
        tx.objectStore(store).clear();
        for (const { key, value } of rows) tx.objectStore(store).put(value, key);
        await new Promise((resolve) => tx.addEventListener("complete", resolve));
      }
      db.close();
    }
  }, device);
}
