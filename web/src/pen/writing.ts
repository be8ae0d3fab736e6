import type { RecordEvent } from "@still-pine/core/record";
import { holding, type Holder } from "../outbox/holding";
import { isFull, type Keeper, type KeptEvent } from "../outbox/kept";
import type { Keeping } from "./snapshot";

/** What is told of an outing's entries while they are written to the device. */
interface Report {
  onWritten(events: readonly RecordEvent[]): void;
  /** How many lie in this page alone. */
  onPageOnly(count: number): void;
  /** How it went with one entry. */
  tell(event: RecordEvent, keeping: Keeping): void;
}

/** Writes an outing's entries to the device, in their order. What finds no room stays in this page and is tried again with the next. */
export class Writing {
  private waiting: KeptEvent[] = [];
  private running: Promise<void> = Promise.resolve();
  private pageOnly = 0;

  constructor(
    private readonly outing: string,
    private readonly kept: Keeper,
    private readonly holder: Holder,
    private readonly report: Report,
  ) {}

  add(one: KeptEvent): void {
    this.waiting.push(one);
    this.running = this.running.then(() => this.write(one.event));
  }

  /** Done once everything added so far was tried. */
  get done(): Promise<void> {
    return this.running;
  }

  /** Whether entries wait still. */
  get isWaiting(): boolean {
    return this.waiting.length > 0;
  }

  /** What only this page holds, to be sent straight to the server. */
  get unkept(): readonly KeptEvent[] {
    return this.pageOnly > 0 ? this.waiting : [];
  }

  /** The server has these; they need no room on the device any more. */
  forget(sent: readonly KeptEvent[]): void {
    this.waiting = this.waiting.filter((one) => !sent.includes(one));
    if (this.waiting.length === 0) holding.delete(this.outing);
    this.setPageOnly(this.waiting.length);
  }

  private async write(event: RecordEvent): Promise<void> {
    const batch = this.waiting;
    if (batch.length === 0) return this.report.tell(event, this.pageOnly > 0 ? "page-only" : "kept");
    this.waiting = [];
    try {
      await this.kept.keepEvents(batch);
      this.report.onWritten(batch.map((one) => one.event));
      holding.delete(this.outing);
      if (this.pageOnly > 0) this.setPageOnly(0);
      this.report.tell(event, "kept");
    } catch (error) {
      this.waiting = [...batch, ...this.waiting];
      holding.set(this.outing, this.holder);
      if (!isFull(error)) console.error("Still Pine: an entry could not be kept on this device", error);
      this.setPageOnly(this.waiting.length);
      this.report.tell(event, "page-only");
    }
  }

  private setPageOnly(count: number): void {
    this.pageOnly = count;
    this.report.onPageOnly(count);
  }
}
