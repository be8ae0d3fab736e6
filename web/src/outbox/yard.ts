import type { YardId } from "@still-pine/core/record";

/** Which yard this device works for: what it records goes there and nowhere else. */

const YARD = "still-pine.yard";

export function knownYard(): string | null {
  try {
    return localStorage.getItem(YARD);
  } catch {
    return null;
  }
}

/** What every request says: which yard is meant. Another one answers it with nothing. */
export function yardHeader(): Record<string, string> {
  const yard = knownYard();
  return yard === null ? {} : { "Still-Pine-Yard": yard };
}

/** Remembers the yard that was met first; another one is met by a person's choice alone. */
export function meetYard(yard: YardId, isChosen = false): void {
  try {
    if (isChosen || localStorage.getItem(YARD) === null) localStorage.setItem(YARD, yard);
  } catch {
    // A browser that keeps nothing meets its yard anew each time.
  }
}
