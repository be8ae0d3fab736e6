import { isClockSkew, type RecordEvent, type DeviceId } from "@still-pine/core/record";

/** The time this device says, which its entries carry, and the time it really is, as far as its clock was measured. In milliseconds since 1970. */
export class OwnTime {
  private saidLast = -Infinity;
  /** How far this device's clock was last measured to be behind. */
  private behindMs = 0;

  /** @param clock what the device's clock says */
  constructor(private readonly clock: () => number) {}

  /** What the device says it is, never before what it said last. */
  private said(): number {
    return Math.max(this.clock(), this.saidLast);
  }

  /** The time of a new entry. */
  say(): string {
    return new Date((this.saidLast = this.said())).toISOString();
  }

  /** The time as it really is, as far as that is known. */
  real(): number {
    return this.said() + this.behindMs;
  }

  /** Takes over what the entries of this device say of its clock. @param device its name */
  learn(own: readonly RecordEvent[], device: DeviceId): void {
    for (const event of own) {
      if (event.recordedAt !== undefined) continue;
      this.saidLast = Math.max(this.saidLast, Date.parse(event.at));
      if (isClockSkew(event) && event.of === (event.device ?? device)) this.behindMs = event.behindSeconds * 1000;
    }
  }
}
