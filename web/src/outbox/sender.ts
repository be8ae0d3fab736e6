import type { BatchResult, HelloView, MediaView, Problem } from "@still-pine/contract/http";
import { BATCH_MOST } from "@still-pine/contract/limits";
import type { EventBody, RecordEvent, OutingId } from "@still-pine/core/record";
import { linkTo } from "../ask";
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

/** A batch as the server took it. */
export interface TakenBatch {
  /** Each sent, or refused and why. */
  events: KeptEvent[];
  /** What they changed in the verdicts. */
  changes: BatchResult["changes"];
  /** What the server said where it did not take all of it. */
  problem: Problem | null;
}

export interface SenderNeeds {
  keeper: () => Promise<Keeper>;
  /** Entries that only a page holds. */
  holding: ReadonlyMap<string, Holder>;
  fetch: (url: string, init: RequestInit) => Promise<Response>;
  /** Says which yard is meant. */
  headers: () => Record<string, string>;
  /** Milliseconds since 1970 by this device's clock. */
  now: () => number;
  /** Makes an event of this device. */
  stamp: (body: EventBody, said: { at: string }) => RecordEvent;
  /** What this device calls itself. */
  device: () => string;
  gzip?: (text: string) => Promise<Blob | Uint8Array>;
  /** Told of a clock that was measured, as it was kept in its outing. */
  onMeasured?: (outing: OutingId, event: RecordEvent) => void;
}

/** A body of this many characters or more goes compressed. */
const COMPRESS_FROM = 2048;
/** A request that is not answered by then is asked again; a batch on a bad link takes a few seconds. */
const ANSWER_WITHIN_MS = 20_000;
const MEDIA_WITHIN_MS = 300_000;
/** Clocks nearer than this are right enough. */
const SKEW_LEAST_MS = 2000;
const SKEW_AGAIN_MS = 1000;
const MEASURE_EVERY_MS = 60_000;

export class Sender {
  private measuredAt = -Infinity;

  constructor(private readonly needs: SenderNeeds) {}

  /** One round: entries first, pictures and voice last. @returns "all", or what was in the way; the rest waits */
  async round(): Promise<Sent> {
    const kept = await this.needs.keeper();
    for (const holder of this.needs.holding.values()) {
      const waiting = holder.unkept.slice(0, BATCH_MOST);
      const done = await this.sendEvents(waiting);
      if (typeof done === "string") return done;
      holder.forget(waiting);
    }
    const { waiting, media } = await kept.counts();
    if (waiting + media > 0) await this.measureClock(kept);
    for (;;) {
      const batch = await kept.unsent(BATCH_MOST);
      if (batch.length === 0) break;
      const done = await this.sendEvents(batch);
      if (typeof done === "string") return done;
      await kept.settle(done.events);
    }
    await this.sendPlans(kept);
    for (const one of await kept.unsentMedia())
      if (one.isWhole) {
        const answer = await this.sendMedia(one);
        if (typeof answer === "string") return answer;
        if (!answer.problem) await kept.dropMedia(one.id);
        else await kept.keepMedia({ ...one, sent: 2, refused: inWords(answer.problem) });
      }
    return "all";
  }

  /** Sends a batch, or says what is in the way. */
  async sendEvents(batch: readonly KeptEvent[]): Promise<TakenBatch | Trouble> {
    if (batch.length === 0) return { events: [], changes: [], problem: null };
    const events = batch.map(({ horse, outing, event }) => ({ horse, outing, event }));
    const answer = await this.ask(linkTo<"sendEvents">("/events", {}), "POST", JSON.stringify({ events }));
    if (typeof answer === "string") return answer;
    const { status } = answer;
    const { results, changes = [] } = (answer.body ?? {}) as Partial<BatchResult>;
    const problem = status === 200 ? null : (answer.body as Problem);
    if ((status === 200 || status === 422) && Array.isArray(results) && results.length === batch.length)
      return { events: batch.map((one, index) => settled(one, results[index])), changes, problem };
    if (status === 200) return "not-still-pine";
    if (!problem || (status !== 400 && status !== 413 && status !== 422)) return "ill";
    // The batch as a whole cannot be read: the one that spoils it is looked for, the others go.
    const [only] = batch;
    if (batch.length === 1 && only)
      return { events: [{ ...only, sent: 2, refused: inWords(problem) }], changes: [], problem };
    const half = Math.ceil(batch.length / 2);
    const first = await this.sendEvents(batch.slice(0, half));
    if (typeof first === "string") return first;
    const second = await this.sendEvents(batch.slice(half));
    if (typeof second === "string") return second;
    return {
      events: [...first.events, ...second.events],
      changes: [...first.changes, ...second.changes],
      problem: first.problem ?? second.problem,
    };
  }

  /** Who this device is to whoever answers. */
  async hello(): Promise<HelloView | Trouble> {
    const answer = await this.ask(linkTo<"hello">("/hello", {}), "GET");
    if (typeof answer === "string") return answer;
    const hello = answer.body as Partial<HelloView>;
    return answer.status === 200 && hello.product === "still-pine" ? (hello as HelloView) : "not-still-pine";
  }

