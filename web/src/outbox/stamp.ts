import { v7 as newId } from "uuid";
import { versionOf, type EventBody, type DeviceId } from "@still-pine/core/record";
import { instantNow, nextHead } from "./device";

type Stamped = EventBody & { id: string; at: string; device: DeviceId; seq: number; v?: number; recordedAt?: string };

interface StampedWith {
  /** Where the id follows from what it is of, such as an outing's end; a new one otherwise. */
  id?: string;
  /** When it happened; now otherwise. */
  at?: string;
  /** It is written down after it happened. */
  isAfterwards?: boolean;
}

/** An event of this browser: the body with its id, its time, this device and the next of its count. The only place that makes one. */
export function stamp(body: EventBody, { id, at, isAfterwards = false }: StampedWith = {}): Stamped {
  const now = instantNow();
  const v = versionOf(body);
  return {
    id: id ?? newId(),
    at: at ?? now,
    ...(v > 1 ? { v } : {}),
    ...(isAfterwards ? { recordedAt: now } : {}),
    ...nextHead(),
    ...body,
  };
}
