import { Readable } from "node:stream";
import type { PoolClient } from "pg";
import { ZipFile, type Options } from "yazl";
import { listHorses, type StoredHorse } from "../store/horses";
import { mediaOfHorse, readPieces, readThumbnail } from "../store/media";
import { recordPieces } from "../store/export";
import type { Yard } from "../store/yard";
import { YARD_FILE, yardFileText } from "./yard-file";

/**
 * An archive is a zip: `record.json` and `media/ID.ext` of one horse, or `yard.json` and such a folder for each horse under
 * `horses/`. Every file in it has the same date, so that the same record gives the same bytes.
 */
const EXTENSIONS: Record<string, string> = {
  "image/jpeg": "jpg",
  "image/png": "png",
  "image/webp": "webp",
  "video/mp4": "mp4",
  "video/quicktime": "mov",
  "audio/webm": "weba",
  "audio/mp4": "m4a",
};

const SAME_DATE: Partial<Options> = { mtime: new Date(Date.UTC(2000, 0, 1, 12)), mode: 0o100644 };
const AS_IT_IS: Partial<Options> = { ...SAME_DATE, compress: false };

/** The archive of one horse. Run it in one transaction that sees one moment, until the stream has ended. */
export async function horseArchive(client: PoolClient, yard: Yard, horse: StoredHorse): Promise<Readable> {
  const zip = new ZipFile();
  await addHorseTo(zip, client, yard, horse, "");
  zip.end();
  return zip.outputStream as Readable;
}

/** The archive of the whole yard; run it as `horseArchive`. */
export async function yardArchive(client: PoolClient, yard: Yard): Promise<Readable> {
  const zip = new ZipFile();
  zip.addBuffer(Buffer.from(await yardFileText(client, yard)), YARD_FILE, SAME_DATE);
  const horses = (await listHorses(client, yard.id)).toSorted((a, b) => (a.id < b.id ? -1 : 1));
  for (const [index, horse] of horses.entries())
    await addHorseTo(zip, client, yard, horse, `horses/${String(index + 1).padStart(4, "0")}/`);
  zip.end();
  return zip.outputStream as Readable;
}

async function addHorseTo(
  zip: ZipFile,
  client: PoolClient,
  yard: Yard,
  horse: StoredHorse,
  folder: string,
): Promise<void> {
  addPieces(zip, `${folder}record.json`, SAME_DATE, () => recordPieces(client, yard, horse));
  for (const { id, contentType, byteCount, hasThumbnail } of await mediaOfHorse(client, yard.id, horse.id)) {
    const extension = EXTENSIONS[contentType] ?? "bin";
    addPieces(zip, `${folder}media/${id}.${extension}`, AS_IT_IS, () =>
      readPieces(client, yard.id, id, 0, byteCount - 1),
    );
    if (!hasThumbnail) continue;
    const thumbnail = await readThumbnail(client, yard.id, id);
    if (thumbnail) zip.addBuffer(thumbnail, `${folder}thumbnails/${id}`, AS_IT_IS);
  }
}

/** Nothing is read before its turn in the zip comes. */
function addPieces(
  zip: ZipFile,
  name: string,
  options: Partial<Options>,
  pieces: () => AsyncIterable<string | Buffer>,
): void {
  zip.addReadStreamLazy(name, options, (give) => {
    const stream = Readable.from(asBytes(pieces()), { objectMode: false });
    // A record that cannot be read ends the download; a zip that looks whole and is not would be worse.
    stream.on("error", (cause) => (zip.outputStream as Readable).destroy(cause));
    give(null, stream);
  });
}

async function* asBytes(pieces: AsyncIterable<string | Buffer>): AsyncGenerator<Buffer> {
  for await (const piece of pieces) yield typeof piece === "string" ? Buffer.from(piece) : piece;
}
