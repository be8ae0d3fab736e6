import { useRef } from "react";
import { v7 as newId } from "uuid";
import type { EventBody, RecordEvent } from "@still-pine/core/record";
import type { VerdictChange } from "@still-pine/core/readiness";
import { useSendEventsMutation } from "../api";
import { nextHead } from "./device";

/** One thing to record: of an outing, or of the horse himself. */
export interface ToRecord {
  horse: string;
  outing: string | null;
  body: EventBody;
  /** When it was, where that was not now: then it is written down afterwards. */
  at?: string;
}

/** What was recorded, and what it changed in the verdicts. */
export interface Recorded {
  ids: string[];
  changes: VerdictChange[];
}

/** What a correction does to an entry. */
export type Change = { void: true } | { with: Record<string, unknown> };

type Stamped = { horse: string; outing: string | null; event: RecordEvent };

function stamped({ horse, outing, body, at }: ToRecord): Stamped {
  const now = new Date().toISOString();
  const isAfterwards = at !== undefined && at < now;
  const event = { ...nextHead(), ...body, id: newId(), at: at ?? now, ...(isAfterwards ? { recordedAt: now } : {}) };
  return { horse, outing, event };
}

/**
 * Records from a page, and corrects: each entry gets its id, its time, this device and its count, is kept here first, and is sent. What
 * got no answer and is said again is the same entry.
 */
export function useRecord() {
  const [send, { isLoading, error, data }] = useSendEventsMutation();
  const made = useRef<{ of: string; events: Stamped[] }>(null);
  const record = async (...said: ToRecord[]): Promise<Recorded | null> => {
    const of = JSON.stringify(said);
    const { events } = (made.current = made.current?.of === of ? made.current : { of, events: said.map(stamped) });
    const result = await send({ events: events.map((one) => ({ ...one, event: { ...one.event } })) });
    if (result.error) return null;
    made.current = null;
    return {
      ids: events.map(({ event }) => event.id),
      changes: result.data?.changes.flatMap((one) => one.changes) ?? [],
    };
  };
  const correct = (of: Pick<ToRecord, "horse" | "outing">, replaces: string, change: Change) =>
    record({ ...of, body: { type: "correction", replaces, ...change } });
  return { record, correct, isLoading, error, changes: data?.changes.flatMap((one) => one.changes) };
}
