/** How much room the browser gives this device's Still Pine. */
export interface RoomLeft {
  /** Bytes. */
  used: number;
  of: number;
  /** Four fifths or more are used. */
  isShort: boolean;
  /** The browser has promised not to clear it by itself. */
  isPersistent: boolean;
}

const SHORT_FROM = 0.8;

/** Null where the browser does not say. */
export async function roomLeft(): Promise<RoomLeft | null> {
  try {
    const [{ usage = 0, quota = 0 }, isPersistent] = await Promise.all([
      navigator.storage.estimate(),
      navigator.storage.persisted(),
    ]);
    return quota === 0 ? null : { used: usage, of: quota, isShort: usage >= SHORT_FROM * quota, isPersistent };
  } catch {
    return null;
  }
}
