import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Response } from "express";

/** Whoever takes nothing for so long is not waited for. */
const STALLED_MS = 60_000;

/** Sends what comes piece by piece, no faster than it is taken. */
export const sendPieces = (pieces: AsyncIterable<string | Buffer>, response: Response): Promise<void> =>
  sendStream(Readable.from(pieces), response);

/** Sends a stream. Ends quietly where whoever asked has gone, or has stopped taking it. */
export async function sendStream(stream: Readable, response: Response): Promise<void> {
  response.setTimeout(STALLED_MS, () => response.destroy());
  try {
    await pipeline(stream, response);
  } catch (cause) {
    const { code } = cause as { code?: string };
    if (code !== "ERR_STREAM_PREMATURE_CLOSE" && code !== "ERR_STREAM_UNABLE_TO_PIPE" && code !== "ECONNRESET")
      throw cause;
  }
}
