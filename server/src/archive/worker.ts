import { parentPort, workerData } from "node:worker_threads";
import { createPool } from "../db/pool";
import { HttpProblem } from "../http/problems";
import { doJob, type Job, type JobResult } from "./jobs";

/** A thread of its own for one job: the server answers everybody else meanwhile, and outlives a file that is too much for it. */

/** What a thread is given. */
export interface Given {
  job: Job;
  address: string;
  role: string | undefined;
}

/** What it gives back: a result, a problem in plain words, or what went wrong by its code. */
export type Answer =
  | { result: JobResult }
  | { problem: { status: number; title: string; detail: string; extra: HttpProblem["extra"] } }
  | { fault: { message: string; code?: string; stack?: string } };

async function answer({ job, address, role }: Given): Promise<Answer> {
  const db = createPool(address, role, "heavy");
  try {
    return { result: await doJob(db, job) };
  } catch (cause) {
    if (cause instanceof HttpProblem) {
      const { status, title, message: detail, extra } = cause;
      return { problem: { status, title, detail, extra } };
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
