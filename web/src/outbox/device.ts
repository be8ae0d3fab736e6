import type { DeviceId } from "@still-pine/core/record";
import { v7 as newId } from "uuid";

const DEVICE = "still-pine.device";
const SEQ = "still-pine.seq";

/** For a browser that keeps nothing: a device of this page alone. */
let pageOnly: { device: DeviceId; seq: number } | null = null;

/** What this browser calls itself in the events it records. */
export function deviceId(): string {
  if (pageOnly) return pageOnly.device;
  try {
    const known = localStorage.getItem(DEVICE);
    if (known) return known;
    const device = newId();
    localStorage.setItem(DEVICE, device);
    return device;
  } catch {
    pageOnly = { device: newId(), seq: 0 };
    return pageOnly.device;
  }
}

/** What every event of this browser carries: its device and the next of its count. */
export function nextHead(): { device: DeviceId; seq: number } {
  const device = deviceId();
  if (pageOnly) return { device, seq: (pageOnly.seq += 1) };
  try {
    const seq = Number(localStorage.getItem(SEQ) ?? 0) + 1;
    localStorage.setItem(SEQ, String(seq));
    return { device, seq };
  } catch {
    pageOnly = { device, seq: 1 };
    return { device, seq: 1 };
  }
}

/**
 * Is again the device it was: a browser that was killed may have forgotten its name and its count, while what it recorded is
 * there.
 *
 * @param seq the highest count that device is known to have come to
 */
export function beAgain(device: DeviceId, seq: number): void {
  if (pageOnly) {
    pageOnly = { device, seq: Math.max(seq, pageOnly.device === device ? pageOnly.seq : 0) };
    return;
  }
  try {
    const known = localStorage.getItem(DEVICE);
    const counted = known === device ? Number(localStorage.getItem(SEQ) ?? 0) : 0;
    if (known === device && counted >= seq) return;
    localStorage.setItem(DEVICE, device);
    localStorage.setItem(SEQ, String(Math.max(seq, counted)));
  } catch {
    pageOnly = { device, seq };
  }
}

/** The moment it is, by this browser's clock. */
export const instantNow = (): string => new Date().toISOString();
