import type { RequestListener, Server } from "node:http";

/** What keeps one request, one packet or one closed pipe from ending the whole program. */

/** Says what went wrong, without names: the kind of error and where in the program, on the error output. */
export function report(where: string, cause: unknown): void {
  process.stderr.write(`error ${where}: ${cause instanceof Error ? (cause.stack ?? cause.message) : String(cause)}\n`);
}

/** A listener of which no request can end the process: whatever it throws, now or later, is answered with 500 and told. */
export function safely(listener: (...args: Parameters<RequestListener>) => unknown): RequestListener {
  return (request, response) => {
    const fail = (cause: unknown): void => {
      report("in a request", cause);
      if (response.headersSent) response.destroy();
      else response.writeHead(500, { Connection: "close" }).end();
    };
    try {
      Promise.resolve(listener(request, response)).catch(fail);
    } catch (cause) {
      fail(cause);
    }
  };
}

/** A server that goes on after an error of its own: too many open files is no reason to end. Call once it listens. */
export function keepListening(server: Server): void {
  server.on("error", (cause) => report("of a listener", cause));
}

/** Whoever reads our output may go away; that is no error of ours. Call first in a program. */
export function mindClosedPipes(): void {
  for (const stream of [process.stdout, process.stderr]) stream.on("error", () => undefined);
}

/** Ends in order when something was thrown that nobody caught: what follows it could not be trusted. */
export function endWhenLost(stop: (code: number) => Promise<void>): void {
  const end = (cause: unknown): void => {
    report("that nobody caught", cause);
    void stop(1);
  };
  process.on("uncaughtException", end);
  process.on("unhandledRejection", end);
}
