import { Worker } from "node:worker_threads";
import { HttpProblem } from "../http/problems";
import type { Job, JobResult } from "./jobs";
import type { Answer, Given } from "./worker";

/** Does jobs one after the other, each in a thread of its own. */
export type DoJob = (job: Job) => Promise<JobResult>;

/** A file that needs more than this is refused, and ends its thread alone. */
const MEMORY_MOST_MB = 1024;
/** Small, so that what is done with goes soon. */
const YOUNG_MOST_MB = 16;
/** So many jobs may wait; whoever comes then is told to come again. */
const WAITING_MOST = 8;

/**
 * @param file the program of the thread
 * @param database where and as whom the thread works
 */
export function inThread(file: URL, database: Omit<Given, "job">): DoJob {
  let last: Promise<unknown> = Promise.resolve();
  let waiting = 0;
  return async (job) => {
    if (waiting >= WAITING_MOST)
      throw new HttpProblem(503, "Busy", "Other files are being read just now. Send this one again in a minute.");
    waiting += 1;
    const turn = last.catch(() => undefined).then(() => once(file, { ...database, job }));
    last = turn;
    try {
      return await turn;
    } finally {
      waiting -= 1;
    }
  };
}

async function once(file: URL, given: Given): Promise<JobResult> {
  const answer = await new Promise<Answer>((resolve, reject) => {
    const worker = new Worker(file, {
      workerData: given,
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_MOST_MB, maxYoungGenerationSizeMb: YOUNG_MOST_MB },
    });
    worker.once("message", resolve);
    worker.once("error", (cause: NodeJS.ErrnoException) =>
      reject(cause.code === "ERR_WORKER_OUT_OF_MEMORY" ? tooMuch() : cause),
    );
    worker.once("exit", (code) => reject(new Error(`the thread that reads files ended with ${code}`)));
  });
  if ("result" in answer) return answer.result;
  if ("problem" in answer) {
    const { status, title, detail, extra } = answer.problem;
    throw new HttpProblem(status, title, detail, extra);
  }
  throw Object.assign(new Error(answer.fault.message), answer.fault);
}

const tooMuch = (): HttpProblem =>
  new HttpProblem(
    413,
    "Too large",
    "This file needs more memory than there is for reading it; nothing was stored. Bring it in in parts.",
  );
