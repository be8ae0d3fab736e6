/* oxlint-disable no-extend-native, unicorn/no-array-sort, unicorn/no-array-reverse -- lent while a snapshot is made alone: arrays get these methods when it is taken up */
import { forgetZones } from "@still-pine/core/record";

/** What arrays get only after a snapshot is taken up. */
const LATER: Record<string, (this: unknown[], ...words: never[]) => unknown> = {
  toSorted(compare?: (a: unknown, b: unknown) => number) {
    return [...this].sort(compare);
  },
  toReversed() {
    return [...this].reverse();
  },
};

/**
 * Does the work once while a snapshot is made, so that it holds the program as it is after its first run. What belongs to this
 * machine and this moment is forgotten again.
 */
export function warmUp(work: () => void): void {
  const lent = Object.keys(LATER).filter((name) => !(name in Array.prototype));
  for (const name of lent) Object.defineProperty(Array.prototype, name, { value: LATER[name], configurable: true });
  try {
    work();
  } finally {
    for (const name of lent) Reflect.deleteProperty(Array.prototype, name);
    forgetZones();
  }
}
