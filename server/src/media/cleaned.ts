import { createHash } from "node:crypto";
import type { FileHandle } from "node:fs/promises";
import { clearIn, clearingsOf, type Clearing } from "./clearings";
import type { MediaKind } from "./kind";
import { Source } from "./source";
import { strip, STRIPPED } from "./strip";

/** A photo, clip or voice note without what it hides, ready to be stored. */
export interface Cleaned {
  byteCount: number;
  sha256: string;
  /** How much was taken out of it, as a number that grows with what builds take out. */
  stripped: number;
  /** The sum of what the former build would have stored of the same file, to tell whether that is there. */
  sha256Before(): Promise<string | null>;
  /** All of it at once, where it is small; else piece by piece, as often as it is asked for. */
  content: Buffer | (() => AsyncIterable<Buffer>);
}

const sumOf = (bytes: Buffer): string => createHash("sha256").update(bytes).digest("hex");

/** Of a file in memory. Null where it is cut off or damaged. */
export function cleanedBytes(bytes: Buffer, kind: MediaKind): Cleaned | null {
  const content = strip(bytes, kind);
  if (!content) return null;
  return {
    byteCount: content.length,
    sha256: sumOf(content),
    stripped: STRIPPED,
    sha256Before: async () => {
      const before = strip(bytes, kind, "before");
      return before && sumOf(before);
    },
    content,
  };
}

const PIECE = 1024 * 1024;

/** Of a clip that lies in a file, which stays open as long as its content is asked for. Null where it is cut off or damaged. */
export async function cleanedClip(file: FileHandle, length: number): Promise<Cleaned | null> {
  const source = Source.ofFile(file.fd, length);
  const pieces = async function* (clearings: readonly Clearing[]): AsyncGenerator<Buffer> {
    for (let at = 0; at < length; at += PIECE) {
      const { buffer, bytesRead } = await file.read(Buffer.alloc(Math.min(PIECE, length - at)), 0, undefined, at);
      if (bytesRead < buffer.length) throw new Error("the file is shorter than it was");
      clearIn(buffer, at, clearings);
      yield buffer;
    }
  };
  const sum = async (clearings: readonly Clearing[]): Promise<string> => {
    const hash = createHash("sha256");
    for await (const piece of pieces(clearings)) hash.update(piece);
    return hash.digest("hex");
  };
  try {
    const clearings = clearingsOf(source, true);
    return {
      byteCount: length,
      sha256: await sum(clearings),
      stripped: STRIPPED,
      sha256Before: () => sum(clearingsOf(source, false)),
      content: () => pieces(clearings),
    };
  } catch (cause) {
    if (cause instanceof RangeError) return null;
    throw cause;
  }
}
