import { BATCH_MOST, type BatchResult, type Problem } from "@still-pine/contract/http";
import { holding } from "./holding";
import { keeper, type KeptEvent, type KeptMedia } from "./kept";

/** Sends what is kept and not yet sent. Nothing in the pen waits for it; sending twice changes nothing. */

/** What became of one round of sending. */
export type Sent = "all" | "later";

let running: Promise<Sent> | null = null;

/** Sends everything that waits; a round that runs already is joined. */
export function sendKept(): Promise<Sent> {
  running ??= sendRound().finally(() => {
    running = null;
  });
  return running;
}

async function sendRound(): Promise<Sent> {
  for (const holder of holding.values()) {
    const waiting = holder.unkept.slice(0, BATCH_MOST);
    if (!(await sendBatch(waiting))) return "later";
    holder.forget(waiting);
  }
  const kept = await keeper();
  for (;;) {
    const waiting = await kept.unsent();
    if (waiting.length === 0) break;
    const batch = waiting.slice(0, BATCH_MOST);
    const done = await sendBatch(batch);
    if (!done) return "later";
    await kept.markSent(done);
  }
  for (const media of await kept.unsentMedia())
    if (media.isWhole) {
      const answer = await sendMedia(media);
      if (!answer) return "later";
      // What the server has need not lie here as well.
      await kept.keepMedia({ ...media, ...answer, sent: 1, parts: answer.refused === undefined ? [] : media.parts });
    }
  return "all";
}

/** The batch with what was refused marked; null where the server was not reached. */
export async function sendBatch(batch: readonly KeptEvent[]): Promise<KeptEvent[] | null> {
  const events = batch.map(({ horse, outing, event }) => ({ horse, outing, event }));
  let response: Response;
  try {
    response = await fetch("/api/events", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ events }),
    });
  } catch {
    return null;
  }
  if (response.status !== 200 && response.status !== 422) return null;
  const { results } = (await response.json()) as Partial<BatchResult>;
  if (!results) return null;
  return batch.map((one, index) => {
    const result = results[index];
    if (result?.result !== "refused") return one;
    const why = (result.why ?? []).map(({ path, expected, found }) => `${path} expected ${expected}, found ${found}`);
    return { ...one, refused: why.join("; ") };
  });
}

async function sendMedia(media: KeptMedia): Promise<{ refused?: string } | null> {
  const part = encodeURIComponent;
  const [first] = media.parts;
  const content = new Blob(media.parts, first ? { type: first.type } : {});
  try {
    const response = await fetch(
      `/api/horses/${part(media.horse)}/media/${part(media.id)}?outing=${part(media.outing)}`,
      { method: "PUT", body: content },
    );
    if (response.status >= 500 || response.status === 0) return null;
    if (!response.ok) return { refused: ((await response.json()) as Problem).detail };
    if (media.thumbnail)
      await fetch(`/api/media/${part(media.id)}/thumbnail`, { method: "PUT", body: media.thumbnail });
    return {};
  } catch {
    return null;
  }
}

const EVERY_MS = 10_000;

/** Sends now and then, and when the network comes back, while the page lives. Returns how to stop. */
export function keepSending(): () => void {
  const round = (): void => void sendKept().catch(() => "later");
  const timer = setInterval(round, EVERY_MS);
  window.addEventListener("online", round);
  round();
  return () => {
    clearInterval(timer);
    window.removeEventListener("online", round);
  };
}
