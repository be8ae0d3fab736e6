/** Whether pages are answered by the server or by this device alone, and whether this device is let in. */

export interface Reach {
  /** When what is shown was fetched; null while the server answers. */
  aloneSince: string | null;
  /** Why the server does not let this device in. */
  why: string | null;
  /** The browser cleared what lay here: the key is there, everything else is gone. */
  isCleared: boolean;
}

let reach: Reach = { aloneSince: null, why: null, isCleared: false };
const listeners = new Set<() => void>();

export const readReach = (): Reach => reach;

export function onReach(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function change(part: Partial<Reach>): void {
  if (Object.entries(part).every(([name, value]) => reach[name as keyof Reach] === value)) return;
  reach = { ...reach, ...part };
  for (const listener of listeners) listener();
}

export const wasReached = (): void => change({ aloneSince: null, why: null });

export const wasCleared = (): void => change({ isCleared: true });

export const answeredAlone = (fetchedAt: string): void => change({ aloneSince: fetchedAt });

/** The server does not let this device in. Whoever was shut out on the laptop keeps what it recorded, and nothing else. */
export async function shutOut(problem: unknown): Promise<void> {
  const why = String((problem as { why?: unknown } | null)?.why ?? "unknown");
  change({ why });
  if (why === "withdrawn") await (await import("./packs")).forgetPacks();
}
