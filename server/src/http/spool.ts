import type { FileHandle } from "node:fs/promises";
import { Readable } from "node:stream";
import type { Response } from "express";
import { openNameless } from "../process/temporary";
import { sendStream } from "./stream";

/**
 * What goes out in pieces is laid down first, as quickly as it can be made, and sent from there: whoever reads it slowly, or not at
 * all, keeps no connection of the database busy meanwhile. A little lies in memory, more in a file that has no name any more,
 * so that nothing is left behind however this program ends.
 */
export interface Spooled {
  bytes: number;
  /** Sends it, once. Ends quietly where whoever asked has gone. */
  send(response: Response): Promise<void>;
}

const IN_MEMORY_MOST = 2 * 1024 * 1024;

/** @param isWanted asked between pieces; where nobody waits any longer nothing more is made */
export async function spool(
  pieces: AsyncIterable<string | Buffer>,
  isWanted: () => boolean = () => true,
): Promise<Spooled | null> {
  let held: Buffer[] = [];
  let bytes = 0;
  let inMemory = 0;
  let file: FileHandle | null = null;
  const flush = async (): Promise<void> => {
    file ??= await openNameless();
    // All of it, or an error: a single write may take a part where the disk is nearly full.
    await file.appendFile(Buffer.concat(held));
    held = [];
    inMemory = 0;
  };
  try {
    for await (const piece of pieces) {
      if (!isWanted()) {
        await (file as FileHandle | null)?.close();
        return null;
      }
      const buffer = typeof piece === "string" ? Buffer.from(piece) : piece;
      held.push(buffer);
      bytes += buffer.length;
      inMemory += buffer.length;
      if (inMemory > IN_MEMORY_MOST) await flush();
    }
    if (file && held.length > 0) await flush();
  } catch (cause) {
    await (file as FileHandle | null)?.close();
    throw cause;
  }
  const laidDown = file as FileHandle | null;
  return {
    bytes,
    send: (response) =>
      sendStream(laidDown ? laidDown.createReadStream({ start: 0, autoClose: true }) : Readable.from(held), response),
  };
}
