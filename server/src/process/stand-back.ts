import { readlinkSync } from "node:fs";
import { setPriority } from "node:os";
import type { Pool } from "pg";

/** Work that may take minutes takes the processor only where those who are waited for in the pen leave it. */

/** The least of the system's scale from -20 to 19, the usual being 0. */
const PRIORITY = 19;

/** Has this thread stand back. Does nothing where the system does not let a thread do so by itself. */
export function standBack(): void {
  try {
    const [, , thread] = readlinkSync("/proc/thread-self").split("/");
    if (thread !== undefined) setPriority(Number(thread), PRIORITY);
  } catch {
    // It works at the usual priority then.
  }
}

/** Has the database's processes behind these connections stand back too. Call only where they run on this machine. */
export function standBackWith(pool: Pool): void {
  pool.on("connect", (client) => {
    const { processID: pid } = client as unknown as { processID: number | null };
    try {
      if (pid) setPriority(pid, PRIORITY);
    } catch {
      // Another user's process on a system that does not let us.
    }
  });
}
