import { v7 as newId } from "uuid";
import type { EventBody, DeviceId } from "@still-pine/core/record";
import { instantNow, nextHead } from "./device";

type Stamped = EventBody & { id: string; at: string; device: DeviceId; seq: number; recordedAt?: string };

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
  return { id: id ?? newId(), at: at ?? now, ...(isAfterwards ? { recordedAt: now } : {}), ...nextHead(), ...body };
}
