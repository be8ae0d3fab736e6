import { open, type Entry, type ZipFile } from "yauzl";
import { Refusal } from "../refusals/refusal";
import type { RecordFile } from "./record-file";

/** Files of an archive by name, each read when it is asked for. */
export interface OpenArchive {
  names: readonly string[];
  read(name: string): Promise<Buffer>;
  /** A file that may be too large to be read at once. */
  file(name: string): RecordFile;
  /** The first so many bytes of a file, or all of it where it is shorter. */
  begin(name: string, bytes: number): Promise<Buffer>;
  close(): void;
}

/** A yard's archive is larger than any of its files. */
export const ARCHIVE_MOST_BYTES = 2 * 1024 * 1024 * 1024;
const ENTRIES_MOST = 20_000;
const UNPACKED_MOST_BYTES = 4 * 1024 * 1024 * 1024;
/** One file of an archive: a horse record may be this large. */
const ENTRY_MOST_BYTES = 256 * 1024 * 1024;
/** Records shrink about thirtyfold; what shrinks much further is made to burst. */
export const RATIO_MOST = 100;
export const RATIO_FROM_BYTES = 1024 * 1024;
const LINK = 0xa000;
const FILE_TYPE = 0xf000;

const refuse = (detail: string): Refusal => new Refusal("refused", "Not an archive", detail);

/**
 * Opens a zip that came from outside. Only its list of files is read here.
 *
 * @throws Refusal where it is no zip, or one with links, ways out of its folder, too many files or files that burst
 */
export async function openArchive(path: string): Promise<OpenArchive> {
  const zip = await new Promise<ZipFile>((resolve, reject) =>
    open(path, { lazyEntries: true, autoClose: false, strictFileNames: true }, (cause, file) =>
      cause ? reject(refuse(`Expected a zip: ${cause.message}.`)) : resolve(file),
    ),
  );
  try {
    const entries = await listEntries(zip);
    return {
      names: [...entries.keys()],
      read: async (name) => Buffer.concat(await collect(readEntry(zip, entries.get(name), name))),
      file: (name) => ({
        bytes: entries.get(name)?.uncompressedSize ?? 0,
        open: () => readEntry(zip, entries.get(name), name),
      }),
      begin: async (name, bytes) =>
        Buffer.concat(await collect(readEntry(zip, entries.get(name), name), bytes)).subarray(0, bytes),
      close: () => zip.close(),
    };
  } catch (cause) {
    zip.close();
    throw cause;
  }
}

function listEntries(zip: ZipFile): Promise<Map<string, Entry>> {
  if (zip.entryCount > ENTRIES_MOST)
    throw refuse(`Expected at most ${ENTRIES_MOST} files in an archive, found ${zip.entryCount}.`);
  return new Promise((resolve, reject) => {
    const entries = new Map<string, Entry>();
    let unpacked = 0;
    zip.on("entry", (entry: Entry) => {
      unpacked += entry.uncompressedSize;
      const why = whyRefused(entry, entries, unpacked);
      if (why) {
        reject(refuse(why));
        return;
      }
      if (!entry.fileName.endsWith("/")) entries.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.on("end", () => resolve(entries));
    zip.on("error", (cause: Error) => reject(refuse(`The zip is damaged: ${cause.message}.`)));
    zip.readEntry();
  });
}

function whyRefused(entry: Entry, before: ReadonlyMap<string, Entry>, unpacked: number): string | null {
  const name = JSON.stringify(entry.fileName.slice(0, 80));
  if (((entry.externalFileAttributes >>> 16) & FILE_TYPE) === LINK) return `${name} is a link; archives hold files.`;
  if ((entry.generalPurposeBitFlag & 1) !== 0) return `${name} is encrypted; take the password off.`;
  if (before.has(entry.fileName)) return `${name} is in the archive twice.`;
  if (entry.uncompressedSize > ENTRY_MOST_BYTES)
    return `${name} unpacks to more than ${ENTRY_MOST_BYTES / 1024 / 1024} MB.`;
  if (entry.uncompressedSize > RATIO_FROM_BYTES && entry.uncompressedSize > entry.compressedSize * RATIO_MOST)
    return `${name} unpacks to more than ${RATIO_MOST} times its size.`;
  if (unpacked > UNPACKED_MOST_BYTES) return `The archive unpacks to more than ${UNPACKED_MOST_BYTES / 1024 ** 3} GB.`;
  return null;
}

async function* readEntry(zip: ZipFile, entry: Entry | undefined, name: string): AsyncGenerator<Buffer> {
  if (!entry) throw refuse(`The archive has no ${JSON.stringify(name)}.`);
  try {
    const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
      zip.openReadStream(entry, (cause, opened) => (cause ? reject(cause) : resolve(opened))),
    );
    for await (const piece of stream) yield piece as Buffer;
  } catch (cause) {
    throw refuse(
      `${JSON.stringify(name)} cannot be unpacked: ${cause instanceof Error ? cause.message : String(cause)}.`,
    );
  }
}

/** What comes, as far as so many bytes. */
async function collect(pieces: AsyncIterable<Buffer>, most = Infinity): Promise<Buffer[]> {
  const collected: Buffer[] = [];
  let bytes = 0;
  for await (const piece of pieces) {
    collected.push(piece);
    bytes += piece.length;
    if (bytes >= most) break;
  }
  return collected;
}
