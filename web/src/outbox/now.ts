import type { Batch, BatchResult, Problem } from "@still-pine/contract/http";
import { BATCH_MOST } from "@still-pine/contract/limits";
import { asEvent } from "@still-pine/core/record";
import { isFull, keeper, type Keeper, type KeptEvent, type KeptMedia } from "./kept";
import { countKept, inTurn, sender, sendSoon } from "./send";

/** What a page sends while somebody waits for the answer: kept here first, like everything. */

type Sent = { changes: BatchResult["changes"]; isSent: boolean } | { problem: Problem };

const full = (what: string): Problem => ({
  type: "about:blank",
  title: "No room",
  status: 507,
  detail: `This device is full and the server does not answer: ${what} is only in this page. Free some room, or keep the page open and save again.`,
});

/**
 * Keeps events and sends them. What is refused is given back to the page that asked, which still shows it, and does not wait
 * here.
 */
export async function sendNow(offered: Batch["events"]): Promise<Sent> {
  const kept = await keeper();
  const events = offered.map(({ horse, outing, event }): KeptEvent => ({
    horse,
    outing,
    event: asEvent(event),
    sent: 0,
  }));
  const isKept = await keepHere(events);
  return inTurn(() => sendKeptNow(kept, events, isKept));
}

/** Keeps events on this device. @returns false where it has no room: then they are in this page alone */
export async function keepHere(events: readonly KeptEvent[]): Promise<boolean> {
  const kept = await keeper();
  return kept.keepEvents(events).then(
    () => true,
    (cause: unknown) => {
      if (!isFull(cause)) console.error("Still Pine: entries could not be kept on this device", cause);
      return false;
    },
  );
}

async function sendKeptNow(kept: Keeper, events: readonly KeptEvent[], isKept: boolean): Promise<Sent> {
  const changes: BatchResult["changes"] = [];
  let problem: Problem | null = null;
  for (let from = 0; from < events.length; from += BATCH_MOST) {
    const done = await sender.sendEvents(events.slice(from, from + BATCH_MOST));
    if (typeof done === "string") {
      if (!isKept) return { problem: full("this") };
      sendSoon();
      return { changes, isSent: false };
    }
    changes.push(...done.changes);
    problem ??= done.problem;
    if (!isKept) continue;
    await kept.settle(done.events.filter(({ sent }) => sent === 1));
    await kept.drop(new Set(done.events.flatMap(({ sent, event }) => (sent === 2 ? event.id : []))));
  }
  void countKept();
  return problem ? { problem } : { changes, isSent: true };
}

/** Keeps a photo or clip and sends it; while the server is away it waits here. */
export async function sendMediaNow(media: KeptMedia): Promise<{ isSent: boolean } | { problem: Problem }> {
  const kept = await keeper();
  const isKept = await kept.keepMedia(media).then(
    () => true,
    () => false,
  );
  const sent = await sender.sendMedia(media);
  if (typeof sent === "string") {
    if (!isKept) return { problem: full("the picture") };
    sendSoon();
    return { isSent: false };
  }
  await kept.dropMedia(media.id);
  void countKept();
  return sent.problem ? { problem: sent.problem } : { isSent: true };
}
