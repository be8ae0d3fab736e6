/** A device that takes longer to write than this shows the entry before it is kept. */
const WRITING_SHOWN_MS = 150;

/** Tells its listeners of changes, all of a moment at once, after the touched square was painted. */
export class AfterPaint {
  private readonly listeners = new Set<() => void>();
  private laggard: ReturnType<typeof setTimeout> | undefined;
  /** A drawing of all changes so far is on its way. */
  private isDue = false;

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Something changed. @param isOnItsWay an entry that is being written: it is drawn together with its being kept, one drawing instead of two */
  changed(isOnItsWay: boolean): void {
    if (this.isDue) return;
    if (isOnItsWay) this.laggard ??= setTimeout(this.drawSoon, WRITING_SHOWN_MS);
    else this.drawSoon();
  }

  private readonly drawSoon = (): void => {
    clearTimeout(this.laggard);
    this.laggard = undefined;
    this.isDue = true;
    afterPaint(() => {
      this.isDue = false;
      for (const listener of this.listeners) listener();
    });
  };
}

/** The touched square is painted and the entry on its way to the disk before the rest of the screen follows, a frame later. */
function afterPaint(work: () => void): void {
  if (typeof requestAnimationFrame === "undefined" || document.hidden) {
    queueMicrotask(work);
    return;
  }
  requestAnimationFrame(() => {
    const channel = new MessageChannel();
    channel.port1.addEventListener("message", work, { once: true });
    channel.port1.start();
    channel.port2.postMessage(null);
  });
}
