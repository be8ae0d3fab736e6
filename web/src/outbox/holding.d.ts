import type { KeptEvent } from "./kept";
/** Something with entries that only this page holds, because the device had no room for them. */
export interface Holder {
  /** Those entries, earliest first. */
  readonly unkept: readonly KeptEvent[];
  /** The server has these now. */
  forget(sent: readonly KeptEvent[]): void;
}
/** By outing. They outlive the screen that made them, as long as the page lives. */
export declare const holding: Map<string, Holder>;
