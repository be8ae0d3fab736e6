import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { Caps, Exercise } from "@still-pine/core/outing";
import type { Dialect } from "@still-pine/core/programs";
import type { RecordEvent } from "@still-pine/core/record";

/** What this device keeps of outings recorded on it. Everything is written here before anything else happens with it. */

/** One outing as this device began it. */
export interface KeptOuting {
  id: string;
  horse: string;
  horseName: string;
  program: { id: string; version: number };
  startedAt: string;
  exercises: Exercise[];
  known: string[];
  caps: Caps;
  timeZone: string;
  words: Dialect;
  isOver: boolean;
  /** Milliseconds added to this device's clock since it was set in the middle of the outing. */
  clockOffset: number;
  /** When the handler stepped in, while he stands there. */
  dwellFrom: number | null;
}

export interface KeptEvent {
  key?: number;
  outing: string;
  horse: string;
  event: RecordEvent;
  /** 0 until the server has it; a number, since a truth value cannot be an index. */
  sent: 0 | 1;
  /** Why the server refused it. */
  refused?: string;
}

/** A photo or voice note on its way; a voice note grows while it is spoken. */
export interface KeptMedia {
  id: string;
  outing: string;
  horse: string;
  kind: "photo" | "voice";
  parts: Blob[];
  thumbnail: Blob | null;
  isWhole: boolean;
  sent: 0 | 1;
  refused?: string;
}

interface Shape extends DBSchema {
  outings: { key: string; value: KeptOuting };
  events: { key: number; value: KeptEvent; indexes: { outing: string; sent: number } };
  media: { key: string; value: KeptMedia; indexes: { sent: number } };
  /** Room that is given up when the device is full, so that the entries of this outing still fit. */
  reserve: { key: string; value: Uint8Array };
}

const NAME = "still-pine.pen";
const RESERVE_BYTES = 512 * 1024;

/** Written through to the disk before it counts as kept. */
const STRICT = { durability: "strict" } as const;

/** Where outings are kept: the device's own database, or a list in memory where the browser refuses one. */
export interface Keeper {
  outings(): Promise<KeptOuting[]>;
  outing(id: string): Promise<KeptOuting | undefined>;
  keepOuting(outing: KeptOuting, events: readonly KeptEvent[]): Promise<void>;
  changeOuting(id: string, change: Partial<KeptOuting>): Promise<void>;
  events(outing: string): Promise<KeptEvent[]>;
  keepEvents(events: readonly KeptEvent[]): Promise<void>;
  unsent(): Promise<KeptEvent[]>;
  markSent(events: readonly KeptEvent[]): Promise<void>;
  keepMedia(media: KeptMedia): Promise<void>;
  unsentMedia(): Promise<KeptMedia[]>;
  /** Whether what is kept outlives this page. */
  readonly isLasting: boolean;
}

class Database implements Keeper {
  readonly isLasting = true;

  constructor(private readonly db: IDBPDatabase<Shape>) {}

  outings(): Promise<KeptOuting[]> {
    return this.db.getAll("outings");
  }

  outing(id: string): Promise<KeptOuting | undefined> {
    return this.db.get("outings", id);
  }

  async keepOuting(outing: KeptOuting, events: readonly KeptEvent[]): Promise<void> {
    await this.holdReserve();
    await this.withReserve(async () => {
      const tx = this.db.transaction(["outings", "events"], "readwrite", STRICT);
      await Promise.all([
        tx.objectStore("outings").put(outing),
        ...events.map((one) => tx.objectStore("events").put(one)),
        tx.done,
      ]);
    });
  }

  async changeOuting(id: string, change: Partial<KeptOuting>): Promise<void> {
    await this.withReserve(async () => {
      const tx = this.db.transaction("outings", "readwrite", STRICT);
      const before = await tx.store.get(id);
      if (before) await tx.store.put({ ...before, ...change });
      await tx.done;
    });
  }

  events(outing: string): Promise<KeptEvent[]> {
    return this.db.getAllFromIndex("events", "outing", outing);
  }

  async keepEvents(events: readonly KeptEvent[]): Promise<void> {
    await this.withReserve(async () => {
      const tx = this.db.transaction("events", "readwrite", STRICT);
      await Promise.all([...events.map((one) => tx.store.put(one)), tx.done]);
    });
  }

