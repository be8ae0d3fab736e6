import type { PenSettings } from "./settings";

/** What the handler feels and hears, where the device can and the settings want it. A device that refuses is simply still. */

export type Feeling = "kept" | "change" | "verdict" | "trouble";

/** Milliseconds on, off, on. */
const PATTERNS: Record<Feeling, number[]> = {
  kept: [25],
  change: [40, 120, 40],
  verdict: [90],
  trouble: [60, 60, 60, 60, 60],
};

export function buzz(feeling: Feeling, { buzz: wanted }: Pick<PenSettings, "buzz">): void {
  if (!wanted) return;
  try {
    navigator.vibrate?.(PATTERNS[feeling]);
  } catch {
    // Refused, as some browsers do before the first touch.
  }
}

export function speak(words: string, { speech }: Pick<PenSettings, "speech">): void {
  if (!speech) return;
  try {
    const voice = window.speechSynthesis;
    voice?.cancel();
    voice?.speak(new SpeechSynthesisUtterance(words));
  } catch {
    // No voice on this device.
  }
}

/**
 * Keeps the screen on while the page is seen. Returns how to let go.
 *
 * @param onRefused the device lets its screen sleep whatever is asked
 */
export function keepAwake(onRefused: () => void): () => void {
  let lock: WakeLockSentinel | null = null;
  let wanted = true;
  const ask = async (): Promise<void> => {
    if (document.visibilityState !== "visible") return;
    try {
      lock = await navigator.wakeLock.request("screen");
      if (!wanted) await lock.release();
    } catch {
      if (wanted) onRefused();
    }
  };
  const onVisible = (): void => void ask();
  document.addEventListener("visibilitychange", onVisible);
  void ask();
  return () => {
    wanted = false;
    document.removeEventListener("visibilitychange", onVisible);
    void lock?.release().catch(() => undefined);
  };
}
