import type { ServerResponse } from "node:http";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";

/** Whoever takes nothing for so long is not waited for. */
const STALLED_MS = 60_000;

/** Sends what comes piece by piece, no faster than it is taken. */
export const sendPieces = (pieces: AsyncIterable<string | Buffer>, response: ServerResponse): Promise<void> =>
  sendStream(Readable.from(pieces), response);

/**
 * Sends a stream. Ends quietly where whoever asked has gone, or has stopped taking it.
 *
 * @param stalledMs whoever takes nothing for so long is not waited for, in milliseconds
 */
export async function sendStream(stream: Readable, response: ServerResponse, stalledMs = STALLED_MS): Promise<void> {
  response.setTimeout(stalledMs, () => response.destroy());
  try {
    await pipeline(stream, response);
  } catch (cause) {
    const { code } = cause as { code?: string };
    if (code !== "ERR_STREAM_PREMATURE_CLOSE" && code !== "ERR_STREAM_UNABLE_TO_PIPE" && code !== "ECONNRESET")
      throw cause;
  }
}
