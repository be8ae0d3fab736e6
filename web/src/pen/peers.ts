import type { RecordEvent } from "@still-pine/core/record";
import { linkTo } from "../ask";
import { keeper } from "../outbox/kept";
import { onMeasured, sendSoon } from "../outbox/send";
import type { PenSession } from "./session";

/** The other devices on an outing, and other pages of this one: what they record comes in here, and goes out to them. */

/** Whether the stream of the others' entries is open. */
export type Connection = "open" | "closed";

const AGAIN_MS = 3000;

/**
 * Follows an outing as it comes in at the server, resumed after every break, and tells other pages of this device at once.
 *
 * @returns how to stop
 */
export function followPeers(session: PenSession, onConnection: (connection: Connection) => void): () => void {
  const { id } = session.outing;
  let isOver = false;
  let stream: EventSource | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let last = session.outing.arrival ?? 0;
  let waiting: RecordEvent[] = [];
  let taking: Promise<void> = Promise.resolve();

  /** What comes in together is taken together. */
  const take = (event: RecordEvent): void => {
    waiting.push(event);
    if (waiting.length > 1) return;
    taking = taking.then(async () => {
      const batch = waiting;
      const arrival = last;
      waiting = [];
      await session.receive(batch, false);
      await (await keeper()).changeOuting(id, { arrival }).catch(() => undefined);
    });
  };
  const again = (): void => {
    stream?.close();
    stream = null;
    onConnection("closed");
    clearTimeout(timer);
    if (!isOver) timer = setTimeout(open, AGAIN_MS);
  };
  const open = (): void => {
    if (isOver || stream) return;
    clearTimeout(timer);
    if (!navigator.onLine) {
      again();
      return;
    }
    void isKnownThere().then((known) => (known ? follow() : again()));
  };
  const follow = (): void => {
    if (isOver || stream) return;
    stream = new EventSource(linkTo<"live">("/outings/{outing}/live", { outing: id }, { after: last }));
    stream.addEventListener("open", () => onConnection("open"));
    stream.addEventListener("event", ({ data, lastEventId }: MessageEvent<string>) => {
      last = Math.max(last, Number(lastEventId) || 0);
      take(JSON.parse(data) as RecordEvent);
    });
    // Not there yet, not let in, or gone: tried again from where it was, in a moment.
    stream.addEventListener("error", again);
  };

  /** The server has to have the outing's beginning before it tells of it. */
  const isKnownThere = async (): Promise<boolean> => {
    const outing = await (await keeper()).outing(id);
    return outing?.isJoined === true || outing?.isPlanSent === true;
  };

  const others = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel(`still-pine.outing.${id}`);
  others?.addEventListener("message", ({ data }: MessageEvent<RecordEvent[]>) => void session.receive(data, true));
  session.listen({
    onWritten: (events) => {
      // oxlint-disable-next-line unicorn/require-post-message-target-origin -- a channel is of one origin and takes none
      others?.postMessage(events);
      sendSoon();
    },
  });
  const stopMeasuring = onMeasured((outing, event) => {
    if (outing === id) void session.receive([event], true);
  });
  // What another page wrote while nobody listened here lies on this device.
  const catchUp = (): void => {
    if (document.visibilityState === "hidden") return;
    void keeper()
      .then((kept) => kept.events(id))
      .then((events) =>
        isOver
          ? undefined
          : session.receive(
              events.map(({ event }) => event),
              true,
            ),
      )
      .catch(() => undefined);
  };
  document.addEventListener("visibilitychange", catchUp);
  catchUp();
  window.addEventListener("online", open);
  // A stream may look open for long after the network is gone.
  window.addEventListener("offline", again);
  open();
  return () => {
    isOver = true;
    clearTimeout(timer);
    stream?.close();
    others?.close();
    stopMeasuring();
    session.listen({ onWritten: () => undefined });
    window.removeEventListener("online", open);
    window.removeEventListener("offline", again);
    document.removeEventListener("visibilitychange", catchUp);
  };
}
