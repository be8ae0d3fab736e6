import { openDB, type DBSchema, type IDBPDatabase, type IDBPTransaction, type StoreNames } from "idb";
import type { Caps, CheckUpCourse, Exercise, KeptLines } from "@still-pine/core/outing";
import type { Dialect, ProgramFile } from "@still-pine/core/programs";
import type { ShutGate, UpTo } from "@still-pine/core/readiness";
import type { RecordEvent, HorseId, OutingId } from "@still-pine/core/record";

/** What this device keeps of outings recorded on it. Everything is written here before anything else happens with it. */

/** One outing as this device began it. */
export interface KeptOuting {
  id: OutingId;
  horse: HorseId;
  horseName: string;
  program: { id: string; version: number };
  /** Where it is one of the yard's own: as it is written down, for a page that knows the yard no more. */
  programFile?: ProgramFile;
  startedAt: string;
  exercises: Exercise[];
  known: string[];
  /** As far as which rung a step may be worked, where a gate within its ladder is shut; kept since the gates know of rungs. */
  upTo?: readonly UpTo[];
  /** What shut gates held back when it began. */
  shut?: readonly ShutGate[];
  caps: Caps;
  /** Where it is a check-up: its tests in their order, what is known before, and what it set out with. */
  checkUp?: CheckUpCourse & { spared: string[]; expected: number };
  timeZone: string;
  words: Dialect;
  isOver: boolean;
  /** Milliseconds added to this device's clock since it was set in the middle of the outing. */
  clockOffset: number;
  /** When the handler stepped in, while he stands there. */
  dwellFrom: number | null;
  /** What was changed of the lines over the pad. */
  lines?: KeptLines;
  /** How far the server's events of it have come in here, by the order of coming in. */
  arrival?: number;
  /** What it set out with lies on the server too, for whoever joins. */
  isPlanSent?: boolean;
  /** Seconds this device's clock was last measured to be behind, as the record says. */
  behindSeconds?: number;
  /** Begun on another device; this one helps. */
  isJoined?: boolean;
}

export interface KeptEvent {
  key?: number;
  /** Null for what is said of the horse itself. */
  outing: OutingId | null;
  horse: HorseId;
  event: RecordEvent;
  /** 0 until the server has it, 2 where the server refused it; numbers, since a truth value cannot be an index. */
  sent: 0 | 1 | 2;
  /** Why the server refused it. */
  refused?: string;
}

/** A photo or voice note on its way; a voice note grows while it is spoken. */
export interface KeptMedia {
  id: string;
  outing: OutingId | null;
  horse: HorseId;
  kind: "photo" | "voice" | "clip";
  parts: Blob[];
  thumbnail: Blob | null;
  isWhole: boolean;
  sent: 0 | 1 | 2;
  refused?: string;
}

interface Shape extends DBSchema {
  outings: { key: string; value: KeptOuting };
  events: { key: number; value: KeptEvent; indexes: { outing: OutingId; sent: number; horse: HorseId } };
  media: { key: string; value: KeptMedia; indexes: { sent: number } };
  /** Room that is given up when the device is full, so that the entries of this outing still fit. */
  reserve: { key: string; value: Uint8Array };
}

const NAME = "still-pine.pen";
const RESERVE_BYTES = 512 * 1024;

/** Written through to the disk before it counts as kept. */
const STRICT = { durability: "strict" } as const;

/** How much lies here. */
export interface Counts {
  waiting: number;
  refused: number;
  media: number;
}

