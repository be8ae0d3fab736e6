import { useRef } from "react";
import type { Batch } from "@still-pine/contract/http";
import type { EventBody, RecordEvent, HorseId, OutingId } from "@still-pine/core/record";
import type { VerdictChange } from "@still-pine/core/readiness";
import { useAddMediaMutation, useSendEventsMutation } from "../api";
import { mediaOf } from "../media/media-of";
import type { Upload } from "../media/prepare";
import { instantNow } from "../outbox/device";
import { stamp } from "../outbox/stamp";

/** One thing to record: of an outing, or of the horse himself. */
export interface ToRecord {
  horse: HorseId;
  outing: OutingId | null;
  body: EventBody;
  /** When it was, where that was not now: then it is written down afterwards. */
  at?: string;
}

/** What recording changed in the verdicts. */
interface Saved {
  changes: VerdictChange[];
  /** False where it waits on this device. */
  isSent: boolean;
}

/** What was recorded, and what it changed in the verdicts. */
export interface Recorded extends Saved {
  ids: string[];
}

/** What a correction does to an entry. */
export type Change = { void: true } | { with: Record<string, unknown> };

type Stamped = { horse: HorseId; outing: OutingId | null; event: RecordEvent };

function stamped({ horse, outing, body, at }: ToRecord): Stamped {
  const event = at === undefined ? stamp(body) : stamp(body, { at, isAfterwards: at < instantNow() });
  return { horse, outing, event };
}

/**
 * Records from a page, and corrects: each entry gets its id, its time, this device and its count, is kept here first, and is sent. What
 * got no answer and is said again is the same entry.
 */
export function useRecord() {
  const [send, { isLoading, error, data }] = useSendEventsMutation();
  const [addMedia, adding] = useAddMediaMutation();
  const made = useRef<{ of: string; events: Stamped[] }>(null);
  /** Keeps and sends entries that are stamped already. */
  const save = async (events: Batch["events"]): Promise<Saved | null> => {
    const result = await send({ events });
    if (result.error) return null;
    return { changes: result.data.changes.flatMap((one) => one.changes), isSent: result.data.isSent };
  };
  const record = async (...said: ToRecord[]): Promise<Recorded | null> => {
    const of = JSON.stringify(said);
    const { events } = (made.current = made.current?.of === of ? made.current : { of, events: said.map(stamped) });
    const saved = await save(events.map((one) => ({ ...one, event: { ...one.event } })));
    if (!saved) return null;
    made.current = null;
    return { ids: events.map(({ event }) => event.id), ...saved };
  };
  const correct = (of: Pick<ToRecord, "horse" | "outing">, replaces: string, change: Change) =>
    record({ ...of, body: { type: "correction", replaces, ...change } });
  /** Puts a photo or clip on an outing or on the horse: the picture first, then the entry that names it. */
  const attach = async (of: Omit<ToRecord, "body">, upload: Upload): Promise<Recorded | null> => {
    const media = mediaOf({ horse: of.horse, outing: of.outing, ...upload });
    const stored = await addMedia(media);
    return stored.error ? null : record({ ...of, body: { type: "media", media: media.id, kind: media.kind } });
  };
  return {
    record,
    correct,
    attach,
    save,
    isLoading: isLoading || adding.isLoading,
    error: error ?? adding.error,
    changes: data?.changes.flatMap((one) => one.changes),
  };
}
