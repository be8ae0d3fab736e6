import { Worker } from "node:worker_threads";
import { Refusal } from "../refusals/refusal";
import type { Job, ResultOf } from "./jobs";
import type { LayDown } from "./go-out";
import type { Answer, Given } from "./worker";

/** Reads a file that came in. */
export type DoJob = <One extends Job>(job: One) => Promise<ResultOf<One>>;
/** Lays down what goes out. @param signal that nobody wants it any longer */
export type DoLayDown = (work: LayDown, signal: AbortSignal) => Promise<void>;

/** A file that needs more than this is refused, and ends its thread alone. */
const MEMORY_MOST_MB = 1024;
/** Small, so that what is done with goes soon. */
const YOUNG_MOST_MB = 16;
/** Files that come in change the yard, and go one by one. */
const COMING_IN = { atOnce: 1, waiting: 8 };
/** What goes out is quickly made and slowly sent: made one by one it takes the processor from nobody who writes. */
const GOING_OUT = { atOnce: 1, waiting: 30 };

/** Where and as whom threads work. */
type Database = Omit<Given, "work">;

/** @param file the program of the threads */
export function comingIn(file: URL, database: Database): DoJob {
  const queue = new Queue(COMING_IN, "Other files are being read just now. Send this one again in a minute.");
  return <One extends Job>(work: One) => queue.take(() => once<ResultOf<One>>(file, { ...database, work }));
}

/** @param file the program of the threads */
export function goingOut(file: URL, database: Database): DoLayDown {
  const queue = new Queue(GOING_OUT, "Other downloads are being made just now. Ask for this one again in a minute.");
  return (work, signal) => queue.take(() => once<undefined>(file, { ...database, work }, signal));
}

/** So many at once, and so many that wait; whoever comes then is told to come again. */
class Queue {
  private running = 0;
  private readonly waiting: (() => void)[] = [];

  constructor(
    private readonly most: { atOnce: number; waiting: number },
    private readonly refusal: string,
  ) {}

  async take<Result>(work: () => Promise<Result>): Promise<Result> {
    if (this.running < this.most.atOnce) this.running += 1;
    else if (this.waiting.length >= this.most.waiting) throw new Refusal("busy", "Busy", this.refusal);
    // Whoever ends hands its place on.
    else await new Promise<void>((resolve) => this.waiting.push(resolve));
    try {
      return await work();
    } finally {
      const next = this.waiting.shift();
      if (next) next();
      else this.running -= 1;
    }
  }
}

async function once<Result>(file: URL, given: Given, signal?: AbortSignal): Promise<Result> {
  signal?.throwIfAborted();
  const answer = await new Promise<Answer>((resolve, reject) => {
    const worker = new Worker(file, {
      workerData: given,
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_MOST_MB, maxYoungGenerationSizeMb: YOUNG_MOST_MB },
    });
    const stop = (): void => void worker.terminate();
    signal?.addEventListener("abort", stop, { once: true });
    worker.once("message", resolve);
    worker.once("error", (cause: NodeJS.ErrnoException) =>
      reject(cause.code === "ERR_WORKER_OUT_OF_MEMORY" ? tooMuch() : cause),
    );
    worker.once("exit", (code) => {
      signal?.removeEventListener("abort", stop);
      reject(new Error(`the thread for files ended with ${code}`));
    });
  });
  if ("result" in answer) return answer.result as Result;
  if ("refusal" in answer) {
    const { why, title, detail, extra } = answer.refusal;
    throw new Refusal(why, title, detail, extra);
  }
  throw Object.assign(new Error(answer.fault.message), answer.fault);
}

const tooMuch = (): Refusal =>
  new Refusal(
    "too-large",
    "Too large",
    "This file needs more memory than there is for reading it; nothing was stored. Bring it in in parts.",
  );