/** Where outings are kept: the device's own database, or a list in memory where the browser refuses one. */
export interface Keeper {
  outings(): Promise<KeptOuting[]>;
  outing(id: string): Promise<KeptOuting | undefined>;
  keepOuting(outing: KeptOuting, events: readonly KeptEvent[]): Promise<void>;
  changeOuting(id: string, change: Partial<KeptOuting>): Promise<void>;
  events(outing: OutingId): Promise<KeptEvent[]>;
  /** Keeps them; each then knows its key. */
  keepEvents(events: readonly KeptEvent[]): Promise<void>;
  /** Those that wait, earliest first. @param most no more than so many */
  unsent(most?: number): Promise<KeptEvent[]>;
  /** Those the server refused. */
  refused(): Promise<KeptEvent[]>;
  /** Everything said of one horse that lies here, sent or not. */
  eventsOfHorse(horse: HorseId): Promise<KeptEvent[]>;
  /** What became of them: sent, or refused and why. */
  settle(events: readonly KeptEvent[]): Promise<void>;
  /** Lets go of events by id, wherever they stand. */
  drop(ids: ReadonlySet<string>): Promise<void>;
  keepMedia(media: KeptMedia): Promise<void>;
  dropMedia(id: string): Promise<void>;
  unsentMedia(): Promise<KeptMedia[]>;
  refusedMedia(): Promise<KeptMedia[]>;
  counts(): Promise<Counts>;
  /** Lets go of outings that were over before a moment and of which nothing waits here any more. */
  letGo(before: string): Promise<void>;
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

  events(outing: OutingId): Promise<KeptEvent[]> {
    return this.db.getAllFromIndex("events", "outing", outing);
  }

  async keepEvents(events: readonly KeptEvent[]): Promise<void> {
    let keys: number[] = [];
    await this.withReserve(async () => {
      const tx = this.db.transaction("events", "readwrite", STRICT);
      [keys] = await Promise.all([Promise.all(events.map((one) => tx.store.put(one))), tx.done]);
    });
    events.forEach((one, index) => {
      one.key = keys[index] ?? one.key ?? 0;
    });
  }

  unsent(most?: number): Promise<KeptEvent[]> {
    return this.db.getAllFromIndex("events", "sent", 0, most);
  }

  refused(): Promise<KeptEvent[]> {
    return this.db.getAllFromIndex("events", "sent", 2);
  }

  eventsOfHorse(horse: HorseId): Promise<KeptEvent[]> {
    return this.db.getAllFromIndex("events", "horse", horse);
  }

  async settle(events: readonly KeptEvent[]): Promise<void> {
    const tx = this.db.transaction("events", "readwrite");
    await Promise.all([...events.map((one) => tx.store.put(one)), tx.done]);
  }

  async drop(ids: ReadonlySet<string>): Promise<void> {
    const tx = this.db.transaction("events", "readwrite", STRICT);
    for (const sent of [0, 2])
      for (const one of await tx.store.index("sent").getAll(sent))
        if (ids.has(one.event.id) && one.key !== undefined) await tx.store.delete(one.key);
    await tx.done;
  }

  async keepMedia(media: KeptMedia): Promise<void> {
    // A picture never takes the room of the entries.
    await this.db.put("media", media);
  }

  async dropMedia(id: string): Promise<void> {
    await this.db.delete("media", id);
  }

  unsentMedia(): Promise<KeptMedia[]> {
    return this.db.getAllFromIndex("media", "sent", 0);
  }

  refusedMedia(): Promise<KeptMedia[]> {
    return this.db.getAllFromIndex("media", "sent", 2);
  }

  async counts(): Promise<Counts> {
    const tx = this.db.transaction(["events", "media"]);
    const events = tx.objectStore("events").index("sent");
    const media = tx.objectStore("media").index("sent");
    const [waiting, refused, refusedMedia, waitingMedia] = await Promise.all([
      events.count(0),
      events.count(2),
      media.count(2),
      media.count(0),
    ]);
    return { waiting, refused: refused + refusedMedia, media: waitingMedia };
  }

