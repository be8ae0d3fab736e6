import type { ErrorRequestHandler, Response } from "express";
import type { Problem } from "@still-pine/contract/http";
import { problemsFrom, type InputProblem } from "@still-pine/contract/record";
import type { z } from "zod";

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

function sendProblem(response: Response, problem: HttpProblem): void {
  const body: Problem = {
    type: "about:blank",
    title: problem.title,
    status: problem.status,
    detail: problem.message,
    ...problem.extra,
  };
  response.status(problem.status).type("application/problem+json").send(JSON.stringify(body));
}

/** SQLSTATE classes a person can do something about. */
function fromDatabase(code: string): HttpProblem | null {
  if (code.startsWith("22"))
    return new HttpProblem(
      422,
      "Bad input",
      "A value lies outside what can be stored; look for a date or a number far out of range.",
    );
  if (code === "53100")
    return new HttpProblem(
      507,
      "Disk full",
      "The disk that holds the data folder is full. Free some space and send again; nothing was lost.",
    );
  if (code.startsWith("57P") || code.startsWith("08") || code === "ECONNREFUSED" || code === "ECONNRESET")
    return new HttpProblem(
      503,
      "Database away",
      "The database does not answer. Send again in a moment; what was not acknowledged was not stored.",
    );
  return null;
}

/** The last handler: every error leaves in one shape. */
export const problemHandler: ErrorRequestHandler = (error: unknown, request, response, next) => {
  if (response.headersSent) {
    next(error);
    return;
  }
  sendProblem(response, toProblem(error, request.path));
};

function toProblem(error: unknown, path: string): HttpProblem {
  if (error instanceof HttpProblem) return error;
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
  const known = typeof code === "string" ? fromDatabase(code) : null;
  if (known) return known;
  process.stderr.write(
    `error at ${path.replace(/[^/]{20,}/g, "…")}: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`,
  );
  return new HttpProblem(
    500,
    "A fault of ours",
    "Something went wrong on the server. What was not acknowledged was not stored; send it again.",
  );
}
