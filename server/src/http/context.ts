import type { Pool } from "pg";
import type { DoJob, DoLayDown } from "../archive/in-thread";
import type { Yard } from "../store/yard";

/** Where phones come in. */
export interface PhonesDoor {
  /** Such as `https://still-pine.local:7464`. */
  address: string;
  /** Every host they may call, with the port. */
  hosts: readonly string[];
  /** Where they get the yard's certificate; none with a certificate of one's own. */
  trustAddress: string | null;
  fingerprint: string | null;
}

/** What every route works with. */
export interface Context {
  db: Pool;
  heavy: Pool;
  bringIn: DoJob;
  layDown: DoLayDown;
  now: () => string;
  yard: () => Promise<Yard>;
  phones: () => PhonesDoor | null;
  isClockFixed: boolean;
}
