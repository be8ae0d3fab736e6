import type { Pool } from "pg";
import type { DoJob, DoLayDown } from "../archive/in-thread";
import type { PhonesDoor } from "../phones/door";
import type { Yard } from "../store/yard";

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
