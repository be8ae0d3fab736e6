import type { RecordEvent, OutingId } from "@still-pine/core/record";
import { store } from "../store";
import { deviceId } from "./device";
import { stamp } from "./stamp";
import { yardHeader } from "./yard";
import { holding } from "./holding";
import { keeper, type KeptEvent } from "./kept";
import { roomLeft } from "./room";
import { backOffMs, Sender, type Sent } from "./sender";
import { keepSentAt, sendingChanged, type SendState } from "./slice";

/** The page's own sender: when it sends, and what it tells of it. */

const onStored = new Set<() => void>();
const onClock = new Set<(outing: OutingId, event: RecordEvent) => void>();

/** Calls when the server stored something, so that what it says of it is asked anew. */
export function onSent(listener: () => void): () => void {
  onStored.add(listener);
  return () => onStored.delete(listener);
}

/** Calls when this device's clock was measured and that was said in an outing. */
export function onMeasured(listener: (outing: OutingId, event: RecordEvent) => void): () => void {
  onClock.add(listener);
  return () => onClock.delete(listener);
}

const state = (): SendState => store.getState().sending;
const change = (part: Partial<SendState>): void => void store.dispatch(sendingChanged(part));

async function gzip(text: string): Promise<Blob> {
  const stream = new Blob([text]).stream().pipeThrough(new CompressionStream("gzip"));
  return new Response(stream).blob();
}

export const sender = new Sender({
  keeper,
  holding,
  fetch: (url, init) => fetch(url, init),
  headers: yardHeader,
  now: () => Date.now(),
  stamp,
  device: deviceId,
  onMeasured: (outing, event) => {
    for (const listener of onClock) listener(outing, event);
  },
  ...(typeof CompressionStream === "undefined" ? {} : { gzip }),
});

let running: Promise<Sent> | null = null;
let failures = 0;

/** Sends everything that waits; a round that runs already is joined. Of several tabs one sends at a time. */
export function sendKept(): Promise<Sent> {
  running ??= inTurn(round).finally(() => {
    running = null;
    for (const listener of onRound) listener();
  });
  return running;
}

const onRound = new Set<() => void>();

let turn: Promise<unknown> = Promise.resolve();

/** One sends at a time: within this page, and of several tabs. */
export function inTurn<Result>(work: () => Promise<Result>): Promise<Result> {
  const locked = (): Promise<Result> =>
    typeof navigator !== "undefined" && navigator.locks ? navigator.locks.request("still-pine.send", work) : work();
  const mine = turn.then(locked, locked);
  turn = mine.catch(() => undefined);
  return mine;
}

async function round(): Promise<Sent> {
  const kept = await keeper();
  const before = await kept.counts();
  change({ ...before, isLasting: kept.isLasting });
  // Skip the request: nothing waits and no failure is known.
  if (before.waiting + before.media === 0 && holding.size === 0 && state().trouble === null) return "all";
  const sent = await sender.round();
  const after = await kept.counts();
  const isAll = sent === "all";
  failures = isAll ? 0 : failures + 1;
  const isStored = after.waiting < before.waiting || after.media < before.media;
  const sentAt = isAll && isStored ? { sentAt: new Date().toISOString() } : {};
  change({ ...after, ...sentAt, trouble: isAll ? null : sent });
  if (sentAt.sentAt) keepSentAt(sentAt.sentAt);
  if (isStored) for (const listener of onStored) listener();
  return sent;
}

/** The batch with what was refused marked; null where the server was not reached. */
export async function sendBatch(batch: readonly KeptEvent[]): Promise<KeptEvent[] | null> {
  const done = await sender.sendEvents(batch);
  return typeof done === "string" ? null : done.events;
}

/** Says anew how much waits, after something was kept. */
export async function countKept(): Promise<void> {
  const kept = await keeper();
  change({ ...(await kept.counts()), isLasting: kept.isLasting });
  await lookAtRoom();
}

const ROOM_EVERY_MS = 60_000;
let roomSeenAt = -Infinity;

async function lookAtRoom(): Promise<void> {
  if (performance.now() - roomSeenAt < ROOM_EVERY_MS) return;
  roomSeenAt = performance.now();
  change({ isShort: (await roomLeft())?.isShort === true });
}

const SOON_MS = 300;
let soon: ReturnType<typeof setTimeout> | undefined;

/** Sends a moment from now, so that what is entered together goes together. While nobody answers, the usual round has it. */
export function sendSoon(): void {
  soon ??= setTimeout(() => {
    soon = undefined;
    void (state().trouble === null ? sendKept() : countKept()).catch(() => "ill");
  }, SOON_MS);
}

const QUIET_MS = 15_000;

/** Sends now and then, later and later while nobody answers, and at once when the network is back. Returns how to stop. */
export function keepSending(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isOver = false;
  const again = (): void => {
    if (isOver) return;
    clearTimeout(timer);
    timer = setTimeout(go, failures === 0 ? QUIET_MS : backOffMs(failures, Math.random()));
  };
  const go = (): void => {
    clearTimeout(timer);
    void lookAtRoom();
    void sendKept().catch(() => "ill");
  };
  // Whoever began a round: one that failed is tried again soon, not when the quiet time is over.
  onRound.add(again);
  const back = (): void => {
    failures = 0;
    go();
  };
  const seen = (): void => {
    if (document.visibilityState === "visible") back();
  };
  window.addEventListener("online", back);
  document.addEventListener("visibilitychange", seen);
  go();
  return () => {
    isOver = true;
    onRound.delete(again);
    clearTimeout(timer);
    window.removeEventListener("online", back);
    document.removeEventListener("visibilitychange", seen);
  };
}
