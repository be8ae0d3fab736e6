import type { Caps, Exercise } from "@still-pine/core/outing";
import type { Dialect } from "@still-pine/core/programs";
import type { RecordEvent } from "@still-pine/core/record";
/** What this device keeps of outings recorded on it. Everything is written here before anything else happens with it. */
/** One outing as this device began it. */
export interface KeptOuting {
  id: string;
  horse: string;
  horseName: string;
  program: {
    id: string;
    version: number;
  };
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
  outing: string | null;
  horse: string;
  event: RecordEvent;
  /** 0 until the server has it, 2 where the server refused it; numbers, since a truth value cannot be an index. */
  sent: 0 | 1 | 2;
  /** Why the server refused it. */
  refused?: string;
}
/** A photo or voice note on its way; a voice note grows while it is spoken. */
export interface KeptMedia {
  id: string;
  outing: string | null;
  horse: string;
  kind: "photo" | "voice" | "clip";
  parts: Blob[];
  thumbnail: Blob | null;
  isWhole: boolean;
  sent: 0 | 1 | 2;
  refused?: string;
}
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
  events(outing: string): Promise<KeptEvent[]>;
  /** Keeps them; each then knows its key. */
  keepEvents(events: readonly KeptEvent[]): Promise<void>;
  /** Those that wait, earliest first. @param most no more than so many */
  unsent(most?: number): Promise<KeptEvent[]>;
  /** Those the server refused. */
  refused(): Promise<KeptEvent[]>;
  /** Everything said of one horse that lies here, sent or not. */
  eventsOfHorse(horse: string): Promise<KeptEvent[]>;
  /** What became of them: sent, or refused and why. */
  settle(events: readonly KeptEvent[]): Promise<void>;
  /** Lets go of events by id, wherever they stand. */
  drop(ids: ReadonlySet<string>): Promise<void>;
  keepMedia(media: KeptMedia): Promise<void>;
  dropMedia(id: string): Promise<void>;
  unsentMedia(): Promise<KeptMedia[]>;
  refusedMedia(): Promise<KeptMedia[]>;
  counts(): Promise<Counts>;
  /** Whether what is kept outlives this page. */
  readonly isLasting: boolean;
}
/** Whether a failure says that the device has no room left. */
export declare const isFull: (error: unknown) => boolean;
/** For a browser that keeps nothing: the outing works, and is lost with the page; the pen says so. */
export declare class InMemory implements Keeper {
  readonly isLasting = false;
  private readonly kept;
  private readonly list;
  private readonly files;
  outings: () => Promise<KeptOuting[]>;
  outing: (id: string) => Promise<KeptOuting | undefined>;
  events: (outing: string) => Promise<KeptEvent[]>;
  unsent: (most?: number) => Promise<KeptEvent[]>;
  refused: () => Promise<KeptEvent[]>;
  eventsOfHorse: (horse: string) => Promise<KeptEvent[]>;
  unsentMedia: () => Promise<KeptMedia[]>;
  refusedMedia: () => Promise<KeptMedia[]>;
  counts: () => Promise<Counts>;
  keepOuting(outing: KeptOuting, events: readonly KeptEvent[]): Promise<void>;
  changeOuting(id: string, change: Partial<KeptOuting>): Promise<void>;
  keepEvents(events: readonly KeptEvent[]): Promise<void>;
  settle(events: readonly KeptEvent[]): Promise<void>;
  drop(ids: ReadonlySet<string>): Promise<void>;
  keepMedia(media: KeptMedia): Promise<void>;
  dropMedia(id: string): Promise<void>;
}
/** The one keeper of this page. */
export declare const keeper: () => Promise<Keeper>;