  /**
   * How far this device's clock is behind the server's, said in every outing whose entries wait: they are then read at the time
   * they really happened. Half the way there and back is taken off.
   */
  private async measureClock(kept: Keeper): Promise<void> {
    const before = this.needs.now();
    if (Math.abs(before - this.measuredAt) < MEASURE_EVERY_MS) return;
    const hello = await this.hello();
    const after = this.needs.now();
    if (typeof hello === "string") return;
    this.measuredAt = after;
    if (hello.now === null) return;
    const doubt = (after - before) / 2;
    const behindMs = Date.parse(hello.now) - (before + doubt);
    const isRight = Math.abs(behindMs) - doubt < SKEW_LEAST_MS;
    const waiting = await kept.unsent();
    const device = this.needs.device();
    for (const outing of await kept.outings()) {
      const own = waiting.filter((one) => one.outing === outing.id && one.event.device === device);
      if (own.every(({ event }) => event.recordedAt !== undefined)) continue;
      // What a clock moved within the outing was taken care of there.
      const outingMs = behindMs - outing.clockOffset;
      const last = outing.behindSeconds ?? 0;
      const isKnown = Math.abs(outingMs - last * 1000) - doubt < SKEW_AGAIN_MS;
      if (isKnown || (isRight && last === 0 && outing.clockOffset === 0)) continue;
      const behindSeconds = Math.round(outingMs / 100) / 10;
      const at = new Date(after + outing.clockOffset).toISOString();
      const event = this.needs.stamp({ type: "clock-skew", of: device, behindSeconds }, { at });
      await kept.keepEvents([{ outing: outing.id, horse: outing.horse, event, sent: 0 }]);
      await kept.changeOuting(outing.id, { behindSeconds });
      this.needs.onMeasured?.(outing.id, event);
    }
  }

  /** What outings set out with goes too, for whoever joins; without it they are joined all the same. */
  private async sendPlans(kept: Keeper): Promise<void> {
    for (const outing of await kept.outings()) {
      if (outing.isPlanSent || outing.isOver || outing.isJoined) continue;
      const { horse, exercises, known, caps, upTo, shut, checkUp } = outing;
      const answer = await this.ask(
        linkTo<"keepPlan">("/outings/{outing}/plan", { outing: outing.id }),
        "PUT",
        JSON.stringify({
          horse,
          exercises,
          known,
          caps,
          ...(upTo ? { upTo } : {}),
          ...(shut ? { shut } : {}),
          ...(checkUp ? { checkUp } : {}),
        }),
      );
      if (typeof answer !== "string" && isSuccess(answer.status))
        await kept.changeOuting(outing.id, { isPlanSent: true });
    }
  }

  /** A photo, clip or voice note with its small picture. */
  async sendMedia(media: KeptMedia): Promise<{ problem?: Problem } | Trouble> {
    const [first] = media.parts;
    const content = new Blob(media.parts, first ? { type: first.type } : {});
    const { id, horse, outing } = media;
    const place = linkTo<"addMedia">(
      "/horses/{horse}/media/{media}",
      { horse, media: id },
      { outing: outing ?? undefined },
    );
    const answer = await this.ask(place, "PUT", content);
    if (typeof answer === "string") return answer;
    // Without a reason of Still Pine's it is no refusal of Still Pine's.
    if (answer.status >= 400 && answer.body) return { problem: answer.body as Problem };
    // What is let go of here is nowhere else: whoever has it names it.
    if (!isSuccess(answer.status) || (answer.body as Partial<MediaView> | null)?.id !== id) return "not-still-pine";
    if (media.thumbnail) {
      const small = await this.ask(
        linkTo<"addThumbnail">("/media/{media}/thumbnail", { media: id }),
        "PUT",
        media.thumbnail,
      );
      if (typeof small === "string") return small;
    }
    return {};
  }

  /** An answer of Still Pine's, or why there is none. */
  private async ask(
    url: string,
    method: string,
    body?: string | Blob,
  ): Promise<{ status: number; body: unknown } | Trouble> {
    const headers = this.needs.headers();
    let content: BodyInit | undefined = body;
    if (typeof body === "string") {
      headers["Content-Type"] = "application/json";
      if (this.needs.gzip && body.length >= COMPRESS_FROM) {
        headers["Content-Encoding"] = "gzip";
        content = (await this.needs.gzip(body)) as BodyInit;
      }
    }
    let status: number;
    let text: string;
    try {
      const response = await this.needs.fetch(url, {
        method,
        headers,
        ...(content === undefined ? {} : { body: content }),
        signal: AbortSignal.timeout(body instanceof Blob ? MEDIA_WITHIN_MS : ANSWER_WITHIN_MS),
      });
      ({ status } = response);
      text = await response.text();
    } catch {
      return "no-network";
    }
    let answer: unknown;
    try {
      answer = text === "" ? null : JSON.parse(text);
    } catch {
      // A gateway that is ill answers in HTML too.
      return status >= 500 ? "ill" : "not-still-pine";
    }
    if (status === 401) {
      const { why } = (answer ?? {}) as { why?: string };
      if (why === "unknown") return "not-paired";
      return why === "withdrawn" || why === "expired" || why === "locked" || why === "other-yard"
        ? why
        : "not-still-pine";
    }
    if (status === 403 || status === 429 || status >= 500) return "ill";
    return { status, body: answer };
  }
}

const isSuccess = (status: number): boolean => status >= 200 && status < 300;

function settled(one: KeptEvent, result: BatchResult["results"][number] | undefined): KeptEvent {
  if (result?.result !== "refused") return { ...one, sent: 1 };
  const why = (result.why ?? []).map(({ path, expected, found }) => `${path} expected ${expected}, found ${found}`);
  return { ...one, sent: 2, refused: why.join("; ") };
}

function inWords({ detail, errors }: Problem): string {
  const fields = (errors ?? []).map(({ path, expected, found }) => `${path} expected ${expected}, found ${found}`);
  return [detail, ...fields].filter(Boolean).join(" ");
}

const FIRST_MS = 2000;
const LONGEST_MS = 30_000;

/** How long to wait before the next try: twice as long each time, up to half a minute, and not all phones at once. */
export const backOffMs = (failures: number, random: number): number =>
  Math.min(LONGEST_MS, FIRST_MS * 2 ** Math.max(0, failures - 1)) * (0.75 + random / 2);
