/** An answer pressed so soon after an ask is that ask's. */
export const SAME_ASK_MS = 3000;

/** A second equal press within this time is the same press. */
export const DOUBLE_MS = 250;

/**
 * When the press that is being handled was made: a page that was busy hears of two presses at once, and they were two for all that. What no
 * event brought is of now. Both are of one clock.
 */
const pressedAt = (): number => globalThis.window?.event?.timeStamp ?? performance.now();

/** Tells one press that was felt as two from two presses. */
export class Presses {
  private last = { key: "", at: -Infinity };

  /** Whether it is the press before once more. @param onceOnly off: every press counts */
  isTwice(key: string, onceOnly: boolean): boolean {
    const at = pressedAt();
    const isSame = onceOnly && key === this.last.key && at - this.last.at < DOUBLE_MS;
    this.last = isSame ? this.last : { key, at };
    return isSame;
  }
}
