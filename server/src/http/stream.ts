import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Response } from "express";

/** Sends what comes piece by piece, no faster than it is taken. Ends quietly where whoever asked has gone. */
export async function sendPieces(pieces: AsyncIterable<string | Buffer> | Readable, response: Response): Promise<void> {
  const stream = pieces instanceof Readable ? pieces : Readable.from(pieces);
  try {
    await pipeline(stream, response);
  } catch (cause) {
    const { code } = cause as { code?: string };
    if (code !== "ERR_STREAM_PREMATURE_CLOSE" && code !== "ERR_STREAM_UNABLE_TO_PIPE") throw cause;
  }
}
