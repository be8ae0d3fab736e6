/** A second equal press within this time is the same press. */
export const DOUBLE_MS = 250;

/** Tells one press that was felt as two from two presses. */
export class Presses {
  private last = { key: "", at: -Infinity };

  /** Whether it is the press before once more. @param onceOnly off: every press counts */
  isTwice(key: string, onceOnly: boolean): boolean {
    const at = performance.now();
    const isSame = onceOnly && key === this.last.key && at - this.last.at < DOUBLE_MS;
    this.last = isSame ? this.last : { key, at };
    return isSame;
  }
}
