import type { DeviceId, OutingId, YardId } from "@still-pine/core/record";
import type { Pool, PoolClient } from "pg";
import type { Db } from "../db/pool";

/** Tells whoever waits that something is there, in this process and in every other one on the same database. */

const CHANNEL = "still_pine";
const AGAIN_AFTER_MS = 1000;

/** What can be waited for: an outing gets events, a device is shut out, or the laptop's pass phrase is another one. */
export type Topic = `outing ${string} ${string}` | `device ${string} ${string}` | `laptop ${string}`;

export const outingTopic = (yardId: YardId, outing: OutingId): Topic => `outing ${yardId} ${outing}`;
export const deviceTopic = (yardId: YardId, device: DeviceId): Topic => `device ${yardId} ${device}`;

export const laptopTopic = (yardId: YardId): Topic => `laptop ${yardId}`;

/** Tells of it when the transaction is through; nobody hears of what is rolled back. */
export async function tell(db: Db, topics: readonly Topic[]): Promise<void> {
  if (topics.length === 0) return;
  await db.query("select pg_notify($1, topic) from unnest($2::text[]) as topic", [CHANNEL, [...new Set(topics)]]);
}

/**
 * One connection that listens for all who wait in this process, open while anybody does. After a lost connection everybody is
 * woken: what was told meanwhile was not heard.
 */
export class LiveHub {
  private readonly waiting = new Map<Topic, Set<() => void>>();
  private client: PoolClient | null = null;
  private opening: Promise<void> | null = null;
  private retry: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly pool: Pool) {}

  /** Calls `wake` whenever something is told of a topic, until the returned function is called. Resolves when it listens. */
  async wait(topic: Topic, wake: () => void): Promise<() => void> {
    const all = this.waiting.get(topic) ?? new Set();
    all.add(wake);
    this.waiting.set(topic, all);
    const stop = (): void => {
      all.delete(wake);
      if (all.size === 0 && this.waiting.get(topic) === all) this.waiting.delete(topic);
      if (this.waiting.size === 0) this.close();
    };
    try {
      await this.open();
    } catch (cause) {
      stop();
      throw cause;
    }
    return stop;
  }

  private open(): Promise<void> {
    if (this.client) return Promise.resolve();
    this.opening ??= this.connect().finally(() => {
      this.opening = null;
    });
    return this.opening;
  }

  private async connect(): Promise<void> {
    const client = await this.pool.connect();
    client.on("notification", ({ payload }) => {
      for (const wake of this.waiting.get((payload ?? "") as Topic) ?? []) wake();
    });
    client.once("error", () => this.lost(client));
    client.once("end", () => this.lost(client));
    try {
      await client.query(`listen ${CHANNEL}`);
    } catch (cause) {
      client.release(true);
      throw cause;
    }
    this.client = client;
    if (this.waiting.size === 0) this.close();
  }

  private lost(client: PoolClient): void {
    if (this.client !== client) return;
    this.client = null;
    client.release(true);
    this.tryAgain();
  }

  private tryAgain(): void {
    clearTimeout(this.retry);
    if (this.waiting.size === 0) return;
    this.retry = setTimeout(() => {
      this.open().then(
        () => {
          for (const all of this.waiting.values()) for (const wake of all) wake();
        },
        () => this.tryAgain(),
      );
    }, AGAIN_AFTER_MS);
  }

  private close(): void {
    clearTimeout(this.retry);
    const { client } = this;
    this.client = null;
    // What listened is not lent to anybody else.
    client?.release(true);
  }
}