  unsent(): Promise<KeptEvent[]> {
    return this.db.getAllFromIndex("events", "sent", 0);
  }

  async markSent(events: readonly KeptEvent[]): Promise<void> {
    const tx = this.db.transaction("events", "readwrite");
    await Promise.all([...events.map((one) => tx.store.put({ ...one, sent: 1 })), tx.done]);
  }

  async keepMedia(media: KeptMedia): Promise<void> {
    // A picture never takes the room of the entries.
    await this.db.put("media", media);
  }

  unsentMedia(): Promise<KeptMedia[]> {
    return this.db.getAllFromIndex("media", "sent", 0);
  }

  private async holdReserve(): Promise<void> {
    try {
      if ((await this.db.count("reserve")) === 0)
        await this.db.put("reserve", crypto.getRandomValues(new Uint8Array(65_536)), "0");
      for (let at = 1; at < RESERVE_BYTES / 65_536; at += 1)
        if ((await this.db.count("reserve", String(at))) === 0)
          await this.db.put("reserve", crypto.getRandomValues(new Uint8Array(65_536)), String(at));
    } catch {
      // Full already: then there is nothing to hold.
    }
  }

  /** Where the device is full the reserve is given up, and the same is tried once more. */
  private async withReserve(keep: () => Promise<void>): Promise<void> {
    try {
      await keep();
    } catch (error) {
      if (!isFull(error)) throw error;
      await this.db.clear("reserve");
      await keep();
    }
  }
}

/** Whether a failure says that the device has no room left. */
export const isFull = (error: unknown): boolean => error instanceof Error && error.name === "QuotaExceededError";

/** For a browser that keeps nothing: the outing works, and is lost with the page; the pen says so. */
export class InMemory implements Keeper {
  readonly isLasting = false;
  private readonly kept = new Map<string, KeptOuting>();
  private readonly list: KeptEvent[] = [];
  private readonly files = new Map<string, KeptMedia>();

  outings = async (): Promise<KeptOuting[]> => [...this.kept.values()];
  outing = async (id: string): Promise<KeptOuting | undefined> => this.kept.get(id);
  events = async (outing: string): Promise<KeptEvent[]> => this.list.filter((one) => one.outing === outing);
  unsent = async (): Promise<KeptEvent[]> => this.list.filter(({ sent }) => sent === 0);
  unsentMedia = async (): Promise<KeptMedia[]> => [...this.files.values()].filter(({ sent }) => sent === 0);

  async keepOuting(outing: KeptOuting, events: readonly KeptEvent[]): Promise<void> {
    this.kept.set(outing.id, outing);
    await this.keepEvents(events);
  }

  async changeOuting(id: string, change: Partial<KeptOuting>): Promise<void> {
    const before = this.kept.get(id);
    if (before) this.kept.set(id, { ...before, ...change });
  }

  async keepEvents(events: readonly KeptEvent[]): Promise<void> {
    this.list.push(...events.map((one) => ({ ...one, key: this.list.length })));
  }

  async markSent(events: readonly KeptEvent[]): Promise<void> {
    for (const { event, refused } of events) {
      const one = this.list.find((kept) => kept.event.id === event.id);
      if (one) Object.assign(one, { sent: 1, ...(refused === undefined ? {} : { refused }) });
    }
  }

  async keepMedia(media: KeptMedia): Promise<void> {
    this.files.set(media.id, media);
  }
}

async function open(): Promise<Keeper> {
  try {
    const db = await openDB<Shape>(NAME, 1, {
      upgrade(fresh) {
        fresh.createObjectStore("outings", { keyPath: "id" });
        const events = fresh.createObjectStore("events", { keyPath: "key", autoIncrement: true });
        events.createIndex("outing", "outing");
        events.createIndex("sent", "sent");
        const media = fresh.createObjectStore("media", { keyPath: "id" });
        media.createIndex("sent", "sent");
        fresh.createObjectStore("reserve");
      },
      // Another tab of a later version waits for this one to let go.
      blocking: (_current, _blocked, event) => (event.target as IDBDatabase).close(),
    });
    // What is not asked to stay may be cleared by the browser when room grows short.
    void navigator.storage?.persist?.().catch(() => false);
    return new Database(db);
  } catch {
    return new InMemory();
  }
}

let opened: Promise<Keeper> | null = null;

/** The one keeper of this page. */
export const keeper = (): Promise<Keeper> => (opened ??= open());
