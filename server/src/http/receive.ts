import type { FileHandle } from "node:fs/promises";
import express, { type Request, type Response } from "express";
import { openNameless } from "../process/temporary";
import { tooLarge } from "./guard";
import { HttpProblem } from "./problems";

/** What is too much to be held in memory lies in a file without a name; whoever received it closes it. */
export interface InFile {
  file: FileHandle;
  bytes: number;
  /** How it begins. */
  head: Buffer;
}

const isPacked = ({ headers }: Request): boolean => (headers["content-encoding"] ?? "identity") !== "identity";

/**
 * Receives the body of a request as it is. What comes packed is unpacked in memory.
 *
 * @param held so many bytes are held in memory
 * @param most no more than so many are taken
 * @throws HttpProblem where it is larger, or ends too early
 */
export async function receive(
  request: Request,
  response: Response,
  { held, most }: { held: number; most: number },
): Promise<Buffer | InFile> {
  if (isPacked(request)) return unpacked(request, response, most);
  let chunks: Buffer[] = [];
  let bytes = 0;
  let laid: { file: FileHandle; head: Buffer } | null = null;
  try {
    // Whoever sends too much is told so, for which the connection has to stay.
    for await (const chunk of request.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>) {
      bytes += chunk.length;
      if (bytes > most) throw tooLarge(response, most);
      if (laid) await laid.file.appendFile(chunk);
      else chunks.push(chunk);
      if (!laid && bytes > held) {
        const head = Buffer.concat(chunks);
        chunks = [];
        laid = { file: await openNameless(), head };
        await laid.file.appendFile(head);
      }
    }
  } catch (cause) {
    await laid?.file.close();
    if (request.destroyed && !(cause instanceof HttpProblem))
      throw new HttpProblem(400, "Cut off", "The connection ended before all of it was there. Send it again.");
    throw cause;
  }
  return laid ? { ...laid, bytes } : Buffer.concat(chunks);
}

async function unpacked(request: Request, response: Response, most: number): Promise<Buffer> {
  await new Promise<void>((resolve, reject) =>
    express.raw({ type: () => true, limit: most })(request, response, (cause?: unknown) =>
      cause === undefined ? resolve() : reject(cause as Error),
    ),
  );
  return Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
}