  async letGo(before: string): Promise<void> {
    for (const outing of await this.outings()) {
      if (outing.startedAt >= before || !(outing.isOver || outing.isJoined)) continue;
      const tx = this.db.transaction(["outings", "events"], "readwrite");
      const events = await tx.objectStore("events").index("outing").getAll(outing.id);
      if (events.every(({ sent }) => sent === 1)) {
        for (const { key } of events) if (key !== undefined) await tx.objectStore("events").delete(key);
        await tx.objectStore("outings").delete(outing.id);
      }
      await tx.done;
    }
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
  events = async (outing: OutingId): Promise<KeptEvent[]> => this.list.filter((one) => one.outing === outing);
  unsent = async (most = Infinity): Promise<KeptEvent[]> => this.list.filter(({ sent }) => sent === 0).slice(0, most);
  refused = async (): Promise<KeptEvent[]> => this.list.filter(({ sent }) => sent === 2);
  eventsOfHorse = async (horse: HorseId): Promise<KeptEvent[]> => this.list.filter((one) => one.horse === horse);
  unsentMedia = async (): Promise<KeptMedia[]> => [...this.files.values()].filter(({ sent }) => sent === 0);
  refusedMedia = async (): Promise<KeptMedia[]> => [...this.files.values()].filter(({ sent }) => sent === 2);
  counts = async (): Promise<Counts> => ({
    waiting: (await this.unsent()).length,
    refused: (await this.refused()).length + (await this.refusedMedia()).length,
    media: (await this.unsentMedia()).length,
  });

  async keepOuting(outing: KeptOuting, events: readonly KeptEvent[]): Promise<void> {
    this.kept.set(outing.id, outing);
    await this.keepEvents(events);
  }

  async changeOuting(id: string, change: Partial<KeptOuting>): Promise<void> {
    const before = this.kept.get(id);
    if (before) this.kept.set(id, { ...before, ...change });
  }

  async keepEvents(events: readonly KeptEvent[]): Promise<void> {
    for (const one of events) {
      one.key = this.list.length + 1;
      this.list.push({ ...one });
    }
  }

  async letGo(before: string): Promise<void> {
    for (const { id, startedAt, isOver, isJoined } of this.kept.values()) {
      const events = this.list.filter((one) => one.outing === id);
      if (startedAt >= before || !(isOver || isJoined) || events.some(({ sent }) => sent !== 1)) continue;
      this.kept.delete(id);
      this.list.splice(0, this.list.length, ...this.list.filter((one) => one.outing !== id));
    }
  }

  async settle(events: readonly KeptEvent[]): Promise<void> {
    for (const settled of events) {
      const one = this.list.find((kept) => kept.event.id === settled.event.id);
      if (one) Object.assign(one, settled);
    }
  }

  async drop(ids: ReadonlySet<string>): Promise<void> {
    const stay = this.list.filter(({ event, sent }) => sent === 1 || !ids.has(event.id));
    this.list.splice(0, this.list.length, ...stay);
  }

  async keepMedia(media: KeptMedia): Promise<void> {
    this.files.set(media.id, media);
  }

  async dropMedia(id: string): Promise<void> {
    this.files.delete(id);
  }
}

const VERSION = 2;

type Upgrade = IDBPTransaction<Shape, StoreNames<Shape>[], "versionchange">;

/** From any earlier version to this one; what waits there goes on waiting. */
async function upgrade(db: IDBPDatabase<Shape>, before: number, tx: Upgrade): Promise<void> {
  if (before < 1) {
    db.createObjectStore("outings", { keyPath: "id" });
    const events = db.createObjectStore("events", { keyPath: "key", autoIncrement: true });
    events.createIndex("outing", "outing");
    events.createIndex("sent", "sent");
    const media = db.createObjectStore("media", { keyPath: "id" });
    media.createIndex("sent", "sent");
    db.createObjectStore("reserve");
  }
  if (before < 2) {
    tx.objectStore("events").createIndex("horse", "horse");
    // Refused ones were marked as sent, with the reason.
    for (const name of ["events", "media"] as const)
      for (let cursor = await tx.objectStore(name).openCursor(); cursor; cursor = await cursor.continue())
        if (cursor.value.refused !== undefined) await cursor.update({ ...cursor.value, sent: 2 });
  }
}

async function open(): Promise<Keeper> {
  try {
    const db = await openDB<Shape>(NAME, VERSION, {
      upgrade: (fresh, before, _now, tx) => upgrade(fresh, before, tx),
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
