import type { ErrorRequestHandler, Response } from "express";
import type { Problem } from "@still-pine/contract/http";
import { problemsFrom, type InputProblem } from "@still-pine/contract/record";
import type { z } from "zod";
import { Refusal, type Why } from "../refusals/refusal";

/** The one error class that leaves a handler: a status, a plain sentence, what to change. */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly extra: { errors?: InputProblem[]; [key: string]: unknown } = {},
    options?: ErrorOptions,
  ) {
    super(detail, options);
  }
}

export const notFound = (what: string): HttpProblem =>
  new HttpProblem(404, "Not found", `There is no such ${what} in this yard.`);

/** The row is another one than the one that was changed; both are given to choose from. */
export const changedMeanwhile = (what: string, current: object, yours: object): HttpProblem =>
  new HttpProblem(
    412,
    "Changed meanwhile",
    `Somebody else changed ${what} after you opened it. Choose between the two.`,
    { current, yours },
  );

/** The version of a row that was seen, from If-Match. */
export function readVersion(header: string | undefined): number {
  const version = /^(?:W\/)?"(\d{1,9})"$/.exec(header ?? "")?.[1];
  if (version === undefined)
    throw new HttpProblem(428, "Version missing", 'Send the version you saw in If-Match, such as "3".');
  return Number(version);
}

/** A body through its schema, or a 400 that names every field. */
export function parseBody<Schema extends z.ZodType>(schema: Schema, body: unknown): z.infer<Schema> {
  const parsed = schema.safeParse(body);
  if (parsed.success) return parsed.data;
  throw new HttpProblem(400, "Bad input", "Some fields are not as expected.", {
    errors: problemsFrom(parsed.error, body),
  });
}

const RETRY_SECONDS = "2";

function sendProblem(response: Response, problem: HttpProblem): void {
  const body: Problem = {
    type: "about:blank",
    title: problem.title,
    status: problem.status,
    detail: problem.message,
    ...problem.extra,
  };
  const isForAWhile = problem.status === 503 || problem.status === 507;
  if (isForAWhile && !response.hasHeader("Retry-After")) response.set("Retry-After", RETRY_SECONDS);
  // What an answer that did not come about would have been called.
  for (const name of ["Content-Disposition", "Content-Length"]) response.removeHeader(name);
  response.status(problem.status).type("application/problem+json").send(JSON.stringify(body));
}

const DISK_FULL = (): HttpProblem =>
  new HttpProblem(
    507,
    "Disk full",
    "The disk that holds the data folder is full. Free some space and send again; nothing was lost.",
  );
const busy = (why: string): HttpProblem =>
  new HttpProblem(503, "Busy", `${why} Send again in a moment; what was not acknowledged was not stored.`);

/** Statements that were in each other's way, too many of them, or one that took too long. */
const BUSY: Readonly<Record<string, string>> = {
  "55P03": "Somebody else is writing there just now.",
  "40P01": "Somebody else is writing there just now.",
  "40001": "Somebody else is writing there just now.",
  "57014": "This took too long.",
  "53200": "The database has no room in its memory just now.",
  "53300": "The database has too many callers just now.",
};

/** SQLSTATE classes a person can do something about. */
function fromDatabase(code: string, isDiskFull: () => boolean): HttpProblem | null {
  if (code.startsWith("22"))
    return new HttpProblem(
      422,
      "Bad input",
      "A value lies outside what can be stored; look for a date or a number far out of range.",
    );
  if (code === "53100") return DISK_FULL();
  // The temporary folder may lie on another disk than the data.
  if (code === "ENOSPC" || code === "EDQUOT")
    return new HttpProblem(
      507,
      "No room",
      "The disk of the temporary folder is full. Free some space and send again; nothing was stored.",
    );
  const why = BUSY[code];
  if (why) return busy(why);
  if (code === "EMFILE" || code === "ENFILE") return busy("Too many files are open just now.");
  if (code.startsWith("57P") || code.startsWith("08") || AWAY.has(code))
    return isDiskFull()
      ? DISK_FULL()
      : new HttpProblem(
          503,
          "Database away",
          "The database does not answer. Send again in a moment; what was not acknowledged was not stored.",
        );
  return null;
}

const AWAY: ReadonlySet<string> = new Set(["ECONNREFUSED", "ECONNRESET", "EPIPE", "ETIMEDOUT"]);
/** What the driver says without a code: nobody gave a connection back in time, or it broke under a statement. */
const NO_CONNECTION = /^timeout exceeded when trying to connect|^Connection terminated/;

/** The last handler: every error leaves in one shape. @param isDiskFull whether the disk of the database is */
export const problemHandler =
  (isDiskFull: () => boolean): ErrorRequestHandler =>
  (error: unknown, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    sendProblem(response, toProblem(error, request.path, isDiskFull));
  };

const STATUS_OF: Readonly<Record<Why, number>> = {
  unreadable: 400,
  "not-there": 404,
  conflict: 409,
  "too-large": 413,
  refused: 422,
  busy: 503,
};

function toProblem(error: unknown, path: string, isDiskFull: () => boolean): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (error instanceof Refusal)
    return new HttpProblem(STATUS_OF[error.why], error.title, error.message, error.extra, { cause: error });
  const { type, code, status, limit } = (error ?? {}) as {
    type?: string;
    code?: string;
    status?: number;
    limit?: number;
  };
  if (type === "entity.too.large")
    return new HttpProblem(
      413,
      "Too large",
      `This is larger than the ${Math.round((limit ?? 0) / 1024 / 1024)} MB that are taken here.`,
    );
  if (type === "entity.parse.failed") return new HttpProblem(400, "Bad input", "Expected JSON, found something else.");
  if (status !== undefined && status >= 400 && status < 500)
    return new HttpProblem(
      status,
      "Bad request",
      error instanceof Error ? error.message : "The request could not be read.",
    );
  const known = typeof code === "string" ? fromDatabase(code, isDiskFull) : null;
  if (known) return known;
  if (error instanceof Error && NO_CONNECTION.test(error.message))
    return isDiskFull() ? DISK_FULL() : busy("Too much is asked at once, or the database is starting again.");
  process.stderr.write(
    `error at ${path.replace(/[^/]{20,}/g, "…")}: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`,
  );
  return new HttpProblem(
    500,
    "A fault of ours",
    "Something went wrong on the server. What was not acknowledged was not stored; send it again.",
  );
}
