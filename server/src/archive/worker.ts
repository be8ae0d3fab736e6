import { parentPort, workerData } from "node:worker_threads";
import { createPool } from "../db/pool";
import { Refusal } from "../refusals/refusal";
import { standBack, standBackWith } from "../process/stand-back";
import { layDown, type LayDown } from "./go-out";
import { doJob, type Job, type JobResult } from "./jobs";

/** A thread of its own for one file that comes in or goes out: the server answers everybody else meanwhile, and outlives a file that is too much for it. */

/** What a thread is given. */
export interface Given {
  work: Job | LayDown;
  address: string;
  role: string | undefined;
  /** The database runs on this machine, for this program alone. */
  isOwn: boolean;
}

/** What it gives back: a result, a problem in plain words, or what went wrong by its code. */
export type Answer =
  | { result: JobResult | undefined }
  | { refusal: Pick<Refusal, "why" | "title" | "extra"> & { detail: string } }
  | { fault: { message: string; code?: string; stack?: string } };

async function answer({ work, address, role, isOwn }: Given): Promise<Answer> {
  standBack();
  const db = createPool(address, role, "heavy");
  if (isOwn) standBackWith(db);
  try {
    return { result: work.kind === "out" ? (await layDown(db, work), undefined) : await doJob(db, work) };
  } catch (cause) {
    if (cause instanceof Refusal) {
      const { why, title, message: detail, extra } = cause;
      return { refusal: { why, title, detail, extra } };
    }
    const { message, code, stack } = cause as Error & { code?: string };
    return { fault: { message, ...(code ? { code } : {}), ...(stack ? { stack } : {}) } };
  } finally {
    await db.end();
  }
}

if (parentPort) {
  const port = parentPort;
  void answer(workerData as Given).then((one) => port.postMessage(one));
}
