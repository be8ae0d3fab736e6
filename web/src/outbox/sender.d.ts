import { type BatchResult, type HelloView, type Problem } from "@still-pine/contract/http";
import type { Holder } from "./holding";
import type { Keeper, KeptEvent, KeptMedia } from "./kept";
/** Sends what is kept and not yet sent. Nothing waits for it; sending twice changes nothing. Knows nothing of the page. */
/** Why nothing can be sent for now. */
export type Trouble =
  /** Nobody answers. */
  | "no-network"
  /** Something answers that is not Still Pine, such as the sign-in page of a guest network. */
  | "not-still-pine"
  /** This device was never let in, or its key is another yard's. */
  | "not-paired"
  | "withdrawn"
  | "expired"
  | "locked"
  | "other-yard"
  /** The server is there and ill. */
  | "ill";
export type Sent = "all" | Trouble;
export interface SenderNeeds {
  keeper: () => Promise<Keeper>;
  /** Entries that only a page holds. */
  holding: ReadonlyMap<string, Holder>;
  fetch: (url: string, init: RequestInit) => Promise<Response>;
  /** The yard this device works for; null until it knows. */
  yard: () => string | null;
  /** Milliseconds since 1970 by this device's clock. */
  now: () => number;
  /** The head of a new event of this device. */
  newHead: () => {
    id: string;
    device: string;
    seq: number;
  };
  /** What this device calls itself. */
  device: () => string;
  gzip?: (text: string) => Promise<Blob | Uint8Array>;
}
export declare class Sender {
  private readonly needs;
  private measuredAt;
  /** What the server said of the last batch it did not take whole. */
  lastProblem: Problem | null;
  constructor(needs: SenderNeeds);
  /** One round: entries first, pictures and voice last. @returns "all", or what was in the way; the rest waits */
  round(): Promise<Sent>;
  /** The batch as the server took it: each sent, or refused and why. @param onChanges what they changed in the verdicts */
  sendEvents(
    batch: readonly KeptEvent[],
    onChanges?: (changes: BatchResult["changes"]) => void,
  ): Promise<KeptEvent[] | Trouble>;
  /** Who this device is to whoever answers. */
  hello(): Promise<HelloView | Trouble>;
  /**
   * How far this device's clock is behind the server's, said in every outing whose entries wait: they are then read at the time
   * they really happened. Half the way there and back is taken off.
   */
  private measureClock;
  /** What outings set out with goes too, for whoever joins; without it they are joined all the same. */
  private sendPlans;
  /** A photo, clip or voice note with its small picture. */
  sendMedia(media: KeptMedia): Promise<
    | {
        problem?: Problem;
      }
    | Trouble
  >;
  /** An answer of Still Pine's, or why there is none. */
  private ask;
}
/** How long to wait before the next try: twice as long each time, up to half a minute, and not all phones at once. */
export declare const backOffMs: (failures: number, random: number) => number;
