import { EARLIEST_YEAR, LATEST_YEAR } from "@still-pine/core/record";
import { Trouble } from "../cluster/trouble";

export interface Clock {
  now: () => string;
  /** It stands still, for pictures and tests. */
  isFixed: boolean;
}

/** The clock that STILLPINE_NOW sets, or the machine's. @throws Trouble where it is no instant a record can hold */
export function readClock(env: NodeJS.ProcessEnv): Clock {
  const fixed = env["STILLPINE_NOW"];
  if (fixed === undefined) return { now: () => new Date().toISOString(), isFixed: false };
  const at = new Date(fixed);
  const year = at.getUTCFullYear();
  // An instant that is none has no year.
  if (!(year >= EARLIEST_YEAR && year <= LATEST_YEAR))
    throw new Trouble(
      `STILLPINE_NOW: expected an instant such as 2026-05-01T09:30:00Z, found ${JSON.stringify(fixed)}.`,
    );
  const now = at.toISOString();
  return { now: () => now, isFixed: true };
}
